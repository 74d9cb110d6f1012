package hardproof.server.installation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.estate.Selector;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.PointChoice;
import hardproof.core.programmes.Showing;
import hardproof.server.Estate;
import hardproof.server.WithEstate;
import hardproof.server.programmes.Programme;
import hardproof.server.programmes.ProgrammeStore;
import java.time.Duration;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;

class HousekeepingTest extends WithEstate {
  /** Queue, workers and programmes together, as the server runs them: nobody asks for the drill. */
  @Test
  void aDueDrillStartsAndEndsByItself() throws InterruptedException {
    estate
        .installation
        .part(ProgrammeStore.class)
        .add(Programme.byRule(
            "p",
            "Hourly",
            Selector.EVERYTHING,
            "FREQ=HOURLY",
            Duration.ofHours(4),
            Showing.by(null),
            PointChoice.NEWEST,
            CopyChoice.NOT_LAST,
            Estate.NOW));
    estate.clock.forward(Duration.ofHours(1));
    CountDownLatch ended = new CountDownLatch(2);
    estate.installation.queue().onChange(id -> {
      if (estate.installation.runs().find(id).orElseThrow().ended()) {
        ended.countDown();
      }
    });
    estate.installation.queue().start(2);
    try (Housekeeping housekeeping = new Housekeeping(estate.installation)) {
      housekeeping.start();
      assertThat(ended.await(60, TimeUnit.SECONDS)).isTrue();
    }
    assertThat(estate.installation.runs().ended(10)).hasSize(2).allSatisfy(r -> {
      assertThat(r.fact().passed()).isTrue();
      assertThat(r.programme()).isEqualTo("p");
    });
  }

  @Test
  void whoeverComesFirstFindsTheEvaluationDone() throws Exception {
    try (Housekeeping housekeeping = new Housekeeping(estate.installation)) {
      housekeeping.prepare().get(60, TimeUnit.SECONDS);
    }
    estate.clock.forward(Duration.ofSeconds(5));
    assertThat(estate.installation.evaluations().now().evaluation().asAt())
        .as("it was worked out then, and is young enough")
        .isEqualTo(Estate.NOW);
  }

  @Test
  void whatCantBePreparedHoldsUpNoStart() throws Exception {
    estate.installation.database().close();
    try (Housekeeping housekeeping = new Housekeeping(estate.installation)) {
      assertThat(housekeeping.prepare().get(60, TimeUnit.SECONDS)).isNull();
    }
    assertThatThrownBy(() -> estate.installation.evaluations().now().evaluation())
        .as("whoever asks is told")
        .isInstanceOf(RuntimeException.class);
  }
}
