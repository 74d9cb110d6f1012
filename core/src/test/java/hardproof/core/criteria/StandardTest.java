package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.Fields;
import hardproof.core.Given;
import hardproof.core.feeds.FactKinds;
import hardproof.core.ladder.Rung;
import hardproof.core.wording.WrongValue;
import java.time.Duration;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** What is demanded: of a tier, of a workload with objectives of its own, by criteria of one's own. */
class StandardTest {
  private static final TierDemand FIRST = Standard.shipped().tiers().get(0);

  @Test
  void aDemandWithOtherValuesKeepsTheRest() {
    TierDemand other = FIRST.with(Map.of(Parameter.RPO, 60_000L));
    assertThat(other.rpo()).isEqualTo(Duration.ofMinutes(1));
    assertThat(other.rto()).isEqualTo(FIRST.rto());
    assertThat(other).isNotEqualTo(FIRST).isNotEqualTo(FIRST.values());
    assertThat(other.toString()).contains("60000");
    assertThat(FIRST.with(Map.of())).isEqualTo(FIRST);
    TierDemand same = other.with(Map.of(Parameter.RPO, FIRST.rpo().toMillis()));
    assertThat(same).isEqualTo(FIRST).hasSameHashCodeAs(FIRST);
    assertThat(FIRST.hashCode()).isNotEqualTo(other.hashCode());
  }

  @Test
  void aValueCanBeTakenAwayWhereItIsNotNeeded() {
    Map<Parameter, Long> none = new EnumMap<>(Parameter.class);
    none.put(Parameter.ENCRYPTED, null);
    assertThat(FIRST.demands(Parameter.ENCRYPTED)).isTrue();
    assertThat(FIRST.with(none).demands(Parameter.ENCRYPTED)).isFalse();
    assertThat(FIRST.demands(Parameter.LOCK_COVERS_RETENTION)).isFalse();
    none.clear();
    none.put(Parameter.RPO, null);
    assertThatThrownBy(() -> FIRST.with(none))
        .isInstanceOf(WrongValue.class)
        .hasMessageContaining("needs a value in every tier");
  }

  @Test
  void aWorkloadsOwnObjectivesComeBeforeItsTiers() {
    Standard standard = Standard.shipped();
    assertThat(standard.demandOn(Given.workload("w", 1))).isEqualTo(FIRST);
    assertThat(standard.demandOn(null)).isEqualTo(FIRST);
    TierDemand own = standard.demandOn(Fields.with(
        FactKinds.WORKLOADS, Given.workload("w", 3), "rpo", "5m", "rto", "6m", "rung", "intact"));
    assertThat(own.rpo()).isEqualTo(Duration.ofMinutes(5));
    assertThat(own.rto()).isEqualTo(Duration.ofMinutes(6));
    assertThat(own.rung()).isEqualTo(Rung.INTACT);
    assertThat(own.proofPeriod()).isEqualTo(standard.tiers().get(2).proofPeriod());
  }

  @Test
  void anotherVersionSaysTheSame() {
    Standard next = Standard.shipped().asVersion(7);
    assertThat(next.title()).isEqualTo("Default 7");
    assertThat(next.tiers()).isEqualTo(Standard.shipped().tiers());
  }

  private static OwnCriterion own(String code, String expression, OutcomeState state) {
    return new OwnCriterion(
        code, "Title", "It is so.", expression, s -> Judgement.of(state, "is so", "so"));
  }

  @Test
  void aCriterionOfOnesOwnIsWhatItWasMadeOf() {
    OwnCriterion own = own("own-so", "a == b", OutcomeState.MET);
    assertThat(own.code()).isEqualTo("own-so").isEqualTo(own.toString());
    assertThat(own.title()).isEqualTo("Title");
    assertThat(own.demand()).isEqualTo("It is so.");
    assertThat(own.expression()).isEqualTo("a == b");
    assertThat(own.group()).isEqualTo("Own");
    assertThat(own.references()).isEmpty();
    assertThat(own)
        .isEqualTo(own("own-so", "a == b", OutcomeState.NOT_MET))
        .hasSameHashCodeAs(own("own-so", "a == b", OutcomeState.NOT_MET))
        .isNotEqualTo(own("own-other", "a == b", OutcomeState.MET))
        .isNotEqualTo(own("own-so", "a == c", OutcomeState.MET))
        .isNotEqualTo("own-so");
    assertThat(own.hashCode())
        .isNotEqualTo(own("own-so", "a == c", OutcomeState.MET).hashCode());
  }

  @Test
  void itIsJudgedBesideThoseThatShip() {
    Given g = Given.estate().point("a", 1);
    Standard shipped = Standard.shipped();
    Standard with = new Standard(
        "Ours",
        1,
        shipped.period(),
        shipped.zone(),
        shipped.tiers(),
        Map.of(),
        List.of(own("own-so", "x", OutcomeState.NOT_MET)));
    List<Outcome> outcomes = Criteria.evaluate(new Subject(g.at(NOW), with, g.resources.get(0)));
    Outcome last = outcomes.get(outcomes.size() - 1);
    assertThat(last.criterion().code()).isEqualTo("own-so");
    assertThat(last.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(last.facts()).containsExactly(new FactRef("resources", "r"));
  }

  @ParameterizedTest
  @EnumSource(CriterionCode.class)
  void whatShipsSaysWhatItDemands(CriterionCode code) {
    assertThat(code.title()).isNotBlank();
    assertThat(code.demand()).isNotBlank().endsWith(".");
    assertThat(code.code())
        .isEqualTo(code.name().toLowerCase(java.util.Locale.ROOT).replace('_', '-'));
    assertThat(code.code())
        .startsWith(code.group().toLowerCase(java.util.Locale.ROOT).substring(0, 3));
  }

  @Test
  void parametersAreThoseThatACriterionReads() {
    assertThat(CriterionCode.FRESH_EXPOSURE_NOW.parameters()).contains(Parameter.RPO);
    assertThat(CriterionCode.SAFE_ENCRYPTED.parameters()).containsExactly(Parameter.ENCRYPTED);
    assertThat(CriterionCode.COVER_OWNER.parameters()).isEmpty();
  }

  /** At the bounds: all of the time is 1, a share is at most 1000. */
  @Test
  void sharesEndWhereTheyMust() {
    assertThat(Parameter.ATTAINMENT.read("1")).isEqualTo(1_000_000);
    assertThat(Parameter.ATTAINMENT.read("0")).isZero();
    assertThatThrownBy(() -> Parameter.ATTAINMENT.read("1.000001"))
        .hasMessageContaining("more than 1");
    assertThat(Parameter.SIZE_SCORE.read("1000")).isEqualTo(1_000_000_000);
    assertThatThrownBy(() -> Parameter.SIZE_SCORE.read("1000.000001"))
        .hasMessageContaining("from 0 to 1000");
    assertThatThrownBy(() -> Parameter.SIZE_SCORE.read("-0.000001"))
        .hasMessageContaining("from 0 to 1000");
    assertThatThrownBy(() -> Parameter.RPO.read("0s")).hasMessageContaining("is nothing");
    assertThat(Parameter.ATTAINMENT.words(990_000)).isEqualTo("99.00 %");
    assertThat(Parameter.SIZE_SCORE.words(3_500_000)).isEqualTo("3.5");
    assertThat(Parameter.REDUNDANCY.words(Parameter.REDUNDANCY.read("one-building")))
        .isEqualTo("one building");
    assertThat(Parameter.RPO.words(3_600_000)).isEqualTo("1 h");
    assertThat(Parameter.RPO.type()).isEqualTo(Parameter.Type.DURATION);
  }
}
