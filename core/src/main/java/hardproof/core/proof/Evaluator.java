package hardproof.core.proof;

import hardproof.core.criteria.Standard;
import hardproof.core.criteria.Subject;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.ladder.Rung;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

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
    List<WorkloadResult> results = new ArrayList<>();
    for (Workload workload : estate.facts().workloads()) {
      results.add(workload(estate, standard, workload, estate.membersOf(workload.key()), false));
    }
    for (Resource resource : estate.facts().resources()) {
      if (estate.workload(resource.workload()) == null) {
        Workload own = new Workload(
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
        results.add(workload(estate, standard, own, List.of(resource), true));
      }
    }
    results.sort(WORST_FIRST);
    return new Evaluation(estate.asAt(), standard, List.copyOf(results));
  }

  private static WorkloadResult workload(
      Estate estate,
      Standard standard,
      Workload workload,
      List<Resource> members,
      boolean unassigned) {
    List<ResourceResult> judged = members.stream()
        .map(r -> ResourceJudge.judge(new Subject(estate, standard, r)))
        .sorted(Comparator.comparing(ResourceResult::verdict)
            .thenComparing(r -> r.subject().resource().name()))
        .toList();
    List<Cause> causes = new ArrayList<>(judged.stream()
        .flatMap(r -> r.causes().stream())
        .sorted(Comparator.comparing(Cause::verdict))
        .toList());
    if (causes.isEmpty()) {
      causes.add(new Cause(
          Verdict.UNKNOWN, null, workload.name() + " has no resources: there is nothing to judge"));
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
        sentence(verdict, causes, counting),
        List.copyOf(causes),
        lowest(counting, demanded),
        demanded,
        judged,
        counting.stream()
            .filter(r -> r.verdict() != Verdict.PROVEN)
            .flatMap(r -> r.actions().stream())
            .toList());
  }

  private static String sentence(
      Verdict verdict, List<Cause> causes, List<ResourceResult> members) {
    if (verdict != Verdict.PROVEN || members.size() == 1) {
      return causes.get(0).sentence();
    }
    ResourceResult first =
        members.stream().min(Comparator.comparing(r -> r.proof().lapses())).orElseThrow();
    return "all " + members.size() + " members proven; the first to lapse is "
        + first.subject().resource().name() + ": " + first.proof().sentence(first.subject());
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
      Rung ceiling = member.subject().resource().kind().highestRung();
      Rung counts = rung.atLeast(ceiling) && demanded.atLeast(rung) ? demanded : rung;
      lowest = lowest == null ? counts : Rung.lower(lowest, counts);
    }
    return lowest;
  }
}
