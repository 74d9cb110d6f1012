package hardproof.server.rehearsals;

import hardproof.core.drills.ChecksState;
import hardproof.core.facts.Estate;
import hardproof.core.programmes.Capacity;
import hardproof.core.rehearsals.MemberState;
import hardproof.core.rehearsals.Progress;
import hardproof.proving.drills.DrillPlan;
import hardproof.proving.drills.DrillRequest;
import hardproof.proving.drills.UpMembers;
import hardproof.server.drills.DrillOrders;
import hardproof.server.drills.RunQueue;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunNeeds;
import hardproof.server.runs.RunOrder;
import hardproof.server.runs.RunStore;
import hardproof.server.storage.Database;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Conducts rehearsals, one after another: each member's drill begins when all that it needs is up, and what is up stays
 * up until the end. Whatever is decided is written down before it happens; what is up lives in this process alone, so
 * that a rehearsal that has lost its process is over.
 */
final class RehearsalConductor {
  private static final Logger LOG = LoggerFactory.getLogger(RehearsalConductor.class);
  private static final String STOPPED = "interrupted: the application stopped while it went on";

  private final Database database;
  private final RehearsalStore store;
  private final RunStore runs;
  private final RunQueue queue;
  private final RehearsalOrders orders;
  private final RehearsalEnding ending;
  private final Supplier<Estate> estate;
  private final Supplier<Capacity> capacity;
  private final Clock clock;
  private final Consumer<String> changed;

  /** What is up, by the rehearsal; of those that this process conducts. */
  private final Map<String, UpMembers> up = new ConcurrentHashMap<>();

  /** Since when nothing more is to come, by the rehearsal: from then on all stay up together for as long as was asked. */
  private final Map<String, Instant> settled = new ConcurrentHashMap<>();

  /**
   * @param changed is told the id of every rehearsal that changed
   */
  RehearsalConductor(
      Database database,
      RehearsalStore store,
      RunStore runs,
      RunQueue queue,
      RehearsalOrders orders,
      RehearsalEnding ending,
      Supplier<Estate> estate,
      Supplier<Capacity> capacity,
      Clock clock,
      Consumer<String> changed) {
    this.database = database;
    this.store = store;
    this.runs = runs;
    this.queue = queue;
    this.orders = orders;
    this.ending = ending;
    this.estate = estate;
    this.capacity = capacity;
    this.clock = clock;
    this.changed = changed;
  }

  /** Ends what an earlier process left under way; its runs have been ended before. */
  void recover() {
    for (Rehearsal rehearsal : store.underWay()) {
      if (rehearsal.times().startedAt() != null) {
        LOG.warn("rehearsal {} was under way when the application stopped", rehearsal.id());
        cut(rehearsal, STOPPED);
      }
    }
  }

  /** How many turns other drills leave to the rehearsal that is next. */
  int turnsKept() {
    return store.underWay().stream().findFirst().map(r -> r.order().atOnce()).orElse(0);
  }

  /** What a drill may ask, by its run; null where it is none of a rehearsal that goes on. */
  DrillRequest.@Nullable Beside beside(String run) {
    String id = runs.find(run).map(r -> r.order().rehearsal()).orElse(null);
    UpMembers members = id == null ? null : up.get(id);
    if (members == null) {
      return null;
    }
    Rehearsal rehearsal = store.find(id).orElseThrow();
    return rehearsal.members().stream()
        .filter(m -> run.equals(m.run()))
        .findFirst()
        .map(m -> RehearsalOrders.beside(rehearsal, m, members))
        .orElse(null);
  }

  /** Does all that can be done now for the rehearsal that is next. */
  synchronized void advance() {
    Optional<Rehearsal> next = store.underWay().stream().findFirst();
    if (next.isEmpty()) {
      return;
    }
    Rehearsal rehearsal = next.get();
    if (rehearsal.times().startedAt() == null) {
      if (!begin(rehearsal)) {
        return;
      }
      rehearsal = store.find(rehearsal.id()).orElseThrow();
    }
    UpMembers members = up.get(rehearsal.id());
    if (members == null) {
      cut(rehearsal, STOPPED);
      return;
    }
    go(rehearsal.id(), members);
  }

  /** Whether it has begun: it waits until other drills leave it its turns. */
  private boolean begin(Rehearsal rehearsal) {
    Instant now = clock.instant();
    Instant notAfter = rehearsal.times().notAfter();
    if (rehearsal.cancelAsked()) {
      cut(rehearsal, "cancelled before it began");
      return false;
    }
    if (notAfter != null && now.isAfter(notAfter)) {
      cut(rehearsal, "missed: there was no room for it before its start window was over");
      return false;
    }
    int others = queue.othersAtWork();
    int allowed = Math.max(1, capacity.get().atOnce()) - rehearsal.order().atOnce();
    if (others > Math.max(0, allowed)) {
      return false;
    }
    up.put(rehearsal.id(), new UpMembers());
    store.started(rehearsal.id(), now);
    changed.accept(rehearsal.id());
    return true;
  }

  private void go(String id, UpMembers members) {
    boolean more = true;
    while (more) {
      Rehearsal now = store.find(id).orElseThrow();
      more = settleEnded(now, members);
      if (now.cancelAsked()) {
        more |= cancelMembers(now);
      } else {
        more |= beginNext(now, members);
      }
      if (more) {
        changed.accept(id);
      }
    }
    Rehearsal now = store.find(id).orElseThrow();
    if (progress(now).settled() && stayedLongEnough(now)) {
      end(now, members);
    }
  }

  private Progress progress(Rehearsal rehearsal) {
    return new Progress(rehearsal.members().stream()
        .map(m -> m.asAt(
            m.state() == MemberState.RUNNING && runs.find(m.run()).orElseThrow().awaiting()
                ? MemberState.AWAITING
                : m.state()))
        .toList());
  }

  /** Writes down what became of members whose drills have ended. */
  private boolean settleEnded(Rehearsal rehearsal, UpMembers members) {
    boolean any = false;
    for (Rehearsal.Member member : rehearsal.members()) {
      Run run =
          member.state() == MemberState.RUNNING ? runs.find(member.run()).orElseThrow() : null;
      if (run != null && run.ended()) {
        ending.settle(rehearsal, member, run, members);
        any = true;
      }
    }
    return any;
  }

  private boolean cancelMembers(Rehearsal rehearsal) {
    boolean any = false;
    for (Rehearsal.Member member : rehearsal.members()) {
      if (member.state() == MemberState.WAITING) {
        store.settle(rehearsal.id(), member, MemberState.NOT_BEGUN, "the rehearsal was cancelled");
        any = true;
      } else if (member.state() == MemberState.RUNNING) {
        runs.askToCancel(member.run());
        queue.answer(
            member.run(), ChecksState.NOT_ASKED, "cancelled while an answer was waited for");
      }
    }
    return any;
  }

  private boolean beginNext(Rehearsal rehearsal, UpMembers members) {
    Progress progress = progress(rehearsal);
    Map<String, String> stopped = progress.stopped();
    List<String> with = progress.cameWith();
    List<String> next = progress.next(rehearsal.order().atOnce());
    for (Rehearsal.Member member : rehearsal.members()) {
      String key = member.resource();
      if (stopped.containsKey(key)) {
        store.settle(rehearsal.id(), member, MemberState.NOT_BEGUN, stopped.get(key));
      } else if (with.contains(key)) {
        store.settle(rehearsal.id(), member, MemberState.UP, "");
      } else if (next.contains(key)) {
        begin(rehearsal, member, members);
      }
    }
    return !stopped.isEmpty() || !with.isEmpty() || !next.isEmpty();
  }

  private void begin(Rehearsal rehearsal, Rehearsal.Member member, UpMembers members) {
    Estate facts = estate.get();
    try {
      RunOrder order = orders.order(facts, rehearsal, member, members);
      DrillPlan plan = orders.plan(facts, rehearsal, member, order, members);
      database.write(() -> {
        String run = runs.queue(
            order,
            plan.reaches(),
            RunNeeds.of(plan.readBytes(), plan.spaceBytes()),
            rehearsal.order().programme(),
            rehearsal.order().requestedBy(),
            clock.instant());
        store.begun(rehearsal.id(), member, run);
        return null;
      });
      queue.wake();
    } catch (DrillOrders.OrderRefused e) {
      // It could be when the plan was made: what was there then is gone.
      store.settle(rehearsal.id(), member, MemberState.NOT_JUDGED, e.getMessage());
    }
  }

  private boolean stayedLongEnough(Rehearsal rehearsal) {
    boolean anyUp = rehearsal.members().stream().anyMatch(m -> m.state() == MemberState.UP);
    if (rehearsal.cancelAsked() || !anyUp) {
      return true;
    }
    Instant since = settled.computeIfAbsent(rehearsal.id(), id -> clock.instant());
    return !clock.instant().isBefore(since.plus(rehearsal.order().stay()));
  }

  /** Looks once more whether all are up that came up, and writes down what it came to. */
  private void end(Rehearsal rehearsal, UpMembers members) {
    members
        .fallen()
        .forEach((key, fallen) -> rehearsal.members().stream()
            .filter(m -> m.resource().equals(key) && m.state() == MemberState.UP)
            .forEach(m -> store.settle(
                rehearsal.id(),
                m,
                fallen.judged() ? MemberState.FAILED : MemberState.NOT_JUDGED,
                fallen.why())));
    Rehearsal last = store.find(rehearsal.id()).orElseThrow();
    conclude(last, last.cancelAsked() ? "it was cancelled" : null);
  }

  /** Ends one before its end: what is under way of it is ended too. */
  private void cut(Rehearsal rehearsal, String why) {
    ending.settleAll(rehearsal, why);
    conclude(store.find(rehearsal.id()).orElseThrow(), why);
  }

  private void conclude(Rehearsal rehearsal, @Nullable String cut) {
    ending.writeDown(rehearsal, cut);
    settled.remove(rehearsal.id());
    UpMembers members = up.remove(rehearsal.id());
    if (members != null) {
      members.close();
    }
    if (rehearsal.order().hold().isZero()) {
      ending.cleanUp(rehearsal);
    }
    changed.accept(rehearsal.id());
  }

  /** Ends those that this process conducts, as what is up goes with it. */
  void letGo() {
    for (String id : List.copyOf(up.keySet())) {
      cut(store.find(id).orElseThrow(), STOPPED);
    }
  }
}
