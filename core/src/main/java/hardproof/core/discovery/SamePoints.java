package hardproof.core.discovery;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.facts.PointSet;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** The points of one resource, to find those of which something on a store is a copy. Pure. */
public final class SamePoints {
  /** What copies a file and keeps its time keeps it as exactly as the coarsest file system does. */
  private static final Duration SAME_TIME = Duration.ofSeconds(2);

  private final PointSet set;

  /** The rows of those that have a copy called so, the last name of its place alone; the newest last. */
  private final Map<String, Set<Integer>> called = new HashMap<>();

  public SamePoints(PointSet set) {
    this.set = set;
    for (int row = 0; row < set.size(); row++) {
      for (Copy copy : set.copiesOf(row)) {
        if (copy.place() != null) {
          called
              .computeIfAbsent(name(clean(copy.place())), n -> new TreeSet<>())
              .add(row);
        }
      }
    }
  }

  /**
   * An artifact that was found.
   *
   * @param feed that tells of what lies there
   * @param place without a / at the end
   * @param size in bytes
   * @param saysTime whether its place says when it was taken
   */
  public record Artifact(
      String store, String feed, String place, long size, Instant modified, boolean saysTime) {}

  /**
   * The point that it is a copy of.
   *
   * @param told whether another feed tells of its copy on this very store
   */
  public record Found(String point, boolean told) {}

  /**
   * Called the same, as large, and of the same time. Where sizes differ nobody knows whether it is a copy that broke off
   * or another backup of the same night: it is none then.
   */
  public Optional<Found> find(Artifact artifact) {
    for (int row : called.getOrDefault(name(artifact.place()), Set.of())) {
      if (set.sizeBytes(row) == artifact.size()) {
        List<Copy> copies = set.copiesOf(row);
        Copy here = copies.stream()
            .filter(c -> c.store().equals(artifact.store()))
            .findFirst()
            .orElse(null);
        boolean ours = here != null && artifact.feed().equals(here.feed());
        boolean same = copies.stream()
            .anyMatch(c -> c.place() != null && !(ours && c == here) && same(artifact, c));
        // Of what this feed told of under another place on the same store it is no second copy.
        if (same && !(ours && here.state() == CopyState.PRESENT)) {
          return Optional.of(new Found(set.key(row), here != null && !ours));
        }
      }
    }
    return Optional.empty();
  }

  private static boolean same(Artifact artifact, Copy copy) {
    String place = clean(copy.place());
    String name = name(artifact.place());
    if (!name(place).equals(name)) {
      return false;
    } else if (!artifact.saysTime()) {
      return copy.finished() != null
          && Duration.between(copy.finished(), artifact.modified()).abs().compareTo(SAME_TIME) <= 0;
    }
    return TimeStyle.last(name) != null
        || artifact.place().equals(place)
        || artifact.place().endsWith("/" + place)
        || place.endsWith("/" + artifact.place());
  }

  private static String clean(String place) {
    return place.endsWith("/") ? place.substring(0, place.length() - 1) : place;
  }

  private static String name(String place) {
    return place.substring(place.lastIndexOf('/') + 1);
  }
}
