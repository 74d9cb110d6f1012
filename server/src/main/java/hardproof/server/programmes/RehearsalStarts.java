package hardproof.server.programmes;

import hardproof.core.estate.Resource;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.forecast.Forecaster;
import hardproof.core.forecast.Renewals;
import hardproof.core.programmes.Members;
import hardproof.core.wording.Wording;
import hardproof.server.proof.Evaluated;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What a start of a programme that rehearses comes to: which workloads are brought back whole. */
final class RehearsalStarts {
  private final Outlook outlook;
  private volatile @Nullable RehearsalStarter starter;

  RehearsalStarts(Outlook outlook) {
    this.outlook = outlook;
  }

  void by(RehearsalStarter conducts) {
    starter = conducts;
  }

  /**
   * What a start comes to.
   *
   * @param refused why resources can't be rehearsed with their workloads, by their keys
   * @param reason what else is to be said of it, for people; empty where nothing is
   */
  record Start(List<RehearsalStarter.Prepared> ready, Map<String, String> refused, String reason) {}

  Start of(StartOrders.Due due, Evaluated before) {
    Map<Workload, List<Resource>> workloads = workloads(due, before);
    List<RehearsalStarter.Prepared> ready = new ArrayList<>();
    Map<String, String> refused = new LinkedHashMap<>();
    List<String> said = new ArrayList<>();
    workloads.forEach((workload, members) -> {
      RehearsalStarter.Prepared prepared = starter.prepare(before, workload, asked(due));
      if (prepared.refusal() == null) {
        ready.add(prepared);
      } else {
        members.forEach(m -> refused.put(m.key(), prepared.refusal()));
        said.add(workload.name() + ": " + prepared.refusal());
      }
    });
    String reason = workloads.isEmpty()
        ? "no workload matches it that has a recovery point"
        : said.isEmpty()
            ? due.decision().reason()
            : Wording.count(said.size(), "workload", "workloads") + " could not be rehearsed: "
                + String.join(" ", said);
    return new Start(ready, refused, reason);
  }

  private static RehearsalStarter.Asked asked(StartOrders.Due due) {
    return new RehearsalStarter.Asked(
        due.programme().key(),
        due.programme().name(),
        due.terms().limits().atOnce(),
        due.programme().how().hold(),
        "due " + Wording.time(due.decision().due(), due.now()),
        due.notAfter());
  }

  /** Those of the resources that it drills, with these; as needed, those whose proof lapses soon. */
  private Map<Workload, List<Resource>> workloads(StartOrders.Due due, Evaluated before) {
    Estate estate = before.estate();
    List<Resource> resources = due.terms().asNeeded()
        ? new Forecaster(
                estate, before.evaluation(), List.of(due.terms()), outlook.readable(estate))
            .tonight(due.terms(), due.capacity(), due.now(), java.util.Set.of()).chosen().stream()
                .map(Renewals.Chosen::resource)
                .toList()
        : Members.of(due.terms(), estate, before.evaluation());
    Map<Workload, List<Resource>> workloads = new LinkedHashMap<>();
    for (Resource resource : resources) {
      Workload workload = estate.workload(resource.workload());
      if (workload != null) {
        workloads.computeIfAbsent(workload, w -> new ArrayList<>()).add(resource);
      }
    }
    return workloads;
  }
}
