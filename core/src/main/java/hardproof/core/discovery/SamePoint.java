package hardproof.core.discovery;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.facts.PointSet;
import hardproof.core.points.RecoveryPoint;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** Whether what lies on a store is a copy of a point that is known of another place. Pure. */
public final class SamePoint {
  /** What copies a file and keeps its time keeps it as exactly as the coarsest file system does. */
  private static final Duration SAME_TIME = Duration.ofSeconds(2);

  private SamePoint() {}

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
   * Of one resource: called the same, as large, and of the same time. Where sizes differ nobody knows whether it is a
   * copy that broke off or another backup of the same night: it is none then.
   */
  public static Optional<Found> of(Artifact artifact, PointSet set) {
    for (int row = set.size() - 1; row >= 0; row--) {
      RecoveryPoint point = set.point(row);
      if (point.sizeBytes() != null && point.sizeBytes() == artifact.size()) {
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
          return Optional.of(new Found(point.key(), here != null && !ours));
        }
      }
    }
    return Optional.empty();
  }

  private static boolean same(Artifact artifact, Copy copy) {
    String place = copy.place().endsWith("/")
        ? copy.place().substring(0, copy.place().length() - 1)
        : copy.place();
    String name = name(artifact.place());
    boolean called = name(place).equals(name);
    if (!artifact.saysTime()) {
      return called
          && copy.finished() != null
          && Duration.between(copy.finished(), artifact.modified()).abs().compareTo(SAME_TIME) <= 0;
    }
    return called && TimeStyle.last(name) != null
        || artifact.place().equals(place)
        || artifact.place().endsWith("/" + place)
        || place.endsWith("/" + artifact.place());
  }

  private static String name(String place) {
    return place.substring(place.lastIndexOf('/') + 1);
  }
}
