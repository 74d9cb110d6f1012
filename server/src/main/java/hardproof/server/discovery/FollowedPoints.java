package hardproof.server.discovery;

import hardproof.core.copies.Copy;
import hardproof.core.discovery.SamePoints;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Which points the artifacts on a followed store are copies of, where another store or feed tells of them already. */
record FollowedPoints(StoreFeed feed, StoreRows rows, Estate estate) {
  /**
   * @param known copies that this feed told of before: what they are copies of stays
   */
  void find(Collection<Copy> known) {
    Map<String, Copy> byPlace = new HashMap<>();
    known.forEach(c -> byPlace.put(c.place(), c));
    // A point has one copy on a store: what lies there twice is a point of its own.
    Set<String> taken = new HashSet<>();
    known.forEach(c -> taken.add(c.point()));
    Map<String, SamePoints> byResource = new HashMap<>();
    for (StoreRows.Row row : rows.all()) {
      String place = row.thing().place();
      Copy before = byPlace.get(place);
      if (before == null) {
        same(row, byResource).ifPresent(found -> {
          if (found.told()) {
            rows.leave(place); // Another feed tells of this very copy.
          } else if (taken.add(found.point())) {
            rows.isCopyOf(place, found.point());
          }
        });
      } else if (!before.point().equals(rows.own(place))) {
        rows.isCopyOf(place, before.point());
      }
    }
  }

  private Optional<SamePoints.Found> same(StoreRows.Row row, Map<String, SamePoints> byResource) {
    String place = row.thing().place();
    PointSet set = estate.claimedSet(row.resource());
    if (set.row(rows.own(place)) >= 0) {
      return Optional.empty();
    }
    return byResource
        .computeIfAbsent(row.resource(), r -> new SamePoints(set))
        .find(new SamePoints.Artifact(
            feed.store(),
            feed.feed(),
            place,
            row.thing().size(),
            row.thing().modified(),
            row.said()));
  }
}
