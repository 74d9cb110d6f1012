package hardproof.core.plan;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.Given;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.drills.Method;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Medium;
import hardproof.core.facts.Estate;
import hardproof.core.findings.Finding;
import hardproof.core.findings.Findings;
import hardproof.core.forecast.Forecaster;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.programmes.Capacity;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import hardproof.core.recovery.TimeEstimates;
import hardproof.core.schedule.HoursOfDay;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Causes, their effects and their order. Invented data. */
class PlannerTest {
  private static final Capacity NIGHTS = Capacity.usual().with(HoursOfDay.parse("22:00-06:00"));

  private static List<Finding> findings(Given g, boolean renewing) {
    Evaluation evaluation = g.evaluate();
    return Findings.of(
        evaluation,
        g.at(NOW),
        Map.of(),
        renewing
            ? new Forecaster(g.at(NOW), evaluation, List.of(), s -> true)
                .forecast(NIGHTS, Forecaster.AHEAD)
                .neverRenewed()
            : List.of());
  }

  private static List<PlanCause> causes(Given g) {
    return PlanCause.of(findings(g, false));
  }

  private static Plan plan(Given g) {
    return new Planner(g.evaluate(), g.at(NOW), NIGHTS).plan(causes(g), (done, all) -> true);
  }

  private static PlanCause cause(List<PlanCause> causes, String code) {
    return causes.stream()
        .filter(c -> c.roots().get(0).code().equals(code))
        .findFirst()
        .orElseThrow();
  }

  /** On the store, off-site on tape, every day: what is wrong with it is only that nobody has drilled it. */
  private static Given fine(String... resources) {
    Given g = Given.estate();
    g.resources.clear();
    for (String key : resources) {
      g.resources.add(Given.resource(key, Kind.FILE_SHARE, "w"));
      for (int day = 40; day >= 0; day--) {
        String point = key + day;
        g.point(point, key, Form.FULL, null, day * 24 + 5, PointOutcome.COMPLETE)
            .copy(point, "near")
            .copy(point, "far");
      }
    }
    return g;
  }

  /** Nothing is covered: all that can be said of it follows from that. */
  @Test
  void withoutCoverEverythingFollows() {
    Given g = Given.estate();
    g.policies.clear();
    List<PlanCause> causes = causes(g);
    assertThat(causes).singleElement().satisfies(c -> {
      assertThat(c.remedy()).isEqualTo(Remedy.COVER);
      assertThat(c.todo()).isEqualTo("put R under a policy");
      assertThat(c.roots()).hasSize(1);
      assertThat(c.follows()).hasSizeGreaterThan(3);
    });
    assertThat(causes.get(0).findings()).isEqualTo(findings(g, false).size());
  }

  /** "24 resources can never keep 24 h on Daily": one schedule, and what follows from it. */
  @Test
  void aScheduleThatCanNotKeepTheObjectiveIsOneCauseForAllOfThem() {
    Given g = fine("a", "b", "c");
    g.thePolicy("schedule", "24h", "keep_last", "100");
    g.theWorkload("rpo", "12h");
    PlanCause cause = cause(causes(g), "fresh-on-paper");
    assertThat(cause.roots()).hasSize(3);
    assertThat(cause.follows())
        .extracting(Finding::code)
        .contains("fresh-exposure-worst", "fresh-attainment")
        .hasSizeGreaterThanOrEqualTo(6);
    assertThat(cause.remedy()).isEqualTo(Remedy.POLICY);
    assertThat(cause.todo()).isEqualTo("change what Daily says of 3 resources");
    assertThat(cause.sentence()).startsWith("Schedule can meet the RPO: A, B and C; the first: ");
    Effect effect = new Planner(g.evaluate(), g.at(NOW), NIGHTS).effect(cause);
    assertThat(effect.closed()).isEqualTo(3);
    assertThat(effect.takes()).isZero();
  }

  /** A policy is changed for all that it has in scope, also for what was content with it: kept for half as long. */
  @Test
  void theEffectOfAPolicyCountsWhoeverItIsFor() {
    Given g = fine("a", "b");
    g.workloads.add(Given.workload("strict", 3));
    g.resources.add(Given.resource("x", Kind.FILE_SHARE, "strict"));
    g.point("x1", "x", Form.FULL, null, 5, PointOutcome.COMPLETE)
        .copy("x1", "near")
        .copy("x1", "far");
    g.workloads.set(
        1,
        hardproof.core.Fields.with(
            hardproof.core.feeds.FactKinds.WORKLOADS, g.workloads.get(1), "rpo", "12h"));
    PlanCause cause = cause(causes(g), "fresh-on-paper");
    assertThat(cause.resources()).contains("x");
    List<String> touched = new AsIf(g.at(NOW), g.evaluate()).underTheSame(List.of("x"));
    assertThat(touched).containsExactlyInAnyOrder("a", "b", "x");
    assertThat(new Planner(g.evaluate(), g.at(NOW), NIGHTS).effect(cause).computed())
        .isTrue();
  }

  /** A drill of ages, by a store that is said to read a byte a second, has no night; and nobody waits for it. */
  @Test
  void whatTakesAgesHasNoNight() {
    Given g = fine("a");
    g.theStore("near", "throughput", "1 B").theStore("far", "throughput", "1 B");
    g.thePoint("a0", "size", "900000000000000");
    assertThat(plan(g).steps())
        .filteredOn(s -> s.cause().remedy() == Remedy.DRILL)
        .isNotEmpty()
        .allSatisfy(s -> assertThat(s.night()).isNull());
  }

  @Test
  void aFailedDrillBringsWhatFollowsFromIt() {
    Given g = fine("a");
    g.drill("a0", "near", Method.FULL_RESTORE, false, 1, "a0", null);
    PlanCause cause = cause(PlanCause.of(findings(g, true)), "proof-last-drill");
    assertThat(cause.follows())
        .extracting(Finding::code)
        .contains("copies-zero-errors", "proof-age", "proof-loss", "proof-not-renewed");
  }

  @Test
  void whatNoProgrammeDrillsIsOneCauseWithWhatFollows() {
    PlanCause cause = cause(PlanCause.of(findings(fine("a", "b"), true)), "proof-not-renewed");
    assertThat(cause.remedy()).isEqualTo(Remedy.PROGRAMME);
    assertThat(cause.resources()).containsExactly("a", "b");
    assertThat(cause.follows()).extracting(Finding::code).contains("proof-age", "proof-loss");
    assertThat(cause.todo()).isEqualTo("open a programme that drills A and B");
  }

  /** Every finding lies behind exactly one cause. */
  @Test
  void noFindingIsLostOrCountedTwice() {
    Random random = new Random(7);
    for (int trial = 0; trial < 30; trial++) {
      Given g = messy(random);
      List<Finding> open = findings(g, true).stream().filter(Finding::open).toList();
      List<Finding> behind = new ArrayList<>();
      PlanCause.of(open).forEach(c -> {
        behind.addAll(c.roots());
        behind.addAll(c.follows());
      });
      assertThat(behind).hasSameSizeAs(open).containsExactlyInAnyOrderElementsOf(open);
      assertThat(PlanCause.of(open)).extracting(PlanCause::key).doesNotHaveDuplicates();
    }
  }

  private static Given messy(Random random) {
    Given g = Given.estate();
    g.stores.add(Given.store("third", "C", Medium.OBJECT, "cloud", true));
    g.workloads.add(Given.workload("v", 1 + random.nextInt(4)));
    g.resources.clear();
    for (int i = 0; i < 6; i++) {
      g.resources.add(Given.resource("r" + i, Kind.FILE_SHARE, random.nextBoolean() ? "w" : "v"));
      for (int p = 0; p < random.nextInt(4); p++) {
        String point = "r" + i + "p" + p;
        g.point(point, "r" + i, Form.FULL, null, 1 + random.nextInt(200), PointOutcome.COMPLETE)
            .copy(point, random.nextBoolean() ? "near" : "far");
        if (random.nextInt(3) == 0) {
          g.drill(point, Method.FULL_RESTORE, random.nextBoolean(), 1 + random.nextInt(300));
        }
      }
    }
    if (random.nextBoolean()) {
      g.policies.clear();
    }
    return g;
  }

  /** As if each had been drilled and passed: the workload is proven, and the night is the next. */
  @Test
  void drillingProvesAndSaysInWhichNight() {
    Plan plan = plan(fine("a", "b"));
    Plan.Step first = plan.steps().get(0);
    assertThat(first.cause().remedy()).isEqualTo(Remedy.DRILL);
    assertThat(first.effect().proven()).isEqualTo(1);
    assertThat(first.effect().words())
        .startsWith("1 workload becomes proven and ")
        .endsWith(" findings close; 2 s of drilling");
    assertThat(plan.causes()).isEqualTo(plan.steps().size());
    Given slow = fine("a", "b");
    slow.theStore("near", "throughput", "1 B").theStore("far", "throughput", "1 B");
    for (int i = 0; i < 2; i++) {
      slow.thePoint((i == 0 ? "a" : "b") + 0, "size", "50000");
    }
    Plan.Step later = plan(slow).steps().stream()
        .filter(s -> s.cause().remedy() == Remedy.DRILL)
        .findFirst()
        .orElseThrow();
    // 100,000 seconds of drilling are more than the 16 hours of a night by two, and less than two
    // nights.
    assertThat(later.effect().takes()).isEqualTo(Duration.ofSeconds(100_000));
    assertThat(later.night()).isEqualTo(Instant.parse("2026-11-25T22:00:00Z"));
  }

  /** The more important workload goes first where both cost the same. */
  @Test
  void whatGainsMostComesFirst() {
    Given g = fine("a");
    g.workloads.add(Given.workload("first", 1));
    g.resources.add(Given.resource("x", Kind.FILE_SHARE, "first"));
    g.point("x1", "x", Form.FULL, null, 1, PointOutcome.COMPLETE)
        .copy("x1", "near")
        .copy("x1", "far");
    g.drill("a0", Method.FULL_RESTORE, false, 1).drill("x1", Method.FULL_RESTORE, false, 1);
    List<String> order = plan(g).steps().stream()
        .filter(s -> s.cause().key().startsWith("proof-last-drill"))
        .map(s -> s.cause().key())
        .toList();
    assertThat(order).containsExactly("proof-last-drill first", "proof-last-drill w");
  }

  /** What an effect counts is what a full evaluation of the same facts would find, whatever the remedy. */
  @Test
  void theEffectIsThatOfAFullEvaluation() {
    Random random = new Random(11);
    Set<Remedy> computed = EnumSet.noneOf(Remedy.class);
    for (int trial = 0; trial < 25; trial++) {
      Given g = messy(random);
      Evaluation before = g.evaluate();
      Estate estate = g.at(NOW);
      Trials trials = new Trials(estate, before, new TimeEstimates(estate));
      for (PlanCause cause : causes(g)) {
        Effect effect = trials.of(cause).effect();
        if (effect.computed()) {
          Evaluation whole =
              Evaluator.evaluate(trials.done(cause).orElseThrow(), before.standard());
          assertThat(effect.proven()).as(cause.key()).isEqualTo(gained(before, whole));
          assertThat(effect.closed()).as(cause.key()).isEqualTo(closed(before, whole));
          computed.add(cause.remedy());
        }
      }
    }
    assertThat(computed)
        .contains(Remedy.DRILL, Remedy.COPY, Remedy.POINT, Remedy.POLICY, Remedy.LOOK);
  }

  private static int gained(Evaluation before, Evaluation after) {
    return (int) after.workloads().stream()
        .filter(w -> w.verdict() == Verdict.PROVEN)
        .filter(w -> before.workload(w.workload().key()).verdict() != Verdict.PROVEN)
        .count();
  }

  private static int closed(Evaluation before, Evaluation after) {
    return after.workloads().stream()
        .mapToInt(w -> Math.max(0, open(before.workload(w.workload().key())) - open(w)))
        .sum();
  }

  private static int open(WorkloadResult w) {
    return (int) w.members().stream()
        .filter(m -> m.verdict() != Verdict.EXCLUDED)
        .flatMap(m -> m.outcomes().stream())
        .filter(o -> o.state() == OutcomeState.NOT_MET)
        .count();
  }

  @Test
  void anEffectIsSaidInWords() {
    assertThat(PlanCause.of(List.of())).isEmpty();
    assertThat(Effect.UNKNOWN.words()).isEqualTo("what it comes to shows in time");
    assertThat(new Effect(true, 0, 0, 0, 0, 0, Duration.ZERO).words())
        .isEqualTo("by itself it changes nothing yet");
    assertThat(new Effect(true, 2, 1, 9, 0, 0, Duration.ofMinutes(5)).words())
        .isEqualTo("2 workloads become proven and 1 verdict gets better; 5 m of drilling");
  }

  /** What stands beside a step is what it comes to given all that stands before it, tried from the start. */
  @Test
  void everyEffectIsThatOfWhatIsLeft() {
    Random random = new Random(5);
    for (int trial = 0; trial < 15; trial++) {
      Given g = messy(random);
      Estate estate = g.at(NOW);
      Trials trials = new Trials(estate, g.evaluate(), new TimeEstimates(estate));
      List<PlanCause> left = new ArrayList<>(causes(g));
      for (Plan.Step step : plan(g).steps()) {
        Trials now = trials;
        // As if points had been made, drills would take another time; what counts is the first
        // estimate.
        assertThat(step.effect())
            .usingRecursiveComparison()
            .ignoringFields("takes")
            .isEqualTo(now.of(step.cause()).effect());
        left.remove(step.cause());
        if (step.effect().computed()) {
          Estate after = trials.done(step.cause()).orElseThrow();
          trials = new Trials(
              after, Evaluator.evaluate(after, trials.evaluation().standard()), trials.estimates());
        }
      }
      assertThat(left).isEmpty();
    }
  }

  @Test
  void itStopsWhenItIsTold() {
    Given g = fine("a", "b");
    Set<Integer> seen = new HashSet<>();
    assertThatThrownBy(() -> new Planner(g.evaluate(), g.at(NOW), NIGHTS)
            .plan(causes(g), (done, all) -> seen.add(done) && done < 1))
        .isInstanceOf(Planner.Stopped.class);
    assertThat(seen).containsExactly(0, 1);
  }

  /** With no capacity nothing is ever drilled, and no night is promised. */
  @Test
  void withoutCapacityNoNightIsPromised() {
    Plan plan = new Planner(fine("a").evaluate(), fine("a").at(NOW), NIGHTS.with(0))
        .plan(causes(fine("a")), (done, all) -> true);
    assertThat(plan.steps()).allSatisfy(s -> assertThat(s.night()).isNull());
  }
}
