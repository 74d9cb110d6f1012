package hardproof.core.reports;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.drills.Method;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Selector;
import hardproof.core.facts.Estate;
import hardproof.core.proof.Evaluation;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

class ReportTablesTest {
  private static final Set<String> ALL = Set.of("r", "bare", "spool");

  private static List<Object> column(ReportTable table, String name) {
    int i = table.columns().indexOf(name);
    assertThat(i).as(name).isNotNegative();
    return table.rows().stream().map(r -> r.get(i)).toList();
  }

  private static AcceptedException exception(String key, String resource, Instant until) {
    return new AcceptedException(
        key,
        Selector.allOf(Selector.Condition.is("key", resource)),
        CriterionCode.COVER_PROTECTED.code(),
        "made anew each night",
        "ana",
        "ben",
        NOW.minus(Duration.ofDays(1)),
        until,
        null);
  }

  /** What is accepted is there too, and says so: whoever leaves it out hides it. */
  @Test
  void whatIsUnprotectedIsListedWithWhatIsAccepted() {
    Given g = Given.estate().point("a", 5);
    g.workloads.add(Given.workload("x", 1));
    g.resources.add(Given.resource("bare", Kind.DATABASE, "x"));
    g.resources.add(Given.resource("spool", Kind.FILE_SHARE, "w"));
    g.exceptions.add(exception("EX-1", "spool", null));
    ReportTable table = ReportTables.unprotected(g.evaluate(), ALL);
    assertThat(column(table, "resource")).containsExactly("bare", "spool");
    assertThat(column(table, "state")).containsExactly("open", "accepted by EX-1");
    assertThat(column(table, "tier")).containsExactly(1, 3);
    assertThat(table.csv())
        .startsWith("resource,name,kind,workload,owner,tier,site,first_seen,state,sentence\r\n");
    assertThat(column(ReportTables.unprotected(g.evaluate(), Set.of("spool")), "resource"))
        .containsExactly("spool");
    ReportTable none = ReportTables.unprotected(g.evaluate(), Set.of("r"));
    assertThat(none.rows()).isEmpty();
    assertThat(none.none()).contains("recovery point");
  }

  /** A proof of ten days' age lapses in 170 days of tier 3's 180: just before, at and after. */
  @Test
  void aProofIsListedWhenItLapsesByTheInstantThatIsAskedFor() {
    Evaluation evaluation =
        Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 10).evaluate();
    Instant lapses = evaluation.resource("r").proof().lapses();
    assertThat(ReportTables.lapsing(evaluation, ALL, lapses.minusMillis(1), Set.of())
            .rows())
        .isEmpty();
    for (Instant until : List.of(lapses, lapses.plusMillis(1))) {
      ReportTable table = ReportTables.lapsing(evaluation, ALL, until, Set.of("r"));
      assertThat(column(table, "resource")).containsExactly("r");
      assertThat(column(table, "lapses")).containsExactly(lapses);
      assertThat(column(table, "state")).containsExactly("lapses");
      assertThat(column(table, "renewal_planned")).containsExactly("no");
      assertThat(column(table, "shown_by_run")).containsExactly("run0");
    }
    assertThat(column(ReportTables.lapsing(evaluation, ALL, lapses, Set.of()), "renewal_planned"))
        .containsExactly("yes");
  }

  @Test
  void aProofThatHasLapsedIsNotLeftOut() {
    Evaluation evaluation =
        Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 200).evaluate();
    ReportTable table =
        ReportTables.lapsing(evaluation, ALL, NOW.plus(Duration.ofDays(14)), Set.of());
    assertThat(column(table, "state")).containsExactly("lapsed");
  }

  @Test
  void whatWasNeverProvenIsNotSaidToLapse() {
    Evaluation evaluation = Given.estate().point("a", 5).evaluate();
    ReportTable table =
        ReportTables.lapsing(evaluation, ALL, NOW.plus(Duration.ofDays(3660)), Set.of());
    assertThat(table.rows()).isEmpty();
    assertThat(table.none()).contains("never proven");
  }

  /** What ends first comes first, what has no end last. */
  @Test
  void exceptionsAreListedByTheirEnd() {
    Given g = Given.estate();
    g.resources.add(Given.resource("spool", Kind.FILE_SHARE, "w"));
    g.exceptions.add(exception("never", "spool", null));
    g.exceptions.add(exception("later", "r", NOW.plus(Duration.ofDays(2))));
    g.exceptions.add(exception("sooner", "spool", NOW));
    g.exceptions.add(exception("nobody", "gone", NOW.plus(Duration.ofDays(1))));
    Estate estate = g.at(NOW);
    ReportTable all = ReportTables.exceptions(estate, Set.of("r", "spool"));
    assertThat(column(all, "exception")).containsExactly("sooner", "nobody", "later", "never");
    assertThat(column(all, "state")).containsExactly("ended", "in-force", "in-force", "in-force");
    assertThat(column(all, "resources")).containsExactly(1, 0, 1, 1);
    assertThat(column(ReportTables.exceptions(estate, Set.of("spool")), "exception"))
        .containsExactly("sooner", "never");
  }

  @Test
  void aPeriodIsSaidInWords() {
    Instant from = NOW.minus(Duration.ofDays(3));
    assertThat(ReportTables.words(ReportKind.Period.BACK, from, NOW, null))
        .isEqualTo("from 21 Nov 10:00 to 24 Nov 10:00 UTC, 3 d");
    assertThat(ReportTables.words(ReportKind.Period.AHEAD, null, NOW, NOW.plusSeconds(3600)))
        .isEqualTo("from 24 Nov 10:00 to 24 Nov 11:00 UTC");
    assertThat(ReportTables.words(ReportKind.Period.NONE, null, NOW, null))
        .isEqualTo("as at 24 Nov 10:00 UTC");
  }
}
