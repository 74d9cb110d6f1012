package hardproof.core.criteria;

import static hardproof.core.Fields.ago;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.drills.Method;
import org.junit.jupiter.api.Test;

/** The rest of the Proof group. */
class ProofGroupTest {
  @Test
  void aReadBackOrADrillCountsAsReading() {
    Given g = Given.estate().point("a", 5);
    assertThat(g.outcome(CriterionCode.PROOF_READ_BACK).sentence())
        .isEqualTo("no copy of R was ever read back whole");
    g.theCopy("a", "near", "last_read", ago("180d"), "last_read_outcome", "passed");
    assertThat(g.outcome(CriterionCode.PROOF_READ_BACK).state()).isEqualTo(OutcomeState.MET);
    g.theCopy("a", "near", "last_read", ago("181d"));
    assertThat(g.outcome(CriterionCode.PROOF_READ_BACK).state()).isEqualTo(OutcomeState.NOT_MET);
    g.drill("a", Method.READ_THROUGH, true, 1);
    assertThat(g.outcome(CriterionCode.PROOF_READ_BACK).state()).isEqualTo(OutcomeState.MET);
  }

  @Test
  void measuredRecoveryTimeIsHeldAgainstTheRto() {
    Given g = Given.estate().point("a", 5);
    assertThat(g.outcome(CriterionCode.PROOF_RECOVERY_TIME).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    g.drill("a", Method.FULL_RESTORE, true, 1);
    assertThat(g.outcome(CriterionCode.PROOF_RECOVERY_TIME).sentence())
        .contains("took 1 m for 1.00 kB read, 2 d 23 h inside the 3 d objective");
  }

  @Test
  void oneDrillComesFromTheOffSiteCopy() {
    Given g = Given.estate().point("a", 5);
    g.workloads.set(0, Given.workload("w", 1));
    g.drill("a", "near", Method.FULL_RESTORE, true, 1, null, null);
    assertThat(g.outcome(CriterionCode.PROOF_OFF_SITE).sentence())
        .isEqualTo("R was never drilled from a copy at another site than A");
    g.drill("a", "far", Method.FULL_RESTORE, true, 180, null, null);
    assertThat(g.outcome(CriterionCode.PROOF_OFF_SITE).state()).isEqualTo(OutcomeState.MET);
    assertThat(Given.estate().outcome(CriterionCode.PROOF_OFF_SITE).state())
        .as("tier 3 need not")
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
  }
}
