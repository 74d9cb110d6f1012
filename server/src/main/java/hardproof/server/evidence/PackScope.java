package hardproof.server.evidence;

import hardproof.core.estate.Resource;
import hardproof.core.estate.Selector;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** Which facts a pack holds. */
final class PackScope {
  private PackScope() {}

  /**
   * The facts of every workload with a member in scope, whole: a verdict rests on all members, and
   * on the parents whose images protect them.
   */
  static Estate of(Estate estate, Selector scope) {
    Set<String> resources = new LinkedHashSet<>();
    for (Resource resource : estate.facts().resources()) {
      if (scope.matches(resource, estate.tierOf(resource))) {
        addWithWhatItRestsOn(estate, resource, resources);
      }
    }
    Facts all = estate.facts();
    Set<String> workloads = new LinkedHashSet<>();
    resources.forEach(r -> workloads.add(estate.resource(r).workload()));
    boolean everything = scope.equals(Selector.EVERYTHING);
    return estate.holding(new Facts(
        all.feeds(),
        all.workloads().stream()
            .filter(w -> everything || workloads.contains(w.key()))
            .toList(),
        all.resources().stream().filter(r -> resources.contains(r.key())).toList(),
        all.stores(),
        all.policies(),
        List.of(),
        List.of(),
        all.jobs().stream()
            .filter(j -> j.resource() != null && resources.contains(j.resource()))
            .toList(),
        all.exceptions(),
        all.drills().stream().filter(d -> resources.contains(d.resource())).toList(),
        all.rehearsals().stream().filter(r -> workloads.contains(r.workload())).toList(),
        all.censuses().stream().filter(c -> resources.contains(c.resource())).toList(),
        all.listings()));
  }

  private static void addWithWhatItRestsOn(
      Estate estate, Resource resource, Set<String> resources) {
    if (!resources.add(resource.key())) {
      return;
    }
    if (estate.workload(resource.workload()) != null) {
      estate
          .membersOf(resource.workload())
          .forEach(m -> addWithWhatItRestsOn(estate, m, resources));
    }
    Resource parent = estate.resource(resource.parent());
    if (parent != null) {
      addWithWhatItRestsOn(estate, parent, resources);
    }
  }
}
