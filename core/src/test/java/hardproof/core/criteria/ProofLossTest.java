package hardproof.core.criteria;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.drills.Method;
import org.junit.jupiter.api.Test;

/** Loss by proof as a criterion: tier 3 allows 182 days by default. Invented data. */
class ProofLossTest {
  private static Outcome outcome(Given g) {
    return g.outcome(CriterionCode.PROOF_LOSS);
  }

  @Test
  void atTheBoundItIsMetAndOverItNot() {
    double allowed = 182 * 24;
    Given at = Given.estate().point("a", allowed).drill("a", Method.FULL_RESTORE, true, 1);
    assertThat(outcome(at).state()).isEqualTo(OutcomeState.MET);
    assertThat(outcome(at).sentence())
        .isEqualTo(
            "by proof 182 d would be lost: a is the newest point whose content was shown to be"
                + " right, by full restore; 0 s inside the 182 d allowed");
    Given over =
        Given.estate().point("a", allowed + 0.001).drill("a", Method.FULL_RESTORE, true, 1);
    assertThat(outcome(over).state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(outcome(over).why()).contains("> 182 d");
  }

  @Test
  void withoutADrillAllWouldBeLost() {
    Outcome none = outcome(Given.estate().point("a", 1));
    assertThat(none.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(none.sentence())
        .isEqualTo(
            "no drill has shown the content of any usable point of R to be right: by proof all"
                + " of it would be lost");
    Outcome unasked = outcome(Given.estate().point("a", 1).theWorkload("tier", "4"));
    assertThat(unasked.state()).isEqualTo(OutcomeState.NOT_APPLICABLE);
  }
}
