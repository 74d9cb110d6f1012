package hardproof.core.census;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.copies.CopyState;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.drills.Method;
import hardproof.core.facts.PointSet;
import hardproof.core.integrity.HeldPoint;
import hardproof.core.integrity.Integrity;
import hardproof.core.ladder.Rung;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.Verdict;
import java.time.Duration;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What a list of a store turns in an evaluation. */
class CensusFactTest {
  private static ResourceResult member(Given given) {
    return given.result().members().get(0);
  }

  @Test
  void whatIsHeldReachesTheFirstRungAndNoMore() {
    Given given = Given.estate().point("p", 2);
    assertThat(member(given).proof().rung()).isEqualTo(Rung.CLAIMED);
    given.listed("p", "near", CensusState.HELD);
    assertThat(member(given).proof().rung()).isEqualTo(Rung.HELD);
    assertThat(given.result().verdict()).isEqualTo(Verdict.UNPROVEN);
  }

  @Test
  void aCopyThatIsGoneIsNoCopyAndDisprovesNoDrill() {
    Given given = Given.estate().point("p", 2);
    given.drill("p", Method.FULL_RESTORE, true, 0.5);
    given.listed("p", "near", CensusState.GONE);
    assertThat(given.outcome(CriterionCode.COPIES_ZERO_ERRORS).state())
        .isEqualTo(OutcomeState.NOT_MET);
    assertThat(member(given).lastDrill().passed()).isTrue();
    assertThat(Integrity.of(given.at(Given.NOW)).damaged()).singleElement().satisfies(d -> {
      assertThat(d.store()).isEqualTo("near");
      assertThat(d.otherGood()).containsExactly("far");
    });
    given.listed("p", "far", CensusState.OTHER_SIZE);
    assertThat(given.result().verdict()).isEqualTo(Verdict.EXPOSED);
  }

  @Test
  void whatIsNotAsClaimedIsNotYetBad() {
    Given given = Given.estate().point("p", 2);
    given.listed("p", "near", CensusState.NEWER).listed("p", "far", CensusState.SHORTER_LOCK);
    assertThat(given.outcome(CriterionCode.COPIES_AS_LISTED).state())
        .isEqualTo(OutcomeState.NOT_MET);
    assertThat(given.outcome(CriterionCode.COPIES_ZERO_ERRORS).state()).isEqualTo(OutcomeState.MET);
    assertThat(Integrity.of(given.at(Given.NOW)).damaged()).isEmpty();
  }

  @Test
  void aChainIsHeldOnlyWhole() {
    Given given = Given.estate()
        .point("full", 30)
        .point("inc", "r", Form.INCREMENTAL, "full", 20, PointOutcome.COMPLETE)
        .copy("inc", "near", CopyState.PRESENT, Given.NOW.minus(Duration.ofHours(19)))
        .point("alone", "r", Form.INCREMENTAL, "gone", 10, PointOutcome.COMPLETE);
    PointSet set = given.at(Given.NOW).pointSet("r");
    assertThat(HeldPoint.newest(set, p -> true).get().key()).isEqualTo("inc");
    assertThat(
            HeldPoint.newest(set, p -> Set.of("full").contains(p.key())).get().key())
        .isEqualTo("full");
    assertThat(HeldPoint.newest(set, p -> Set.of("inc").contains(p.key()))).isEmpty();
  }
}
