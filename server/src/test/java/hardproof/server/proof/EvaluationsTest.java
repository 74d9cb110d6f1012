package hardproof.server.proof;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.proof.Verdict;
import hardproof.server.Estate;
import hardproof.server.WithEstate;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
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

  private static String outcomes(Evaluated evaluated) {
    return hardproof.core.evidence.Tables.workloads(evaluated.evaluation())
        + hardproof.core.evidence.Tables.findings(evaluated.evaluation());
  }

  /** As if evaluating everything always took too long. */
  @Test
  void whereItIsCostlyOnlyWhatFactsTouchIsJudgedAgain() throws IOException {
    Evaluations costly = new Evaluations(
        estate.installation.database(),
        estate.installation.facts(),
        at -> hardproof.core.criteria.Standard.shipped(),
        estate.clock,
        Duration.ZERO.minusNanos(1));
    Evaluated before = costly.now();
    var share = before.evaluation().resource("share");
    estate.take(
        "points.csv",
        "key,resource,form,data_time,available,outcome\n"
            + "db-2,db,full,2026-11-24T05:10:00Z,2026-11-24T05:30:00Z,failed\n");
    Evaluated after = costly.now();
    assertThat(after).isNotSameAs(before);
    assertThat(after.evaluation().resource("share")).as("not touched").isSameAs(share);
    assertThat(after.evaluation().resource("db"))
        .isNotSameAs(before.evaluation().resource("db"));
    assertThat(outcomes(after)).isEqualTo(outcomes(evaluations().now()));
    estate.take("workloads.csv", "key,name,tier\nw,Wages,1\n");
    assertThat(costly.now().evaluation().resource("share"))
        .as("a workload touches everything")
        .isNotSameAs(share);
    assertThat(outcomes(costly.now())).isEqualTo(outcomes(evaluations().now()));
  }

  @Test
  void whatWasShownCanBeAskedForAgainWhenTheClockWasSetBack() {
    Instant shown = evaluations().now().estate().asAt();
    estate.clock.set(shown.minus(Duration.ofHours(1)));
    assertThat(evaluations().at(shown).estate().asAt()).isEqualTo(shown);
  }
}
