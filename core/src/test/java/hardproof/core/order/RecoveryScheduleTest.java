package hardproof.core.order;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import hardproof.core.order.RecoverySchedule.Bar;
import hardproof.core.order.RecoverySchedule.Limits;
import hardproof.core.order.RecoverySteps.Step;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RecoveryScheduleTest {
  /**
   * R. L. Graham, "Bounds on Multiprocessing Timing Anomalies", 1969 (from memory): nine tasks of 3 2 2 2 4 4 4 4 9 in
   * this order, the first before the last and the fourth before the four of 4. On three processors they take 12; on four
   * 15; each one shorter 13; with two of the needs less 16.
   */
  @ParameterizedTest
  @CsvSource({"3, 0, 7, 12", "4, 0, 7, 15", "3, 1, 7, 13", "3, 0, 5, 16"})
  void grahamsTasksTakeAsLongAsHeSaid(int atOnce, int shorter, int firstFree, long total) {
    long[] times = {3, 2, 2, 2, 4, 4, 4, 4, 9};
    List<Step> steps = new ArrayList<>();
    for (int i = 0; i < times.length; i++) {
      boolean afterFourth = i >= 4 && i <= 7 && (firstFree == 7 || i > firstFree);
      List<String> needs = afterFourth ? List.of("T4") : i == 8 ? List.of("T1") : List.of();
      steps.add(new Step("T" + (i + 1), times[i] - shorter, null, 0, i, true, needs));
    }
    RecoverySchedule schedule =
        RecoverySchedule.of(new RecoverySteps(steps), new Limits(atOnce, Map.of()));
    assertThat(schedule.total()).isEqualTo(total);
    assertEachBeginsWhenTheOneBeforeEnds(schedule);
  }

  private static void assertEachBeginsWhenTheOneBeforeEnds(RecoverySchedule schedule) {
    List<Integer> path = schedule.path();
    for (int i = 0; i < path.size(); i++) {
      Bar bar = schedule.bar(path.get(i));
      assertThat(bar.begin())
          .isEqualTo(i == 0 ? 0 : schedule.bar(path.get(i - 1)).end());
    }
    assertThat(schedule.bar(path.get(path.size() - 1)).end()).isEqualTo(schedule.total());
  }

  /** By hand: 10 s and 20 s, each asking for all that the store gives; half the speed until the first is done at 20 s. */
  @Test
  void whoReadsFromOneStoreSharesWhatItReads() {
    RecoverySteps steps = new RecoverySteps(List.of(
        new Step("a", 10_000, "near", 100, 0, true, List.of()),
        new Step("b", 20_000, "near", 100, 0, true, List.of()),
        new Step("c", 15_000, "far", 100, 0, true, List.of())));
    Limits limits = new Limits(Integer.MAX_VALUE, Map.of("near", 100.0));
    RecoverySchedule schedule = RecoverySchedule.of(steps, limits);
    assertThat(schedule.bar(0).end()).isEqualTo(20_000);
    assertThat(schedule.bar(1).end()).isEqualTo(30_000);
    assertThat(schedule.bar(2).end()).isEqualTo(15_000);
    // What it gives is enough for both, at the limit and above.
    for (double rate : new double[] {200, 201}) {
      RecoverySchedule wide =
          RecoverySchedule.of(steps, new Limits(Integer.MAX_VALUE, Map.of("near", rate)));
      assertThat(wide.bar(1).end()).isEqualTo(20_000);
    }
    RecoverySchedule one = RecoverySchedule.of(steps, new Limits(1, Map.of("near", 100.0)));
    assertThat(one.total()).isEqualTo(45_000);
    assertThat(one.bar(0)).isEqualTo(new Bar(0, 35_000, 45_000, 2, true));
  }

  @Test
  void limitsThatAreNoneAreRefused() {
    assertThatThrownBy(() -> new Limits(0, Map.of())).hasMessageContaining("at least one");
    assertThatThrownBy(() -> new Limits(1, Map.of("s", 0.0))).hasMessageContaining("above nothing");
    assertThatThrownBy(() -> new Limits(1, Map.of("s", Double.NaN)))
        .hasMessageContaining("above nothing");
  }

  /** Against a simulation that goes from event to event with what is left of each, and knows no progress of stores. */
  @Test
  void itIsWhatASimulationGives() {
    Random random = new Random(29);
    for (int round = 0; round < 300; round++) {
      List<Step> some = new ArrayList<>();
      for (int i = 0; i < 25; i++) {
        List<String> needs = new ArrayList<>();
        for (int j = Math.max(0, i - 6); j < i; j++) {
          if (random.nextInt(5) == 0) {
            needs.add("s" + j);
          }
        }
        some.add(new Step(
            "s" + i,
            random.nextInt(8) == 0 ? 0 : 1 + random.nextInt(1_000_000),
            random.nextInt(6) == 0 ? null : "store" + random.nextInt(3),
            1 + random.nextInt(200),
            random.nextInt(3),
            true,
            needs));
      }
      int atOnce = 1 + random.nextInt(8);
      Limits limits = new Limits(atOnce, Map.of("store0", 90.0, "store1", 250.0));
      RecoverySteps steps = new RecoverySteps(some);
      RecoverySchedule schedule = RecoverySchedule.of(steps, limits);
      double[] ends = simulated(steps, limits);
      for (int i = 0; i < ends.length; i++) {
        assertThat((double) schedule.bar(i).end())
            .as("round %d, step %d", round, i)
            .isCloseTo(ends[i], within(2.0));
      }
    }
  }

  private static double[] simulated(RecoverySteps steps, Limits limits) {
    CriticalPath path = CriticalPath.of(steps);
    int n = steps.size();
    double[] left = new double[n];
    double[] end = new double[n];
    boolean[] begun = new boolean[n];
    boolean[] done = new boolean[n];
    for (int i = 0; i < n; i++) {
      left[i] = steps.step(i).millis();
    }
    double now = 0;
    while (true) {
      while (begin(steps, limits, path, begun, done)) {
        for (int i = 0; i < n; i++) {
          if (begun[i] && !done[i] && steps.step(i).millis() == 0) {
            done[i] = true;
            end[i] = now;
          }
        }
      }
      Map<String, Double> asked = new HashMap<>();
      for (int i = 0; i < n; i++) {
        if (begun[i] && !done[i] && steps.step(i).store() != null) {
          asked.merge(steps.step(i).store(), steps.step(i).rate(), Double::sum);
        }
      }
      double in = Double.POSITIVE_INFINITY;
      double[] speed = new double[n];
      for (int i = 0; i < n; i++) {
        String store = steps.step(i).store();
        Double most = store == null ? null : limits.rates().get(store);
        speed[i] =
            most == null || !asked.containsKey(store) ? 1 : Math.min(1, most / asked.get(store));
        if (begun[i] && !done[i]) {
          in = Math.min(in, left[i] / speed[i]);
        }
      }
      if (in == Double.POSITIVE_INFINITY) {
        return end;
      }
      now += in;
      for (int i = 0; i < n; i++) {
        if (begun[i] && !done[i]) {
          left[i] -= in * speed[i];
          if (left[i] < 1e-6) {
            done[i] = true;
            end[i] = now;
          }
        }
      }
    }
  }

  /** Begins one more; false where none can. */
  private static boolean begin(
      RecoverySteps steps, Limits limits, CriticalPath path, boolean[] begun, boolean[] done) {
    int going = 0;
    int best = -1;
    for (int i = 0; i < begun.length; i++) {
      going += begun[i] && !done[i] ? 1 : 0;
    }
    for (int i = 0; i < begun.length; i++) {
      boolean free = steps.step(i).millis() == 0 || going < limits.atOnce();
      boolean can = !begun[i] && free;
      for (String need : steps.step(i).needs()) {
        can &= done[Integer.parseInt(need.substring(1))];
      }
      if (can && (best < 0 || before(steps, path, i, best))) {
        best = i;
      }
    }
    if (best >= 0) {
      begun[best] = true;
    }
    return best >= 0;
  }

  private static boolean before(RecoverySteps steps, CriticalPath path, int a, int b) {
    boolean zeroA = steps.step(a).millis() == 0;
    boolean zeroB = steps.step(b).millis() == 0;
    if (zeroA != zeroB) {
      return zeroA;
    }
    if (steps.step(a).rank() != steps.step(b).rank()) {
      return steps.step(a).rank() < steps.step(b).rank();
    }
    return path.tail(a) > path.tail(b);
  }
}
