package hardproof.server.proof;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.proof.Verdict;
import hardproof.server.Estate;
import hardproof.server.WithEstate;
import java.io.IOException;
import java.time.Duration;
import org.junit.jupiter.api.Test;

class EvaluationsTest extends WithEstate {
  private Evaluations evaluations() {
    return estate.installation.evaluations();
  }

  @Test
  void unchangedFactsAreEvaluatedOnceAndANewFactAtOnce() throws IOException {
    Evaluated first = evaluations().now();
    assertThat(evaluations().now()).isSameAs(first);
    estate.take("workloads.csv", "key,name,owner,tier\nw,Wages,Somebody else,3\n");
    assertThat(evaluations().now()).isNotSameAs(first);
    assertThat(evaluations().now().estate().workload("w").owner()).isEqualTo("Somebody else");
  }

  @Test
  void nowMovesOnWithTheClock() {
    Evaluated first = evaluations().now();
    estate.clock.forward(Evaluations.NOW_LASTS.minusMillis(1));
    assertThat(evaluations().now()).isSameAs(first);
    estate.clock.forward(Duration.ofMillis(1));
    assertThat(evaluations().now().estate().asAt()).isEqualTo(estate.clock.instant());
  }

  @Test
  void anInstantThatHasBeenComesOutTheSameAfterMoreBecameKnown() throws IOException {
    var asAt = Estate.NOW;
    estate.clock.forward(Duration.ofHours(1));
    Verdict before = evaluations().at(asAt).evaluation().workload("w").verdict();
    estate.take(
        "points.csv",
        "key,resource,form,data_time,available,outcome\n"
            + "share-3,share,full,2026-11-24T09:00:00Z,2026-11-24T09:30:00Z,failed\n");
    assertThat(evaluations().at(asAt).evaluation().workload("w").verdict()).isEqualTo(before);
    assertThat(evaluations().at(asAt).estate().point("share", "share-3")).isNull();
    assertThat(evaluations().now().estate().point("share", "share-3")).isNotNull();
  }

  @Test
  void anInstantThatIsToComeIsRefused() {
    assertThatThrownBy(() -> evaluations().at(Estate.NOW.plusMillis(1)))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("is still to come");
  }
}
