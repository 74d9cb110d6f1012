package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.drills.Method;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** A standard that leaves empty whatever may be empty asks nothing by those values. */
class NotDemandedTest {
  /** What stands or falls with a value of the tier that may be left empty. */
  private static final Set<CriterionCode> ASKED_BY_A_VALUE = Arrays.stream(CriterionCode.values())
      .filter(c -> c.parameters().stream().anyMatch(p -> !p.needed()))
      .collect(Collectors.toCollection(() -> EnumSet.noneOf(CriterionCode.class)));

  private static Standard bare() {
    Standard shipped = ShippedStandards.strict();
    return new Standard(
        "Bare",
        1,
        shipped.period(),
        shipped.zone(),
        shipped.tiers().stream().map(NotDemandedTest::bare).toList(),
        Map.of(),
        List.of());
  }

  private static TierDemand bare(TierDemand tier) {
    Map<Parameter, Long> needed = new EnumMap<>(tier.values());
    needed.keySet().removeIf(p -> !p.needed());
    return new TierDemand(needed);
  }

  /** A resource of which everything is known, so that nothing but the demand can be missing. */
  private static Given known() {
    Given g = Given.estate()
        .theWorkload("tier", "1")
        .theResource("last_seen", NOW.toString(), "agent_seen", NOW.toString())
        .theStore("near", "redundancy", "one-building", "delete_approvals", "2")
        .theStore("far", "redundancy", "one-building", "delete_approvals", "2");
    for (int i = 12; i >= 1; i--) {
      g.point("p" + i, i * 24.0)
          .thePoint(
              "p" + i,
              "pre_step",
              "true",
              "source_role",
              "passive",
              "encrypted",
              "true",
              "skipped_items",
              "0");
    }
    return g.drill("p1", Method.FULL_RESTORE, true, 1);
  }

  private static Map<CriterionCode, Outcome> outcomes(Standard standard) {
    Given g = known();
    return Criteria.evaluate(new Subject(g.at(NOW), standard, g.resources.get(0))).stream()
        .collect(Collectors.toMap(o -> (CriterionCode) o.criterion(), o -> o));
  }

  @Test
  void whatIsLeftEmptyIsNotAsked() {
    Map<CriterionCode, Outcome> bare = outcomes(bare());
    assertThat(ASKED_BY_A_VALUE).hasSizeGreaterThan(15);
    for (CriterionCode code : ASKED_BY_A_VALUE) {
      assertThat(bare.get(code).state()).as("%s", code).isEqualTo(OutcomeState.NOT_APPLICABLE);
      assertThat(bare.get(code).sentence()).as("%s", code).isEqualTo("not demanded of this tier");
      assertThat(bare.get(code).why()).isEqualTo("not asked");
    }
  }

  @Test
  void whatIsSetIsAsked() {
    Map<CriterionCode, Outcome> strict = outcomes(ShippedStandards.strict());
    assertThat(ASKED_BY_A_VALUE)
        .allSatisfy(c -> assertThat(strict.get(c).sentence())
            .as("%s", c)
            .isNotEqualTo("not demanded of this tier"));
  }

  @Test
  void whatNobodyTellsOfIsNotAsked() {
    Given g = Given.estate().theWorkload("tier", "1").point("a", 5);
    Map<CriterionCode, Outcome> strict =
        Criteria.evaluate(new Subject(g.at(NOW), ShippedStandards.strict(), g.resources.get(0)))
            .stream()
            .collect(Collectors.toMap(o -> (CriterionCode) o.criterion(), o -> o));
    assertThat(strict.get(CriterionCode.SOUND_SOURCE_ROLE).sentence())
        .isEqualTo("it is not known to be part of a cluster");
    assertThat(strict.get(CriterionCode.SOUND_SKIPPED).sentence())
        .isEqualTo("nobody says how many items were skipped");
    assertThat(strict.get(CriterionCode.SOUND_PRE_STEP).sentence())
        .isEqualTo("no step before its points is known");
  }

  /** Findings of these come before all others of their tier: something is wrong with the data itself, now. */
  @Test
  void whatIsUrgentIsOfTheDataItselfNow() {
    assertThat(Arrays.stream(CriterionCode.values()).filter(CriterionCode::urgent))
        .containsExactlyInAnyOrder(
            CriterionCode.COVER_PROTECTED,
            CriterionCode.FRESH_EXPOSURE_NOW,
            CriterionCode.COPIES_ZERO_ERRORS,
            CriterionCode.SOUND_COMPLETE,
            CriterionCode.SOUND_CHAIN,
            CriterionCode.PROOF_LAST_DRILL);
    assertThat(new OwnCriterion("own-a", "A", "a", "a", s -> null).urgent()).isFalse();
  }
}
