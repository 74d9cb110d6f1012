import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.criteria.Standard;
import hardproof.core.drills.*;
import hardproof.core.estate.*;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import hardproof.core.order.*;
import hardproof.core.points.*;
import hardproof.core.proof.*;
import hardproof.core.recovery.TimeEstimates;
import hardproof.core.rehearsals.RehearsalPlan;
import hardproof.core.losses.*;
import hardproof.core.survival.*;
import java.time.*;
import java.util.*;

/**
 * Losses of an estate of made-up facts: workloads of one resource each, 30 points with three copies on any of 20 stores; and
 * the order of one workload of 500 members, and its rehearsal with one store lost.
 *
 * <p>usage: java -cp CLASSES bench/SurvivalOf.java [WORKLOADS [ROUNDS]]
 */
class SurvivalOf {
  static final Instant NOW = Instant.parse("2026-11-24T10:00:00Z");
  static final int STORES = 20;

  public static void main(String[] args) {
    int workloads = args.length > 0 ? Integer.parseInt(args[0]) : 10_000;
    int rounds = args.length > 1 ? Integer.parseInt(args[1]) : 6;
    Estate estate = new Estate(NOW, facts(workloads, 1));
    Evaluation evaluation = Evaluator.evaluate(estate, Standard.shipped());
    Estate large = new Estate(NOW, facts(1, 500));
    Evaluator.evaluate(large, Standard.shipped());
    for (int round = 1; round <= rounds; round++) {
      long a = System.nanoTime();
      Survival survival = Survival.of(estate, evaluation);
      long b = System.nanoTime();
      long[] each = new long[STORES];
      long lost = 0;
      for (int i = 0; i < STORES; i++) {
        long from = System.nanoTime();
        lost += survival.after(Loss.ofStores(Set.of("s" + i, "s" + (i + 1) % STORES)), 16).count(Fate.LOST);
        each[i] = System.nanoTime() - from;
      }
      Arrays.sort(each);
      long c = System.nanoTime();
      int ranks = survival.ranking().size();
      long d = System.nanoTime();
      Loss most = Loss.ofStores(new HashSet<>(survival.stores().stream().map(Store::key).limit(STORES - 4).toList()));
      long taken = survival.after(most, 16).count(Fate.LOST);
      long remedyFrom = System.nanoTime();
      int remedies = survival.remedies(most).size();
      long remedyTo = System.nanoTime();
      RecoveryOrder order = RecoveryOrder.of(large, Standard.shipped(), new TimeEstimates(large), large.workload("w0"));
      long total = RecoverySchedule.of(order.steps(), order.limits(16)).total();
      long e = System.nanoTime();
      int ups = SpeedUp.of(order, order.limits(16)).size();
      long f = System.nanoTime();
      var rehearsed = RehearsalPlan.of(large, new TimeEstimates(large), large.workload("w0"), Duration.ofHours(24), NOW, Loss.ofStores(Set.of("s0")), 16, store -> true);
      int bars = (int) rehearsed.members().stream().filter(m -> rehearsed.begin(m) != null).count();
      long g = System.nanoTime();
      System.out.printf(
          "round %d: prepared in %d ms; one loss median %.0f ms, slowest %.0f ms (%d lost in all); all singles and pairs %d ms (%d ranks); of all stores but four, %d lost, %d remedies tried in %d ms; plan of 500 members %d ms (%d s), what to speed up %d ms (%d); rehearsal of 500 members planned in %d ms (%d bars)%n",
          round, (b - a) / 1_000_000, each[STORES / 2] / 1e6, each[STORES - 1] / 1e6, lost, (d - c) / 1_000_000, ranks, taken, remedies, (remedyTo - remedyFrom) / 1_000_000, (e - remedyTo) / 1_000_000, total / 1000, (f - e) / 1_000_000, ups, (g - f) / 1_000_000, bars);
    }
  }

  static Facts facts(int workloadCount, int members) {
    Random random = new Random(13);
    List<Workload> workloads = new ArrayList<>();
    List<Resource> resources = new ArrayList<>();
    List<RecoveryPoint> points = new ArrayList<>();
    List<Copy> copies = new ArrayList<>();
    for (int w = 0; w < workloadCount; w++) {
      List<String> needs = w % 10 == 9 ? List.of("w" + (w - 9)) : List.of();
      workloads.add(new Workload("w" + w, "W" + w, "Owner", 1 + w % 4, needs, null, null, null, null, null));
      for (int m = 0; m < members; m++) {
        String key = "r" + w + "-" + m;
        List<String> before = m > 0 && random.nextInt(3) > 0 ? List.of("r" + w + "-" + random.nextInt(m)) : List.of();
        resources.add(new Resource(key, key, Kind.FILE_SHARE, new Resource.Links("w" + w, null, before), new Resource.Place("A", "n", "production"),
            new Resource.Volume(null, null), new Resource.Seen(NOW.minus(Duration.ofDays(100)), null, null, null), new Resource.Credentials(null, null), Map.of(), List.of(), "f"));
        int first = random.nextInt(STORES);
        for (int p = 30; p >= 0; p--) {
          Instant data = NOW.minus(Duration.ofHours(24L * p + 1));
          boolean full = p % 7 == 2 || p == 30;
          points.add(new RecoveryPoint(key + "-" + p, key, "p", full ? Form.FULL : Form.INCREMENTAL, full ? null : key + "-" + (p + 1), new RecoveryPoint.Times(data, data, data.plusSeconds(1200)),
              PointOutcome.COMPLETE, new RecoveryPoint.Taken(Consistency.FILE, null, null), new RecoveryPoint.Content(5_000_000_000L, true, 0L), "f"));
          for (int s = 0; s < (p == 0 ? 2 : 3); s++) {
            copies.add(new Copy(key + "-" + p, "s" + (first + s * 7) % STORES, data.plusSeconds(1500), CopyState.PRESENT, null, null, new Copy.Artifact("tar.gz", "x", null, null),
                new Copy.ReadBack(null, null), data, "f"));
          }
        }
      }
    }
    List<Store> stores = new ArrayList<>();
    for (int s = 0; s < STORES; s++) {
      stores.add(new Store("s" + s, "S" + s, "site" + s % 6, "region" + s % 3, Medium.DISK, s % 5 == 0 ? "array" : null, true, null, null, 500_000_000L, "/" + s, null));
    }
    Policy policy = new Policy("p", "Daily", Selector.EVERYTHING, hardproof.core.schedule.Schedule.every(Duration.ofHours(24)), new Policy.JobWindow(null, null),
        new hardproof.core.retention.Retention(31, null, null, null, null), null, null, null, List.of(), null, List.of());
    return new Facts(List.of(), workloads, resources, stores, List.of(policy), points, copies, List.of(), List.of(), List.of());
  }
}
