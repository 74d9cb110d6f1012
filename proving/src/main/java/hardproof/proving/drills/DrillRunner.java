package hardproof.proving.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.wording.Wording;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/** Plans and runs drills. One run works on one thread; several may run at once. */
public final class DrillRunner {
  private static final String CLEAN_UP = "Remove the restored data";

  private final Sandboxes sandboxes;
  private final Map<Method, DrillMethod> methods = new EnumMap<>(Method.class);

  public DrillRunner(Sandboxes sandboxes) {
    this.sandboxes = sandboxes;
    methods.put(Method.PRESENCE, new PresenceDrill());
    methods.put(Method.READ_THROUGH, new ReadThroughDrill());
    methods.put(Method.FULL_RESTORE, new FullRestoreDrill());
    methods.put(Method.DATABASE, new DatabaseDrill());
  }

  /** What the drill would do and take. Reads sizes only; starts nothing. */
  public DrillPlan plan(DrillRequest request) throws IOException {
    DrillMethod method = methods.get(request.method());
    List<String> steps = stepNames(request, method);
    long free = sandboxes.freeBytes();
    String refusal = method.refusal(request);
    if (refusal == null && !request.store().reachable()) {
      refusal = request.storeName() + " can't be reached: " + request.store().where()
          + " is not a folder here. Mount it, or correct the path of the store.";
    }
    long read = 0;
    long space = 0;
    try {
      for (Artifact artifact : request.chain()) {
        read += refusal == null ? request.store().size(artifact.place()) : 0;
      }
      space = refusal == null ? method.spaceBytes(request) : 0;
    } catch (ArtifactUnreadable e) {
      // Not a reason to refuse: the drill will find and record it.
    }
    if (refusal == null && space > free) {
      refusal = "the sandbox needs " + Wording.bytes(space) + " and has " + Wording.bytes(free)
          + " free: " + Wording.bytes(space - free)
          + " short. Choose read-through, which needs no space, or free some.";
    }
    return new DrillPlan(method.reaches(request), steps, read, space, free, refusal);
  }

  private static List<String> stepNames(DrillRequest request, DrillMethod method) {
    List<String> steps = new ArrayList<>(method.steps(request));
    if (request.method().needsSandbox() && !request.hold()) {
      steps.add(CLEAN_UP);
    }
    return steps;
  }

  /**
   * Runs the drill to its end. Whatever happens to the data is in the result; an exception means
   * that the watcher failed.
   */
  public DrillResult run(DrillRequest request, DrillWatcher watcher) {
    DrillMethod method = methods.get(request.method());
    Outcome outcome = new Outcome();
    outcome.reaches(method, request);
    Steps steps = new Steps(watcher, stepNames(request, method));
    boolean cleans = request.method().needsSandbox() && !request.hold();
    boolean opened = false;
    Workplace workplace = null;
    long begun = System.nanoTime();
    long read = begun;
    try {
      DrillPlan plan = plan(request);
      if (plan.refusal() != null) {
        outcome.end(watcher, RestoreState.REFUSED, ChecksState.NOT_ASKED, plan.refusal());
        steps.fail(plan.refusal(), 0);
        return outcome.result(0, Duration.ZERO);
      }
      watcher.restore(RestoreState.RUNNING);
      Path sandbox = null;
      if (request.method().needsSandbox()) {
        sandbox = sandboxes.open(request.run());
        opened = true;
      }
      workplace = new Workplace(steps, sandbox, plan.freeBytes());
      method.restore(request, workplace);
      read = System.nanoTime();
      watcher.restore(outcome.restore = RestoreState.DONE);
      String found = method.check(request, workplace);
      outcome.end(watcher, RestoreState.DONE, ChecksState.PASSED, found);
    } catch (DrillFailure e) {
      steps.fail(e.getMessage(), cleans ? 1 : 0);
      outcome.blame(e);
      boolean restored = outcome.restore == RestoreState.DONE;
      if (e.inChecks() && !restored) {
        watcher.restore(RestoreState.DONE);
      }
      boolean checks = e.inChecks() || restored;
      outcome.end(
          watcher,
          checks ? RestoreState.DONE : RestoreState.FAILED,
          checks ? ChecksState.FAILED : ChecksState.NOT_ASKED,
          e.getMessage());
    } catch (ArtifactUnreadable e) {
      steps.fail(e.getMessage(), cleans ? 1 : 0);
      outcome.blame(request, e);
      outcome.end(
          watcher,
          outcome.restore == RestoreState.DONE ? RestoreState.DONE : RestoreState.FAILED,
          outcome.restore == RestoreState.DONE ? ChecksState.FAILED : ChecksState.NOT_ASKED,
          e.getMessage() + " (" + request.storeName() + ")");
    } catch (Cancelled e) {
      steps.fail("cancelled", cleans ? 1 : 0);
      outcome.end(
          watcher,
          interrupted(outcome),
          ChecksState.NOT_ASKED,
          "cancelled before its end; it says nothing about the data");
    } catch (IOException e) {
      // Reading failures came as ArtifactUnreadable: this one is of our own disk.
      String sentence =
          "the sandbox could not be written (" + e + "); this says nothing about the data";
      steps.fail(sentence, cleans ? 1 : 0);
      outcome.end(watcher, interrupted(outcome), ChecksState.NOT_ASKED, sentence);
    }
    long end = read == begun ? System.nanoTime() : read;
    if (opened) {
      cleanUp(request, steps, watcher, outcome, cleans);
    }
    return outcome.result(workplace == null ? 0 : workplace.bytes, Duration.ofNanos(end - begun));
  }

  /** Done stays done; what had not been done by then was interrupted. */
  private static RestoreState interrupted(Outcome outcome) {
    return outcome.restore == RestoreState.DONE ? RestoreState.DONE : RestoreState.INTERRUPTED;
  }

  private void cleanUp(
      DrillRequest request, Steps steps, DrillWatcher watcher, Outcome outcome, boolean cleans) {
    if (!cleans) {
      watcher.cleanup(outcome.cleanup = CleanupState.HOLDING);
      return;
    }
    steps.cleanUp();
    try {
      sandboxes.remove(request.run());
      steps.done("nothing is left");
      watcher.cleanup(outcome.cleanup = CleanupState.DONE);
    } catch (IOException e) {
      steps.fail("restored data is left in the sandbox: " + e.getMessage(), 0);
      watcher.cleanup(outcome.cleanup = CleanupState.FAILED);
    }
  }

  /** The answers as they become known. */
  private static final class Outcome {
    private RestoreState restore = RestoreState.RUNNING;
    private ChecksState checks = ChecksState.WAITING;
    private CleanupState cleanup = CleanupState.NOT_DUE;
    private hardproof.core.ladder.Rung reaches;
    private String blamedPoint;
    private String blamedStore;
    private String sentence = "";

    void reaches(DrillMethod method, DrillRequest request) {
      reaches = method.reaches(request);
    }

    void blame(DrillFailure failure) {
      blamedPoint = failure.point();
      blamedStore = failure.store();
    }

    void blame(DrillRequest request, ArtifactUnreadable unreadable) {
      Artifact artifact = request.chain().stream()
          .filter(a -> a.place().equals(unreadable.place()))
          .findFirst()
          .orElse(request.last());
      blamedPoint = artifact.point();
      blamedStore = request.storeKey();
    }

    void end(DrillWatcher watcher, RestoreState restoreEnd, ChecksState checksEnd, String text) {
      sentence = text;
      if (restore != restoreEnd) {
        watcher.restore(restore = restoreEnd);
      }
      watcher.checks(checks = checksEnd);
    }

    DrillResult result(long bytes, Duration reading) {
      return new DrillResult(
          restore, checks, cleanup, reaches, bytes, reading, blamedPoint, blamedStore, sentence);
    }
  }
}
