package hardproof.proving.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.wording.Wording;
import hardproof.proving.checks.Answer;
import hardproof.proving.checks.Aspect;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.Restored;
import hardproof.proving.drills.DrillResult.Awaits;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.io.IOException;
import java.nio.file.FileSystemException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.LongSupplier;
import org.jspecify.annotations.Nullable;

/** Plans and runs drills. One run works on one thread; several may run at once. */
public final class DrillRunner {
  private final DrillPlanning planning;
  private final Sandboxes sandboxes;
  private final DrillLimits limits;
  private final Engines engines;
  private final Map<Method, DrillMethod> methods = new EnumMap<>(Method.class);

  public DrillRunner(Sandboxes sandboxes, Engines engines, DrillLimits limits) {
    this.planning = new DrillPlanning(sandboxes, limits);
    this.sandboxes = sandboxes;
    this.limits = limits;
    this.engines = engines;
    methods.put(Method.PRESENCE, new PresenceDrill());
    methods.put(Method.READ_THROUGH, new ReadThroughDrill());
    methods.put(Method.SAMPLE_RESTORE, new SampleRestoreDrill());
    methods.put(Method.FULL_RESTORE, new FullRestoreDrill());
    methods.put(Method.DATABASE, new DatabaseDrill(engines));
    methods.put(Method.DIRECTORY, new DirectoryDrill());
    methods.put(Method.CONTAINER_APPLICATION, new ApplicationDrill());
    methods.put(Method.BOOT, new BootDrill(engines));
  }

  public DrillLimits limits() {
    return limits;
  }

  /** What checks can be asked of after a drill by a method. */
  public Set<Aspect> aspects(Method method) {
    return methods.get(method).aspects();
  }

  /** The checks among {@code all} that can be asked after a drill by a method. */
  public List<Check> suiting(Method method, List<Check> all) {
    return DrillPlanning.suiting(methods.get(method), all);
  }

  /** The same, with those that are asked of what it needs: in a rehearsal that is up beside it. */
  public List<Check> suitingTogether(Method method, List<Check> all) {
    List<Check> suiting = new ArrayList<>(suiting(method, all));
    if (!aspects(method).isEmpty()) {
      all.stream().filter(Check::ofNeeded).forEach(suiting::add);
    }
    return List.copyOf(suiting);
  }

  /** What the drill would do and take with the space that is free now. */
  public DrillPlan plan(DrillRequest request) throws IOException {
    return plan(request, () -> 0);
  }

  /**
   * What the drill would do and take. Reads sizes only; starts nothing.
   *
   * @param held bytes that earlier drills hold and that would be removed first; asked only where it is
   *     short of space without them
   */
  public DrillPlan plan(DrillRequest request, LongSupplier held) throws IOException {
    return planning.plan(request, methods.get(request.method()), held);
  }

  /**
   * Runs the drill to its end. Whatever happens to the data is in the result; an exception means
   * that the watcher failed.
   */
  public DrillResult run(DrillRequest request, DrillWatcher watcher) {
    DrillMethod method = methods.get(request.method());
    Steps steps = new Steps(watcher, DrillPlanning.stepNames(request, method), limits.time());
    Running running = new Running(request, method, watcher, steps);
    boolean cleans = DrillPlanning.cleans(request);
    running.guarded(cleans ? 1 : 0);
    Duration took = running.took();
    if (running.opened) {
      running.letGoWhatDidNotComeUp();
      cleanUp(request, steps, watcher, running.outcome, cleans);
    }
    return running.outcome.result(running.workplace, took);
  }

  /** One run until its sandbox is cleaned up. */
  private final class Running {
    private final DrillRequest request;
    private final DrillMethod method;
    private final DrillWatcher watcher;
    private final Steps steps;
    private final DrillOutcome outcome;
    private final long begun = System.nanoTime();
    private long read = begun;
    private boolean refused;
    private boolean opened;
    private @Nullable Workplace workplace;

    Running(DrillRequest request, DrillMethod method, DrillWatcher watcher, Steps steps) {
      this.request = request;
      this.method = method;
      this.watcher = watcher;
      this.steps = steps;
      this.outcome = new DrillOutcome(method.reaches(request));
    }

    /** Time of the reading and restoring; where that failed, until then. */
    Duration took() {
      long end = read == begun ? System.nanoTime() : read;
      return refused ? Duration.ZERO : Duration.ofNanos(end - begun);
    }

    /**
     * @param kept steps at the end that are taken even when one fails
     */
    void guarded(int kept) {
      try {
        carryOut();
      } catch (DrillFailure e) {
        steps.fail(e.getMessage(), kept);
        outcome.failed(watcher, e);
      } catch (ArtifactUnreadable e) {
        steps.fail(e.getMessage(), kept);
        outcome.unreadable(watcher, request, e);
      } catch (Cancelled e) {
        steps.fail(e.getMessage(), kept);
        outcome.interrupted(watcher, e.getMessage() + "; it says nothing about the data");
      } catch (NotReadHere e) {
        interrupted(DrillFailure.lacking(e.getMessage()).getMessage(), kept);
      } catch (IOException e) {
        // Reading failures came as ArtifactUnreadable: this one is of our own disk.
        interrupted(
            "the sandbox could not be used (" + reason(e) + "); this says nothing about the data",
            kept);
      }
    }

    /** A machine that runs, and that nobody keeps, would write to a sandbox that goes. */
    void letGoWhatDidNotComeUp() {
      if (workplace != null
          && workplace.machine != null
          && !request.beside().up().has(request.resource())) {
        workplace.machine.close();
      }
    }

    private void interrupted(String sentence, int kept) {
      steps.fail(sentence, kept);
      outcome.interrupted(watcher, sentence);
    }

    private void carryOut() throws IOException, DrillFailure {
      DrillPlan plan = plan(request);
      String refusal = refusalOf(plan);
      if (refusal != null) {
        refuse(refusal);
        return;
      }
      watcher.restore(RestoreState.RUNNING);
      Path sandbox = openSandbox();
      workplace = new Workplace(steps, sandbox, plan.freeBytes(), limits.files(), engines.keys());
      method.restore(request, workplace);
      read = System.nanoTime();
      watcher.restore(outcome.restore = RestoreState.DONE);
      judge();
    }

    private String refusalOf(DrillPlan plan) throws IOException {
      String refusal = plan.refusal();
      // Of a rehearsal all sandboxes together were looked at before it began.
      if (refusal == null && request.method().needsSandbox() && !request.together()) {
        refusal = tooMany(request);
      }
      return refusal;
    }

    private void refuse(String refusal) {
      refused = true;
      outcome.end(watcher, RestoreState.REFUSED, ChecksState.NOT_ASKED, refusal);
      steps.fail(refusal, 0);
    }

    private Path openSandbox() throws IOException {
      Path sandbox = null;
      if (request.method().needsSandbox()) {
        sandbox = sandboxes.open(request.run());
        opened = true;
      }
      return sandbox;
    }

    private void judge() throws DrillFailure, IOException {
      String found =
          method.check(request, workplace) + CheckRound.ask(request, method, workplace, outcome);
      CheckRound.awaited(request, workplace, outcome);
      outcome.end(
          watcher,
          RestoreState.DONE,
          outcome.awaits == Awaits.NOBODY ? ChecksState.PASSED : ChecksState.WAITING,
          found);
    }
  }

  /** The file and what the system says of it; where it says nothing, the name of the error tells more. */
  private static String reason(IOException e) {
    boolean told =
        e instanceof FileSystemException f ? f.getReason() != null : e.getMessage() != null;
    return told ? e.getMessage() : e.toString();
  }

  private String tooMany(DrillRequest request) throws IOException {
    List<String> present = new ArrayList<>(sandboxes.present());
    present.remove(request.run());
    return present.size() < limits.sandboxes()
        ? null
        : Wording.count(present.size(), "sandbox is", "sandboxes are") + " in use, and "
            + limits.sandboxes()
            + " may be at once. Clean up one that is held, or wait for its time.";
  }

  /**
   * Asks checks of what an ended run restored, as long as its sandbox is held. Nothing is recorded.
   *
   * @throws IOException saying why they can't be asked
   */
  public List<Answer> tryOut(DrillRequest request, List<Check> checks) throws IOException {
    if (!sandboxes.exists(request.run())) {
      throw new IOException(
          "what run " + request.run()
              + " restored is not there any more. Drill again, and hold the restored data for a while.");
    }
    DrillMethod method = methods.get(request.method());
    Steps steps = new Steps(new Unwatched(), List.of(), Duration.ofMinutes(2));
    Workplace workplace = new Workplace(
        steps, sandboxes.folder(request.run()), limits.bytes(), limits.files(), engines.keys());
    List<Answer> answers = new ArrayList<>();
    try (Restored restored = method.open(request, workplace)) {
      for (Check check : checks) {
        answers.add(
            suiting(request.method(), List.of(check)).isEmpty() || check.outside()
                ? Answer.notJudged("this check can't be tried on what was restored")
                : restored.ask(check, request.dataTime()));
      }
    } catch (DrillFailure e) {
      throw new IOException(e.getMessage(), e);
    } catch (Cancelled e) {
      throw new IOException("the checks took longer than 2 minutes", e);
    }
    return answers;
  }

  private void cleanUp(
      DrillRequest request,
      Steps steps,
      DrillWatcher watcher,
      DrillOutcome outcome,
      boolean cleans) {
    if (outcome.awaits != Awaits.NOBODY && outcome.checks == ChecksState.WAITING) {
      // Whoever is asked may want to look; it is due when they have answered.
      return;
    }
    if (request.hold() && outcome.mayHold()) {
      watcher.cleanup(outcome.cleanup = CleanupState.HOLDING);
      return;
    }
    if (cleans) {
      steps.cleanUp();
    }
    try {
      sandboxes.remove(request.run());
      if (cleans) {
        steps.done("nothing is left");
      }
      watcher.cleanup(outcome.cleanup = CleanupState.DONE);
    } catch (IOException e) {
      if (cleans) {
        steps.fail("restored data is left in the sandbox: " + e.getMessage(), 0);
      }
      watcher.cleanup(outcome.cleanup = CleanupState.FAILED);
    }
  }
}
