package hardproof.proving.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.RestoreState;
import hardproof.core.ladder.Rung;
import hardproof.proving.drills.DrillResult.Awaits;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.time.Duration;
import java.time.Instant;
import java.util.List;

/** The answers of a run as they become known. */
final class DrillOutcome {
  private final Rung reaches;
  RestoreState restore = RestoreState.RUNNING;
  ChecksState checks = ChecksState.WAITING;
  CleanupState cleanup = CleanupState.NOT_DUE;
  Awaits awaits = Awaits.NOBODY;
  Instant newest;
  String blamedPoint;
  String blamedStore;
  String sentence = "";

  DrillOutcome(Rung reaches) {
    this.reaches = reaches;
  }

  /** What came whole is worth a look; what a hostile archive left is not. */
  boolean mayHold() {
    return restore == RestoreState.DONE;
  }

  void failed(DrillWatcher watcher, DrillFailure e) {
    if (e.kind() == DrillFailure.Kind.NOTHING) {
      interrupted(watcher, e.getMessage());
      return;
    }
    blamedPoint = e.point();
    blamedStore = e.store();
    boolean wrong = e.kind() == DrillFailure.Kind.CHECKS || restore == RestoreState.DONE;
    end(
        watcher,
        wrong ? RestoreState.DONE : RestoreState.FAILED,
        wrong ? ChecksState.FAILED : ChecksState.NOT_ASKED,
        e.getMessage());
  }

  void unreadable(DrillWatcher watcher, DrillRequest request, ArtifactUnreadable e) {
    String place = e.place();
    if (e.unjudged()) {
      interrupted(
          watcher,
          e.getMessage() + " (" + request.storeName() + "); this says nothing about the data");
      return;
    }
    boolean away = !request.store().reachable();
    if (away) {
      away(watcher, request, e);
      return;
    }
    blame(watcher, request, e, place);
  }

  private void away(DrillWatcher watcher, DrillRequest request, ArtifactUnreadable e) {
    interrupted(
        watcher,
        request.storeName() + " can't be reached any more (" + e.getMessage()
            + "); this says nothing about the data");
  }

  private void blame(
      DrillWatcher watcher, DrillRequest request, ArtifactUnreadable e, String place) {
    Artifact artifact = request.chain().stream()
        .filter(a -> place.equals(a.place()) || place.startsWith(a.place() + "/"))
        .findFirst()
        .orElse(request.last());
    blamedPoint = artifact.point();
    blamedStore = request.storeKey();
    boolean done = restore == RestoreState.DONE;
    end(
        watcher,
        done ? RestoreState.DONE : RestoreState.FAILED,
        done ? ChecksState.FAILED : ChecksState.NOT_ASKED,
        e.getMessage() + " (" + request.storeName() + ")");
  }

  /** Done stays done; what had not been done by then was interrupted. */
  void interrupted(DrillWatcher watcher, String why) {
    RestoreState now = restore == RestoreState.DONE ? RestoreState.DONE : RestoreState.INTERRUPTED;
    end(watcher, now, ChecksState.NOT_ASKED, why);
  }

  void end(DrillWatcher watcher, RestoreState restoreEnd, ChecksState checksEnd, String text) {
    sentence = text;
    if (restore != restoreEnd) {
      watcher.restore(restore = restoreEnd);
    }
    if (checks != checksEnd) {
      watcher.checks(checks = checksEnd);
    }
  }

  DrillResult result(Workplace w, Duration reading) {
    return new DrillResult(
        restore,
        checks,
        cleanup,
        reaches,
        w == null ? 0 : w.bytes,
        reading,
        blamedPoint,
        blamedStore,
        sentence,
        checks == ChecksState.WAITING ? awaits : Awaits.NOBODY,
        newest,
        w == null || checks != ChecksState.PASSED ? List.of() : w.baselines);
  }
}
