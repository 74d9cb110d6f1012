package hardproof.core.plan;

import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.drills.Method;
import hardproof.core.facts.Estate;
import hardproof.core.findings.Finding;
import hardproof.core.programmes.Capacity;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import hardproof.core.recovery.TimeEstimate;
import hardproof.core.recovery.TimeEstimates;
import hardproof.core.schedule.HoursOfDay;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.PriorityQueue;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Puts causes in the order in which to mend them: again and again the one whose mending gains most for each hour of
 * drill time, given that those before it are mended. For one evaluation.
 */
public final class Planner {
  private static final Duration ASSUMED = Duration.ofHours(1);

  /** However small it is, starting and tidying up takes as long. */
  private static final Duration LEAST = Duration.ofSeconds(1);

  private final Capacity capacity;
  private final TimeEstimates estimates;
  private final Mended mended = new Mended();
  private final Map<PlanCause, Set<String>> workloadsOf = new IdentityHashMap<>();
  private Evaluation evaluation;
  private Estate estate;

  public Planner(Evaluation evaluation, Estate estate, Capacity capacity) {
    this.evaluation = evaluation;
    this.estate = estate;
    this.capacity = capacity;
    this.estimates = new TimeEstimates(estate);
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

  /** A cause with the effect of mending it, as it was when it was last tried. */
  private record Ranked(PlanCause cause, Effect effect, int place) {}

  /**
   * The plan.
   *
   * @param causes in the order of their worst finding
   * @throws Stopped when the watcher says so
   */
  public Plan plan(List<PlanCause> causes, Watcher watcher) {
    int all = 2 * causes.size();
    PriorityQueue<Ranked> ahead =
        new PriorityQueue<>(Comparator.comparingDouble((Ranked r) -> -r.effect().score())
            .thenComparingInt(r -> r.cause().tier())
            .thenComparingInt(Ranked::place));
    for (int i = 0; i < causes.size(); i++) {
      look(watcher, i, all);
      ahead.add(new Ranked(causes.get(i), tried(causes.get(i)), i));
    }
    List<Plan.Step> steps = new ArrayList<>();
    Nights nights = new Nights(capacity, evaluation.asAt());
    while (!ahead.isEmpty()) {
      look(watcher, causes.size() + steps.size(), all);
      Ranked best = ahead.poll();
      if (best.effect().computed() && mended.touches(workloads(best.cause()))) {
        // What came before it may have taken some of its gain: another may be worth more now.
        apply();
        Effect now = tried(best.cause());
        if (!ahead.isEmpty() && now.score() < ahead.peek().effect().score()) {
          ahead.add(new Ranked(best.cause(), now, best.place()));
          continue;
        }
        best = new Ranked(best.cause(), now, best.place());
      }
      if (best.effect().computed()) {
        mended.add(best.cause(), workloads(best.cause()));
      }
      steps.add(
          new Plan.Step(best.cause(), best.effect(), nights.of(best.effect().takes())));
    }
    return new Plan(
        causes.size(), causes.stream().mapToInt(PlanCause::findings).sum(), List.copyOf(steps));
  }

  /** What has its place in the plan is mended, all of it at once: evaluating is what takes the time. */
  private void apply() {
    Estate before = estate;
    Set<String> touched = new HashSet<>();
    for (PlanCause cause : mended.together()) {
      AsIf asIf = new AsIf(estate, evaluation);
      List<String> own = touched(cause, asIf);
      done(cause, asIf, own).ifPresent(other -> estate = other);
      touched.addAll(own);
    }
    if (estate != before) {
      evaluation = Evaluator.update(evaluation, estate, touched);
    }
    mended.clear();
  }

  /** Keys of the workloads whose verdict may change; those of no known workload count by their own. */
  private Set<String> workloads(PlanCause cause) {
    return workloadsOf.computeIfAbsent(
        cause,
        c -> touched(c, new AsIf(estate, evaluation)).stream()
            .map(evaluation::resource)
            .filter(Objects::nonNull)
            .map(r -> evaluation.workloadOf(r).workload().key())
            .collect(Collectors.toSet()));
  }

  private static void look(Watcher watcher, int done, int all) {
    if (!watcher.goesOn(done, all)) {
      throw new Stopped();
    }
  }

  /** What mending a cause comes to, as things are. */
  public Effect effect(PlanCause cause) {
    return tried(cause);
  }

  /** The facts as if a cause had been mended; empty where they are not for us to know. */
  Optional<Estate> mended(PlanCause cause) {
    AsIf asIf = new AsIf(estate, evaluation);
    return done(cause, asIf, touched(cause, asIf));
  }

  private Effect tried(PlanCause cause) {
    AsIf asIf = new AsIf(estate, evaluation);
    List<String> touched = touched(cause, asIf);
    Optional<Estate> other = done(cause, asIf, touched);
    if (other.isEmpty() || touched.isEmpty()) {
      return Effect.UNKNOWN;
    }
    Finding first = cause.roots().get(0);
    if (first.code().equals("exception-ending")) {
      return withoutIt(first.about().subject(), touched);
    }
    Evaluation after = Evaluator.update(evaluation, other.get(), new HashSet<>(touched));
    Duration takes = drills(cause) ? takes(cause.resources()) : Duration.ZERO;
    Effect effect = effect(after, takes);
    // To accept it is a decision, and mends nothing: it comes before nothing that would.
    return cause.remedy() == Remedy.EXCEPTION ? effect.weighing(0) : effect;
  }

  /** What is accepted until it ends changes nothing by going on; what counts is what opens when it ends. */
  private Effect withoutIt(String exception, List<String> touched) {
    return new AsIf(estate, evaluation)
        .ended(exception)
        .map(other -> Evaluator.update(evaluation, other, new HashSet<>(touched)))
        .map(after -> new Effect(true, 0, 0, 0, 0, opened(after), Duration.ZERO))
        .orElse(Effect.UNKNOWN);
  }

  private int opened(Evaluation after) {
    int opened = 0;
    for (WorkloadResult w : after.workloads()) {
      WorkloadResult before = evaluation.workload(w.workload().key());
      if (before != w && before != null) {
        opened += Math.max(0, open(w) - open(before));
      }
    }
    return opened;
  }

  private static boolean drills(PlanCause cause) {
    return cause.remedy() == Remedy.DRILL || cause.remedy() == Remedy.PROGRAMME;
  }

  private static List<String> touched(PlanCause cause, AsIf asIf) {
    return switch (cause.remedy()) {
      case FEED -> asIf.toldBy(Grouped.feed(cause.roots().get(0)));
      case EXCEPTION -> asIf.acceptedBy(cause.roots().get(0).about().subject());
      // Whoever changes a policy changes it for all that it has in scope, for better or worse.
      case POLICY -> asIf.underTheSame(cause.resources());
      default -> cause.resources();
    };
  }

  private Optional<Estate> done(PlanCause cause, AsIf asIf, List<String> resources) {
    Finding first = cause.roots().get(0);
    PutRight putRight = new PutRight(estate, evaluation, asIf);
    return switch (cause.remedy()) {
      case DRILL, PROGRAMME, SCREEN -> Optional.of(asIf.drilled(resources));
      case COVER -> asIf.covered(resources);
      case POINT, COPY -> Optional.of(asIf.backedUp(resources));
      case OWNER -> Optional.of(asIf.owned(resources));
      case POLICY ->
        first.code().startsWith("fresh-")
            ? Optional.of(asIf.rescheduled(cause.resources()))
            : putRight.keptLongEnough(cause.resources());
      case FEED -> Optional.of(asIf.told(Grouped.feed(first)));
      case EXCEPTION -> asIf.renewed(first.about().subject());
      case LOOK -> putRight.of(first.code(), resources);
    };
  }

  private Effect effect(Evaluation after, Duration takes) {
    int proven = 0;
    int better = 0;
    double weight = 0;
    int closed = 0;
    for (WorkloadResult w : after.workloads()) {
      WorkloadResult before = evaluation.workload(w.workload().key());
      if (before == w || before == null) {
        continue;
      }
      closed += closed(before, w);
      // From worst to best, but what is left out is neither.
      if (w.verdict().compareTo(before.verdict()) > 0 && w.verdict() != Verdict.EXCLUDED) {
        boolean now = w.verdict() == Verdict.PROVEN;
        proven += now ? 1 : 0;
        better += now ? 0 : 1;
        weight += (5 - w.workload().heldTo()) * (now ? 2 : 1);
      }
    }
    return new Effect(true, proven, better, weight, closed, 0, takes);
  }

  private static int closed(WorkloadResult before, WorkloadResult after) {
    return Math.max(0, open(before) - open(after));
  }

  private static int open(WorkloadResult w) {
    int open = 0;
    for (ResourceResult member : w.members()) {
      if (member.verdict() == Verdict.EXCLUDED) {
        continue; // Nothing is held against what is left out.
      }
      for (Outcome outcome : member.outcomes()) {
        open += outcome.state() == OutcomeState.NOT_MET ? 1 : 0;
      }
    }
    return open;
  }

  private Duration takes(List<String> resources) {
    Duration takes = Duration.ZERO;
    for (String key : resources) {
      ResourceResult result = evaluation.resource(key);
      if (result != null) {
        takes = takes.plus(takes(result));
      }
    }
    return takes;
  }

  private Duration takes(ResourceResult result) {
    Method method = Method.showing(result.protector().kind(), result.proof().demanded());
    var points = estate.pointsOf(result.protector().key());
    var newest = points.isEmpty() ? null : points.get(points.size() - 1);
    String store = newest == null || estate.copiesOf(newest).isEmpty()
        ? ""
        : estate.copiesOf(newest).get(0).store();
    long bytes = newest == null || newest.sizeBytes() == null ? 0 : newest.sizeBytes();
    return estimates
        .of(result.protector(), store, method, bytes)
        .map(TimeEstimate::p95)
        .map(t -> t.compareTo(LEAST) < 0 ? LEAST : t)
        .orElse(ASSUMED);
  }

  /** Lays drill time into nights. */
  private static final class Nights {
    private static final int FARTHEST = 3660;

    private final Capacity capacity;
    private HoursOfDay.Open night;
    private long leftMs;

    Nights(Capacity capacity, Instant now) {
      this.capacity = capacity;
      HoursOfDay.Open first = capacity.night(now);
      this.night = first.opens().isBefore(now) ? capacity.night(first.closes()) : first;
      this.leftMs = room();
    }

    private long room() {
      return night.length().toMillis() * capacity.atOnce();
    }

    /** The night in which so much is done; null where nothing is drilled, or never. */
    @Nullable
    Instant of(Duration takes) {
      if (takes.isZero() || capacity.atOnce() == 0) {
        return null;
      }
      long ms = takes.toMillis();
      for (int later = 0; ms > leftMs; later++) {
        if (later == FARTHEST) {
          return null; // Nobody plans so far ahead.
        }
        ms -= leftMs;
        night = capacity.night(night.closes());
        leftMs = room();
      }
      leftMs -= ms;
      return night.opens();
    }
  }
}
