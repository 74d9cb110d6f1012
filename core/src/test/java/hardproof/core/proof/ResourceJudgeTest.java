package hardproof.core.proof;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Fields;
import hardproof.core.Given;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.drills.Method;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Selector;
import hardproof.core.feeds.FactKinds;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What the causes of one resource say, and what would change them. */
class ResourceJudgeTest {
  private static List<String> actions(Given g) {
    return g.result().members().get(0).actions().stream().map(Action::sentence).toList();
  }

  private static void readBack(Given g, int copy, boolean passed, double hoursAgo) {
    Instant at = NOW.minusSeconds((long) (hoursAgo * 3600));
    g.copies.set(
        copy,
        Fields.with(
            FactKinds.COPIES,
            g.copies.get(copy),
            "last_read",
            at.toString(),
            "last_read_outcome",
            passed ? "passed" : "failed"));
  }

  @Test
  void anExclusionSaysItsEndWhereItHasOne() {
    Given g = Given.estate();
    Selector all = Selector.allOf(Selector.Condition.is("key", "r"));
    for (Instant until : new Instant[] {null, NOW.plus(Duration.ofDays(2))}) {
      g.exceptions.clear();
      g.exceptions.add(
          new AcceptedException("x", all, null, "a test", "ana", "bo", null, until, null));
      assertThat(g.result().sentence())
          .isEqualTo("left out" + (until == null ? "" : " until 26 Nov 10:00")
              + ": a test (proposed by ana, approved by bo)");
    }
  }

  @Test
  void theWorstCauseStandsFirst() {
    Given g = Given.estate().point("a", 30);
    assertThat(g.result().members().get(0).causes())
        .extracting(Cause::verdict)
        .containsExactly(Verdict.EXPOSED, Verdict.UNPROVEN);
    g.drill("a", Method.FULL_RESTORE, false, 1);
    assertThat(g.result().members().get(0).causes())
        .extracting(Cause::verdict)
        .isSorted()
        .contains(Verdict.DISPROVEN, Verdict.EXPOSED);
  }

  /** A failed read-back counts until a drill has been decided since; one at its very instant has. */
  @Test
  void aDrillSinceAFailedReadBackTakesItsPlace() {
    for (double drilled : new double[] {1, 2, 3}) {
      Given g = Given.estate().point("a", 5);
      readBack(g, 1, false, 2);
      g.drill("a", Method.FULL_RESTORE, true, drilled / 24);
      assertThat(g.result().verdict()).isEqualTo(drilled <= 2 ? Verdict.PROVEN : Verdict.DISPROVEN);
    }
  }

  @Test
  void ofReadBacksTheNewestCounts() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
    readBack(g, 0, false, 3);
    readBack(g, 1, true, 2);
    assertThat(g.result().verdict()).isEqualTo(Verdict.PROVEN);
  }

  @Test
  void theFeedThatIsLateIsAskedFor() {
    Given g = Given.estate().point("a", 5);
    g.feeds.add(new Feed("feed", Duration.ofDays(30), NOW.minus(Duration.ofDays(2)), null));
    g.feeds.add(new Feed("late", Duration.ofHours(1), NOW.minus(Duration.ofDays(2)), null));
    assertThat(actions(g)).noneMatch(a -> a.startsWith("bring in"));
    g.resources.set(0, Fields.with(FactKinds.RESOURCES, g.resources.get(0)));
    g.feeds.set(0, new Feed("feed", Duration.ofHours(1), NOW.minus(Duration.ofDays(2)), null));
    assertThat(g.result().verdict()).isEqualTo(Verdict.UNKNOWN);
    assertThat(actions(g).get(0)).isEqualTo("bring in a current report of feed feed");
  }

  @Test
  void aNewPointIsAskedForWithWhatIsWrongWithTheNewest() {
    Given g = Given.estate();
    assertThat(actions(g).get(0)).isEqualTo("make a complete recovery point of R");
    g.point("f", "r", Form.FULL, null, 2, PointOutcome.PARTIAL).copy("f", "near");
    assertThat(actions(g).get(0))
        .isEqualTo("make a complete recovery point of R (of the newest, its outcome is partial)");
    Given old = Given.estate().point("a", 30);
    assertThat(actions(old).get(0)).isEqualTo("make a complete recovery point of R");
  }

  @Test
  void coverIsAskedForOnlyWhereNoPolicyIs() {
    Given g = Given.estate().point("a", 5);
    assertThat(actions(g)).noneMatch(a -> a.startsWith("put R"));
    g.policies.clear();
    assertThat(actions(g)).contains("put R in the scope of a policy");
  }

  /** The weakest method that reaches what is demanded; where none does, the strongest and why. */
  @Test
  void theLeastWorkThatReachesTheDemandIsAskedFor() {
    Given g = Given.estate().point("a", 5);
    g.resources.set(0, Given.resource("r", Kind.VIRTUAL_MACHINE, "w"));
    assertThat(g.result().actions())
        .extracting(Action::method)
        .containsExactly(Method.FULL_RESTORE);
    g.workloads.set(0, Given.workload("w", 2));
    assertThat(g.result().actions())
        .filteredOn(a -> a.type() == Action.Type.DRILL)
        .extracting(Action::method)
        .containsExactly(Method.BOOT);
    assertThat(actions(g)).noneMatch(a -> a.contains("is demanded"));
  }

  /** After a failed drill an older point is the next to try, and the same one is not called older. */
  @Test
  void afterAFailedDrillTheNextOlderPointIsToTry() {
    Given g = Given.estate()
        .point("a", 5)
        .point("b", 20)
        .drill("b", Method.FULL_RESTORE, true, 3)
        .drill("a", "near", Method.FULL_RESTORE, false, 1, "a", null);
    assertThat(actions(g))
        .containsExactly(
            "drill R by full restore from the next older point that may be good, of 23 Nov 14:00");
    Given newer =
        Given.estate().point("a", 5).point("b", 20).drill("b", Method.FULL_RESTORE, false, 0.5);
    assertThat(actions(newer))
        .containsExactly("drill R by full restore from its newest usable point, of 24 Nov 05:00");
  }

  @Test
  void ageIsCountedFromTheFirstPointWhereNobodySaidWhenItWasFirstSeen() {
    Given g = Given.estate().point("a", 20).point("b", 44);
    g.resources.set(0, Fields.with(FactKinds.RESOURCES, g.resources.get(0), "first_seen", ""));
    assertThat(g.outcome(CriterionCode.FRESH_EXPOSURE_WORST).sentence())
        .as("from the first point on; without one, from now on")
        .contains("at most 24 h 30 m would have been lost");
    g.points.clear();
    assertThat(g.outcome(CriterionCode.FRESH_EXPOSURE_WORST).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
  }

  /** A failure that is known is worse than a silence. */
  @Test
  void aFailureStandsBeforeTheSilenceOfAFeed() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, false, 1);
    g.feeds.add(new Feed("feed", Duration.ofHours(1), NOW.minus(Duration.ofDays(2)), null));
    assertThat(g.result().members().get(0).causes())
        .extracting(Cause::verdict)
        .startsWith(Verdict.DISPROVEN, Verdict.UNKNOWN);
    assertThat(g.result().verdict()).isEqualTo(Verdict.DISPROVEN);
  }

  /** Of the feeds that tell of a resource and of its points, the one that is late is asked for. */
  @Test
  void ofSeveralFeedsTheLateOneIsAskedFor() {
    Given g = Given.estate().point("a", 5);
    g.resources.set(0, Given.toldBy("inventory", g.resources.get(0)));
    g.feeds.add(new Feed("inventory", Duration.ofDays(30), NOW.minus(Duration.ofDays(2)), null));
    g.feeds.add(new Feed("feed", Duration.ofHours(1), NOW.minus(Duration.ofDays(2)), null));
    assertThat(actions(g).get(0)).isEqualTo("bring in a current report of feed feed");
    g.feeds.clear();
    g.feeds.add(new Feed("inventory", Duration.ofHours(1), NOW.minus(Duration.ofDays(2)), null));
    g.feeds.add(new Feed("feed", Duration.ofDays(30), NOW.minus(Duration.ofDays(2)), null));
    assertThat(actions(g).get(0)).isEqualTo("bring in a current report of feed inventory");
  }
}
