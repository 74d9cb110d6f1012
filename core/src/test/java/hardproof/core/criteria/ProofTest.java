package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.drills.Method;
import hardproof.core.ladder.Rung;
import hardproof.core.proof.Verdict;
import java.time.Duration;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Which drills prove something. Tier 3: restored is demanded, of points of consistency file. Invented data. */
class ProofTest {
  private static Proof proof(Given g) {
    return g.result().members().get(0).proof();
  }

  /** That it restores well makes a point no better than it is. */
  @ParameterizedTest
  @ValueSource(strings = {"partial", "failed"})
  void aDrillOfAPointThatIsNotWholeProvesNothing(String outcome) {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
    assertThat(proof(g).demandReachedInPeriod()).isTrue();
    assertThat(g.result().verdict()).isEqualTo(Verdict.PROVEN);
    g.point("b", 4).thePoint("a", "outcome", outcome);
    assertThat(proof(g).reached()).isNull();
    assertThat(proof(g).best()).isNull();
    assertThat(proof(g).rung()).isEqualTo(Rung.CLAIMED);
    assertThat(g.result().verdict()).isEqualTo(Verdict.UNPROVEN);
  }

  /** The strict standard demands application consistency of tier 1. */
  @Test
  void aDrillOfAPointThatIsLessConsistentThanDemandedProvesNothing() {
    Given g = Given.estate().theWorkload("tier", "1").point("a", 5);
    g.drill("a", Method.FULL_RESTORE, true, 1);
    Proof less = Proof.of(new Subject(g.at(NOW), ShippedStandards.strict(), g.resources.get(0)));
    assertThat(less.reached()).isNull();
    g.thePoint("a", "consistency", "application");
    Proof enough = Proof.of(new Subject(g.at(NOW), ShippedStandards.strict(), g.resources.get(0)));
    assertThat(enough.demandReachedInPeriod()).isTrue();
  }

  /** What its feed has forgotten since counts as it did. */
  @Test
  void aDrillOfAPointThatIsForgottenCounts() {
    Given g = Given.estate().point("a", 5).point("gone", 30);
    g.drill("gone", Method.FULL_RESTORE, true, 1);
    g.points.remove(1);
    g.copies.removeIf(c -> c.point().equals("gone"));
    assertThat(proof(g).demandReachedInPeriod()).isTrue();
  }

  @Test
  void onlyACompletePointIsClaimed() {
    Given g = Given.estate().point("a", 5).thePoint("a", "outcome", "failed");
    assertThat(proof(g).rung()).isNull();
    g.point("b", 30).thePoint("b", "outcome", "partial");
    assertThat(proof(g).rung()).isNull();
    g.point("c", 50);
    assertThat(proof(g).rung()).isEqualTo(Rung.CLAIMED);
  }

  @Test
  void itRestsOnTheDrillThatReachedMostOrNone() {
    Given g = Given.estate().point("a", 5);
    assertThat(proof(g).facts()).isEmpty();
    g.drill("a", Method.READ_THROUGH, true, 1);
    assertThat(proof(g).facts()).containsExactly(new FactRef("drills", "run0"));
    assertThat(g.outcome(CriterionCode.PROOF_AGE).facts())
        .containsExactly(new FactRef("drills", "run0"));
    assertThat(g.outcome(CriterionCode.PROOF_AGE).sentence())
        .isEqualTo("R was shown intact only; restored demanded");
    g.drill("a", Method.FULL_RESTORE, true, 2);
    assertThat(proof(g).facts()).containsExactly(new FactRef("drills", "run1"));
    assertThat(proof(g).lapses()).isEqualTo(NOW.plus(Duration.ofDays(178)));
  }

  /** That one artifact of a sweep was as written takes nothing back of what a drill found. */
  @Test
  void aReadBackThatPassedDoesNotEndAFailure() {
    Given g = Given.estate().point("a", 5).point("b", 6);
    g.drill("a", Method.FULL_RESTORE, false, 2).drill("b", Method.READ_BACK, true, 1);
    assertThat(g.result().verdict()).isEqualTo(Verdict.DISPROVEN);
    g.drill("b", Method.FULL_RESTORE, true, 0.5);
    assertThat(g.result().verdict()).isEqualTo(Verdict.PROVEN);
    g.drill("b", Method.READ_BACK, false, 0.25);
    assertThat(g.result().verdict()).as("that it was not counts").isEqualTo(Verdict.DISPROVEN);
  }

  @Test
  void aDrillThatWasNoRestoreSaysNothingOfTheTimeOfOne() {
    Given g = Given.estate().point("a", 5).drill("a", Method.READ_THROUGH, true, 1);
    assertThat(g.outcome(CriterionCode.PROOF_RECOVERY_TIME).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    g.drill("a", Method.FULL_RESTORE, false, 1);
    assertThat(g.outcome(CriterionCode.PROOF_RECOVERY_TIME).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    g.theWorkload("rto", "1m").drill("a", Method.FULL_RESTORE, true, 1);
    assertThat(g.outcome(CriterionCode.PROOF_RECOVERY_TIME).state())
        .as("exactly the objective")
        .isEqualTo(OutcomeState.MET);
    g.theWorkload("rto", "59s");
    assertThat(g.outcome(CriterionCode.PROOF_RECOVERY_TIME).state())
        .isEqualTo(OutcomeState.NOT_MET);
  }

  @Test
  void offSiteTheNewestDrillThatPassedCounts() {
    Given g = Given.estate().theWorkload("tier", "1").point("a", 5);
    g.drill("a", "far", Method.FULL_RESTORE, true, 200, null, null)
        .drill("a", "far", Method.FULL_RESTORE, true, 3, null, null)
        .drill("a", "far", Method.FULL_RESTORE, false, 1, null, null);
    assertThat(g.outcome(CriterionCode.PROOF_OFF_SITE).sentence()).contains("passed 3 d ago");
    g.theResource("site", "");
    assertThat(g.outcome(CriterionCode.PROOF_OFF_SITE).sentence())
        .isEqualTo("the resource's own site is not known");
  }

  @Test
  void proofHoldsUntilTheEndOfItsPeriod() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 180);
    assertThat(g.outcome(CriterionCode.PROOF_AGE).state()).isEqualTo(OutcomeState.MET);
    g.drills.clear();
    g.drill("a", Method.FULL_RESTORE, true, 180.001);
    assertThat(g.outcome(CriterionCode.PROOF_AGE).state()).isEqualTo(OutcomeState.NOT_MET);
  }

  @Test
  void whatWasLeftBehindIsNamed() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
    g.drills.set(0, g.drills.get(0).withCleanup(hardproof.core.drills.CleanupState.FAILED));
    Outcome left = g.outcome(CriterionCode.PROOF_CLEAN_UP);
    assertThat(left.sentence()).isEqualTo("1 drill left restored data behind");
    assertThat(left.facts()).containsExactly(new FactRef("drills", "run0"));
  }

  @Test
  void theLastDrillSaysHowItEnded() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
    assertThat(g.outcome(CriterionCode.PROOF_LAST_DRILL).sentence())
        .isEqualTo("the drill of 23 Nov 10:00 passed: all files equal");
  }
}
