package hardproof.core.facts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.Given;
import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.criteria.Standard;
import hardproof.core.estate.Job;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Workload;
import hardproof.core.evidence.Tables;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.TreeSet;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** What is known now of an instant that has been, against histories whose truth is known. Invented data. */
class HindsightTest {
  private static final Instant NOON = Given.NOW.minus(Duration.ofHours(4));
  private static final Instant NOW = Given.NOW;

  static Stream<Long> seeds() {
    return LongStream.rangeClosed(1, 60).boxed();
  }

  private static String outcomes(Estate estate) {
    Evaluation evaluation = Evaluator.evaluate(estate, Standard.shipped());
    return Tables.workloads(evaluation) + Tables.findings(evaluation);
  }

  private static Instant any(Random random, Instant from, Instant to) {
    return from.plusMillis(
        (long) (random.nextDouble() * Duration.between(from, to).toMillis()));
  }

  /** With nothing told late there is no hindsight: both questions have one answer. */
  @ParameterizedTest
  @MethodSource("seeds")
  void whereEveryFeedSpeaksAtOnceBothQuestionsHaveOneAnswer(long seed) {
    Random random = new Random(seed);
    ToldHistory history = new ToldHistory(random);
    for (int i = 0; i < 5; i++) {
      Instant judged = any(random, ToldHistory.BEGIN.plusSeconds(1), NOW);
      assertThat(outcomes(history.estate(history.instants(), judged, NOW, NOW)))
          .isEqualTo(outcomes(history.estate(history.instants(), judged, judged, judged)));
    }
  }

  private static List<Instant> deliveries(Random random) {
    TreeSet<Instant> all = new TreeSet<>();
    for (int n = 1 + random.nextInt(8); n > 0; n--) {
      all.add(any(random, ToldHistory.BEGIN, NOW));
    }
    all.add(NOW);
    return List.copyOf(all);
  }

  /** Whoever looks back sees what happened, not when somebody wrote it down. */
  @ParameterizedTest
  @MethodSource("seeds")
  void theFiguresOfAPeriodDoNotDependOnWhenDeliveriesCame(long seed) {
    Random random = new Random(seed);
    ToldHistory history = new ToldHistory(random);
    Instant judged = any(random, ToldHistory.BEGIN.plusSeconds(1), NOW);
    String told = outcomes(history.estate(history.instants(), judged, NOW, NOW));
    for (int i = 0; i < 5; i++) {
      assertThat(outcomes(history.estate(deliveries(random), judged, NOW, NOW))).isEqualTo(told);
    }
  }

  @Test
  void whatIsKnownEarlierThanItIsJudgedCanNotBe() {
    assertThatThrownBy(() -> new Estate(NOW, NOON, Given.estate().facts()))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("can't tell of");
  }

  private static <T> State<T> state(T fact, Instant from, Instant until) {
    return new State<>(
        fact, "feed", from.toEpochMilli(), until == null ? Long.MAX_VALUE : until.toEpochMilli());
  }

  private static Hindsight hindsight(String... silent) {
    return new Hindsight(NOON, NOW, List.of(silent)::contains);
  }

  @Test
  void whatHasNoTimeOfItsOwnIsAsItWasKnownThen() {
    Instant before = NOON.minusSeconds(1);
    Workload tier1 = Given.workload("w", 1);
    Workload tier4 = Given.workload("w", 4);
    List<State<Workload>> told =
        List.of(state(tier4, before, NOON.plusSeconds(1)), state(tier1, NOON.plusSeconds(1), null));
    assertThat(hindsight().timeless(told, Workload::key)).containsExactly(tier4);
    List<State<Workload>> later = List.of(state(tier1, NOON.plusSeconds(1), null));
    assertThat(hindsight().timeless(later, Workload::key))
        .as("its feed had spoken, and not told of it")
        .isEmpty();
    assertThat(hindsight("feed").timeless(later, Workload::key))
        .as("its feed had not spoken at all")
        .containsExactly(tier1);
    assertThat(hindsight("feed")
            .timeless(List.of(state(tier1, NOW.plusMillis(1), null)), Workload::key))
        .as("nobody knows of it yet")
        .isEmpty();
  }

  private static Resource seen(Instant firstSeen, Instant lastSeen, Instant agent) {
    Resource r = Given.resource("r", Kind.VOLUME, "w");
    return new Resource(
        r.key(),
        r.name(),
        r.kind(),
        new Resource.Links(r.workload(), null, List.of()),
        new Resource.Place(r.site(), r.region(), r.environment()),
        new Resource.Volume(null, null),
        new Resource.Seen(firstSeen, lastSeen, agent, null),
        new Resource.Credentials(null, null),
        r.tags(),
        List.of(),
        "feed");
  }

  @Test
  void aResourceCountsFromWhenItWasFirstSeenWithTheTimesUpToTheInstant() {
    Instant early = NOON.minusSeconds(60);
    Instant late = NOON.plusSeconds(60);
    assertThat(hindsight().resources(List.of(state(seen(NOON, late, early), late, null))))
        .singleElement()
        .satisfies(r -> {
          assertThat(r.lastSeen()).as("that was later").isNull();
          assertThat(r.agentSeen()).isEqualTo(early);
        });
    assertThat(hindsight()
            .resources(List.of(state(seen(NOON.plusMillis(1), late, early), late, null))))
        .as("it was not there yet")
        .isEmpty();
    assertThat(hindsight().resources(List.of(state(seen(null, late, early), late, null))))
        .as("nobody says since when, and its feed had not told of it")
        .isEmpty();
    assertThat(hindsight()
            .resources(List.of(
                state(seen(null, early.minusSeconds(9), null), early, late),
                state(seen(null, late, NOON), late, null))))
        .singleElement()
        .satisfies(r -> {
          assertThat(r.lastSeen()).isEqualTo(early.minusSeconds(9));
          assertThat(r.agentSeen()).as("told later, of the instant itself").isEqualTo(NOON);
        });
  }

  @Test
  void aJobThatRanIsToldOfByItsEnd() {
    Job running =
        new Job("j", Job.Type.BACKUP, "r", null, null, NOON, null, Job.Result.RUNNING, null, null);
    Job ended =
        new Job("j", Job.Type.BACKUP, "r", null, null, NOON, NOON, Job.Result.FAILED, null, null);
    Job later = new Job(
        "j",
        Job.Type.BACKUP,
        "r",
        null,
        null,
        NOON,
        NOON.plusMillis(1),
        Job.Result.FAILED,
        null,
        null);
    State<Job> first = state(running, NOON, NOW);
    assertThat(hindsight().jobs(List.of(first, state(ended, NOW, null)))).containsExactly(ended);
    assertThat(hindsight().jobs(List.of(first, state(later, NOW, null)))).containsExactly(running);
    assertThat(hindsight().jobs(List.of(state(later, NOW, null)))).isEmpty();
  }

  private static Copy copy(Instant finished, CopyState state, Instant read, Boolean passed) {
    return new Copy(
        "a",
        "near",
        finished,
        state,
        null,
        null,
        new Copy.Artifact(null, null, null, null),
        new Copy.ReadBack(read, passed),
        NOW,
        "feed");
  }

  private static List<Copy> copies(List<State<Copy>> told) {
    Given g = Given.estate().point("a", 24);
    List<State<RecoveryPoint>> points = new ArrayList<>();
    g.points.forEach(p -> points.add(state(p, p.available(), null)));
    PointSet set = PackedStates.read("r", PackedStates.pack(points, told))
        .at(NOON.toEpochMilli(), NOW.toEpochMilli());
    return set.copiesOf(0);
  }

  @Test
  void aCopyIsAsItWasKnownThenWithWhatHasATimeOfItsOwn() {
    Instant early = NOON.minusSeconds(60);
    Instant late = NOON.plusSeconds(60);
    assertThat(copies(List.of(state(copy(early, CopyState.PRESENT, null, null), late, null))))
        .as("told later, there before")
        .hasSize(1);
    assertThat(copies(List.of(state(copy(late, CopyState.PRESENT, null, null), late, null))))
        .as("it was not there yet")
        .isEmpty();
    State<Copy> present = state(copy(early, CopyState.PRESENT, null, null), early, late);
    assertThat(copies(
            List.of(present, state(copy(early, CopyState.DELETED, null, null), late, null))))
        .as("nobody says when it was deleted: it was there as far as was known")
        .singleElement()
        .satisfies(c -> assertThat(c.state()).isEqualTo(CopyState.PRESENT));
    assertThat(copies(
            List.of(present, state(copy(early, CopyState.PRESENT, NOON, false), late, null))))
        .singleElement()
        .satisfies(c -> assertThat(c.lastReadPassed()).isFalse());
    assertThat(copies(
            List.of(present, state(copy(early, CopyState.PRESENT, late, false), late, null))))
        .as("read later")
        .singleElement()
        .satisfies(c -> assertThat(c.lastReadPassed()).isNull());
    State<Copy> pending = state(copy(null, CopyState.MISSING, null, null), early, late);
    assertThat(copies(
            List.of(pending, state(copy(NOON, CopyState.PRESENT, null, null), late, null))))
        .singleElement()
        .satisfies(c -> assertThat(c.finished()).isEqualTo(NOON));
    assertThat(copies(
            List.of(pending, state(copy(late, CopyState.PRESENT, null, null), late, null))))
        .singleElement()
        .satisfies(c -> assertThat(c.state()).isEqualTo(CopyState.MISSING));
  }
}
