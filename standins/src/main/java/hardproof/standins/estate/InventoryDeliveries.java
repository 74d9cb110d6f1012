package hardproof.standins.estate;

import hardproof.standins.estate.DemoEstate.Delivery;
import hardproof.standins.estate.Scenario.ResourceRow;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;

/** What the inventory feed brings over the days, and the first listing of the feed that fell silent. */
final class InventoryDeliveries {
  /** A machine that nobody lists from the ninth day before today on. */
  private static final String GONE = "harbour-sim-4";

  private final Instant now;
  private final Path stores;
  private final long seed;
  private final List<Delivery> files = new ArrayList<>();

  InventoryDeliveries(Instant now, Path stores, long seed) {
    this.now = now;
    this.stores = stores;
    this.seed = seed;
  }

  List<Delivery> all() {
    Instant first = daysAgo(EstateMaker.DAYS).minus(Duration.ofHours(2));
    add(first, "stores.csv", InventoryFiles.stores(stores));
    add(first, "policies.csv", InventoryFiles.policies(false));
    add(daysAgo(6).minus(Duration.ofHours(1)), "policies.csv", InventoryFiles.policies(true));
    add(first, "workloads.csv", InventoryFiles.workloads());
    add(first, "resources.csv", resources(this::isInventory, first, GONE));
    files.add(new Delivery(
        first,
        EstateMaker.SILENT,
        "resources.csv",
        resources(r -> EstateMaker.feedOf(r).equals(EstateMaker.SILENT), first, GONE)));
    Instant nineDaysAgo = daysAgo(9).minus(Duration.ofHours(3));
    add(nineDaysAgo, "resources.csv", resources(r -> r.key().equals(GONE), nineDaysAgo, ""));
    for (int day : List.of(30, 20, 8, 1)) {
      Instant seen = daysAgo(day).minus(Duration.ofHours(2));
      add(seen, "resources.csv", resources(this::isInventory, seen, day > 9 ? GONE : ""));
    }
    add(daysAgo(40), "exceptions.csv", InventoryFiles.exceptions(now));
    return files;
  }

  private void add(Instant received, String file, String content) {
    files.add(new Delivery(received, EstateMaker.INVENTORY, file, content));
  }

  private String resources(Predicate<ResourceRow> which, Instant seen, String without) {
    return InventoryFiles.resources(which, now, seen, seed, without);
  }

  private boolean isInventory(ResourceRow r) {
    return EstateMaker.feedOf(r).equals(EstateMaker.JOURNAL);
  }

  private Instant daysAgo(int days) {
    return now.minus(Duration.ofDays(days));
  }
}
