package hardproof.core.recovery;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.drills.Method;
import hardproof.core.ladder.Rung;
import java.time.Duration;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** How long it takes to have a resource back. The store "near" is said to read 100 MB a second. Invented data. */
class RestoreEstimateTest {
  private static Optional<RestoreEstimate> of(Given g, Rung demanded) {
    var estate = g.at(NOW);
    return RestoreEstimate.of(estate, new TimeEstimates(estate), estate.resource("r"), demanded);
  }

  private static String words(Given g, Duration rto) {
    return of(g, Rung.RESTORED).orElseThrow().words(rto);
  }

  private static Given took(Duration... each) {
    Given g = Given.estate().point("a", 5);
    for (Duration took : each) {
      g.drill("a", Method.FULL_RESTORE, true, 1).took(took, 1000);
    }
    return g;
  }

  /** Reading alone brings nothing back, also where no more is demanded. */
  @Test
  void atLeastARestoreIsEstimated() {
    Given g = Given.estate().point("a", 5);
    assertThat(of(g, Rung.HELD).orElseThrow().method().rung().atLeast(Rung.RESTORED))
        .isTrue();
    g.thePoint("a", "outcome", "failed");
    assertThat(of(g, Rung.RESTORED)).as("there is nothing to have back").isEmpty();
  }

  /** At the very objective it is inside; a millisecond more now and then is said as that. */
  @Test
  void itIsSaidBesideTheObjective() {
    Given g = took(Duration.ofMinutes(10));
    assertThat(words(g, Duration.ofMinutes(15)))
        .isEqualTo("about 10 m, by 1 of its own drills; 5 m inside the RTO of 15 m");
    assertThat(words(g, Duration.ofMinutes(10))).endsWith("; 0 s inside the RTO of 10 m");
    assertThat(words(g, Duration.ofMinutes(10).minusMillis(1000)))
        .endsWith("; 1 s over the RTO of 9 m 59 s");
    assertThat(words(
            took(Duration.ofMinutes(1), Duration.ofMinutes(2), Duration.ofMinutes(30)),
            Duration.ofMinutes(15)))
        .endsWith("; now and then over the RTO of 15 m");
  }

  /** What it holds is what has to be read, where what was drilled was a small part of it. */
  @Test
  void allOfItIsCounted() {
    Given g = took(Duration.ofSeconds(1));
    g.theResource("size", "360000000000");
    assertThat(words(g, Duration.ofHours(4)))
        .isEqualTo(
            "about 1 h, by 1 of its own drills, scaled from 1.00 kB to 360 GB; 2 h 59 m inside"
                + " the RTO of 4 h");
  }

  @Test
  void whereNothingSaysThatIsSaid() {
    Given g = Given.estate().point("a", 5).theStore("near", "throughput", "");
    g.theStore("far", "throughput", "");
    assertThat(words(g, Duration.ofHours(4)))
        .startsWith("how long it takes to have it back is not known");
  }
}
