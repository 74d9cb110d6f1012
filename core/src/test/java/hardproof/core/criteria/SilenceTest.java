package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.drills.Method;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Job;
import hardproof.core.estate.Policy;
import hardproof.core.findings.Finding;
import hardproof.core.findings.Findings;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Silence is neither a pass nor a failure. The tier's RPO is 24 h. Invented data. */
class SilenceTest {
  private static final Duration RPO = Duration.ofHours(24);
  private static final Duration MS = Duration.ofMillis(1);

  /** A point with data 30 h ago, and a feed that came and spoke so long ago. */
  private static Given spoke(Duration ago, Duration every) {
    Given g = Given.estate().point("a", 30);
    g.feeds.add(new Feed("feed", every, NOW.minus(ago), NOW.minus(ago)));
    return g;
  }

  private static Outcome exposure(Given g) {
    return g.outcome(CriterionCode.FRESH_EXPOSURE_NOW);
  }

  @Test
  void whatWasKeptUpToTheObjectiveWhenItsFeedSpokeIsNotFailedByTimeAlone() {
    Duration untilOver = Duration.ofHours(30).minus(RPO);
    Outcome at = exposure(spoke(untilOver, Duration.ofHours(48)));
    assertThat(at.state()).isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(at.sentence())
        .isEqualTo("kept when its feed last spoke (24 Nov 04:00: 24 h); nobody has told since; at"
            + " most 30 h now");
    assertThat(exposure(spoke(untilOver.plus(MS), Duration.ofHours(48))).state())
        .as("a little earlier it was kept too")
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    Outcome over = exposure(spoke(untilOver.minus(MS), Duration.ofHours(48)));
    assertThat(over.state()).as("it was over already").isEqualTo(OutcomeState.NOT_MET);
    assertThat(over.sentence()).endsWith("; nobody has told since");
  }

  @Test
  void whatIsMetNowIsMetWhateverHappenedSince() {
    Given g = spoke(Duration.ofHours(10), Duration.ofHours(48));
    g.point("b", 24);
    assertThat(exposure(g).state()).as("at exactly the objective").isEqualTo(OutcomeState.MET);
    assertThat(g.result().byFactsOf()).isNull();
  }

  @Test
  void theVerdictStaysAndSaysByFactsOfWhen() {
    Given g = spoke(Duration.ofHours(10), Duration.ofHours(48));
    g.drill("a", Method.FULL_RESTORE, true, 1);
    WorkloadResult result = g.result();
    assertThat(result.verdict()).isEqualTo(Verdict.PROVEN);
    assertThat(result.sentence()).endsWith("; by facts of 24 Nov 00:00");
    assertThat(result.byFactsOf()).isEqualTo(NOW.minus(Duration.ofHours(10)));
    assertThat(g.evaluate().horizon()).isEqualTo(NOW.minus(Duration.ofHours(10)));
  }

  @Test
  void silenceThatNobodyPromisedToEndMakesItUnknown() {
    Given g = spoke(Duration.ofHours(10), null);
    WorkloadResult result = g.result();
    assertThat(result.verdict()).isEqualTo(Verdict.UNKNOWN);
    assertThat(result.sentence())
        .contains("last spoke 24 Nov 00:00, 10 h ago, and nobody has said how often it comes");
    assertThat(result.actions().get(0).sentence())
        .isEqualTo("bring in a current report of feed feed");
  }

  @Test
  void aFeedThatIsOverdueMakesItUnknownAsBefore() {
    WorkloadResult result = spoke(Duration.ofHours(10), Duration.ofHours(9)).result();
    assertThat(result.verdict()).isEqualTo(Verdict.UNKNOWN);
    assertThat(result.sentence()).contains("it is expected every 9 h").doesNotContain("by facts");
  }

  /** What a drill shows is known at once: no feed has to tell of it. */
  @Test
  void aDrillAfterTheHorizonIsNoSilence() {
    Given g = spoke(Duration.ofHours(10), Duration.ofHours(48)).point("older", 60);
    g.drill("a", "near", Method.FULL_RESTORE, false, 0.1, "a", null);
    assertThat(exposure(g).state())
        .as("the point was bad all along, so that only the older one counts")
        .isEqualTo(OutcomeState.NOT_MET);
    assertThat(g.result().verdict()).isEqualTo(Verdict.EXPOSED);
  }

  @Test
  void aCopyThatAnotherFeedTellsOfIsMissingOnlyWhenThatHasSpoken() {
    Given g = Given.estate();
    g.policies.clear();
    g.policies.add(Given.policy("p", RPO, new Policy.CopyTarget("far", Duration.ofHours(2))));
    g.point("old", 20);
    g.point("a", "r", Form.FULL, null, 5, PointOutcome.COMPLETE).copy("a", "near");
    g.copies.replaceAll(c -> c.store().equals("far") ? by("vault", c) : c);
    g.feeds.add(new Feed("feed", RPO, NOW, NOW));
    Instant early = NOW.minus(Duration.ofHours(4));
    g.feeds.add(new Feed("vault", RPO, early, early));
    Outcome silent = g.outcome(CriterionCode.COPIES_DEADLINE);
    assertThat(silent.state()).isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(silent.sentence())
        .startsWith("when its feed last spoke (24 Nov 06:00): all 2 promised copies were in time")
        .contains("nobody has told since");
    g.feeds.set(1, new Feed("vault", RPO, NOW, NOW));
    assertThat(g.outcome(CriterionCode.COPIES_DEADLINE).state()).isEqualTo(OutcomeState.NOT_MET);
  }

  private static Copy by(String feed, Copy c) {
    return new Copy(
        c.point(),
        c.store(),
        c.finished(),
        c.state(),
        null,
        null,
        new Copy.Artifact(c.format(), c.place(), null, null),
        new Copy.ReadBack(null, null),
        c.recordedAt(),
        feed);
  }

  @Test
  void aPeriodOfWhichNothingWasToldIsSaidToBeSo() {
    Given g = spoke(Duration.ofDays(31), Duration.ofDays(60));
    g.points.clear();
    g.copies.clear();
    g.point("a", 24 * 32);
    Outcome worst = g.outcome(CriterionCode.FRESH_EXPOSURE_WORST);
    assertThat(worst.state()).isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(worst.sentence())
        .isEqualTo("its feed has told of nothing in the last 30 d; it last spoke 24 Oct 10:00");
  }

  @Test
  void aFeedThatDoesNotKeepPaceIsOneFindingHoweverManyItTellsOf() {
    Given g = spoke(Duration.ofHours(1), Duration.ofHours(26));
    g.resources.add(Given.resource("s", hardproof.core.estate.Kind.VOLUME, "w"));
    Evaluation evaluation = g.evaluate();
    List<Finding> findings = Findings.of(evaluation, g.at(NOW), Map.of());
    assertThat(findings).extracting(Finding::code).doesNotContain("fresh-pace");
    assertThat(findings)
        .filteredOn(f -> f.code().equals("feed-pace"))
        .singleElement()
        .satisfies(f -> {
          assertThat(f.about().subject()).isEqualTo("feed");
          assertThat(f.sentence())
              .startsWith("a feed every 26 h can't show that 24 h are kept; feed feed tells of 2"
                  + " resources");
        });
  }

  static Stream<Long> seeds() {
    return LongStream.rangeClosed(1, 200).boxed();
  }

  /** More points, jobs and copies that are there can't turn "nobody can say" into "not kept". */
  @ParameterizedTest
  @MethodSource("seeds")
  void moreFactsDoNotTurnSilenceIntoAFault(long seed) {
    Random random = new Random(seed);
    double horizon = 6 + random.nextInt(40);
    double data = horizon + random.nextInt(24);
    Given g = Given.estate().point("a", data + 1);
    Instant spoke = NOW.minus(Duration.ofHours((long) horizon));
    g.feeds.add(new Feed("feed", Duration.ofDays(5), spoke, spoke));
    if (exposure(g).state() != OutcomeState.NOT_ENOUGH_DATA) {
      assertThat(exposure(g).state())
          .isEqualTo(data + 1 <= 24 ? OutcomeState.MET : OutcomeState.NOT_MET);
      return;
    }
    for (int i = 0; i < 6; i++) {
      switch (random.nextInt(4)) {
        case 0 ->
          // Told of before the horizon, of whatever outcome.
          g.point("old" + i, data + 1 + random.nextInt(400));
        case 1 ->
          g.point(
              "bad" + i,
              "r",
              Form.FULL,
              null,
              horizon + 1 + random.nextInt(300),
              PointOutcome.FAILED);
        case 2 -> g.point("new" + i, data * random.nextDouble());
        default ->
          g.jobs.add(new Job(
              "j" + i,
              Job.Type.BACKUP,
              "r",
              "p",
              "near",
              spoke,
              spoke,
              Job.Result.FAILED,
              null,
              null));
      }
      assertThat(exposure(g).state()).isNotEqualTo(OutcomeState.NOT_MET);
      assertThat(g.result().verdict()).isNotEqualTo(Verdict.EXPOSED);
    }
    g.copy("a", "third", CopyState.PRESENT, NOW);
    assertThat(exposure(g).state()).isNotEqualTo(OutcomeState.NOT_MET);
  }
}
