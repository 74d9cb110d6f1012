package hardproof.core.criteria;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import org.junit.jupiter.api.Test;

/** The Soundness group, held to the strict standard's tier 1. */
class SoundnessTest extends HeldToStrict {
  @Test
  void theNewestPointIsAsConsistentAsTierAndPolicyAsk() {
    point("a", 1, "consistency", "crash");
    assertThat(outcome(CriterionCode.SOUND_CONSISTENCY).sentence())
        .isEqualTo("the newest point, of 24 Nov 09:00, is of consistency crash; its tier asks for"
            + " application");
    standard = Standard.shipped();
    assertThat(outcome(CriterionCode.SOUND_CONSISTENCY).state()).isEqualTo(OutcomeState.MET);
    g.thePolicy("name", "Nightly", "consistency", "application");
    assertThat(outcome(CriterionCode.SOUND_CONSISTENCY).sentence())
        .endsWith("Nightly asks for application");
  }

  @Test
  void aPreStepThatNeverRanIsFound() {
    point("a", 3);
    assertThat(outcome(CriterionCode.SOUND_PRE_STEP).state())
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
    g.points.clear();
    point("b", 3, "pre_step", "false");
    point("c", 2, "pre_step", "false");
    assertThat(outcome(CriterionCode.SOUND_PRE_STEP).sentence())
        .isEqualTo("the step before it has never run, for any of its 2 points");
    point("d", 1.5, "pre_step", "true");
    assertThat(outcome(CriterionCode.SOUND_PRE_STEP).state()).isEqualTo(OutcomeState.MET);
    point("e", 1, "pre_step", "false");
    assertThat(outcome(CriterionCode.SOUND_PRE_STEP).sentence())
        .isEqualTo("the step before it did not run for the last 1 point");
  }

  @Test
  void fallingBackToTheActiveMemberIsFound() {
    point("a", 25, "source_role", "passive");
    assertThat(outcome(CriterionCode.SOUND_SOURCE_ROLE).state()).isEqualTo(OutcomeState.MET);
    point("b", 1, "source_role", "active");
    assertThat(outcome(CriterionCode.SOUND_SOURCE_ROLE).sentence())
        .isEqualTo("the newest point, of 24 Nov 09:00, was taken from the active member, which"
            + " carries the load; the last from the passive one is of 23 Nov 09:00");
  }

  @Test
  void skippedItemsAreCounted() {
    point("a", 1, "skipped_items", "0");
    assertThat(outcome(CriterionCode.SOUND_SKIPPED).state()).isEqualTo(OutcomeState.MET);
    point("b", 0.5, "skipped_items", "1");
    assertThat(outcome(CriterionCode.SOUND_SKIPPED).sentence())
        .isEqualTo("the newest point, of 24 Nov 09:30, leaves out 1 item, and says complete");
  }

  @Test
  void aBackupThatShrankIsNotBelieved() {
    for (int day = 6; day >= 2; day--) {
      sized("p" + day, day * 24, 1_000_000 + day * 1000);
    }
    assertThat(outcome(CriterionCode.SOUND_SIZE).state())
        .as("five are too few")
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    sized("p1", 24, 1_002_000);
    assertThat(outcome(CriterionCode.SOUND_SIZE).state()).isEqualTo(OutcomeState.MET);
    sized("p0", 1, 400_000);
    Outcome o = outcome(CriterionCode.SOUND_SIZE);
    assertThat(o.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(o.sentence())
        .isEqualTo("the newest point, of 24 Nov 09:00, is 400 kB, 39.86 % of the usual 1.00 MB, and"
            + " says complete");
  }

  @Test
  void aSmallChangeOfASteadySizeIsNoOutlier() {
    for (int day = 9; day >= 1; day--) {
      sized("p" + day, day * 24, 1_000_000);
    }
    sized("p0", 1, 1_090_000);
    assertThat(outcome(CriterionCode.SOUND_SIZE).state()).isEqualTo(OutcomeState.MET);
  }

  @Test
  void chainsAreNotTooLongAndTheirFullsNotTooOld() {
    Given g2 = Given.estate().point("f", 24 * 30);
    String base = "f";
    for (int i = 1; i < 30; i++) {
      g2.point("i" + i, "r", Form.INCREMENTAL, base, 24 * 30 - i, PointOutcome.COMPLETE);
      base = "i" + i;
    }
    assertThat(g2.outcome(CriterionCode.SOUND_CHAIN_LENGTH).state()).isEqualTo(OutcomeState.MET);
    assertThat(g2.outcome(CriterionCode.SOUND_FULL_AGE).state())
        .as("exactly 30 d")
        .isEqualTo(OutcomeState.MET);
    g2.point("last", "r", Form.INCREMENTAL, base, 1, PointOutcome.COMPLETE);
    assertThat(g2.outcome(CriterionCode.SOUND_CHAIN_LENGTH).sentence())
        .isEqualTo("to restore the newest point 31 points are needed; 30 at most are allowed");
    g2.points.remove(0);
    assertThat(g2.outcome(CriterionCode.SOUND_FULL_AGE).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
  }

  /** Where the full is missing, its age is not known. */
  @Test
  void aFullThatIsMissingHasNoAge() {
    Given g2 = Given.estate().point("f", 50);
    g2.point("i", "r", Form.INCREMENTAL, "f", 2, PointOutcome.COMPLETE).copy("i", "near");
    g2.points.remove(0);
    assertThat(g2.outcome(CriterionCode.SOUND_FULL_AGE).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(g2.outcome(CriterionCode.SOUND_FULL_AGE).sentence()).isNotBlank();
  }

  /** Six sizes are enough; what is exactly at the limit, or exactly a tenth away, is not odd. */
  @Test
  void aSizeAtTheLimitIsNotOdd() {
    for (int day = 8; day >= 2; day--) {
      sized("p" + day, day * 24, 1_000_000);
    }
    sized("p0", 1, 1_100_000);
    assertThat(outcome(CriterionCode.SOUND_SIZE).state()).isEqualTo(OutcomeState.MET);
    g.points.remove(g.points.size() - 1);
    sized("p0", 1, 1_100_001);
    assertThat(outcome(CriterionCode.SOUND_SIZE).state()).isEqualTo(OutcomeState.NOT_MET);
  }
}
