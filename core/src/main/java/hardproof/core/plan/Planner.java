package hardproof.core.plan;

import hardproof.core.facts.Estate;
import hardproof.core.programmes.Capacity;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import hardproof.core.recovery.TimeEstimates;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.PriorityQueue;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Puts causes in the order in which to mend them: again and again the one whose mending gains most for each hour of
 * drill time, given that those before it are mended. For one evaluation.
 */
public final class Planner {
  private static final Comparator<Ranked> BEST_FIRST = Comparator.comparingDouble(
          (Ranked r) -> -r.score())
      .thenComparingInt(r -> r.trial().cause().tier())
      .thenComparingInt(Ranked::place);

  private final Capacity capacity;
  private final Mended mended = new Mended();

  /** By the key of a workload, the last step that changed it. */
  private final Map<String, Integer> changedBy = new HashMap<>();

  private Trials trials;

  public Planner(Evaluation evaluation, Estate estate, Capacity capacity) {
    this.capacity = capacity;
    this.trials = new Trials(estate, evaluation, new TimeEstimates(estate));
  }

  /** Told how far it has come; it says whether to go on. */
  public interface Watcher {
    /**
     * @param done causes whose effect is known and whose place is found
     * @return false to stop
     */
    boolean goesOn(int done, int all);
  }

  /** The planning was stopped. */
  public static final class Stopped extends RuntimeException {
    private static final long serialVersionUID = 1L;
  }

  /** A cause as it was when it was tried after so many steps. */
  private record Ranked(Trial trial, double score, int place, int triedAfter) {
    static Ranked of(Trial trial, int place, int triedAfter) {
      return new Ranked(trial, trial.effect().score(), place, triedAfter);
    }
  }

  /**
   * The plan.
   *
   * @param causes in the order of their worst finding
   * @throws Stopped when the watcher says so
   */
  public Plan plan(List<PlanCause> causes, Watcher watcher) {
    int all = 2 * causes.size();
    PriorityQueue<Ranked> ahead = new PriorityQueue<>(BEST_FIRST);
    for (int i = 0; i < causes.size(); i++) {
      look(watcher, i, all);
      ahead.add(Ranked.of(trials.of(causes.get(i)), i, 0));
    }
    List<Plan.Step> steps = new ArrayList<>();
    Nights nights = new Nights(capacity, trials.evaluation().asAt());
    while (!ahead.isEmpty()) {
      look(watcher, causes.size() + steps.size(), all);
      Ranked best = triedAgain(ahead.poll(), steps.size());
      if (!ahead.isEmpty() && BEST_FIRST.compare(best, ahead.peek()) > 0) {
        ahead.add(best);
        continue;
      }
      Effect effect = best.trial().effect();
      steps.add(new Plan.Step(best.trial().cause(), effect, nights.of(effect.takes())));
      if (effect.computed()) {
        mended.add(best.trial().cause());
        best.trial().workloads().forEach(w -> changedBy.put(w, steps.size()));
      }
    }
    return new Plan(
        causes.size(), causes.stream().mapToInt(PlanCause::findings).sum(), List.copyOf(steps));
  }

  /** What came before it may have taken some of its gain: another may be worth more now. */
  private Ranked triedAgain(Ranked best, int steps) {
    Set<String> changed = best.trial().workloads().stream()
        .filter(w -> changedBy.getOrDefault(w, 0) > best.triedAfter())
        .collect(Collectors.toSet());
    if (changed.isEmpty() || !best.trial().computed()) {
      return best;
    }
    apply();
    return Ranked.of(trials.again(best.trial(), changed), best.place(), steps);
  }

  /** What has its place in the plan is mended, all of it at once: evaluating is what takes the time. */
  private void apply() {
    Trials now = trials;
    Set<String> touched = new HashSet<>();
    for (PlanCause cause : mended.together()) {
      touched.addAll(now.touched(cause));
      // Judged once, when all of it is done.
      now = new Trials(now.done(cause).orElse(now.estate()), now.evaluation(), now.estimates());
    }
    if (now.estate() != trials.estate()) {
      Evaluation before = trials.evaluation();
      trials = new Trials(
          now.estate(),
          Evaluator.with(before, Evaluator.changed(before, now.estate(), touched)),
          now.estimates());
    }
    mended.clear();
  }

  private static void look(Watcher watcher, int done, int all) {
    if (!watcher.goesOn(done, all)) {
      throw new Stopped();
    }
  }

  /** What mending a cause comes to, as things are. */
  public Effect effect(PlanCause cause) {
    return trials.of(cause).effect();
  }
}
