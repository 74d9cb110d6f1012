package hardproof.core.rehearsals;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RehearsalFact.Outcome;
import hardproof.core.estate.Kind;
import hardproof.core.ladder.Rung;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import java.time.Duration;
import org.junit.jupiter.api.Test;

/** What a rehearsal shows of a workload. Its RTO is 24 h by the standard; invented data. */
class RehearsedProofTest {
  private static final Duration RTO = Duration.ofHours(2);

  /** A share and a database, both drilled as far as they can be, and rehearsed demanded. */
  private static Given given(double daysAgo) {
    Given g = Given.estate().theWorkload("rung", "rehearsed", "rto", "2h").point("a", 5);
    g.resources.add(Given.resource("db", Kind.DATABASE, "w"));
    g.point("b", "db", Form.FULL, null, 5, PointOutcome.COMPLETE).copy("b", "near");
    return g.drill("a", Method.FULL_RESTORE, true, daysAgo)
        .drill("b", Method.DATABASE, true, daysAgo);
  }

  private static Rung rung(Given g) {
    return g.result().rung();
  }

  @Test
  void insideTheRtoItIsRehearsed() {
    assertThat(rung(given(1))).isEqualTo(Rung.RUNNING);
    WorkloadResult result =
        given(1).rehearsed(Outcome.PASSED, Duration.ofMinutes(58)).result();
    assertThat(result.rung()).isEqualTo(Rung.REHEARSED);
    assertThat(result.verdict()).isEqualTo(Verdict.PROVEN);
    assertThat(result.demanded()).isEqualTo(Rung.REHEARSED);
  }

  @Test
  void atTheRtoItIsAndAMillisecondOverItIsNot() {
    assertThat(rung(given(1).rehearsed(Outcome.PASSED, RTO))).isEqualTo(Rung.REHEARSED);
    Given over = given(1).rehearsed(Outcome.PASSED, RTO.plusMillis(1));
    assertThat(rung(over)).isEqualTo(Rung.RUNNING);
    assertThat(over.result().verdict()).isEqualTo(Verdict.UNPROVEN);
    assertThat(over.outcome(CriterionCode.PROOF_RECOVERY_TIME).state())
        .isEqualTo(OutcomeState.NOT_MET);
    Given far = given(1).rehearsed(Outcome.PASSED, Duration.ofMinutes(190));
    assertThat(far.result().sentence())
        .endsWith("had the whole workload back in 3 h 10 m, 1 h 10 m over the 2 h objective");
  }

  @Test
  void whatFailedOrWasCutShowsNothing() {
    Given failed = given(1).rehearsed(Outcome.FAILED, RTO);
    assertThat(rung(failed)).isEqualTo(Rung.RUNNING);
    assertThat(failed.result().sentence()).contains("failed: as it went");
    Given cut = given(1).rehearsed(Outcome.INTERRUPTED, RTO);
    assertThat(rung(cut)).isEqualTo(Rung.RUNNING);
    assertThat(cut.result().sentence()).endsWith("its workload was never rehearsed");
  }

  /** Rung 5 is of the whole: one that joined since was not there. */
  @Test
  void aMemberThatWasNotThereHoldsItBack() {
    Given g = given(1).rehearsed(Outcome.PASSED, RTO);
    g.resources.add(Given.resource("new", Kind.FILE_SHARE, "w"));
    g.point("n", "new", Form.FULL, null, 5, PointOutcome.COMPLETE).copy("n", "near");
    g.drill("n", Method.FULL_RESTORE, true, 0.5);
    assertThat(rung(g)).isEqualTo(Rung.RUNNING);
  }

  @Test
  void aRehearsalOfAnotherWorkloadShowsNothingOfThisOne() {
    Given g = given(1).rehearsed(Outcome.PASSED, RTO);
    g.workloads.add(Given.workload("other", 3));
    g.resources.replaceAll(r -> r.key().equals("db")
        ? hardproof.core.Fields.with(
            hardproof.core.feeds.FactKinds.RESOURCES, r, "workload", "other")
        : r);
    assertThat(g.evaluate().workload("other").rung()).isEqualTo(Rung.RUNNING);
    assertThat(rung(g)).as("its own member is rehearsed").isEqualTo(Rung.REHEARSED);
  }

  /** One of which nobody asked anything came back, and whether it is up is not known. */
  @Test
  void aMemberThatShowedLessThanItCouldIsNotRehearsed() {
    Given g = given(1);
    g.drills.clear();
    g.drill("a", Method.FULL_RESTORE, true, 1).drill("b", Method.FULL_RESTORE, true, 1);
    assertThat(rung(g.rehearsed(Outcome.PASSED, RTO))).isEqualTo(Rung.RESTORED);
  }

  /** Tier 3 asks for it every 180 days. */
  @Test
  void itLapsesByThePeriodOfTheTier() {
    assertThat(given(180).rehearsed(Outcome.PASSED, RTO).result().verdict())
        .isEqualTo(Verdict.PROVEN);
    WorkloadResult lapsed = given(180.001).rehearsed(Outcome.PASSED, RTO).result();
    assertThat(lapsed.verdict()).isEqualTo(Verdict.LAPSED);
  }

  /** A machine's volume comes back with it. */
  @Test
  void whatComesWithAnImageIsRehearsedWithIt() {
    Given g = given(1);
    g.resources.add(Given.resource("vm", Kind.VIRTUAL_MACHINE, "w"));
    g.point("m", "vm", Form.FULL, null, 5, PointOutcome.COMPLETE).copy("m", "near");
    g.resources.add(Given.resource("disk", Kind.VOLUME, "w", "vm", java.util.Map.of()));
    g.policies.set(
        0,
        hardproof.core.Fields.with(
            hardproof.core.feeds.FactKinds.POLICIES,
            g.policies.get(0),
            "scope",
            "{\"all\":[{\"field\":\"key\",\"in\":[\"r\",\"db\",\"vm\"]}]}"));
    g.drill("m", Method.BOOT, true, 1);
    assertThat(g.at(NOW).protectorOf(g.at(NOW).resource("disk")).key()).isEqualTo("vm");
    assertThat(rung(g.rehearsed(Outcome.PASSED, RTO))).isEqualTo(Rung.REHEARSED);
  }

  /** Without a demand for it, a share that was never rehearsed holds back nothing and is not said to be. */
  @Test
  void whereRunningIsDemandedNothingChanges() {
    Given g = given(1).theWorkload("rung", "running");
    assertThat(g.result().verdict()).isEqualTo(Verdict.PROVEN);
    assertThat(rung(g)).isEqualTo(Rung.RUNNING);
    assertThat(g.result().demanded()).isEqualTo(Rung.RUNNING);
    assertThat(rung(g.rehearsed(Outcome.PASSED, RTO)))
        .as("more than demanded")
        .isEqualTo(Rung.REHEARSED);
  }

  /** What was measured on a few bytes counts as what is expected of all. */
  @Test
  void aSmallPartIsHeldToWhatIsExpectedOfTheWhole() {
    Given g = given(1).rehearsed(Outcome.PASSED, Duration.ofMinutes(1));
    var r = g.rehearsals.get(0);
    for (int minutes : new int[] {120, 121}) {
      g.rehearsals.set(
          0,
          new hardproof.core.drills.RehearsalFact(
              r.id(),
              r.workload(),
              r.moment(),
              null,
              r.outcome(),
              r.started(),
              r.ended(),
              r.clock(),
              Duration.ofMinutes(minutes),
              r.members(),
              r.sentence()));
      assertThat(rung(g)).isEqualTo(minutes == 120 ? Rung.REHEARSED : Rung.RUNNING);
    }
    assertThat(g.result().sentence())
        .endsWith(
            "had the whole workload back in 1 m, but read far less than there is: for all of it 2 h 01 m is"
                + " expected, 1 m over the 2 h objective");
  }
}
