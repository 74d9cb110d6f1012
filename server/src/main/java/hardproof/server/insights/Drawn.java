package hardproof.server.insights;

import hardproof.core.criteria.Standard;
import hardproof.core.drills.DrillFact;
import hardproof.core.facts.Estate;
import hardproof.core.programmes.Draw;
import hardproof.core.programmes.DrawnDrills;
import hardproof.core.programmes.DrawnFrom;
import hardproof.server.programmes.DrawStore;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;

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
  DrawnDrills in(Estate estate, Standard standard, Instant from, Predicate<String> about) {
    List<DrillFact> drills = estate.facts().drills().stream()
        .filter(d -> !d.ended().isBefore(from) && !d.ended().isAfter(estate.asAt()))
        .filter(d -> about.test(d.resource()))
        .toList();
    List<DrawnFrom> drawn = draws.between(from, estate.asAt()).stream()
        .filter(DrawStore.Kept::repeats)
        .map(kept -> drawnFrom(kept, drills, about))
        .toList();
    return DrawnDrills.of(estate, standard, drills, drawn);
  }

  private static DrawnFrom drawnFrom(
      DrawStore.Kept kept, List<DrillFact> drills, Predicate<String> about) {
    Set<Draw.Candidate> own = Draw.read(kept.list()).stream()
        .filter(c -> about.test(c.resource()))
        .collect(Collectors.toSet());
    Set<String> runs = kept.runs().keySet();
    List<DrillFact> ended =
        drills.stream().filter(d -> runs.contains(d.run()) && DrawnFrom.says(d)).toList();
    return new DrawnFrom(
        own,
        runs,
        kept.sample() != null,
        kept.sample() == null ? resourcesLeft(own, ended) : pointsLeft(kept, about, ended));
  }

  /** Resources for which a point was drawn and of which no drill came to an end that says something. */
  private static int resourcesLeft(Set<Draw.Candidate> candidates, List<DrillFact> ended) {
    Set<String> resources =
        candidates.stream().map(Draw.Candidate::resource).collect(Collectors.toSet());
    ended.forEach(d -> resources.remove(d.resource()));
    return resources.size();
  }

  /** The same of the points of a sample. */
  private static int pointsLeft(
      DrawStore.Kept kept, Predicate<String> about, List<DrillFact> ended) {
    Set<Draw.Candidate> points = kept.drawnAgain().stream()
        .filter(c -> about.test(c.resource()))
        .collect(Collectors.toSet());
    ended.forEach(d -> points.remove(new Draw.Candidate(d.resource(), d.point())));
    return points.size();
  }
}
