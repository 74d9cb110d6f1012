package hardproof.core.copies;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Medium;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** The 3-2-1-1-0 rule: common practice; 3-2-1 is also CISA's public advice. */
class CopyRuleTest {
  private OutcomeState state(Given g, CriterionCode code) {
    return g.outcome(code).state();
  }

  @Test
  void dataOnTwoSitesWithTapeMeetsTheRule() {
    Given g = Given.estate().point("a", 5);
    assertThat(g.outcome(CriterionCode.COPIES_NUMBER).sentence())
        .isEqualTo("3 copies in separate failure domains; 3 demanded");
    assertThat(state(g, CriterionCode.COPIES_NUMBER)).isEqualTo(OutcomeState.MET);
    assertThat(state(g, CriterionCode.COPIES_MEDIA)).isEqualTo(OutcomeState.MET);
    assertThat(state(g, CriterionCode.COPIES_OFF_SITE)).isEqualTo(OutcomeState.MET);
    assertThat(state(g, CriterionCode.COPIES_OFFLINE_OR_LOCKED)).isEqualTo(OutcomeState.MET);
    assertThat(state(g, CriterionCode.COPIES_ZERO_ERRORS)).isEqualTo(OutcomeState.MET);
  }

  @Test
  void twoStoresOnOneArrayAreOneCopy() {
    Given g = Given.estate();
    g.stores.add(Given.store("object", "A", Medium.OBJECT, "array", true));
    g.point("a", 5).copy("a", "object");
    assertThat(g.outcome(CriterionCode.COPIES_NUMBER).measured().value()).isEqualTo(3);
    assertThat(g.outcome(CriterionCode.COPIES_NUMBER).why())
        .contains("OBJECT is in the same failure domain as NEAR");
  }

  @Test
  void aCopyBesideTheDataIsNoCopy() {
    Given g = Given.estate();
    g.resources.set(
        0, Given.resource("r", Kind.FILE_SHARE, "w", null, Map.of("failure_domain", "array")));
    g.point("a", 5);
    assertThat(g.outcome(CriterionCode.COPIES_NUMBER).measured().value()).isEqualTo(2);
    assertThat(g.outcome(CriterionCode.COPIES_NUMBER).why())
        .contains("NEAR is in the same failure domain as the data itself");
  }

  @Test
  void aLockThatEndsNowNoLongerCounts() {
    for (int seconds = 0; seconds < 2; seconds++) {
      Given g = Given.estate().point("a", 5);
      g.copies.clear();
      g.copies.add(new Copy(
          "a",
          "near",
          NOW.minusSeconds(60),
          CopyState.PRESENT,
          NOW.plusSeconds(seconds),
          null,
          new Copy.Artifact(null, null, null, null),
          new Copy.ReadBack(null, null),
          NOW,
          "feed"));
      assertThat(g.outcome(CriterionCode.COPIES_OFFLINE_OR_LOCKED).measured().value())
          .isEqualTo(seconds);
    }
  }

  @Test
  void aDamagedCopyIsAnErrorAndNoCopy() {
    Given g = Given.estate().point("a", 5);
    g.copies.remove(1);
    g.copy("a", "far", CopyState.DAMAGED, NOW.minusSeconds(60));
    assertThat(g.outcome(CriterionCode.COPIES_ZERO_ERRORS).sentence())
        .isEqualTo("1 copy is damaged or failed to be read");
    assertThat(g.outcome(CriterionCode.COPIES_NUMBER).measured().value()).isEqualTo(2);
  }

  @Test
  void onlyFreshPointsCount() {
    Duration freshness = Duration.ofDays(14);
    Given at = Given.estate().point("a", freshness.toHours());
    Given over = Given.estate().point("a", freshness.toHours() + 0.01);
    assertThat(at.outcome(CriterionCode.COPIES_NUMBER).measured().value()).isEqualTo(3);
    assertThat(over.outcome(CriterionCode.COPIES_NUMBER).measured().value()).isEqualTo(1);
  }

  @Test
  void lagIsJudgedJustUnderAtAndOverItsDeadline() {
    Instant available = NOW.minus(Duration.ofDays(2));
    Duration day = Duration.ofDays(1);
    assertThat(
            CopyLag.of(available, available.plus(day).minusMillis(1), day, NOW).state())
        .isEqualTo(CopyLag.State.IN_TIME);
    assertThat(CopyLag.of(available, available.plus(day), day, NOW).state())
        .isEqualTo(CopyLag.State.IN_TIME);
    assertThat(
            CopyLag.of(available, available.plus(day).plusMillis(1), day, NOW).state())
        .isEqualTo(CopyLag.State.LATE);
    assertThat(CopyLag.of(available, null, day, NOW).state()).isEqualTo(CopyLag.State.MISSING);
    assertThat(CopyLag.of(NOW.minus(day), null, day, NOW).state()).isEqualTo(CopyLag.State.PENDING);
    assertThat(CopyLag.of(NOW.minus(day).minusMillis(1), null, day, NOW).state())
        .isEqualTo(CopyLag.State.MISSING);
    // A copy that will only finish later than the as-at instant was not there yet.
    assertThat(CopyLag.of(NOW.minus(day), NOW.plusSeconds(1), day, NOW).state())
        .isEqualTo(CopyLag.State.PENDING);
  }

  /** Held down by a base that others hang from: it is named. */
  @Test
  void theBaseThatHoldsAFigureDownIsNamed() {
    Given g = Given.estate();
    CopyCount count = CopyCount.of(g.resources.get(0), List.of(), 0, key -> null, NOW);
    String[] by = new String[CopyCount.Figure.values().length];
    by[CopyCount.Figure.MEDIA.ordinal()] = "full-1";
    CopyCount held = count.held(new int[] {1, 1, 1, 1}, by);
    assertThat(held.heldDown(CopyCount.Figure.MEDIA))
        .isEqualTo(", held down by full-1, from which the others hang");
    assertThat(held.heldDown(CopyCount.Figure.COPIES)).isEmpty();
  }

  /** Tape beside the copies on disk and tape: two media, not three; on disk by default likewise. */
  @Test
  void theMediumOfTheDataCountsAsItIsTagged() {
    for (String medium : new String[] {"object", "disk", "no such medium"}) {
      Given g = Given.estate();
      g.resources.set(0, Given.resource("r", Kind.FILE_SHARE, "w", null, Map.of("medium", medium)));
      g.point("a", 5);
      assertThat(g.outcome(CriterionCode.COPIES_MEDIA).measured().value())
          .isEqualTo(medium.equals("object") ? 3 : 2);
    }
  }

  @Test
  void aCopyIsThereFromTheMomentItIsFinished() {
    assertThat(CopyLag.there(NOW.toEpochMilli(), NOW.toEpochMilli())).isTrue();
    assertThat(CopyLag.there(NOW.toEpochMilli() + 1, NOW.toEpochMilli())).isFalse();
  }
}
