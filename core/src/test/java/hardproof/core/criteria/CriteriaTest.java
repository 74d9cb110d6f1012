package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.Fields;
import hardproof.core.Given;
import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.drills.Method;
import hardproof.core.estate.Policy;
import hardproof.core.feeds.FactKinds;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;

class CriteriaTest {
  @Test
  void everyCriterionGivesExactlyOneOutcomeInOrder() {
    var outcomes = Given.estate().point("a", 5).result().members().get(0).outcomes();
    assertThat(outcomes).extracting(Outcome::criterion).containsExactly(CriterionCode.values());
    assertThat(outcomes).allSatisfy(o -> assertThat(o.sentence()).isNotBlank());
  }

  @Test
  void anOutcomeWithoutASentenceIsRefused() {
    assertThatThrownBy(() -> new Outcome(
            CriterionCode.PROOF_AGE, "r", OutcomeState.MET, null, null, " ", "", List.of(), null))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("without a sentence");
  }

  @Test
  void aLateCopyIsFoundWithItsArithmetic() {
    Given g = Given.estate().point("a", 50);
    g.policies.set(0, Given.policy("p", null, new Policy.CopyTarget("far", Duration.ofHours(24))));
    assertThat(g.outcome(CriterionCode.COPIES_DEADLINE).state()).isEqualTo(OutcomeState.MET);
    g.copies.set(
        1,
        new Copy(
            "a",
            "far",
            NOW.minus(Duration.ofHours(20)),
            CopyState.PRESENT,
            null,
            null,
            new Copy.Artifact(null, null, null, null),
            new Copy.ReadBack(null, null),
            NOW,
            "feed"));
    Outcome late = g.outcome(CriterionCode.COPIES_DEADLINE);
    assertThat(late.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(late.sentence())
        .isEqualTo(
            "1 of 1 promised copy was late or missing: the copy of a to FAR came after 29 h 30 m, 5 h 30 m over its deadline of 24 h");
    g.copies.remove(1);
    assertThat(g.outcome(CriterionCode.COPIES_DEADLINE).sentence())
        .contains("is missing after 2 d 01 h, 25 h 30 m over its deadline of 24 h");
  }

  @Test
  void aPartialNewestPointIsNotMet() {
    Given g =
        Given.estate().point("a", 30).point("b", "r", Form.FULL, null, 2, PointOutcome.PARTIAL);
    assertThat(g.outcome(CriterionCode.SOUND_COMPLETE).sentence())
        .isEqualTo("the newest point, of 24 Nov 08:00, is partial");
    assertThat(g.outcome(CriterionCode.SOUND_COMPLETE).state()).isEqualTo(OutcomeState.NOT_MET);
  }

  @Test
  void brokenChainsAreCounted() {
    Given g = Given.estate().point("f", 60);
    g.point("i2", "r", Form.INCREMENTAL, "i1", 20, PointOutcome.COMPLETE)
        .point("i3", "r", Form.INCREMENTAL, "i2", 5, PointOutcome.COMPLETE);
    assertThat(g.outcome(CriterionCode.SOUND_CHAIN).sentence())
        .isEqualTo(
            "the newest point can't be restored: i2 is based on i1, which is missing; 2 points hang from broken chains");
  }

  @Test
  void withoutPointsSoundnessIsNotEnoughData() {
    assertThat(Given.estate().outcome(CriterionCode.SOUND_CHAIN).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(Given.estate().outcome(CriterionCode.PROOF_LAST_DRILL).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
  }

  @Test
  void theMarginIsMeasuredMinusDemanded() {
    Given g = Given.estate().point("a", 25).drill("a", Method.FULL_RESTORE, true, 1);
    assertThat(g.outcome(CriterionCode.FRESH_EXPOSURE_NOW).margin()).isEqualTo(3_600_000.0);
    assertThat(g.outcome(CriterionCode.SOUND_COMPLETE).margin()).isNull();
  }

  @Test
  void aStandardHasFourTiers() {
    assertThatThrownBy(() -> new Standard(
            "x",
            1,
            Duration.ofDays(1),
            java.time.ZoneOffset.UTC,
            Standard.shipped().tiers().subList(0, 3),
            java.util.Map.of(),
            List.of()))
        .hasMessage("a standard has 4 tiers, not 3");
  }

  /** 36 GB at 1 MB a second are ten hours, of which only those from 22:00 to 06:00 count. */
  @Test
  void aCopyThatWillBeLateIsForetold() {
    Given g = Given.estate().point("a", "r", Form.FULL, null, 1, PointOutcome.COMPLETE);
    g.points.set(0, Fields.with(FactKinds.POINTS, g.points.get(0), "size", "36 GB"));
    g.stores.set(1, Fields.with(FactKinds.STORES, g.stores.get(1), "throughput", "1 MB"));
    g.policies.set(
        0,
        Fields.with(
            FactKinds.POLICIES,
            g.policies.get(0),
            "copy_to",
            "far:24h",
            "copy_window",
            "22:00-06:00"));
    Outcome o = g.outcome(CriterionCode.COPIES_DEADLINE);
    assertThat(o.state()).as("it still has time").isEqualTo(OutcomeState.MET);
    assertThat(o.sentence())
        .endsWith("; the copy of a to FAR will be there at 26 Nov 00:00 at the earliest, 14 h 30 m"
            + " after its deadline");
  }
}
