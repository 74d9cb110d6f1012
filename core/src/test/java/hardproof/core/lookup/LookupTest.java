package hardproof.core.lookup;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.drills.Method;
import hardproof.core.estate.Kind;
import hardproof.core.findings.Findings;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class LookupTest {
  private static List<Hit> find(Given g, String query) {
    var estate = g.at(NOW);
    var evaluation = g.evaluate();
    return Lookup.find(evaluation, estate, Findings.of(evaluation, estate, Map.of()), query);
  }

  private static Given estate() {
    Given g = Given.estate().point("r-1124", 5).drill("r-1124", Method.FULL_RESTORE, true, 10);
    g.workloads.add(Given.workload("payroll", 1));
    g.resources.add(Given.resource("payroll-db", Kind.DATABASE, "payroll"));
    g.point(
        "payroll-db-7",
        "payroll-db",
        hardproof.core.points.Form.FULL,
        null,
        5,
        hardproof.core.points.PointOutcome.COMPLETE);
    return g;
  }

  @Test
  void everyKindIsFoundByWhatItIsCalled() {
    assertThat(find(estate(), "payroll"))
        .extracting(Hit::kind)
        .contains(Hit.Kind.WORKLOAD, Hit.Kind.RESOURCE, Hit.Kind.FINDING);
    assertThat(find(estate(), "near")).extracting(Hit::kind).contains(Hit.Kind.STORE);
    assertThat(find(estate(), "payroll-db-7"))
        .extracting(Hit::kind, Hit::key)
        .containsExactly(org.assertj.core.groups.Tuple.tuple(Hit.Kind.POINT, "payroll-db-7"));
    assertThat(find(estate(), "r-1124")).extracting(Hit::kind).contains(Hit.Kind.DRILL);
    assertThat(find(estate(), "drill of")).extracting(Hit::kind).contains(Hit.Kind.DRILL);
    assertThat(find(estate(), "p")).extracting(Hit::kind).contains(Hit.Kind.POLICY);
  }

  @Test
  void theOneThatIsCalledSoComesFirst() {
    assertThat(find(estate(), "payroll-db").get(0).key()).isEqualTo("payroll-db");
    assertThat(find(estate(), "PAYROLL").get(0).kind()).isEqualTo(Hit.Kind.WORKLOAD);
  }

  @Test
  void everyWordMustBeThere() {
    assertThat(find(estate(), "payroll db")).isNotEmpty();
    assertThat(find(estate(), "payroll nowhere")).isEmpty();
    assertThat(find(estate(), "   ")).isEmpty();
    assertThat(find(estate(), "\\E.*(")).isEmpty();
  }

  @Test
  void itSaysWhyWhereItIsNotTheName() {
    assertThat(find(estate(), "owner"))
        .filteredOn(h -> h.kind() == Hit.Kind.WORKLOAD)
        .allSatisfy(h -> assertThat(h.why()).isEqualTo("owner Owner"));
  }

  /** As somebody types who has no such keys. */
  @Test
  void accentsDoNotMatter() {
    assertThat(Lookup.plain("Łódź Škoda Ærø Straße")).isEqualTo("lodz skoda aero strasse");
  }

  @Test
  void oneKindDoesNotDrownTheOthers() {
    Given g = estate();
    for (int i = 0; i < 50; i++) {
      g.resources.add(Given.resource("payroll-" + i, Kind.FILE_SHARE, "payroll"));
    }
    List<Hit> hits = find(g, "payroll");
    assertThat(hits).filteredOn(h -> h.kind() == Hit.Kind.RESOURCE).hasSize(8);
    assertThat(hits).filteredOn(h -> h.kind() == Hit.Kind.WORKLOAD).hasSize(1);
  }
}
