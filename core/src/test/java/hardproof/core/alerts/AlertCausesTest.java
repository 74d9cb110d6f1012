package hardproof.core.alerts;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Selector;
import hardproof.core.findings.Findings;
import hardproof.core.proof.Verdict;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class AlertCausesTest {
  private static List<AlertCause> causes(Given g, Map<String, Verdict> before) {
    var estate = g.at(NOW);
    var evaluation = g.evaluate();
    return AlertCauses.of(evaluation, estate, Findings.of(evaluation, estate, Map.of()), before);
  }

  private static List<AlertCause> causes(Given g) {
    return causes(g, Map.of());
  }

  private static Given fine() {
    return Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 10);
  }

  @Test
  void whereNothingIsWrongNobodyIsTold() {
    assertThat(causes(fine())).isEmpty();
    assertThat(causes(fine(), Map.of("w", Verdict.PROVEN))).isEmpty();
    assertThat(causes(fine(), Map.of("w", Verdict.EXPOSED))).as("better").isEmpty();
  }

  /** Within the objective of 24 h, at it, and over it. */
  @Test
  void aPointIsOverdueOverItsObjectiveAndNotAtIt() {
    assertThat(causes(Given.estate().point("a", 23.9))).isEmpty();
    assertThat(causes(Given.estate().point("a", 24))).isEmpty();
    assertThat(causes(Given.estate().point("a", 24.1)))
        .extracting(AlertCause::key)
        .containsExactly("point-overdue:w");
  }

  /** What is late is one alert a workload, and the others are counted in it. */
  @Test
  void severalMembersOfAWorkloadAreOneAlert() {
    Given g = Given.estate().point("a", 30);
    g.resources.add(Given.resource("s", Kind.FILE_SHARE, "w"));
    g.resources.add(Given.resource("t", Kind.FILE_SHARE, "w"));
    g.point(
        "b",
        "s",
        hardproof.core.points.Form.FULL,
        null,
        40,
        hardproof.core.points.PointOutcome.COMPLETE);
    g.point(
        "c",
        "t",
        hardproof.core.points.Form.FULL,
        null,
        50,
        hardproof.core.points.PointOutcome.COMPLETE);
    assertThat(causes(g)).singleElement().satisfies(c -> {
      assertThat(c.key()).isEqualTo("point-overdue:w");
      assertThat(c.counted()).isEqualTo(2);
    });
  }

  @Test
  void aDrillThatFailedIsToldAndItsVerdictIsCountedThere() {
    Given g = fine().drill("a", Method.FULL_RESTORE, false, 1);
    assertThat(causes(g, Map.of("w", Verdict.PROVEN)))
        .extracting(AlertCause::key)
        .containsExactly("drill-failed:r");
  }

  /** What is late since then is counted in it. */
  @Test
  void aDrillThatFailedCountsWhatIsLateOfTheSame() {
    Given g = Given.estate().point("a", 30).drill("a", Method.FULL_RESTORE, false, 1);
    assertThat(causes(g)).singleElement().satisfies(c -> {
      assertThat(c.key()).isEqualTo("drill-failed:r");
      assertThat(c.counted()).isEqualTo(1);
    });
  }

  @Test
  void aDrillThatPassedSinceEndsIt() {
    Given g =
        fine().drill("a", Method.FULL_RESTORE, false, 2).drill("a", Method.FULL_RESTORE, true, 1);
    assertThat(causes(g)).isEmpty();
  }

  /** Nothing else of the workload explains that its proof is too old. */
  @Test
  void aVerdictThatGotWorseIsToldWithWhatItWas() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 185);
    assertThat(causes(g, Map.of("w", Verdict.PROVEN))).singleElement().satisfies(c -> {
      assertThat(c.key()).isEqualTo("verdict-worse:w");
      assertThat(c.sentence()).startsWith("was proven and is lapsed: ");
    });
    assertThat(causes(g)).as("nobody knows what it was").isEmpty();
    assertThat(causes(g, Map.of("w", Verdict.LAPSED))).as("the same").isEmpty();
    assertThat(causes(g, Map.of("w", Verdict.DISPROVEN))).as("better").isEmpty();
  }

  /** One silent feed and a hundred workloads that it tells of: one alert that says how many. */
  @Test
  void aSilentFeedIsOneAlertHoweverMuchItExplains() {
    Given g = new Given();
    g.feeds.add(new Feed("f", Duration.ofHours(6), NOW.minus(Duration.ofHours(30)), null));
    g.feeds.add(new Feed("g", Duration.ofHours(6), NOW.minus(Duration.ofHours(6)), null));
    Map<String, Verdict> before = new java.util.HashMap<>();
    for (int i = 0; i < 100; i++) {
      g.workloads.add(Given.workload("w" + i, 3));
      g.resources.add(Given.toldBy("f", Given.resource("r" + i, Kind.FILE_SHARE, "w" + i)));
      before.put("w" + i, Verdict.PROVEN);
    }
    assertThat(causes(g, before)).singleElement().satisfies(c -> {
      assertThat(c.key()).isEqualTo("feed-overdue:f");
      assertThat(c.counted()).isEqualTo(100);
    });
  }

  /** Its feed is silent too, and that is not why. */
  @Test
  void aProofThatLapsesIsToldAlsoWhereAFeedIsSilent() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 185);
    g.feeds.add(new Feed(
        "f", Duration.ofHours(6), NOW.minus(Duration.ofHours(7)), NOW.minus(Duration.ofHours(1))));
    g.resources.set(0, Given.toldBy("f", g.resources.get(0)));
    Verdict is = g.evaluate().workload("w").verdict();
    assertThat(causes(g, Map.of("w", Verdict.PROVEN)))
        .extracting(AlertCause::key)
        .contains("feed-overdue:f")
        .satisfies(keys -> assertThat(keys.contains("verdict-worse:w"))
            .isEqualTo(is != Verdict.UNKNOWN && is != Verdict.EXPOSED));
  }

  /** It was cancelled, and says nothing of the data. */
  @Test
  void aDrillThatWasInterruptedSinceTakesNoFailureAway() {
    Given g =
        fine().drill("a", Method.FULL_RESTORE, false, 2).drill("a", Method.FULL_RESTORE, true, 1);
    DrillFact passed = g.drills.remove(g.drills.size() - 1);
    g.drills.add(new DrillFact(
        passed.run(),
        new DrillFact.Of("r", "a", "near"),
        passed.method(),
        passed.reaches(),
        new DrillFact.Answers(RestoreState.INTERRUPTED, ChecksState.NOT_ASKED, CleanupState.DONE),
        new DrillFact.Times(passed.started(), passed.worked(), passed.ended()),
        0,
        new DrillFact.Blame(null, null),
        "cancelled"));
    assertThat(causes(g)).extracting(AlertCause::key).containsExactly("drill-failed:r");
  }

  @Test
  void whatIsAcceptedOrLeftOutIsNotTold() {
    Given g = fine().drill("a", Method.FULL_RESTORE, false, 1);
    g.exceptions.add(new AcceptedException(
        "x", Selector.EVERYTHING, "proof-last-drill", "agreed", "ana", "bo", null, null, null));
    assertThat(causes(g)).isEmpty();
    Given out = Given.estate().point("a", 50);
    out.exceptions.add(new AcceptedException(
        "x", Selector.EVERYTHING, null, "agreed", "ana", "bo", null, null, null));
    assertThat(causes(out, Map.of("w", Verdict.PROVEN))).isEmpty();
  }

  @Test
  void anExceptionThatEndsSoonIsTold() {
    Given g = fine();
    g.exceptions.add(new AcceptedException(
        "x",
        Selector.EVERYTHING,
        "copies-number",
        "agreed",
        "ana",
        "bo",
        null,
        NOW.plus(Duration.ofDays(3)),
        null));
    assertThat(causes(g)).extracting(AlertCause::key).containsExactly("exception-ending:x");
  }
}
