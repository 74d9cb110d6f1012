import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.criteria.Standard;
import hardproof.core.drills.*;
import hardproof.core.estate.*;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import hardproof.core.findings.Findings;
import hardproof.core.forecast.*;
import hardproof.core.plan.*;
import hardproof.core.points.*;
import hardproof.core.programmes.*;
import hardproof.core.proof.*;
import hardproof.core.schedule.*;
import java.time.*;
import java.util.*;

/**
 * The coming nights and the plan of an estate of made-up facts: 10,000 resources in 2,000 workloads, 30 points each.
 *
 * <p>usage: java -cp CLASSES bench/Planning.java [RESOURCES [ROUNDS]]
 */
class Planning {
  static final Instant NOW = Instant.parse("2026-11-24T10:00:00Z");

  public static void main(String[] args) {
    int resources = args.length > 0 ? Integer.parseInt(args[0]) : 10_000;
    int rounds = args.length > 1 ? Integer.parseInt(args[1]) : 5;
    Facts facts = facts(resources);
    for (int round = 1; round <= rounds; round++) {
      round(round, facts);
    }
  }

  /** A method of its own, so that nothing of the round before is still held. */
  static void round(int round, Facts facts) {
      Estate estate = new Estate(NOW, facts);
      long a = System.nanoTime();
      Evaluation evaluation = Evaluator.evaluate(estate, Standard.shipped());
      long b = System.nanoTime();
      List<ProgrammeTerms> programmes = List.of(programme("needed", null), programme("weekly", Schedule.every(Duration.ofDays(7)).recurrence()));
      Capacity capacity = new Capacity(HoursOfDay.parse("20:00-06:00"), ZoneOffset.UTC, 8, null, null, Capacity.Prices.NONE);
      Forecaster forecaster = new Forecaster(estate, evaluation, programmes, s -> true);
      long c = System.nanoTime();
      Forecast forecast = forecaster.forecast(capacity, Forecaster.AHEAD);
      long d = System.nanoTime();
      List<PlanCause> causes = PlanCause.of(Findings.of(evaluation, estate, Map.of(), forecast.neverRenewed()));
      long e = System.nanoTime();
      List<PlanCause> some = causes.subList(0, Math.min(500, causes.size()));
      Planner planner = new Planner(evaluation, estate, capacity);
      long[] effects = some.stream().mapToLong(x -> { long f = System.nanoTime(); planner.effect(x); return System.nanoTime() - f; }).sorted().toArray();
      long f = System.nanoTime();
      Plan plan = new Planner(evaluation, estate, capacity).plan(some, (done, all) -> true);
      long g = System.nanoTime();
      System.out.printf(
          "round %d: evaluate %d ms; offers %d ms, 90 nights %d ms (%d starts, %d gaps); %d causes in %d ms; effect median %.1f ms, slowest %.1f ms; plan of %d in %d ms%n",
          round, (b - a) / 1_000_000, (c - b) / 1_000_000, (d - c) / 1_000_000, forecast.starts().size(), forecast.gaps().size(), causes.size(), (e - d) / 1_000_000,
          effects[effects.length / 2] / 1e6, effects[effects.length - 1] / 1e6, plan.causes(), (g - f) / 1_000_000);
  }

  static ProgrammeTerms programme(String key, Recurrence rule) {
    Selector scope = rule == null ? Selector.EVERYTHING : Selector.allOf(Selector.Condition.is("tier", "1"));
    return new ProgrammeTerms(key, key, scope, null, new ProgrammeTerms.Timing(rule, Duration.ofHours(12), null), Showing.DEMANDED,
        PointChoice.NEWEST, CopyChoice.NOT_LAST, Duration.ZERO, Limits.NONE);
  }

  static Facts facts(int count) {
    Random random = new Random(13);
    List<Workload> workloads = new ArrayList<>();
    List<Resource> resources = new ArrayList<>();
    List<RecoveryPoint> points = new ArrayList<>();
    List<Copy> copies = new ArrayList<>();
    List<DrillFact> drills = new ArrayList<>();
    for (int w = 0; w < count / 5; w++) {
      workloads.add(new Workload("w" + w, "W" + w, "Owner", 1 + w % 4, List.of(), null, null, null, null, null));
    }
    for (int r = 0; r < count; r++) {
      String key = "r" + r;
      resources.add(new Resource(key, key, Kind.FILE_SHARE, new Resource.Links("w" + r / 5, null, List.of()), new Resource.Place("A", "n", "production"),
          new Resource.Volume(null, null), new Resource.Seen(NOW.minus(Duration.ofDays(100)), null, null, null), new Resource.Credentials(null, null), Map.of(), List.of(), "f"));
      for (int p = 30; p >= 0; p--) {
        Instant data = NOW.minus(Duration.ofHours(24L * p + 1 + r % 3));
        points.add(new RecoveryPoint(key + "-" + p, key, "p", Form.FULL, null, new RecoveryPoint.Times(data, data, data.plusSeconds(1200)), PointOutcome.COMPLETE,
            new RecoveryPoint.Taken(Consistency.FILE, null, null), new RecoveryPoint.Content(5_000_000_000L, true, 0L), "f"));
        for (String store : List.of("near", "far")) {
          copies.add(new Copy(key + "-" + p, store, data.plusSeconds(1500), CopyState.PRESENT, null, null, new Copy.Artifact("tar.gz", "x", null, null), new Copy.ReadBack(null, null), data, "f"));
        }
      }
      if (random.nextInt(10) < 7) {
        boolean passed = r % 13 != 0;
        Instant ended = NOW.minus(Duration.ofHours(random.nextInt(24 * 150)));
        drills.add(new DrillFact("d" + r, new DrillFact.Of(key, key + "-0", "near"), Method.FULL_RESTORE, Method.FULL_RESTORE.rung(),
            new DrillFact.Answers(RestoreState.DONE, passed ? ChecksState.PASSED : ChecksState.FAILED, CleanupState.DONE), new DrillFact.Times(ended.minusSeconds(300 + random.nextInt(600)), ended, ended),
            5_000_000_000L, new DrillFact.Blame(passed ? null : key + "-0", passed ? null : "near"), passed ? "equal" : "differs"));
      }
    }
    Policy policy = new Policy("p", "Daily", Selector.EVERYTHING, Schedule.every(Duration.ofHours(24)), new Policy.JobWindow(null, null),
        new hardproof.core.retention.Retention(31, null, null, null, null), null, null, null, List.of(), null, List.of());
    return new Facts(List.of(), workloads, resources, List.of(store("near", "A", Medium.DISK), store("far", "B", Medium.TAPE)), List.of(policy), points, copies, List.of(), List.of(), drills);
  }

  static Store store(String key, String site, Medium medium) {
    return new Store(key, key, site, "n", medium, null, medium != Medium.TAPE, null, null, 500_000_000L, "/" + key, null);
  }
}
