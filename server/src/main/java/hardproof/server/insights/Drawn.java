package hardproof.server.insights;

import hardproof.core.drills.DrillFact;
import hardproof.core.facts.Estate;
import hardproof.core.programmes.Draw;
import hardproof.core.programmes.DrawnDrills;
import hardproof.server.programmes.DrawStore;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;

/** What the draws of a period show of all they were drawn from. */
final class Drawn {
  private final DrawStore draws;

  Drawn(DrawStore draws) {
    this.draws = draws;
  }

  /**
   * Until the instant of the estate. A draw that was changed since says nothing.
   *
   * @param about whether a resource, by its key, is looked at
   */
  DrawnDrills in(Estate estate, Instant from, Predicate<String> about) {
    List<DrillFact> drills = estate.facts().drills().stream()
        .filter(d -> !d.ended().isBefore(from) && !d.ended().isAfter(estate.asAt()))
        .filter(d -> about.test(d.resource()))
        .toList();
    Set<String> runs = new HashSet<>();
    Set<Draw.Candidate> candidates = new HashSet<>();
    int withoutResult = 0;
    for (DrawStore.Kept kept : draws.between(from, estate.asAt())) {
      if (kept.repeats()) {
        List<Draw.Candidate> own = Draw.read(kept.list()).stream()
            .filter(c -> about.test(c.resource()))
            .toList();
        runs.addAll(kept.runs());
        candidates.addAll(own);
        withoutResult += withoutResult(own, drills, Set.copyOf(kept.runs()));
      }
    }
    return DrawnDrills.of(estate, drills, runs, candidates, withoutResult);
  }

  /** Resources for which a point was drawn and of which no drill came to an end that says something. */
  private static int withoutResult(
      List<Draw.Candidate> candidates, List<DrillFact> drills, Set<String> runs) {
    Set<String> resources = new HashSet<>();
    candidates.forEach(c -> resources.add(c.resource()));
    drills.stream()
        .filter(d -> runs.contains(d.run()) && (d.passed() || d.failed()))
        .forEach(d -> resources.remove(d.resource()));
    return resources.size();
  }
}
