package hardproof.core.order;

import hardproof.core.order.RecoverySchedule.Limits;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * One change that would have a workload back sooner, found by trying it.
 *
 * @param kind of the change
 * @param what it is a change of: the key of a resource or of a store; empty for how many go on at once
 * @param saved milliseconds
 * @param total milliseconds until all would be back
 * @param path keys of the members that would set the time then
 */
public record SpeedUp(Kind kind, String what, long saved, long total, List<String> path) {
  private static final double HALF = 0.5;

  /** What saves less of the whole than this is not worth a line. */
  private static final double WORTH = 0.01;

  private static final int TRIED = 12;

  /** What is changed. */
  public enum Kind implements hardproof.core.wording.Coded {
    /** One member in half the time. */
    MEMBER,
    /** A store that reads twice as fast, for all that read from it. */
    STORE,
    /** One more at once. */
    MORE_AT_ONCE
  }

  /**
   * Those that save more than a hundredth, of the longest members that set the time and the stores these are read from; what saves most first; of two that save as much the smaller change, by kind and key.
   *
   * @param limits that hold now
   */
  public static List<SpeedUp> of(RecoveryOrder order, Limits limits) {
    RecoverySchedule now = RecoverySchedule.of(order.steps(), limits);
    List<SpeedUp> found = new ArrayList<>();
    List<String> path = members(order.steps(), now);
    for (String key : longest(order.steps(), path)) {
      found.add(tried(Kind.MEMBER, key, order.steps(Map.of(key, HALF)), limits, now));
    }
    for (String store : stores(order, path)) {
      Map<String, Double> faster = new HashMap<>();
      order.members().stream()
          .filter(m -> store.equals(m.store()))
          .forEach(m -> faster.put(m.resource().key(), HALF));
      Map<String, Double> rates = new HashMap<>(limits.rates());
      rates.computeIfPresent(store, (k, r) -> r / HALF);
      found.add(
          tried(Kind.STORE, store, order.steps(faster), new Limits(limits.atOnce(), rates), now));
    }
    if (limits.atOnce() < Integer.MAX_VALUE) {
      Limits more = new Limits(limits.atOnce() + 1, limits.rates());
      found.add(tried(Kind.MORE_AT_ONCE, "", order.steps(), more, now));
    }
    return found.stream()
        .filter(s -> s.saved() > WORTH * now.total())
        .sorted(Comparator.comparingLong((SpeedUp s) -> -s.saved())
            .thenComparing(SpeedUp::kind)
            .thenComparing(SpeedUp::what))
        .toList();
  }

  /** Only what sets the time can shorten it. */
  private static List<String> members(RecoverySteps steps, RecoverySchedule now) {
    return now.path().stream()
        .filter(p -> steps.step(p).millis() > 0)
        .map(p -> steps.step(p).key())
        .toList();
  }

  /** A workload of hundreds has a path of dozens: the short ones of it can save little. */
  private static List<String> longest(RecoverySteps steps, List<String> path) {
    return path.stream()
        .sorted(Comparator.comparingLong(k -> -steps.step(steps.place(k)).millis()))
        .limit(TRIED)
        .toList();
  }

  private static List<String> stores(RecoveryOrder order, List<String> path) {
    return path.stream()
        .map(order::member)
        .filter(m -> m != null && m.estimate() != null)
        .map(RecoveryMember::store)
        .distinct()
        .sorted()
        .toList();
  }

  private static SpeedUp tried(
      Kind kind, String what, RecoverySteps steps, Limits limits, RecoverySchedule now) {
    RecoverySchedule then = RecoverySchedule.of(steps, limits);
    List<String> path = members(steps, then);
    return new SpeedUp(kind, what, now.total() - then.total(), then.total(), path);
  }
}
