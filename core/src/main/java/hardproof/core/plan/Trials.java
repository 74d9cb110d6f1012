package hardproof.core.plan;

import hardproof.core.drills.Method;
import hardproof.core.facts.Estate;
import hardproof.core.findings.Finding;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.WorkloadResult;
import hardproof.core.recovery.TimeEstimate;
import hardproof.core.recovery.TimeEstimates;
import java.time.Duration;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Tries what mending a cause comes to, on the facts of an evaluation. */
record Trials(Estate estate, Evaluation evaluation, TimeEstimates estimates) {
  private static final Duration ASSUMED = Duration.ofHours(1);

  /** However small it is, starting and tidying up takes as long. */
  private static final Duration LEAST = Duration.ofSeconds(1);

  /** What mending a cause comes to. */
  Trial of(PlanCause cause) {
    Set<String> workloads = new HashSet<>();
    touched(cause).forEach(r -> workloads.addAll(workloadsOf(r)));
    Duration takes = drills(cause) ? takes(cause.resources()) : Duration.ZERO;
    Trial all = new Trial(cause, workloads, Map.of(), takes);
    Map<String, Gain> gains = workloads.isEmpty() ? null : gains(all, workloads);
    return new Trial(cause, workloads, gains, takes);
  }

  /** The same on the facts of now, where only these workloads are others than when it was tried. */
  Trial again(Trial before, Set<String> changed) {
    Map<String, Gain> gains = gains(before, changed);
    return gains == null ? before : before.with(changed, gains);
  }

  /** By the key of a workload; null where they are not for us to know. */
  private @Nullable Map<String, Gain> gains(Trial of, Set<String> which) {
    AsIf asIf = new AsIf(estate, evaluation);
    List<String> touched = touched(of.cause(), asIf).stream()
        .filter(r -> workloadsOf(r).stream().anyMatch(which::contains))
        .toList();
    Optional<Estate> other = of.ending()
        ? asIf.ended(of.cause().roots().get(0).about().subject())
        : done(of.cause(), asIf, touched);
    if (other.isEmpty()) {
      return null;
    }
    Map<String, Gain> gains = new HashMap<>();
    for (WorkloadResult after : Evaluator.changed(evaluation, other.get(), touched)) {
      String key = after.workload().key();
      if (which.contains(key)) {
        gains.put(key, Gain.of(evaluation.workload(key), after));
      }
    }
    return gains;
  }

  /** Keys of the workloads of a resource and of all that lies in it. */
  private Set<String> workloadsOf(String resource) {
    return estate.withDescendants(resource).stream()
        .map(evaluation::resource)
        .filter(Objects::nonNull)
        .map(r -> evaluation.workloadOf(r).workload().key())
        .collect(Collectors.toSet());
  }

  private static boolean drills(PlanCause cause) {
    return cause.remedy() == Remedy.DRILL || cause.remedy() == Remedy.PROGRAMME;
  }

  /** Keys of the resources that mending a cause changes. */
  List<String> touched(PlanCause cause) {
    return touched(cause, new AsIf(estate, evaluation));
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

  /** The facts as if a cause had been mended; empty where they are not for us to know. */
  Optional<Estate> done(PlanCause cause) {
    AsIf asIf = new AsIf(estate, evaluation);
    return done(cause, asIf, touched(cause, asIf));
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
}
