package hardproof.server.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.proving.checks.Check;
import hardproof.proving.drills.DrillResult.Awaits;
import hardproof.server.outside.OutsideChecks;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunStore;
import java.time.Clock;
import java.time.Instant;
import java.util.List;

/** Runs whose work is done, and that wait for somebody's word. */
final class WaitingRoom {
  private final RunStore store;
  private final OutsideChecks outside;
  private final Caretaker caretaker;
  private final Clock clock;
  private final RunListeners listeners;

  WaitingRoom(
      RunStore store,
      OutsideChecks outside,
      Caretaker caretaker,
      Clock clock,
      RunListeners listeners) {
    this.store = store;
    this.outside = outside;
    this.caretaker = caretaker;
    this.clock = clock;
    this.listeners = listeners;
  }

  /** A run whose work is done goes on waiting; what a crash came between is made up for. */
  void takeUp(Run run) {
    if (run.awaits() != Awaits.OUTSIDE) {
      return;
    }
    if (outside.asked(run.id())) {
      outside.askAgain(run, clock.instant());
      answerFromOutside(run.id());
    } else {
      askOutside(run.id(), clock.instant());
    }
  }

  void askOutside(String id, Instant now) {
    Run run = store.find(id).orElseThrow();
    outside.ask(run, run.checksAsked().stream().filter(Check::outside).toList(), now);
  }

  /**
   * Somebody's word has come for a run that waited for it.
   *
   * @param sentence what was said and by whom, for people
   * @return false when the run does not wait any more
   */
  boolean answer(String id, ChecksState checks, String sentence) {
    Run run = store.find(id).filter(Run::awaiting).orElse(null);
    if (run == null) {
      return false;
    }
    String told = run.sentence() + "; " + sentence;
    Instant now = clock.instant();
    List<Check> others = run.checksAsked().stream().filter(Check::outside).toList();
    if (run.awaits() == Awaits.PERSON && checks == ChecksState.PASSED && !others.isEmpty()) {
      // The screen is right; what others were to be asked is not answered by that.
      return askOthers(id, told, now, others);
    }
    return conclude(id, checks, run, told, now);
  }

  private boolean askOthers(String id, String told, Instant now, List<Check> others) {
    if (!store.awaitOutside(id, told, now.plus(OutsideChecks.longest(others)))) {
      return false;
    }
    askOutside(id, now);
    listeners.changed(id);
    return true;
  }

  private boolean conclude(String id, ChecksState checks, Run run, String told, Instant now) {
    String blamed = checks == ChecksState.FAILED ? run.point() : null;
    if (!store.answered(id, checks, blamed, told, now)) {
      return false;
    }
    if (run.method().needsSandbox() && run.cleanup() == CleanupState.NOT_DUE) {
      if (run.hold().isZero()) {
        caretaker.removeSandbox(store.find(id).orElseThrow());
      } else {
        store.cleanup(id, CleanupState.HOLDING, now);
      }
    }
    listeners.changed(id);
    return true;
  }

  /** Ends a run that waits for an answer from outside, when all of it is there. */
  void answerFromOutside(String id) {
    OutsideChecks.Answered answered = outside.state(id);
    if (answered.all()) {
      answer(id, answered.passed() ? ChecksState.PASSED : ChecksState.FAILED, answered.sentence());
    }
  }

  /** Ends the waiting for words that did not come in time. */
  void endTheWaiting() {
    for (Run run : store.awaitedTooLong(clock.instant())) {
      boolean asked = run.awaits() == Awaits.OUTSIDE;
      answer(
          run.id(),
          asked ? ChecksState.TIMED_OUT : ChecksState.NOT_ASKED,
          asked
              ? outside.unanswered(run.id())
              : "nobody said whether its screen is the right one, so nothing is shown");
    }
  }
}
