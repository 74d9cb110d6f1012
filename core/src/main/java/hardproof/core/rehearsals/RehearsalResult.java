package hardproof.core.rehearsals;

import hardproof.core.drills.RehearsalFact.Outcome;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What a rehearsal came to.
 *
 * @param clock from its begin to the last check that passed, without the waiting for people
 * @param expected how long it would take for all there is, where what was read was far less; null where it was about all
 * @param path keys of the members that set the time, first to last
 * @param sentence for people
 */
public record RehearsalResult(
    Outcome outcome,
    Duration clock,
    @Nullable Duration expected,
    List<String> path,
    String sentence) {
  private static final int NAMED = 3;

  /**
   * A member at the end.
   *
   * @param work null where it never began, or came with another
   * @param shown whether it was shown as far as its kind can be; where nothing was asked of it, nobody knows whether it is up
   * @param why it is not up; null where it is
   */
  public record Ended(
      Progress.Member member,
      RehearsalClock.@Nullable Work work,
      boolean shown,
      @Nullable String why) {}

  /**
   * @param cut why it was ended before its end; null where it was not
   * @param expected as above
   * @param rto the objective
   */
  public static RehearsalResult of(
      Instant begin,
      List<Ended> members,
      @Nullable String cut,
      @Nullable Duration expected,
      Duration rto) {
    List<RehearsalClock.Work> works =
        members.stream().map(Ended::work).filter(Objects::nonNull).toList();
    Duration clock = RehearsalClock.of(begin, works);
    List<String> path = path(members);
    List<Ended> failed = in(members, MemberState.FAILED);
    List<Ended> open = new ArrayList<>(in(members, MemberState.NOT_JUDGED));
    List<Ended> unasked =
        in(members, MemberState.UP).stream().filter(e -> !e.shown()).toList();
    int waiting = in(members, MemberState.NOT_BEGUN).size();
    String stopped = waiting == 0
        ? ""
        : "; "
            + Wording.count(
                waiting, "member that needs it", "members that wait for it, or for one of these,")
            + " never began";
    if (!failed.isEmpty()) {
      return new RehearsalResult(
          Outcome.FAILED,
          clock,
          expected,
          path,
          why(failed) + stopped + "; " + upOf(members) + (cut == null ? "" : "; " + cut));
    }
    if (cut != null || !open.isEmpty() || waiting > 0) {
      return new RehearsalResult(
          Outcome.INTERRUPTED,
          clock,
          expected,
          path,
          (cut != null ? cut : why(open) + stopped) + "; " + upOf(members)
              + "; it says nothing about the data");
    }
    if (!unasked.isEmpty()) {
      return new RehearsalResult(
          Outcome.INTERRUPTED,
          clock,
          expected,
          path,
          "all came back, but nothing was asked of " + names(unasked)
              + ", so whether it is up is not known: give it a check");
    }
    return new RehearsalResult(
        Outcome.PASSED, clock, expected, path, passed(members, clock, expected, path, rto));
  }

  private static List<Ended> in(List<Ended> members, MemberState state) {
    return members.stream().filter(e -> e.member().state() == state).toList();
  }

  private static String passed(
      List<Ended> members,
      Duration clock,
      @Nullable Duration expected,
      List<String> path,
      Duration rto) {
    Duration over = clock.minus(rto);
    boolean inside = over.isNegative() || over.isZero();
    String all = members.size() == 1
        ? members.get(0).member().name() + " was back in "
        : "all " + members.size() + " members were back in their order in ";
    return all + Wording.duration(clock) + ", "
        + Wording.duration(over.abs()) + (inside ? " inside" : " over") + " the RTO of "
        + Wording.duration(rto) + whole(clock, expected, rto) + setBy(members, path);
  }

  /** What it comes to for all there is; empty where about all was read. */
  private static String whole(Duration clock, @Nullable Duration expected, Duration rto) {
    if (expected == null || expected.compareTo(clock) <= 0) {
      return "";
    }
    Duration over = expected.minus(rto);
    boolean inside = over.isNegative() || over.isZero();
    return "; far less was read than there is: for all of it about " + Wording.duration(expected)
        + " is expected, " + Wording.duration(over.abs()) + (inside ? " inside" : " over");
  }

  private static String setBy(List<Ended> members, List<String> path) {
    if (members.size() == 1) {
      return "";
    }
    return members.stream()
        .filter(e -> path.contains(e.member().key()) && e.work() != null)
        .max(Comparator.comparing(e -> took(e.work())))
        .map(e -> "; " + e.member().name() + " set the time: " + Wording.duration(took(e.work()))
            + " of it")
        .orElse("");
  }

  private static Duration took(RehearsalClock.Work work) {
    return Duration.between(work.begun(), work.worked());
  }

  private static String why(List<Ended> bad) {
    Ended first = bad.get(0);
    String more = bad.size() == 1
        ? ""
        : "; and " + (bad.size() - 1) + " more: " + names(bad.subList(1, bad.size()));
    return first.member().name() + ": " + first.why() + more;
  }

  private static String upOf(List<Ended> members) {
    return in(members, MemberState.UP).size() + " of "
        + Wording.count(members.size(), "member", "members") + " came up";
  }

  private static String names(List<Ended> some) {
    List<String> names = some.stream().map(e -> e.member().name()).toList();
    return names.size() <= NAMED
        ? Wording.list(names)
        : String.join(", ", names.subList(0, NAMED)) + " and " + (names.size() - NAMED) + " more";
  }

  /** From the last to end back to the need that ended last, and so on; what waited for room leads to nothing. */
  private static List<String> path(List<Ended> members) {
    Map<String, Ended> byKey = new HashMap<>();
    members.forEach(e -> byKey.put(e.member().key(), e));
    List<String> path = new ArrayList<>();
    Ended at = members.stream()
        .filter(e -> e.work() != null)
        .max(Comparator.comparing(e -> e.work().worked()))
        .orElse(null);
    while (at != null && !path.contains(at.member().key())) {
      path.add(0, at.member().key());
      at = at.member().needs().stream()
          .map(byKey::get)
          .filter(e -> e != null && e.work() != null)
          .max(Comparator.comparing(e -> e.work().worked()))
          .orElse(null);
    }
    return path;
  }
}
