package hardproof.core.criteria;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.estate.Medium;
import java.time.Duration;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** What is declared of the stores of copies, held to the strict standard's tier 1. */
class PlacesOfCopiesTest extends HeldToStrict {
  /** At site B, by itself. */
  private void store(int at, String key, String... fields) {
    g.stores.set(at, Given.store(key, "B", Medium.OBJECT, key, true));
    g.theStore(key, "name", key).theStore(key, fields);
  }

  @Test
  void whatAStoreSurvivesAndWhoMayDeleteIsDeclared() {
    point("a", 2);
    assertThat(outcome(CriterionCode.COPIES_REDUNDANCY).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(outcome(CriterionCode.SAFE_DELETION).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    store(0, "near", "redundancy", "none", "delete_approvals", "1");
    store(1, "far", "redundancy", "one-building", "delete_approvals", "1");
    assertThat(outcome(CriterionCode.COPIES_REDUNDANCY).state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(outcome(CriterionCode.SAFE_DELETION).state()).isEqualTo(OutcomeState.NOT_MET);
    g.theStore("far", "redundancy", "several-buildings", "delete_approvals", "2");
    assertThat(outcome(CriterionCode.COPIES_REDUNDANCY).sentence())
        .isEqualTo("far keeps its copy across buildings; across buildings is demanded");
    assertThat(outcome(CriterionCode.COPIES_REDUNDANCY).state()).isEqualTo(OutcomeState.MET);
    assertThat(outcome(CriterionCode.SAFE_DELETION).state()).isEqualTo(OutcomeState.MET);
  }

  @Test
  void copiesLieWhereTheirDataClassMay() {
    point("a", 2);
    assertThat(outcome(CriterionCode.COPIES_RESIDENCY).state())
        .as("no data class")
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
    g.theWorkload("data_class", "personal");
    assertThat(outcome(CriterionCode.COPIES_RESIDENCY).state())
        .as("no regions set")
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
    standard = new Standard(
        "S",
        1,
        Duration.ofDays(30),
        ZoneOffset.UTC,
        standard.tiers(),
        Map.of("personal", List.of("Nordal")),
        List.of());
    assertThat(outcome(CriterionCode.COPIES_RESIDENCY).sentence())
        .isEqualTo("personal data may lie in Nordal, and every copy does");
    store(1, "far", "region", "");
    assertThat(outcome(CriterionCode.COPIES_RESIDENCY).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    store(1, "far", "region", "vestmark");
    assertThat(outcome(CriterionCode.COPIES_RESIDENCY).sentence())
        .isEqualTo("personal data may lie in Nordal; there are copies on far (vestmark)");
  }

  @Test
  void twoStoresOnOneArrayAreNotIndependent() {
    assertThat(outcome(CriterionCode.COPIES_INDEPENDENT).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    point("a", 2);
    assertThat(outcome(CriterionCode.COPIES_INDEPENDENT).state()).isEqualTo(OutcomeState.MET);
    g.stores.set(1, Given.store("far", "A", Medium.OBJECT, "array", true));
    assertThat(outcome(CriterionCode.COPIES_INDEPENDENT).sentence())
        .isEqualTo("1 copy does not stand by itself: NEAR is in the same failure domain as FAR");
  }

  @Test
  void withoutACopyPlacesAreNotJudged() {
    g.theWorkload("data_class", "personal");
    standard = new Standard(
        "S",
        1,
        standard.period(),
        ZoneOffset.UTC,
        standard.tiers(),
        Map.of("personal", List.of("Nordal")),
        List.of());
    assertThat(outcome(CriterionCode.COPIES_RESIDENCY).sentence())
        .isEqualTo("no copy of it is known");
    assertThat(outcome(CriterionCode.COPIES_REDUNDANCY).sentence())
        .isEqualTo("there is no usable copy to judge");
    assertThat(outcome(CriterionCode.SAFE_DELETION).sentence())
        .isEqualTo("there is no usable copy to judge");
    point("a", 2);
    assertThat(outcome(CriterionCode.COPIES_REDUNDANCY).sentence())
        .startsWith("what the stores of its copies survive is not known of all of them");
    assertThat(outcome(CriterionCode.SAFE_DELETION).sentence())
        .startsWith("how many people it takes to delete is not declared");
  }
}
