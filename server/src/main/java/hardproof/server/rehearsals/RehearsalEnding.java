package hardproof.server.rehearsals;

import hardproof.core.drills.CleanupState;
import hardproof.core.facts.Estate;
import hardproof.core.rehearsals.MemberState;
import hardproof.core.rehearsals.RehearsalClock;
import hardproof.core.rehearsals.RehearsalResult;
import hardproof.proving.drills.UpMembers;
import hardproof.server.drills.RunQueue;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunStore;
import java.io.IOException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** How a rehearsal ends: what became of its members, what it came to, and what is removed. */
final class RehearsalEnding {
  private static final Logger LOG = LoggerFactory.getLogger(RehearsalEnding.class);

  private final RehearsalStore store;
  private final RunStore runs;
  private final RunQueue queue;
  private final RehearsalOrders orders;
  private final Supplier<Estate> estate;
  private final Clock clock;

  RehearsalEnding(
      RehearsalStore store,
      RunStore runs,
      RunQueue queue,
      RehearsalOrders orders,
      Supplier<Estate> estate,
      Clock clock) {
    this.store = store;
    this.runs = runs;
    this.queue = queue;
    this.orders = orders;
    this.estate = estate;
    this.clock = clock;
  }

  /** What became of a member whose drill has ended, beside those that are up. */
  void settle(Rehearsal rehearsal, Rehearsal.Member member, Run run, UpMembers members) {
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

  /** Settles the members of one that is ended before its end: what is under way of it is asked to end too. */
  void settleAll(Rehearsal rehearsal, String why) {
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
  }

  /**
   * Writes down what it came to.
   *
   * @param cut why it was ended before its end; null where it was not
   */
  void writeDown(Rehearsal rehearsal, @Nullable String cut) {
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
  void cleanUp(Rehearsal rehearsal) {
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
}
