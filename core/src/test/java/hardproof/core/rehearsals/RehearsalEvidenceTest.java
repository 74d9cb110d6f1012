package hardproof.core.rehearsals;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.drills.Method;
import hardproof.core.drills.RehearsalFact.Outcome;
import hardproof.core.estate.Feed;
import hardproof.core.losses.Loss;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What a rehearsal says of losses, and whether protection went on while it did. Invented data. */
class RehearsalEvidenceTest {
  private static final Duration PERIOD = Duration.ofDays(180);

  private static boolean rehearsed(Given g, Loss loss) {
    return RehearsedLoss.of(g.at(NOW), "w", loss, PERIOD, Duration.ofHours(1)).isPresent();
  }

  private static Given from(String store, double daysAgo, Outcome outcome) {
    return Given.estate()
        .point("a", 24 * daysAgo + 5)
        .drill("a", store, Method.FULL_RESTORE, true, daysAgo, null, null)
        .rehearsed(outcome, Duration.ofHours(1));
  }

  /** It read the tape at site B alone: that would have come off without A, too. */
  @Test
  void whatReadNothingOfWhatIsLostWasTried() {
    Given far = from("far", 1, Outcome.PASSED);
    assertThat(rehearsed(far, Loss.ofSite("A"))).isTrue();
    assertThat(rehearsed(far, Loss.ofDomain("array"))).isTrue();
    assertThat(rehearsed(far, Loss.ofSite("B"))).isFalse();
    assertThat(rehearsed(far, Loss.ofRegion("nordal"))).isFalse();
    assertThat(rehearsed(from("near", 1, Outcome.PASSED), Loss.ofSite("A"))).isFalse();
    assertThat(rehearsed(from("far", 1, Outcome.FAILED), Loss.ofSite("A"))).isFalse();
    assertThat(rehearsed(Given.estate().point("a", 5), Loss.ofSite("A"))).isFalse();
  }

  @Test
  void anIntruderWouldHaveLeftTheTapeAndNotTheDisk() {
    assertThat(rehearsed(from("far", 1, Outcome.PASSED), Loss.ofIntruder())).isTrue();
    assertThat(rehearsed(from("near", 1, Outcome.PASSED), Loss.ofIntruder())).isFalse();
    Given gone = from("far", 1, Outcome.PASSED);
    gone.copies.clear();
    assertThat(rehearsed(gone, Loss.ofIntruder()))
        .as("nothing tells any more what could have been deleted")
        .isFalse();
  }

  @Test
  void taintedDataWouldNotHaveBeenBroughtBack() {
    Given g = from("far", 1, Outcome.PASSED);
    Instant data = NOW.minus(Duration.ofHours(29));
    assertThat(rehearsed(g, new Loss(Set.of(), Set.of(), Set.of(), Set.of(), false, data)))
        .isTrue();
    assertThat(rehearsed(
            g, new Loss(Set.of(), Set.of(), Set.of(), Set.of(), false, data.minusMillis(1))))
        .isFalse();
  }

  @Test
  void itCountsForAsLongAsTheTierSaysAndInsideTheRto() {
    assertThat(rehearsed(from("far", 180, Outcome.PASSED), Loss.ofSite("A"))).isTrue();
    assertThat(rehearsed(from("far", 180.001, Outcome.PASSED), Loss.ofSite("A")))
        .isFalse();
    Given slow = Given.estate()
        .point("a", 29)
        .drill("a", "far", Method.FULL_RESTORE, true, 1, null, null)
        .rehearsed(Outcome.PASSED, Duration.ofHours(1).plusMillis(1));
    assertThat(rehearsed(slow, Loss.ofSite("A"))).isFalse();
  }

  /** A point each night at 2, for eight days; {@code night} 0 is the last. */
  private static Given nights(int but) {
    Given g = Given.estate();
    for (int night = 0; night <= 8; night++) {
      if (night != but) {
        g.point("n" + night, "r", Form.FULL, null, 24 * night + 8, PointOutcome.COMPLETE);
      }
    }
    return g;
  }

  private static Undisturbed undisturbed(Given g, Instant known) {
    // Points become available at half past two.
    Instant begin = NOW.minus(Duration.ofHours(8));
    g.feeds.add(new Feed("feed", null, known, known));
    return Undisturbed.of(g.at(NOW), List.of("r"), begin, begin.plus(Duration.ofHours(1)));
  }

  @Test
  void pointsWereMadeAsOnOtherDays() {
    Undisturbed fine = undisturbed(nights(-1), NOW);
    assertThat(fine.made()).isEqualTo(1);
    assertThat(fine.usual()).isEqualTo(1);
    assertThat(fine.disturbed()).isFalse();
    assertThat(fine.sentence()).isEqualTo("1 point was made while it ran, as on other days");
  }

  @Test
  void fewerThanUsualAreADisturbance() {
    Undisturbed missing = undisturbed(nights(0), NOW);
    assertThat(missing.disturbed()).isTrue();
    assertThat(missing.sentence())
        .isEqualTo("0 points were made while it ran, 1 are usual in these hours");
  }

  @Test
  void whatTheFeedsHaveNotToldIsNotSaid() {
    Undisturbed open = undisturbed(nights(0), NOW.minus(Duration.ofHours(7)).minusMillis(1));
    assertThat(open.disturbed()).isNull();
    assertThat(open.sentence()).contains("the feeds have told of the time until");
    assertThat(undisturbed(Given.estate(), NOW).disturbed())
        .as("nothing is usual")
        .isNull();
  }
}
