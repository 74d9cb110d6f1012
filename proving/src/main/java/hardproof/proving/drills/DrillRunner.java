package hardproof.proving.drills;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.wording.Wording;
import hardproof.proving.checks.Answer;
import hardproof.proving.checks.Aspect;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
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
import java.util.Collections;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.LongSupplier;

/** Plans and runs drills. One run works on one thread; several may run at once. */
public final class DrillRunner {
  private static final String CLEAN_UP = "Remove the restored data";

  private final Sandboxes sandboxes;
  private final DrillLimits limits;
  private final Engines engines;
  private final Map<Method, DrillMethod> methods = new EnumMap<>(Method.class);

  public DrillRunner(Sandboxes sandboxes, Engines engines, DrillLimits limits) {
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
    Set<Aspect> aspects = aspects(method);
    return all.stream()
        .filter(c -> c.outside() || !Collections.disjoint(c.type().aspects(), aspects))
        .toList();
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
    DrillMethod method = methods.get(request.method());
    List<String> steps = stepNames(request, method);
    long unused = sandboxes.freeBytes();
    long free = Math.min(unused, limits.bytes());
    String refusal = method.refusal(request);
    if (refusal == null
        && suiting(request.method(), request.checks()).size() < request.checks().size()) {
      refusal = "a check can't be asked after a drill by " + request.method().words() + ": "
          + request.checks().stream()
              .filter(c -> suiting(request.method(), List.of(c)).isEmpty())
              .map(Check::title)
              .findFirst()
              .orElseThrow()
          + ". Leave it out, or choose a method that it suits.";
    }
    if (refusal == null && request.store().refusal() != null) {
      refusal = request.storeName() + ": " + request.store().refusal() + ".";
    }
    if (refusal == null && !request.store().reachable()) {
      refusal = request.storeName() + " can't be reached: " + request.store().where()
          + " is not a folder here. Mount it, or correct the path of the store.";
    }
    if (refusal == null && request.method().needsSandbox()) {
      refusal = sandboxes.refusal();
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
    List<String> notes = new ArrayList<>(refusal == null ? method.notes(request) : List.of());
    if (refusal == null && space > free && space <= limits.bytes()) {
      long removed = held.getAsLong();
      free = Math.min(unused + removed, limits.bytes());
      if (space <= free) {
        notes.add(
            "it takes space that earlier drills hold: what they restored is removed before its time,"
                + " the oldest first");
      }
    }
    if (refusal == null && space > free) {
      refusal = "the sandbox needs " + Wording.bytes(space) + " and has " + Wording.bytes(free)
          + " free: " + Wording.bytes(space - free)
          + " short. Choose read-through, which needs no space, or free some.";
    }
    return new DrillPlan(
        method.reaches(request),
        steps,
        read,
        space,
        free,
        limits,
        refusal == null ? notes : List.of(),
        refusal);
  }

  private static List<String> stepNames(DrillRequest request, DrillMethod method) {
    List<String> steps = new ArrayList<>(method.steps(request));
    for (Check check : request.inside()) {
      steps.add("Check that " + check.title());
    }
    if (cleans(request)) {
      steps.add(CLEAN_UP);
    }
    return steps;
  }

  /** What somebody outside is to look at stays until they have answered. */
  private static boolean cleans(DrillRequest request) {
    return request.method().needsSandbox()
        && !request.hold()
        && request.outside().isEmpty();
  }

  /**
   * Runs the drill to its end. Whatever happens to the data is in the result; an exception means
   * that the watcher failed.
   */
  public DrillResult run(DrillRequest request, DrillWatcher watcher) {
    DrillMethod method = methods.get(request.method());
    DrillOutcome outcome = new DrillOutcome(method.reaches(request));
    Steps steps = new Steps(watcher, stepNames(request, method), limits.time());
    boolean cleans = cleans(request);
    int kept = cleans ? 1 : 0;
    boolean opened = false;
    Workplace workplace = null;
    long begun = System.nanoTime();
    long read = begun;
    try {
      DrillPlan plan = plan(request);
      String refusal = plan.refusal();
      if (refusal == null && request.method().needsSandbox()) {
        refusal = tooMany(request);
      }
      if (refusal != null) {
        outcome.end(watcher, RestoreState.REFUSED, ChecksState.NOT_ASKED, refusal);
        steps.fail(refusal, 0);
        return outcome.result(workplace, Duration.ZERO);
      }
      watcher.restore(RestoreState.RUNNING);
      Path sandbox = null;
      if (request.method().needsSandbox()) {
        sandbox = sandboxes.open(request.run());
        opened = true;
      }
      workplace = new Workplace(steps, sandbox, plan.freeBytes(), limits.files(), engines.keys());
      method.restore(request, workplace);
      read = System.nanoTime();
      watcher.restore(outcome.restore = RestoreState.DONE);
      String found = method.check(request, workplace) + ask(request, method, workplace, outcome);
      awaited(request, workplace, outcome);
      outcome.end(
          watcher,
          RestoreState.DONE,
          outcome.awaits == Awaits.NOBODY ? ChecksState.PASSED : ChecksState.WAITING,
          found);
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
      String sentence = DrillFailure.lacking(e.getMessage()).getMessage();
      steps.fail(sentence, kept);
      outcome.interrupted(watcher, sentence);
    } catch (IOException e) {
      // Reading failures came as ArtifactUnreadable: this one is of our own disk.
      String sentence =
          "the sandbox could not be used (" + reason(e) + "); this says nothing about the data";
      steps.fail(sentence, kept);
      outcome.interrupted(watcher, sentence);
    }
    long end = read == begun ? System.nanoTime() : read;
    if (opened) {
      cleanUp(request, steps, watcher, outcome, cleans);
    }
    return outcome.result(workplace, Duration.ofNanos(end - begun));
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
   * Asks every check of what was restored. The first that fails ends the run; one that can't be judged leaves it
   * without a verdict, once no other failed.
   */
  private static String ask(
      DrillRequest request, DrillMethod method, Workplace w, DrillOutcome outcome)
      throws DrillFailure, IOException {
    if (request.inside().isEmpty()) {
      return "";
    }
    List<String> answers = new ArrayList<>();
    List<String> open = new ArrayList<>();
    try (Restored restored = method.open(request, w)) {
      for (Check check : request.inside()) {
        w.steps.start(0);
        // Whether an unknown screen is the right one is for a person to say, not for the check.
        boolean byPerson = w.awaits == Awaits.PERSON && check.type() == CheckType.SCREEN_SHOWS;
        Answer answer = restored.ask(check, request.dataTime());
        outcome.newest = answer.newest() == null ? outcome.newest : answer.newest();
        if (!answer.judged()) {
          open.add(answer.sentence());
        } else if (!answer.passed() && !byPerson) {
          throw DrillFailure.contentWrong(request.last(), answer.sentence());
        }
        answers.add(answer.sentence());
        w.steps.done((answer.judged() ? "" : "not judged: ") + answer.sentence());
      }
    }
    if (!open.isEmpty()) {
      throw DrillFailure.lacking(String.join("; ", open) + ", so a check could not compare");
    }
    return "; " + String.join("; ", answers);
  }

  private static void awaited(DrillRequest request, Workplace w, DrillOutcome outcome) {
    outcome.awaits = w.awaits != Awaits.NOBODY
        ? w.awaits
        : request.outside().isEmpty() ? Awaits.NOBODY : Awaits.OUTSIDE;
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
