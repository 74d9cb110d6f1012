package hardproof.core.proof;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.criteria.Standard;
import hardproof.core.drills.Method;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Selector;
import hardproof.core.ladder.Rung;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import org.junit.jupiter.api.Test;

class VerdictTest {
  @Test
  void aRestoreInsideTheProofPeriodProves() {
    WorkloadResult result =
        Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 10).result();
    assertThat(result.verdict()).isEqualTo(Verdict.PROVEN);
    assertThat(result.sentence()).isEqualTo("restored, drilled 10 d ago; lapses in 170 d");
    assertThat(result.rung()).isEqualTo(Rung.RESTORED);
    assertThat(result.actions()).isEmpty();
  }

  @Test
  void theProofPeriodIncludesItsLastInstant() {
    Given at = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 180);
    Given over =
        Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 180 + 1.0 / 86400);
    assertThat(at.result().verdict()).isEqualTo(Verdict.PROVEN);
    assertThat(over.result().verdict()).isEqualTo(Verdict.LAPSED);
    assertThat(over.result().sentence()).startsWith("proof is 180 d old, 180 d allowed");
    assertThat(over.result().actions())
        .extracting(Action::method)
        .containsExactly(Method.FULL_RESTORE);
  }

  @Test
  void readingBackIsNotEnoughWhereRestoringIsDemanded() {
    WorkloadResult result =
        Given.estate().point("a", 5).drill("a", Method.READ_THROUGH, true, 1).result();
    assertThat(result.verdict()).isEqualTo(Verdict.UNPROVEN);
    assertThat(result.sentence()).isEqualTo("R was shown intact only; restored demanded");
    assertThat(result.rung()).isEqualTo(Rung.INTACT);
  }

  @Test
  void neverDrilledIsUnproven() {
    WorkloadResult result = Given.estate().point("a", 5).result();
    assertThat(result.verdict()).isEqualTo(Verdict.UNPROVEN);
    assertThat(result.rung()).isEqualTo(Rung.CLAIMED);
    assertThat(result.actions().get(0).sentence())
        .isEqualTo("drill R by full restore from its newest usable point, of 24 Nov 05:00");
  }

  @Test
  void anUnwatchedMachineIsUncovered() {
    Given g = Given.estate();
    g.policies.clear();
    WorkloadResult result = g.result();
    assertThat(result.verdict()).isEqualTo(Verdict.UNCOVERED);
    assertThat(result.sentence())
        .isEqualTo("R was first seen 100 d ago, matches no policy and has no recovery point");
    assertThat(result.rung()).isNull();
  }

  @Test
  void aPolicyWithoutAPointIsExposed() {
    WorkloadResult result = Given.estate().result();
    assertThat(result.verdict()).isEqualTo(Verdict.EXPOSED);
    assertThat(result.sentence()).isEqualTo("R: R has no recovery point at all");
  }

  @Test
  void exposureIsJudgedJustUnderAtAndOverTheObjective() {
    double second = 1.0 / 3600;
    for (double over : new double[] {-second, 0, second}) {
      Given g = Given.estate().point("a", 24 + over).drill("a", Method.FULL_RESTORE, true, 1);
      assertThat(g.result().verdict()).isEqualTo(over > 0 ? Verdict.EXPOSED : Verdict.PROVEN);
    }
    Given g = Given.estate().point("a", 26.5).drill("a", Method.FULL_RESTORE, true, 1);
    assertThat(g.result().sentence())
        .isEqualTo(
            "R: newest usable point is from 23 Nov 07:30; at 24 Nov 10:00 that is 26 h 30 m, 2 h 30 m over the 24 h objective");
  }

  @Test
  void theSentenceSaysWhyNewerPointsDoNotCount() {
    Given g = Given.estate().point("f", 40).drill("f", Method.FULL_RESTORE, true, 1);
    g.point("i2", "r", Form.INCREMENTAL, "i1", 5, PointOutcome.COMPLETE).copy("i2", "near");
    assertThat(g.result().verdict()).isEqualTo(Verdict.EXPOSED);
    assertThat(g.result().sentence())
        .endsWith("; 1 newer point is not usable: i2 is based on i1, which is missing");
  }

  @Test
  void aFailedDrillDisprovesUntilSomethingPasses() {
    Given g = Given.estate()
        .point("a", 5)
        .point("b", 20)
        .drill("b", Method.FULL_RESTORE, true, 3)
        .drill("a", Method.FULL_RESTORE, false, 1);
    assertThat(g.result().verdict()).isEqualTo(Verdict.DISPROVEN);
    assertThat(g.result().sentence())
        .isEqualTo("the drill of R at 23 Nov 10:00 failed: checksum differs");
    g.drill("b", Method.FULL_RESTORE, true, 0.5);
    assertThat(g.result().verdict()).isEqualTo(Verdict.PROVEN);
  }

  @Test
  void aFailedReadBackThatWasReportedDisproves() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 3);
    g.theCopy(
        "a",
        "far",
        "finished",
        NOW.minusSeconds(900).toString(),
        "last_read",
        NOW.minusSeconds(60).toString(),
        "last_read_outcome",
        "failed");
    assertThat(g.result().verdict()).isEqualTo(Verdict.DISPROVEN);
    assertThat(g.result().sentence())
        .startsWith("the read-back of a from FAR at 24 Nov 09:59 failed");
  }

  @Test
  void aReportedReadBackThatPassedIsAClaimAndProvesNothing() {
    Given g = Given.estate().point("a", 5);
    g.theCopy(
        "a",
        "far",
        "finished",
        NOW.minusSeconds(900).toString(),
        "last_read",
        NOW.minusSeconds(60).toString(),
        "last_read_outcome",
        "passed");
    assertThat(g.result().rung()).isEqualTo(Rung.CLAIMED);
  }

  @Test
  void aSilentFeedIsNeverAPass() {
    for (int seconds = -1; seconds <= 1; seconds++) {
      Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
      g.feeds.add(new Feed(
          "feed",
          Duration.ofHours(24),
          NOW.minus(Duration.ofHours(24)).minusSeconds(seconds),
          null));
      assertThat(g.result().verdict()).isEqualTo(seconds > 0 ? Verdict.UNKNOWN : Verdict.PROVEN);
      assertThat(g.outcome(CriterionCode.FRESH_EXPOSURE_NOW).state())
          .isEqualTo(seconds > 0 ? OutcomeState.NOT_ENOUGH_DATA : OutcomeState.MET);
    }
  }

  @Test
  void theWorstMemberDecidesAndTheOthersAreListed() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
    g.resources.add(Given.resource("s", Kind.FILE_SHARE, "w"));
    g.point("b", "s", Form.FULL, null, 3, PointOutcome.COMPLETE).copy("b", "near");
    WorkloadResult result = g.result();
    assertThat(result.verdict()).isEqualTo(Verdict.UNPROVEN);
    assertThat(result.causes())
        .extracting(Cause::verdict)
        .containsExactly(Verdict.UNPROVEN, Verdict.PROVEN);
    assertThat(result.rung()).isEqualTo(Rung.CLAIMED);
  }

  @Test
  void aVolumeIsCoveredThroughItsMachine() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
    g.resources.add(Given.resource("v", Kind.VOLUME, "w", "r", Map.of()));
    assertThat(g.result().verdict()).isEqualTo(Verdict.PROVEN);
    assertThat(g.result().members()).hasSize(2);
    assertThat(g.result().members().get(1).outcomes().get(1).sentence())
        .contains("through the image of R");
  }

  @Test
  void aShareInACriticalWorkloadIsAskedForWhatAShareCanShow() {
    Given g = Given.estate();
    g.workloads.set(0, Given.workload("w", 2));
    g.point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
    assertThat(g.result().verdict()).isEqualTo(Verdict.PROVEN);
    assertThat(g.result().members().get(0).proof().demanded()).isEqualTo(Rung.RESTORED);
  }

  @Test
  void anUnknownTierIsHeldToTierOne() {
    Given g = Given.estate();
    g.workloads.set(0, Given.workload("w", null));
    g.point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
    assertThat(g.result().verdict()).isEqualTo(Verdict.EXPOSED);
    assertThat(g.outcome(CriterionCode.COVER_OWNER).sentence())
        .isEqualTo("R has no tier, so it is held to tier 1");
  }

  @Test
  void anUnassignedResourceIsJudgedByItself() {
    Given g = Given.estate();
    g.resources.set(0, Given.resource("r", Kind.VIRTUAL_MACHINE, null));
    WorkloadResult own = g.evaluate().workload("resource:r");
    assertThat(own.unassigned()).isTrue();
    assertThat(g.result().verdict()).isEqualTo(Verdict.UNKNOWN);
    assertThat(g.result().sentence())
        .isEqualTo("Workload w has no resources: there is nothing to judge");
  }

  @Test
  void anExceptionExcludesOrExceptsAndKeepsTheArithmetic() {
    Given g = Given.estate();
    Selector scope = Selector.allOf(Selector.Condition.is("key", "r"));
    g.exceptions.add(new AcceptedException(
        "x", scope, null, "test machine", "ana", "bo", null, NOW.plusSeconds(1), null));
    assertThat(g.result().verdict()).isEqualTo(Verdict.EXCLUDED);
    assertThat(g.result().sentence()).contains("test machine").contains("approved by bo");

    g.exceptions.set(
        0, new AcceptedException("x", scope, null, "test machine", "ana", "bo", null, NOW, null));
    assertThat(g.result().verdict()).as("an exception ends at its end").isEqualTo(Verdict.EXPOSED);
    g.exceptions.set(
        0, new AcceptedException("x", scope, null, "test machine", "ana", "Ana", null, null, null));
    assertThat(g.result().verdict()).as("nobody approves their own").isEqualTo(Verdict.EXPOSED);

    g.exceptions.set(
        0,
        new AcceptedException("x", scope, "copies-number", "small", "ana", "bo", null, null, null));
    g.point("a", "r", Form.FULL, null, 5, PointOutcome.COMPLETE).copy("a", "near");
    assertThat(g.outcome(CriterionCode.COPIES_NUMBER).state()).isEqualTo(OutcomeState.EXCEPTED);
    assertThat(g.outcome(CriterionCode.COPIES_NUMBER).measured().value()).isEqualTo(2);
  }

  @Test
  void theSameFactsGiveTheSameResult() {
    Given g = Given.estate().point("a", 5).drill("a", Method.READ_THROUGH, true, 1);
    assertThat(hardproof.core.evidence.Tables.findings(g.evaluate()))
        .isEqualTo(hardproof.core.evidence.Tables.findings(g.evaluate()));
  }

  @Test
  void whatWasKnownEarlierDecidesEarlier() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
    Instant before = NOW.minus(Duration.ofHours(6));
    Evaluation earlier = Evaluator.evaluate(g.at(before), Standard.shipped());
    assertThat(earlier.workload("w").verdict()).isEqualTo(Verdict.EXPOSED);
  }
}
