package hardproof.core.criteria;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.drills.Method;
import java.time.Duration;
import org.junit.jupiter.api.Test;

/**
 * Recovery time within the RTO. Tier 3 allows 72 h; the restore of the tests takes a minute and reads 1,000 bytes, so
 * that 4,320,000 bytes at its rate are exactly 72 h. Invented data.
 */
class RecoveryTimeTest {
  private static Outcome outcome(Given g) {
    return g.outcome(CriterionCode.PROOF_RECOVERY_TIME);
  }

  private static Given drilled() {
    return Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
  }

  @Test
  void aSmallArtifactIsScaledToWhatTheResourceHolds() {
    Outcome at = outcome(drilled().theResource("size", "4320000"));
    assertThat(at.state()).isEqualTo(OutcomeState.MET);
    assertThat(at.sentence())
        .contains("took 1 m for 1.00 kB read")
        .contains("for all of its 4.32 MB at that rate 3 d");
    Outcome over = outcome(drilled().theResource("size", "4320100"));
    assertThat(over.state()).isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(over.measured()).isEqualTo(Measure.of(Duration.ofMinutes(1)));
    assertThat(over.sentence())
        .contains("there are 4.32 MB: at that rate they would take 3 d, over the 3 d objective")
        .contains("(0 s at what NEAR is said to read)")
        .endsWith("Drill a point of the size that would have to be restored");
    assertThat(over.why()).contains("= 1 m ≤ RTO; × 4,320.1 = ").endsWith("> RTO 3 d");
  }

  /** Backups are packed: a twentieth of the size may be all of it. */
  @Test
  void whatMayBeAllOfItPackedIsTakenAsMeasured() {
    assertThat(outcome(drilled().theResource("size", "20000")).sentence())
        .doesNotContain("for all of its");
    assertThat(outcome(drilled().theResource("size", "20020")).sentence())
        .contains("for all of its 20.0 kB at that rate 20 m");
  }

  @Test
  void whatHasGrownSinceIsScaledToo() {
    Given g = drilled().thePoint("a", "size", "1500");
    assertThat(outcome(g).sentence()).doesNotContain("for all of its");
    g.thePoint("a", "size", "4320000");
    assertThat(outcome(g).state()).isEqualTo(OutcomeState.MET);
    g.thePoint("a", "size", "4330000");
    assertThat(outcome(g).state()).isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
  }

  @Test
  void whatTookTooLongAlreadyIsNotMetWhateverThereIs() {
    Given g = drilled().theResource("size", "90000000000").theWorkload("rto", "59s");
    Outcome outcome = outcome(g);
    assertThat(outcome.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(outcome.sentence()).contains("over the 59 s objective");
    assertThat(outcome(drilled().theWorkload("rto", "60s")).state()).isEqualTo(OutcomeState.MET);
  }

  @Test
  void withoutAStoreThatIsKnownNothingIsSaidOfWhatItReads() {
    Given g = drilled().theResource("size", "90000000000").theStore("near", "throughput", "");
    assertThat(outcome(g).sentence()).doesNotContain("said to read");
  }
}
