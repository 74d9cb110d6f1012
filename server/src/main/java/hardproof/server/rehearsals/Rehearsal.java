package hardproof.server.rehearsals;

import hardproof.core.drills.Method;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.losses.Loss;
import hardproof.core.order.RecoveryMember;
import hardproof.core.rehearsals.MemberState;
import hardproof.core.rehearsals.Progress;
import hardproof.core.rehearsals.RehearsalPlan;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** A rehearsal as it is recorded. Null times have not come yet. */
public record Rehearsal(
    String id,
    Order order,
    Planned planned,
    Times times,
    boolean cancelAsked,
    @Nullable Result result,
    List<Member> members) {
  /**
   * What is asked for.
   *
   * @param moment every member comes back from its newest point at or before it
   * @param loss what is left out as if it were lost
   * @param lossWords the same for people; null where nothing is left out
   * @param stay how long all stay up together after the last check
   * @param hold how long what was restored is kept after the end
   * @param programme null where a person asked for it
   */
  public record Order(
      String workload,
      Instant moment,
      Loss loss,
      @Nullable String lossWords,
      int atOnce,
      Duration stay,
      Duration hold,
      String reason,
      String requestedBy,
      @Nullable String programme) {}

  /**
   * What was expected.
   *
   * @param total until all is back
   * @param spread between the oldest and the newest data that comes back; null where that is not known
   */
  public record Planned(
      Duration total, Duration rto, @Nullable Duration spread) {}

  /** When it went on; it is missed when it has not begun by {@code notAfter}. */
  public record Times(
      Instant queuedAt,
      @Nullable Instant notAfter,
      @Nullable Instant startedAt,
      @Nullable Instant endedAt) {}

  /**
   * What it came to.
   *
   * @param clock from its begin to the last check that passed, without the waiting for people
   * @param expected how long it would take for all there is; null where about all was read
   * @param path keys of the members that set the time
   */
  public record Result(
      RehearsalFact.Outcome outcome,
      Duration clock,
      @Nullable Duration expected,
      List<String> path,
      String sentence) {}

  /**
   * What it brings back.
   *
   * @param number in the order in which they are planned to begin
   * @param with key of the member whose image brings it back; null where it is brought back by itself
   * @param needs keys of the members that must be up before it
   * @param from null for one that comes with another
   * @param plannedBegin from the begin of all, as {@code plannedEnd}
   * @param run of its drill; null until that begins
   * @param sentence why it is not up; empty where nothing is to be said
   */
  public record Member(
      int number,
      String resource,
      String name,
      @Nullable String with,
      List<String> needs,
      @Nullable From from,
      Duration plannedBegin,
      Duration plannedEnd,
      @Nullable String run,
      MemberState state,
      String sentence) {
    /** The point and the copy it comes back from, and how; {@code estimate} of how long that takes, in words. */
    public record From(
        String point, String store, Method method, @Nullable String estimate) {}

    Progress.Member asAt(MemberState now) {
      return new Progress.Member(resource, name, with, needs, now);
    }
  }

  public boolean ended() {
    return times.endedAt() != null;
  }

  /** As the evaluation sees it; only for one that has ended. */
  RehearsalFact fact() {
    return new RehearsalFact(
        id,
        order.workload(),
        order.moment(),
        order.lossWords(),
        result.outcome(),
        times.startedAt() == null ? times.queuedAt() : times.startedAt(),
        times.endedAt(),
        result.clock(),
        result.expected(),
        members.stream()
            .map(m -> new RehearsalFact.Member(
                m.resource(), m.run(), m.run() == null ? null : m.from().store()))
            .toList(),
        result.sentence());
  }

  /** The rehearsal that is put into the queue. */
  static Rehearsal of(
      RehearsalOrders.Ready ready,
      RehearsalOrders.Wanted wanted,
      @Nullable String lossWords,
      String requestedBy,
      @Nullable String programme,
      @Nullable Instant notAfter,
      Instant now) {
    RehearsalPlan plan = ready.plan();
    List<Member> members = new ArrayList<>();
    for (RecoveryMember m : plan.members()) {
      members.add(member(ready, m, members.size()));
    }
    return new Rehearsal(
        UUID.randomUUID().toString(),
        new Order(
            plan.workload().key(),
            wanted.moment(),
            wanted.loss(),
            lossWords,
            wanted.atOnce(),
            wanted.stay(),
            wanted.hold(),
            wanted.reason(),
            requestedBy,
            programme),
        new Planned(
            Duration.ofMillis(plan.outlook().total()),
            plan.outlook().rto(),
            plan.spread().orElse(null)),
        new Times(now, notAfter, null, null),
        false,
        null,
        members);
  }

  private static Member member(RehearsalOrders.Ready ready, RecoveryMember m, int number) {
    RehearsalOrders.Member own = ready.members().get(m.resource().key());
    Set<String> needs = new LinkedHashSet<>(m.needs());
    if (!m.byItself()) {
      needs.add(m.with().key());
    }
    return new Member(
        number,
        m.resource().key(),
        m.resource().name(),
        m.byItself() ? null : m.with().key(),
        List.copyOf(needs),
        own == null
            ? null
            : new Member.From(
                own.order().point(),
                own.order().store(),
                own.order().method(),
                m.estimate() == null ? null : m.estimate().words()),
        Duration.ofMillis(ready.plan().begin(m)),
        Duration.ofMillis(ready.plan().end(m)),
        null,
        MemberState.WAITING,
        "");
  }
}
