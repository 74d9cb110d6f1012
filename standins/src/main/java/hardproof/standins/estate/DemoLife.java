package hardproof.standins.estate;

import hardproof.standins.estate.DemoEstate.Delivery;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/**
 * The demo estate after it was made: its backups go on at their own hours, its copies follow, now and then a run fails,
 * and the feed that fell silent stays so. The same seed and instants always give the same facts and the same bytes.
 */
public final class DemoLife {
  private static final Duration LISTED_BEFORE = Duration.ofHours(2);

  private final Path stores;
  private final Instant made;
  private final long seed;
  private final ArtifactShelf shelf;

  /**
   * @param stores folder under which each store has its folder
   * @param made the instant that the estate was laid relative to
   */
  public DemoLife(Path stores, Instant made, long seed) {
    this.stores = stores;
    this.made = made;
    this.seed = seed;
    this.shelf = new ArtifactShelf(stores, seed);
  }

  /**
   * What feeds bring of what became known in (after, until]; its artifacts are written.
   *
   * @param after not before the estate was made
   */
  public List<Delivery> between(Instant after, Instant until) throws IOException {
    List<Delivery> deliveries = new ArrayList<>(inventory(after, until));
    deliveries.addAll(new EstateMaker(stores, made, seed, shelf).between(after, until));
    return deliveries;
  }

  /** Once a day the inventory lists what it sees. */
  private List<Delivery> inventory(Instant after, Instant until) {
    List<Delivery> deliveries = new ArrayList<>();
    Instant seen = made.plus(Duration.ofDays(1)).minus(LISTED_BEFORE);
    for (; !seen.isAfter(until); seen = seen.plus(Duration.ofDays(1))) {
      if (seen.isAfter(after)) {
        deliveries.add(listing(seen, until));
      }
    }
    return deliveries;
  }

  private Delivery listing(Instant seen, Instant until) {
    return new Delivery(
        until,
        EstateMaker.INVENTORY,
        "resources.csv",
        InventoryFiles.resources(
            r -> EstateMaker.feedOf(r).equals(EstateMaker.JOURNAL), made, seen, seed, ""));
  }
}
