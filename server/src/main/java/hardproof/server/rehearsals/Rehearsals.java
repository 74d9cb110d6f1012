package hardproof.server.rehearsals;

import hardproof.core.criteria.Standard;
import hardproof.core.drills.CleanupState;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.programmes.Capacity;
import hardproof.core.rehearsals.MemberState;
import hardproof.core.rehearsals.Progress;
import hardproof.core.rehearsals.RehearsalClock;
import hardproof.core.rehearsals.RehearsalResult;
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
import hardproof.server.web.Refused;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
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
public final class Rehearsals implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(Rehearsals.class);
  private static final long LOOK_SECONDS = 1;

  private final Database database;
  private final RehearsalStore store;
  private final RunStore runs;
  private final RunQueue queue;
  private final RehearsalOrders orders;
  private final Supplier<Estate> estate;
  private final Supplier<Capacity> capacity;
  private final Clock clock;
  private final CopyOnWriteArrayList<Consumer<String>> listeners = new CopyOnWriteArrayList<>();

  /** What is up, by the rehearsal; of those that this process conducts. */
  private final Map<String, UpMembers> up = new ConcurrentHashMap<>();

  /** Since when nothing more is to come, by the rehearsal: from then on all stay up together for as long as was asked. */
  private final Map<String, Instant> settled = new ConcurrentHashMap<>();

  /** Whether this process conducts; another may hold the data folder. */
  private volatile boolean conducting;

  private final AtomicBoolean due = new AtomicBoolean();
  private final ScheduledExecutorService conductor =
      Executors.newSingleThreadScheduledExecutor(r -> {
        Thread thread = new Thread(r, "rehearsals");
        thread.setDaemon(true);
        return thread;
      });

  public Rehearsals(
      Database database,
      RehearsalStore store,
      RunStore runs,
      RunQueue queue,
      RehearsalOrders orders,
      Supplier<Estate> estate,
      Supplier<Capacity> capacity,
      Clock clock) {
    this.database = database;
    this.store = store;
    this.runs = runs;
    this.queue = queue;
    this.orders = orders;
    this.estate = estate;
    this.capacity = capacity;
    this.clock = clock;
    queue.rehearsedBy(this::beside, this::turnsKept);
  }

  /** Tells {@code listener} the id of every rehearsal that changed. */
  public void onChange(Consumer<String> listener) {
    listeners.add(listener);
  }

  private void changed(String id) {
    for (Consumer<String> listener : listeners) {
      try {
        listener.accept(id);
      } catch (RuntimeException e) {
        // A screen that can't be told must not end a rehearsal.
        LOG.warn("a listener of rehearsal {} failed", id, e);
      }
    }
  }

  /** What an order would bring back and take. */
  public RehearsalOrders.Ready plan(
      Estate facts, Standard standard, Workload workload, RehearsalOrders.Wanted wanted) {
    return orders.ready(facts, standard, capacity.get(), workload, wanted);
  }

  /**
   * Puts a rehearsal into the queue.
   *
   * @throws Refused when it can't be started, or one of the workload is under way
   */
  public String order(
      RehearsalOrders.Ready ready,
      RehearsalOrders.Wanted wanted,
      @Nullable String lossWords,
      String requestedBy,
      @Nullable String programme,
      @Nullable Instant notAfter) {
    if (ready.refusal() != null) {
      throw new Refused(ready.refusal());
    }
    Rehearsal rehearsal = RehearsalOrders.rehearsal(
        ready, wanted, lossWords, requestedBy, programme, notAfter, clock.instant());
    database.write(() -> {
      String workload = ready.plan().workload().key();
      if (underWay(workload)) {
        throw new Refused("A rehearsal of " + ready.plan().workload().name()
            + " waits or goes on already. Wait for its end, or cancel it.");
      }
      store.queue(rehearsal);
      return null;
    });
    changed(rehearsal.id());
    wake();
    return rehearsal.id();
  }

  /** Whether one of a workload waits or goes on. */
  boolean underWay(String workload) {
    return store.underWay().stream().anyMatch(r -> r.order().workload().equals(workload));
  }

  /**
   * Asks one to end.
   *
   * @return false when it has ended already or does not exist
   */
  public boolean cancel(String id) {
    boolean asked = store.askToCancel(id);
    if (asked) {
      wake();
    }
    return asked;
  }

  /** Begins to conduct; only the holder of the data folder may. */
  public void start() {
    conducting = true;
    conductor.scheduleWithFixedDelay(this::look, 0, LOOK_SECONDS, TimeUnit.SECONDS);
    queue.onChange(run -> wake());
  }

  /** Something may have changed. */
  private void wake() {
    if (conducting && !conductor.isShutdown() && due.compareAndSet(false, true)) {
      conductor.execute(this::look);
    }
  }

  private void look() {
    due.set(false);
    try {
      advance();
    } catch (RuntimeException | Error e) {
      // Whatever it is, rehearsals go on with the next look.
      LOG.error("rehearsals could not go on; it is tried again", e);
    }
  }

  /** Ends what an earlier process left under way; its runs have been ended before. */
  public void recover() {
    for (Rehearsal rehearsal : store.underWay()) {
      if (rehearsal.times().startedAt() != null) {
        LOG.warn("rehearsal {} was under way when the application stopped", rehearsal.id());
        cut(rehearsal, "interrupted: the application stopped while it went on");
      }
    }
  }

  /** How many turns other drills leave to the rehearsal that is next. */
  private int turnsKept() {
    return store.underWay().stream().findFirst().map(r -> r.order().atOnce()).orElse(0);
  }

  private DrillRequest.@Nullable Beside beside(String run) {
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
  public synchronized void advance() {
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
      cut(rehearsal, "interrupted: the application stopped while it went on");
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
    changed(rehearsal.id());
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
        changed(id);
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
        settle(rehearsal, member, run, members);
        any = true;
      }
    }
    return any;
  }

  private void settle(Rehearsal rehearsal, Rehearsal.Member member, Run run, UpMembers members) {
    String disagreement = members.disagreement(member.resource());
    boolean passed = run.fact().passed();
    if (run.fact().failed()) {
      store.settle(rehearsal.id(), member, MemberState.FAILED, run.sentence());
    } else if (passed && disagreement != null) {
      store.settle(rehearsal.id(), member, MemberState.FAILED, disagreement);
    } else if (passed && members.has(member.resource())) {
      store.settle(rehearsal.id(), member, MemberState.UP, "");
    } else {
      store.settle(
          rehearsal.id(),
          member,
          MemberState.NOT_JUDGED,
          passed ? "it came up, and nothing kept it up" : run.sentence());
    }
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
            member.run(),
            hardproof.core.drills.ChecksState.NOT_ASKED,
            "cancelled while an answer was waited for");
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
    for (Rehearsal.Member member : rehearsal.members()) {
      if (member.state() == MemberState.WAITING) {
        store.settle(rehearsal.id(), member, MemberState.NOT_BEGUN, why);
      } else if (member.state() == MemberState.RUNNING) {
        Run run = runs.find(member.run()).orElseThrow();
        if (!run.ended()) {
          runs.askToCancel(run.id());
        }
        boolean failed = run.ended() && run.fact().failed();
        store.settle(
            rehearsal.id(),
            member,
            failed ? MemberState.FAILED : MemberState.NOT_JUDGED,
            failed ? run.sentence() : why);
      } else if (member.state() == MemberState.UP) {
        store.settle(rehearsal.id(), member, MemberState.NOT_JUDGED, "it came up; " + why);
      }
    }
    conclude(store.find(rehearsal.id()).orElseThrow(), why);
  }

  private void conclude(Rehearsal rehearsal, @Nullable String cut) {
    Instant begin = rehearsal.times().startedAt() == null
        ? rehearsal.times().queuedAt()
        : rehearsal.times().startedAt();
    List<RehearsalResult.Ended> ended = new ArrayList<>();
    for (Rehearsal.Member member : rehearsal.members()) {
      ended.add(ended(member));
    }
    RehearsalResult result = RehearsalResult.of(
        begin, ended, cut, expected(rehearsal), rehearsal.planned().rto());
    store.end(rehearsal.id(), result, clock.instant());
    settled.remove(rehearsal.id());
    UpMembers members = up.remove(rehearsal.id());
    if (members != null) {
      members.close();
    }
    if (rehearsal.order().hold().isZero()) {
      cleanUp(rehearsal);
    }
    changed(rehearsal.id());
  }

  private @Nullable Duration expected(Rehearsal rehearsal) {
    List<Run> own = rehearsal.members().stream()
        .filter(m -> m.run() != null)
        .map(m -> runs.find(m.run()).orElseThrow())
        .toList();
    return orders.expected(estate.get(), rehearsal, own);
  }

  private RehearsalResult.Ended ended(Rehearsal.Member member) {
    Run run = member.run() == null ? null : runs.find(member.run()).orElseThrow();
    RehearsalClock.Work work = run == null || run.startedAt() == null || run.workedUntil() == null
        ? null
        : new RehearsalClock.Work(
            run.startedAt(),
            run.workedUntil(),
            run.endedAt() == null ? run.workedUntil() : run.endedAt());
    Estate facts = estate.get();
    boolean shown = run == null
        || facts.resource(member.resource()) == null
        || run.reaches().atLeast(RehearsalOrders.shownByItself(facts, member.resource()));
    return new RehearsalResult.Ended(
        member.asAt(member.state()),
        work,
        shown,
        member.sentence().isEmpty() ? null : member.sentence());
  }

  /** What can't be removed is written down and tried again by who cleans up after drills. */
  private void cleanUp(Rehearsal rehearsal) {
    for (Rehearsal.Member member : rehearsal.members()) {
      Run run = member.run() == null ? null : runs.find(member.run()).orElse(null);
      if (run != null && run.cleanup() == CleanupState.HOLDING) {
        try {
          queue.cleanUpNow(run.id());
        } catch (IOException e) {
          LOG.warn("the sandbox of run {} could not be removed: {}", run.id(), e.getMessage());
        }
      }
    }
  }

  /** What is up goes with the process: the rehearsal that it was for ends as interrupted. */
  @Override
  public void close() {
    conductor.shutdown();
    try {
      conductor.awaitTermination(10, TimeUnit.SECONDS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
    for (String id : List.copyOf(up.keySet())) {
      cut(store.find(id).orElseThrow(), "interrupted: the application stopped while it went on");
    }
  }
}
