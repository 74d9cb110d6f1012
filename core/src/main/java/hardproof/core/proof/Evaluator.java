package hardproof.core.proof;

import hardproof.core.criteria.Standard;
import hardproof.core.criteria.Subject;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.ladder.Rung;
import hardproof.core.wording.Wording;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;

/** Facts in, verdicts out. Pure: the same facts and instant always give the same result. */
public final class Evaluator {
  private static final Comparator<WorkloadResult> WORST_FIRST = Comparator.comparing(
          WorkloadResult::verdict)
      .thenComparing(w -> w.workload().tier() == null ? 1 : w.workload().tier())
      .thenComparing(w -> w.workload().name())
      .thenComparing(w -> w.workload().key());

  private Evaluator() {}

  /** A resource that belongs to no known workload is judged by itself, as a workload of its own. */
  public static Evaluation evaluate(Estate estate, Standard standard) {
    return assemble(estate, standard, null, estate.each(r -> judge(estate, standard, r)));
  }

  /**
   * What {@link #evaluate} would give for {@code estate}, doing only what a change has touched. Both
   * estates must be of the same instant, and differ in nothing but facts about the resources named
   * (their rows, points, copies, jobs and drills) and which workload they belong to.
   *
   * @param before the evaluation before the change
   * @param touched keys of resources; what lies inside them is touched too
   */
  public static Evaluation update(Evaluation before, Estate estate, Set<String> touched) {
    Set<String> all = new HashSet<>();
    touched.forEach(t -> all.addAll(estate.withDescendants(t)));
    List<ResourceResult> results = new ArrayList<>();
    for (Resource resource : estate.facts().resources()) {
      ResourceResult kept = before.resource(resource.key());
      boolean again = kept == null || all.contains(resource.key());
      results.add(again ? judge(estate, before.standard(), resource) : kept);
    }
    return assemble(estate, before.standard(), before, results);
  }

  /**
   * The workloads of which {@link #evaluate} would give another result for {@code estate}, as it would give them. Both
   * estates must be of the same instant, with the same resources in the same workloads.
   *
   * @param touched keys of the resources, or of what they lie in, whose facts differ
   */
  public static List<WorkloadResult> changed(
      Evaluation before, Estate estate, Collection<String> touched) {
    Set<String> all = new LinkedHashSet<>();
    touched.forEach(t -> all.addAll(estate.withDescendants(t)));
    all.removeIf(k -> estate.resource(k) == null || before.resource(k) == null);
    Map<String, ResourceResult> again = all.parallelStream()
        .map(k -> judge(estate, before.standard(), estate.resource(k)))
        .collect(Collectors.toMap(r -> r.resource().key(), r -> r));
    Map<String, WorkloadResult> results = new LinkedHashMap<>();
    for (ResourceResult result : again.values()) {
      WorkloadResult own = before.workloadOf(result);
      results.computeIfAbsent(own.workload().key(), k -> again(before, estate, own, again));
    }
    results.values().removeIf(r -> before.workload(r.workload().key()) == r);
    return List.copyOf(results.values());
  }

  private static WorkloadResult again(
      Evaluation before, Estate estate, WorkloadResult own, Map<String, ResourceResult> again) {
    Workload known = estate.workload(own.workload().key());
    List<ResourceResult> members = own.members().stream()
        .map(m -> again.getOrDefault(m.resource().key(), m))
        .toList();
    return workload(
        estate,
        before.standard(),
        known == null ? own.workload() : known,
        members,
        own.unassigned(),
        before);
  }

  /** An evaluation with these results of workloads in place of those it has. */
  public static Evaluation with(Evaluation before, Collection<WorkloadResult> changed) {
    return before.with(changed, WORST_FIRST);
  }

  /** One resource whose facts bring out a fault of ours must not take the result of all others away. */
  private static ResourceResult judge(Estate estate, Standard standard, Resource resource) {
    try {
      return ResourceJudge.judge(new Subject(estate, standard, resource));
    } catch (RuntimeException | StackOverflowError e) {
      return NotJudged.of(estate, standard, resource, e);
    }
  }

  /**
   * @param before where results of workloads whose members are the same are taken from; may be null
   */
  private static Evaluation assemble(
      Estate estate, Standard standard, Evaluation before, List<ResourceResult> judged) {
    Map<String, List<ResourceResult>> members = new HashMap<>();
    List<WorkloadResult> results = new ArrayList<>();
    for (ResourceResult result : judged) {
      if (estate.workload(result.resource().workload()) != null) {
        members
            .computeIfAbsent(result.resource().workload(), k -> new ArrayList<>())
            .add(result);
      } else {
        results.add(
            workload(estate, standard, alone(result.resource()), List.of(result), true, before));
      }
    }
    for (Workload workload : estate.facts().workloads()) {
      results.add(workload(
          estate,
          standard,
          workload,
          members.getOrDefault(workload.key(), List.of()),
          false,
          before));
    }
    results.sort(WORST_FIRST);
    return new Evaluation(estate.asAt(), estate.knownAt(), standard, results);
  }

  static Workload alone(Resource resource) {
    return new Workload(
        "resource:" + resource.key(),
        resource.name(),
        null,
        null,
        List.of(),
        null,
        null,
        null,
        null,
        null);
  }

  private static WorkloadResult workload(
      Estate estate,
      Standard standard,
      Workload workload,
      List<ResourceResult> members,
      boolean unassigned,
      Evaluation before) {
    WorkloadResult kept = before == null ? null : before.workload(workload.key());
    if (kept != null && kept.workload().equals(workload) && same(kept.members(), members)) {
      return kept;
    }
    List<ResourceResult> judged = members.stream()
        .sorted(Comparator.comparing(ResourceResult::verdict)
            .thenComparing(r -> r.resource().name())
            .thenComparing(r -> r.resource().key()))
        .toList();
    List<Cause> causes = new ArrayList<>(judged.stream()
        .flatMap(r -> r.causes().stream())
        .sorted(Comparator.comparing(Cause::verdict))
        .toList());
    if (causes.isEmpty()) {
      causes.add(new Cause(
          Verdict.UNKNOWN,
          null,
          workload.name() + " has no resources: there is nothing to judge",
          List.of()));
    }
    List<ResourceResult> counting =
        judged.stream().filter(r -> r.verdict() != Verdict.EXCLUDED).toList();
    Rung demanded = counting.stream()
        .map(r -> r.proof().demanded())
        .max(Comparator.naturalOrder())
        .orElse(standard.demandOn(workload).rung());
    Verdict verdict = causes.get(0).verdict();
    return new WorkloadResult(
        workload,
        unassigned,
        verdict,
        sentence(verdict, causes, counting, estate.asAt()),
        List.copyOf(causes),
        lowest(counting, demanded),
        demanded,
        judged,
        counting.stream()
            .filter(r -> r.verdict() != Verdict.PROVEN)
            .flatMap(r -> r.actions().stream())
            .toList());
  }

  /** What its verdict rests on is said where some of it has been silent for too long to be judged now. */
  private static String sentence(
      Verdict verdict, List<Cause> causes, List<ResourceResult> members, Instant asAt) {
    return members.stream()
        .map(ResourceResult::byFactsOf)
        .filter(Objects::nonNull)
        .min(Comparator.naturalOrder())
        .map(h -> sentence(verdict, causes, members) + "; by facts of " + Wording.time(h, asAt))
        .orElseGet(() -> sentence(verdict, causes, members));
  }

  private static String sentence(
      Verdict verdict, List<Cause> causes, List<ResourceResult> members) {
    if (verdict != Verdict.PROVEN || members.size() == 1) {
      return causes.get(0).sentence();
    }
    ResourceResult first =
        members.stream().min(Comparator.comparing(r -> r.proof().lapses())).orElseThrow();
    return "all " + members.size() + " members proven; the first to lapse is "
        + first.resource().name() + ": " + first.proofSentence();
  }

  /**
   * The lowest rung of the members. A member whose kind goes no further than what it has shown does
   * not hold the others back: it counts as reaching what is demanded of the workload.
   */
  private static Rung lowest(List<ResourceResult> members, Rung demanded) {
    Rung lowest = null;
    for (ResourceResult member : members) {
      Rung rung = member.proof().rung();
      if (rung == null) {
        return null;
      }
      Rung ceiling = member.resource().kind().highestRung();
      // By itself nothing goes further than running: to be rehearsed it takes the whole.
      Rung byItself = Rung.lower(demanded, Rung.RUNNING);
      Rung counts = rung.atLeast(ceiling) && byItself.atLeast(rung) ? byItself : rung;
      lowest = lowest == null ? counts : Rung.lower(lowest, counts);
    }
    return lowest;
  }

  /** The very same results, in whatever order. */
  private static boolean same(List<ResourceResult> a, List<ResourceResult> b) {
    return a.size() == b.size() && b.stream().allMatch(r -> a.stream().anyMatch(k -> k == r));
  }
}
