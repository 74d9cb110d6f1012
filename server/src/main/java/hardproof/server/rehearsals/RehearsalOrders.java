package hardproof.server.rehearsals;

import hardproof.core.criteria.Standard;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.ladder.Rung;
import hardproof.core.losses.Loss;
import hardproof.core.order.RecoveryMember;
import hardproof.core.programmes.Capacity;
import hardproof.core.recovery.RestoreEstimate;
import hardproof.core.recovery.TimeEstimates;
import hardproof.core.rehearsals.RehearsalPlan;
import hardproof.core.wording.Wording;
import hardproof.proving.drills.DrillOptions;
import hardproof.proving.drills.DrillPlan;
import hardproof.proving.drills.DrillRequest;
import hardproof.proving.drills.UpMembers;
import hardproof.server.drills.DrillOrders;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunOrder;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What a rehearsal would bring back and take, and why it would be refused. Starts nothing. */
public final class RehearsalOrders {
  private final DrillOrders orders;

  public RehearsalOrders(DrillOrders orders) {
    this.orders = orders;
  }

  /**
   * A rehearsal that is thought of.
   *
   * @param members the orders of those that are brought back by themselves, by key
   * @param readBytes of all together, as {@code spaceBytes} in the sandbox
   * @param notes what a person should know before
   * @param refusal null when it can be started
   */
  public record Ready(
      RehearsalPlan plan,
      Map<String, Member> members,
      long readBytes,
      long spaceBytes,
      long freeBytes,
      List<String> notes,
      @Nullable String refusal) {}

  /** How a member would be drilled; {@code plan} null where it is refused before anything is looked at. */
  public record Member(RunOrder order, DrillPlan plan) {}

  /** What is asked for and does not follow from the workload. */
  public record Wanted(
      Instant moment, Loss loss, int atOnce, Duration stay, Duration hold, String reason) {}

  /** As long as a rehearsal takes, and a good deal longer. */
  static final Duration MEMBERS_HOLD = Duration.ofDays(30);

  Ready ready(
      Estate estate, Standard standard, Capacity capacity, Workload workload, Wanted wanted) {
    RehearsalPlan plan = RehearsalPlan.of(
        estate,
        new TimeEstimates(estate),
        workload,
        standard.demandOn(workload).rto(),
        wanted.moment(),
        wanted.loss(),
        wanted.atOnce(),
        key -> readable(estate, key));
    String refusal = plan.refusal();
    Map<String, Member> members = new LinkedHashMap<>();
    List<String> cant = new ArrayList<>();
    if (refusal == null) {
      for (RecoveryMember member : plan.members()) {
        if (member.byItself()) {
          add(estate, wanted, plan, member, members, cant);
        }
      }
      refusal = cant.isEmpty() ? null : String.join(" ", cant);
    }
    long read = members.values().stream().mapToLong(m -> m.plan().readBytes()).sum();
    long space = members.values().stream().mapToLong(m -> m.plan().spaceBytes()).sum();
    long free = free(members, capacity);
    if (refusal == null && space > free) {
      refusal = tooLarge(plan, members, space, free);
    }
    return new Ready(
        plan, members, read, space, free, notes(estate, plan, members, capacity), refusal);
  }

  /**
   * How long it takes for all there is, by what was measured last, where that is far more than was read; null where
   * about all was.
   *
   * @param runs of its members
   */
  @Nullable
  Duration expected(Estate estate, Rehearsal rehearsal, List<Run> runs) {
    boolean small = runs.stream()
        .anyMatch(r -> estate.resource(r.resource()) != null
            && r.bytes() > 0
            && RestoreEstimate.whole(estate.resource(r.resource()), r.bytes()) > r.bytes());
    Workload workload = estate.workload(rehearsal.order().workload());
    if (!small || workload == null) {
      return null;
    }
    RehearsalPlan plan = RehearsalPlan.of(
        estate,
        new TimeEstimates(estate),
        workload,
        rehearsal.planned().rto(),
        rehearsal.order().moment(),
        rehearsal.order().loss(),
        rehearsal.order().atOnce(),
        key -> readable(estate, key));
    return Duration.ofMillis(plan.outlook().total());
  }

  private boolean readable(Estate estate, String key) {
    Store store = estate.store(key);
    return store != null && orders.reachable(store);
  }

  private void add(
      Estate estate,
      Wanted wanted,
      RehearsalPlan plan,
      RecoveryMember member,
      Map<String, Member> members,
      List<String> cant) {
    RunOrder order = new RunOrder(
        member.resource().key(),
        member.point().key(),
        member.store(),
        null,
        null,
        wanted.reason(),
        MEMBERS_HOLD,
        DrillOptions.usual());
    try (UpMembers none = new UpMembers()) {
      DrillRequest.Beside beside = beside(estate, plan, member, none);
      RunOrder complete = orders.member(estate, order, beside);
      members.put(
          member.resource().key(), new Member(complete, orders.plan(estate, complete, beside)));
    } catch (DrillOrders.OrderRefused e) {
      cant.add(e.getMessage());
    }
  }

  private static DrillRequest.Beside beside(
      Estate estate, RehearsalPlan plan, RecoveryMember member, UpMembers up) {
    Map<String, String> needed = new LinkedHashMap<>();
    member.needs().stream()
        .filter(n -> plan.outlook().order().member(n) != null)
        .forEach(n -> needed.put(n, estate.resource(n).name()));
    return new DrillRequest.Beside(member.resource().name(), needed, up);
  }

  /** What is held would be removed for it; beyond what the capacity allows nothing is taken. */
  private long free(Map<String, Member> members, Capacity capacity) {
    long free =
        members.values().stream().mapToLong(m -> m.plan().freeBytes()).max().orElse(0);
    long space = members.values().stream().mapToLong(m -> m.plan().spaceBytes()).sum();
    if (space > free) {
      free += orders.heldBytes();
    }
    return capacity.sandboxBytes() == null ? free : Math.min(free, capacity.sandboxBytes());
  }

  private static String tooLarge(
      RehearsalPlan plan, Map<String, Member> members, long space, long free) {
    List<String> fits = new ArrayList<>();
    long taken = 0;
    for (RecoveryMember member : plan.members()) {
      Member one = members.get(member.resource().key());
      if (one != null && taken + one.plan().spaceBytes() <= free) {
        taken += one.plan().spaceBytes();
        fits.add(member.resource().name());
      } else if (one != null) {
        break;
      }
    }
    return "all members stay up until the end: together they need " + Wording.bytes(space)
        + " of the sandbox, which has " + Wording.bytes(free) + ", "
        + Wording.bytes(space - free) + " short. "
        + (fits.isEmpty()
            ? "Not even the first fits."
            : "In their order " + Wording.list(fits) + " would fit.")
        + " Free some, or drill the members one by one.";
  }

  private static List<String> notes(
      Estate estate, RehearsalPlan plan, Map<String, Member> members, Capacity capacity) {
    List<String> notes = new ArrayList<>();
    List<String> unasked = members.values().stream()
        .filter(m -> !m.plan().reaches().atLeast(shownByItself(estate, m.order().resource())))
        .map(m -> estate.resource(m.order().resource()).name())
        .toList();
    if (!unasked.isEmpty()) {
      notes.add("nothing shows " + Wording.list(unasked)
          + " running: without a check of what is restored, or by a weaker method, nobody knows whether it"
          + " is up, and the rehearsal can't pass");
    }
    members
        .values()
        .forEach(
            m -> m.plan().notes().stream().filter(n -> !notes.contains(n)).forEach(notes::add));
    if (plan.atOnce() > Math.max(1, capacity.atOnce())) {
      notes.add(plan.atOnce() + " at once are more than drills may otherwise be ("
          + Math.max(1, capacity.atOnce()) + "): no other begins until it has ended");
    }
    return notes;
  }

  /** As much as can be shown of a resource without its workload. */
  static Rung shownByItself(Estate estate, String resource) {
    return Rung.lower(Rung.RUNNING, estate.resource(resource).kind().highestRung());
  }

  /** What a member is drilled by when its turn comes: the checks that are kept by then. */
  RunOrder order(Estate estate, Rehearsal rehearsal, Rehearsal.Member member, UpMembers up) {
    RunOrder order = new RunOrder(
        member.resource(),
        member.from().point(),
        member.from().store(),
        null,
        null,
        rehearsal.order().reason(),
        MEMBERS_HOLD,
        DrillOptions.usual());
    return orders.member(estate, order, beside(rehearsal, member, up));
  }

  DrillPlan plan(
      Estate estate, Rehearsal rehearsal, Rehearsal.Member member, RunOrder order, UpMembers up) {
    return orders.plan(estate, order, beside(rehearsal, member, up));
  }

  /** What a member may ask. */
  static DrillRequest.Beside beside(Rehearsal rehearsal, Rehearsal.Member member, UpMembers up) {
    Map<String, String> needed = new LinkedHashMap<>();
    rehearsal.members().stream()
        .filter(m -> member.needs().contains(m.resource()))
        .forEach(m -> needed.put(m.resource(), m.name()));
    return new DrillRequest.Beside(member.name(), needed, up);
  }
}
