package hardproof.server.drills;

import hardproof.core.programmes.Admission;
import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.Held;
import hardproof.core.programmes.QueuedDrill;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunStore;
import hardproof.server.runs.WaitingStore;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntSupplier;
import java.util.function.Supplier;

/** Whose turn it is among the runs that wait. */
final class Turns {
  private final RunStore store;
  private final WaitingStore waiting;
  private final Clock clock;
  private final RunListeners listeners;
  private volatile Supplier<Admission> admission = () -> new Admission(Capacity.usual(), Map.of());

  Turns(RunStore store, WaitingStore waiting, Clock clock, RunListeners listeners) {
    this.store = store;
    this.waiting = waiting;
    this.clock = clock;
    this.listeners = listeners;
  }

  private volatile IntSupplier kept = () -> 0;

  /** Says how many turns are kept for a rehearsal: nobody else gets them while it waits or goes on. */
  void keep(IntSupplier turns) {
    kept = turns;
  }

  int othersAtWork() {
    return waiting.underWay().size() - waiting.membersAtWork();
  }

  /** Those at work, and one more for each turn that is kept and not taken. */
  private List<QueuedDrill> taken() {
    List<QueuedDrill> taken = new ArrayList<>(waiting.underWay());
    int free = kept.getAsInt() - waiting.membersAtWork();
    for (int i = 0; i < free; i++) {
      taken.add(new QueuedDrill("kept", null, Instant.EPOCH, null, "", null, 0, 0, 0));
    }
    return taken;
  }

  /** Says who decides which of the runs that wait begins next. */
  void admitBy(Supplier<Admission> decides) {
    admission = decides;
  }

  /** One at a time: two that look at the same moment would both see the same room. */
  synchronized Optional<Run> claim() {
    Instant now = clock.instant();
    endTheMissed(now);
    // Whoever conducts a rehearsal has said that its member begins now.
    Optional<Run> member = waiting.memberInTurn().flatMap(id -> store.claim(id, now));
    if (member.isPresent()) {
      return member;
    }
    List<QueuedDrill> inTurn = waiting.inTurn();
    return inTurn.isEmpty()
        ? Optional.empty()
        : admission
            .get()
            .next(now, inTurn, taken(), waiting)
            .flatMap(drill -> store.claim(drill.id(), now));
  }

  private void endTheMissed(Instant now) {
    for (String id : waiting.missedBy(now)) {
      store.interrupt(
          store.find(id).orElseThrow(),
          "missed: there was no room for it before its start window was over; it says nothing about the data",
          now);
      listeners.changed(id);
    }
  }

  /** Why the runs that wait do not begin now, by their ids. */
  Map<String, Held> held() {
    Admission decides = admission.get();
    List<QueuedDrill> underWay = taken();
    Map<String, Held> held = new LinkedHashMap<>();
    for (QueuedDrill drill : waiting.inTurn()) {
      Held why = decides.held(drill, clock.instant(), underWay, waiting);
      if (why == Held.AT_ONCE
          && decides.held(drill, clock.instant(), waiting.underWay(), waiting) == null) {
        why = Held.REHEARSAL;
      }
      if (why != null) {
        held.put(drill.id(), why);
      }
    }
    return held;
  }
}
