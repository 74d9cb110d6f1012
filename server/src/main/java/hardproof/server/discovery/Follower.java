package hardproof.server.discovery;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.discovery.Discovery;
import hardproof.core.discovery.Discovery.Thing;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.evidence.CsvCell;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.proving.formats.ArtifactFormat;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.proving.stores.ArtifactStore;
import hardproof.server.feeds.Bundle;
import hardproof.server.feeds.Importer;
import hardproof.server.stores.Census;
import hardproof.server.stores.Censuses.Lister;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Brings what lies on a store in as facts, each time that it is listed. */
public final class Follower {
  private static final Logger LOG = LoggerFactory.getLogger(Follower.class);
  private static final Set<String> FORMATS = Set.copyOf(ArtifactFormat.codes());

  /** Checksums are read beside so many artifacts that have none yet, the newest first. */
  private static final int SUMS = 500;

  private final StoreFeedStore feeds;
  private final Importer importer;
  private final Supplier<Estate> estate;
  private final Clock clock;

  public Follower(StoreFeedStore feeds, Importer importer, Supplier<Estate> estate, Clock clock) {
    this.feeds = feeds;
    this.importer = importer;
    this.estate = estate;
    this.clock = clock;
  }

  static Set<String> formats() {
    return FORMATS;
  }

  /**
   * Of a list that came to its end.
   *
   * @param lister tells all that lies there
   */
  public void listed(Census census, Store store, ArtifactStore opened, Lister lister)
      throws IOException {
    StoreFeed feed = feeds.find(store.key()).orElse(null);
    if (feed == null) {
      return;
    }
    StoreRows rows = new StoreRows(feed, FORMATS);
    Estate now = estate.get();
    Map<String, Copy> known = known(feed, now);
    Set<String> there = new HashSet<>();
    Set<String> sums = new HashSet<>();
    lister.each((place, size, modified) -> {
      around(place, known, there);
      if (Discovery.tellsOfAnother(place)) {
        sums.add(place);
      }
      rows.add(new Thing(place, size, modified));
    });
    boolean nothingLeft = !known.isEmpty() && rows.isEmpty() && there.isEmpty();
    if (rows.isEmpty() && known.isEmpty() || nothingLeft) {
      // Either nothing is left, or somebody looked elsewhere: the census says which is doubted.
      return;
    }
    new FollowedPoints(feed, rows, now).find(known.values());
    FormsHeld.of(rows, now, opened);
    deliver(census, feed, rows, copies(rows, known, there, new SumLists(opened), sums));
  }

  /** Copies that this feed told of and that should be there, by their places. */
  private static Map<String, Copy> known(StoreFeed feed, Estate now) {
    Map<String, Copy> known = new HashMap<>();
    for (Resource resource : now.facts().resources()) {
      PointSet set = now.claimedSet(resource.key());
      for (int row = 0; row < set.size(); row++) {
        set.copiesOf(row).stream()
            .filter(c -> c.store().equals(feed.store())
                && feed.feed().equals(c.feed())
                && c.place() != null
                && c.state() == CopyState.PRESENT)
            .forEach(c -> known.put(c.place(), c));
      }
    }
    return known;
  }

  /** Notes which known artifacts a file is one of, or lies in. */
  private static void around(String place, Map<String, Copy> known, Set<String> there) {
    if (known.containsKey(place)) {
      there.add(place);
    }
    for (int slash = place.lastIndexOf('/'); slash > 0; slash = place.lastIndexOf('/', slash - 1)) {
      String folder = place.substring(0, slash);
      if (known.containsKey(folder)) {
        there.add(folder);
      }
    }
  }

  private static String copies(
      StoreRows rows,
      Map<String, Copy> known,
      Set<String> there,
      SumLists lists,
      Set<String> sums) {
    StringBuilder csv = new StringBuilder(StoreRows.COPIES);
    List<StoreRows.Row> all = rows.all().stream()
        .sorted(Comparator.comparing(StoreRows.Row::data).reversed())
        .toList();
    int left = SUMS;
    for (StoreRows.Row row : all) {
      Copy before = known.remove(row.thing().place());
      String sha256 = before == null ? null : before.sha256();
      if (sha256 == null && left > 0 && !sums.isEmpty() && !row.folder()) {
        sha256 = lists.of(row.thing().place(), sums);
        left--;
      }
      csv.append(rows.copy(row, sha256));
    }
    // What was there and is not any more was deleted; what only fits no pattern any more is there.
    known.values().stream()
        .filter(c -> !there.contains(c.place()))
        .forEach(c -> csv.append(CsvCell.row(
            c.point(), c.store(), c.finished(), "deleted", c.format(), c.place(), c.sha256())));
    return csv.toString();
  }

  private void deliver(Census census, StoreFeed feed, StoreRows rows, String copies)
      throws IOException {
    Path work = Files.createTempDirectory("hard-proof-store-");
    try {
      Files.writeString(
          work.resolve("resources.csv"),
          rows.resources(census.startedAt(), r -> toldByAnother(feed, r)));
      Files.writeString(work.resolve("points.csv"), rows.points());
      Files.writeString(work.resolve("copies.csv"), copies);
      importer.take(
          Bundle.of(List.of(work), work).covering(census.startedAt()),
          feed.feed(),
          clock.instant(),
          feed.by(),
          Importer.WithRejections.TAKE_GOOD_ROWS);
      LOG.info("what lies on {} was taken in by the feed {}", feed.store(), feed.feed());
    } finally {
      Sandboxes.removeTree(work);
    }
  }

  private boolean toldByAnother(StoreFeed feed, String resource) {
    Resource known = estate.get().resource(resource);
    return known != null && !known.feed().equals(feed.feed());
  }
}
