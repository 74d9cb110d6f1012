package hardproof.core.rehearsals;

import hardproof.core.estate.Feed;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.points.PointOutcome;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Whether protection went on while a rehearsal did: how many points its members got meanwhile, beside the same hours of
 * the days before.
 *
 * @param made points that became available while it went on
 * @param usual the median of the same hours of the seven days before; null where nothing is known of them
 * @param knownUntil up to when the feeds that tell of them have spoken; before the end of it nothing is said
 */
public record Undisturbed(
    int made, @Nullable Integer usual, Instant knownUntil, Instant from, Instant to) {
  private static final int DAYS = 7;

  /**
   * @param resources keys of the members
   */
  public static Undisturbed of(
      Estate estate, Collection<String> resources, Instant from, Instant to) {
    Instant knownUntil = resources.stream()
        .map(r -> spoken(estate, r))
        .min(Comparator.naturalOrder())
        .orElse(estate.asAt());
    List<Integer> before = new ArrayList<>();
    for (int day = 1; day <= DAYS; day++) {
      Duration back = Duration.ofDays(day);
      before.add(count(estate, resources, from.minus(back), to.minus(back)));
    }
    boolean any = before.stream().anyMatch(n -> n > 0);
    Collections.sort(before);
    return new Undisturbed(
        count(estate, resources, from, to),
        any ? before.get(before.size() / 2) : null,
        knownUntil,
        from,
        to);
  }

  /** Up to when the feed that tells of a resource's newest point has spoken; of what has none it is not waited for. */
  private static Instant spoken(Estate estate, String resource) {
    PointSet set = estate.pointSet(resource);
    Feed feed = set.size() == 0 ? null : estate.feed(set.point(set.size() - 1).feed());
    return feed == null || feed.horizon() == null ? estate.asAt() : feed.horizon();
  }

  private static int count(Estate estate, Collection<String> resources, Instant from, Instant to) {
    int count = 0;
    for (String key : resources) {
      PointSet set = estate.pointSet(key);
      for (int row = 0; row < set.size(); row++) {
        long available = set.available(row);
        boolean within = available != PointSet.NONE
            && available >= from.toEpochMilli()
            && available < to.toEpochMilli();
        count += within && set.outcome(row) == PointOutcome.COMPLETE ? 1 : 0;
      }
    }
    return count;
  }

  /** Whether all is known of the time in which it went on. */
  public boolean known() {
    return !knownUntil.isBefore(to);
  }

  /** Whether fewer were made than usual; null where that is not known. */
  public @Nullable Boolean disturbed() {
    return !known() || usual == null ? null : made < usual;
  }

  /** For people. */
  public String sentence() {
    String points = Wording.count(made, "point was", "points were") + " made while it ran";
    if (!known()) {
      return points + " as far as is known: the feeds have told of the time until "
          + Wording.time(knownUntil, to) + " only";
    }
    if (usual == null) {
      return points + "; in these hours none was made in the seven days before either";
    }
    return points
        + (made < usual ? ", " + usual + " are usual in these hours" : ", as on other days");
  }
}
