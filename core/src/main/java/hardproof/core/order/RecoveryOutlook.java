package hardproof.core.order;

import hardproof.core.order.RecoverySchedule.Bar;
import hardproof.core.order.RecoverySchedule.Limits;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * How soon a workload would be back, what sets the time, what would have it back sooner, and what can't come back at all.
 *
 * @param order of its members
 * @param schedule with the usual time of each
 * @param slowTotal milliseconds if each takes as long as it does at most in 19 of 20
 * @param path keys of the members that set the time, first to last
 * @param never why a member can't come back, by its key
 * @param limits what stands in the way of all at once
 * @param rto the objective
 */
public record RecoveryOutlook(
    RecoveryOrder order,
    RecoverySteps steps,
    RecoverySchedule schedule,
    long slowTotal,
    List<String> path,
    Map<String, String> never,
    Limits limits,
    Duration rto) {
  private static final int NAMED = 3;

  public static RecoveryOutlook of(RecoveryOrder order, Limits limits, Duration rto) {
    RecoverySteps steps = order.steps();
    RecoverySchedule schedule = RecoverySchedule.of(steps, limits);
    List<String> path = schedule.path().stream()
        .map(p -> steps.step(p).key())
        .filter(RecoverySteps::isMember)
        .toList();
    return new RecoveryOutlook(
        order,
        steps,
        schedule,
        RecoverySchedule.of(order.slowSteps(), limits).total(),
        path,
        never(order, steps),
        limits,
        rto);
  }

  private static Map<String, String> never(RecoveryOrder order, RecoverySteps steps) {
    Map<String, String> why = new LinkedHashMap<>();
    Set<String> circled = new HashSet<>();
    steps.circles().forEach(circled::addAll);
    for (String key : steps.never()) {
      RecoveryMember member = order.member(key);
      if (member == null) {
        continue;
      }
      why.put(
          key,
          member.point() == null
              ? "it has no usable point"
              : circled.contains(key)
                  ? "it needs what needs it"
                  : "it needs what can't be brought back");
    }
    return why;
  }

  /** Milliseconds until all is back; what takes a time that is not known counts as none. */
  public long total() {
    return schedule.total();
  }

  /** What saves most first; tries each thing that could be better, so it takes longest of all here. */
  public List<SpeedUp> speedUps() {
    return SpeedUp.of(order, limits);
  }

  /** Members whose time is not known. */
  public List<RecoveryMember> notTimed() {
    return order.members().stream().filter(RecoveryMember::timeNotKnown).toList();
  }

  /** For people: whether and when it is back, beside what is allowed, and what sets the time. */
  public String sentence() {
    if (order.members().isEmpty()) {
      return "nothing is known to belong to it";
    }
    if (!never.isEmpty()) {
      return "it can't come back whole: " + cause();
    }
    Duration usual = Duration.ofMillis(total());
    List<RecoveryMember> open = notTimed();
    if (!open.isEmpty()) {
      String least = usual.isZero() ? "" : "it takes at least " + Wording.duration(usual) + "; ";
      boolean over = usual.compareTo(rto) > 0;
      return least + "how long "
          + names(open.stream().map(m -> m.resource().name()).toList())
          + (open.size() == 1 ? " takes" : " take") + " is not known"
          + (over ? ", and that is over the RTO of " + Wording.duration(rto) + " already" : "");
    }
    return "back in about " + Wording.duration(usual) + ", " + beside(usual) + slow(usual)
        + setBy();
  }

  private String beside(Duration usual) {
    Duration over = usual.minus(rto);
    boolean inside = over.isNegative() || over.isZero();
    return Wording.duration(over.abs()) + (inside ? " inside" : " over") + " the RTO of "
        + Wording.duration(rto);
  }

  private String slow(Duration usual) {
    Duration slow = Duration.ofMillis(slowTotal);
    if (Wording.duration(slow).equals(Wording.duration(usual))) {
      return "";
    }
    boolean turns = usual.compareTo(rto) <= 0 && slow.compareTo(rto) > 0;
    return "; " + Wording.duration(slow) + " where each is as slow as it is at most in 19 of 20"
        + (turns ? ", which is over it" : "");
  }

  private String setBy() {
    long longest = 0;
    String most = null;
    for (String key : path) {
      Bar bar = bar(key);
      if (bar.end() - bar.begin() > longest) {
        longest = bar.end() - bar.begin();
        most = key;
      }
    }
    return most == null || order.members().size() == 1
        ? ""
        : "; " + name(most) + " sets the time: " + Wording.duration(Duration.ofMillis(longest))
            + " of it";
  }

  /** When a member comes back; null where it can't. */
  public @Nullable Bar bar(String key) {
    return schedule.bar(steps.place(key));
  }

  private String cause() {
    List<List<String>> circles = order.circles(steps);
    if (!circles.isEmpty()) {
      return names(circles.get(0).stream().map(this::name).toList())
          + " need each other, and neither can be up first";
    }
    List<String> lost = order.lost().stream().map(m -> m.resource().name()).toList();
    return names(lost) + (lost.size() == 1 ? " has" : " have") + " no usable point";
  }

  private String name(String key) {
    RecoveryMember member = order.member(key);
    return member == null ? key : member.resource().name();
  }

  private static String names(List<String> all) {
    if (all.size() == 1) {
      return all.get(0);
    }
    if (all.size() > NAMED) {
      return String.join(", ", all.subList(0, NAMED - 1)) + " and " + (all.size() - NAMED + 1)
          + " more";
    }
    List<String> some = new ArrayList<>(all.subList(0, all.size() - 1));
    return String.join(", ", some) + " and " + all.get(all.size() - 1);
  }

  /** For people: what would be changed, and what it would save. */
  public String words(SpeedUp change) {
    String what = switch (change.kind()) {
      case MEMBER -> name(change.what()) + " back in half the time";
      case STORE -> order.storeName(change.what()) + " read twice as fast";
      case MORE_AT_ONCE -> "one more at once";
    };
    boolean moves = !change.path().equals(timed(path));
    return what + ": " + Wording.duration(Duration.ofMillis(change.saved())) + " sooner, "
        + Wording.duration(Duration.ofMillis(change.total())) + " in all"
        + (moves && !change.path().isEmpty()
            ? "; then the time is set by "
                + names(change.path().stream().map(this::name).toList())
            : "");
  }

  private List<String> timed(List<String> keys) {
    return keys.stream().filter(k -> bar(k).end() > bar(k).begin()).toList();
  }
}
