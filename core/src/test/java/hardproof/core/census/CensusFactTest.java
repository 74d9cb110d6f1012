package hardproof.core.census;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.copies.CopyState;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.drills.Method;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.integrity.HeldPoint;
import hardproof.core.integrity.Integrity;
import hardproof.core.ladder.Rung;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.Verdict;
import java.time.Duration;
import java.time.Instant;
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

  /** What the store says of its locks is what criteria go by, in place of the claim. */
  @Test
  void locksAreThoseOfTheStore() {
    Instant claimed = Given.NOW.plus(Duration.ofDays(60));
    Given given =
        Given.estate().point("p", 2).theCopy("p", "near", "locked_until", claimed.toString());
    assertThat(lock(given, "near")).isEqualTo(claimed);
    Instant told = Given.NOW.plus(Duration.ofDays(3));
    given.locked("p", "near", CensusState.SHORTER_LOCK, told);
    assertThat(lock(given, "near")).isEqualTo(told);
    given.censuses.clear();
    given.locked("p", "near", CensusState.SHORTER_LOCK, null);
    assertThat(lock(given, "near")).isNull();
    assertThat(given.at(Given.NOW).claimedSet("r").copiesOf(0))
        .filteredOn(c -> c.store().equals("near"))
        .singleElement()
        .satisfies(c -> assertThat(c.lockedUntil()).isEqualTo(claimed));
    given.censuses.clear();
    given.locked("p", "far", CensusState.LONGER_LOCK, told);
    assertThat(lock(given, "far")).isEqualTo(told);
    assertThat(lock(given, "near")).as("the other copy of the point").isEqualTo(claimed);
    // Found by a version that kept no more than a sentence: how short it is nobody knows here.
    given.listed("p", "near", CensusState.SHORTER_LOCK);
    assertThat(lock(given, "near")).isEqualTo(claimed);
    // Claimed since, and not asked again yet.
    given.theCopy("p", "far", "locked_until", claimed.toString());
    assertThat(lock(given, "far")).isEqualTo(claimed);
  }

  private static Instant lock(Given given, String store) {
    Estate estate = given.at(Given.NOW);
    return estate.copiesOf(estate.point("r", "p")).stream()
        .filter(c -> c.store().equals(store))
        .findFirst()
        .orElseThrow()
        .lockedUntil();
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
