package hardproof.standins.estate;

import hardproof.core.evidence.CsvCell;
import hardproof.standins.artifacts.Artifact;
import hardproof.standins.estate.DemoEstate.Delivery;
import hardproof.standins.estate.Scenario.Plan;
import hardproof.standins.estate.Scenario.ResourceRow;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;

/** Turns the scenario into facts day by day, and into artifacts. */
final class EstateMaker {
  static final int DAYS = 45;
  static final String INVENTORY = "tarnwick-inventory";
  static final String JOURNAL = "skerry-journal";
  static final String SILENT = "inlet-journal";

  private static final String POINTS_HEADER =
      "key,resource,policy,form,based_on,data_time,started,available,outcome,consistency,pre_step,source_role,"
          + "size,encrypted,skipped_items\r\n";
  private static final String COPIES_HEADER =
      "point,store,finished,state,locked_until,expires,format,place,sha256,manifest\r\n";
  private static final Duration SLOW_RUN = Duration.ofHours(11);

  private final Instant now;
  private final long seed;
  private final ArtifactShelf shelf;
  private final Path stores;
  private final List<PointRow> points = new ArrayList<>();
  private final List<CopyRow> copies = new ArrayList<>();
  private final Map<String, Long> usual = new HashMap<>();
  private final JobJournal jobs = new JobJournal();

  private record PointRow(String feed, Instant available, String csv) {}

  private record CopyRow(String feed, Instant finished, String csv) {}

  EstateMaker(Path stores, Instant now, long seed) {
    this.now = now.truncatedTo(ChronoUnit.MINUTES);
    this.seed = seed;
    this.stores = stores;
    this.shelf = new ArtifactShelf(stores, seed);
  }

  DemoEstate make() throws IOException {
    DemoProving proving = new DemoProving(now);
    for (ResourceRow resource : Scenario.RESOURCES) {
      points(resource);
    }
    List<Delivery> deliveries = new ArrayList<>(inventory());
    journals(deliveries);
    deliveries.sort(Comparator.comparing(Delivery::received));
    return new DemoEstate(
        deliveries,
        proving.past(),
        DemoProving.checks(),
        proving.laterChecks(),
        proving.programmes(),
        Scenario.PEOPLE,
        Scenario.REGIONS);
  }

  private Instant daysAgo(int days) {
    return now.minus(Duration.ofDays(days));
  }

  private static String feedOf(ResourceRow r) {
    return r.workload().equals("timetable-site") ? SILENT : JOURNAL;
  }

  private void points(ResourceRow r) throws IOException {
    Random random = new Random(seed ^ r.key().hashCode());
    String base = null;
    for (int day = DAYS; day >= 0; day--) {
      int perDay = r.plan() == Plan.GOLD ? 8 : 1;
      for (int i = perDay - 1; i >= 0; i--) {
        base = point(r, day, i, base, random);
      }
    }
  }

  /** Makes one point and gives the key that the next incremental hangs from. */
  private String point(ResourceRow r, int day, int slot, String base, Random random)
      throws IOException {
    if (r.plan() == Plan.NONE) {
      return null;
    }
    Duration age = age(r, day, slot);
    Instant data = now.minus(age);
    Duration run = r.plan() == Plan.SLOW
        ? SLOW_RUN
        : Duration.ofMinutes((r.plan() == Plan.GOLD ? 9 : 50) + random.nextInt(15));
    Instant available = data.plus(run);
    boolean full = r.plan() != Plan.CHAIN || day % 7 == 5 || day == DAYS;
    String key = r.key() + "-" + stamp(data);
    boolean lost = r.key().equals("camera-south") && day == 3;
    boolean notYet = available.isAfter(now);
    if (lost || notYet) {
      // Made and thrown away by something; the chain goes on as if it were there.
      return lost ? key : base;
    }
    Artifact artifact = null;
    if (wanted(r, day, slot)) {
      artifact = shelf.make(r, DAYS - day, data, full);
    }
    long size = artifact == null ? usualSize(r, full, random) : artifact.bytes().length;
    points.add(new PointRow(
        feedOf(r),
        available,
        CsvCell.row(
            key,
            r.key(),
            policy(r),
            full ? "full" : "incremental",
            full ? null : base,
            data,
            data,
            available,
            Quirks.outcome(r, day),
            consistency(r),
            Quirks.preStep(r),
            Quirks.sourceRole(r, day),
            Quirks.size(r, day, size),
            "yes",
            Quirks.skipped(r, day))));
    if (day <= JobJournal.DAYS) {
      jobs.backup(feedOf(r), key, r.key(), policy(r), data, available, Quirks.outcome(r, day));
    }
    copies(r, day, slot, key, available, artifact, random);
    return key;
  }

  /** As large as its artifacts are, where it has some: a size tells the same story all along. */
  private long usualSize(ResourceRow r, boolean full, Random random) throws IOException {
    if (!r.artifacts()) {
      return (full ? 200_000_000L : 9_000_000L) + random.nextInt(4_000_000);
    }
    String key = r.key() + full;
    Long known = usual.get(key);
    if (known == null) {
      known = (long) shelf.make(r, 1, daysAgo(DAYS - 1), full).bytes().length;
      usual.put(key, known);
    }
    return known + random.nextInt((int) Math.max(2, known / 50));
  }

  /** How old the data of a point is; the newest slot of day 0 is the newest point. */
  private static Duration age(ResourceRow r, int day, int slot) {
    long shift = Math.floorMod(r.key().hashCode(), 50);
    return switch (r.plan()) {
      case GOLD -> Duration.ofDays(day).plusHours(3L * slot).plusMinutes(40 + shift);
      case SLOW -> Duration.ofDays(day).plusHours(4).plusMinutes(10);
      default -> Duration.ofDays(day).plusHours(6).plusMinutes(20 + 3 * shift);
    };
  }

  /** Artifacts exist for the newest points, for whole chains, and for what was drilled. */
  private static boolean wanted(ResourceRow r, int day, int slot) {
    if (!r.artifacts() || slot != 0) {
      return false;
    }
    if (r.plan() == Plan.CHAIN) {
      return inChainOf(day, 0) || anyDrill(r, d -> inChainOf(day, d + 1) || inChainOf(day, d));
    }
    return day <= 2
        || anyDrill(r, d -> day >= d && day <= d + 1)
        || (r.key().equals("payroll-db") && day <= 13);
  }

  private static boolean anyDrill(ResourceRow r, java.util.function.IntPredicate near) {
    return java.util.Arrays.stream(r.drills()).anyMatch(near);
  }

  /** Whether the point of {@code day} is in the chain of the point of {@code of}. */
  private static boolean inChainOf(int day, int of) {
    int full = of;
    while (full % 7 != 5 && full < DAYS) {
      full++;
    }
    return day >= of && day <= full;
  }

  private static String policy(ResourceRow r) {
    return switch (r.plan()) {
      case GOLD -> "every-3-hours";
      case CHAIN -> "weekly-chain";
      case SLOW -> "daily-large";
      default -> Quirks.evening(r) ? "evening" : "daily";
    };
  }

  private static String consistency(ResourceRow r) {
    return switch (r.kind()) {
      case "database", "directory" -> "application";
      case "virtual-machine", "physical-server", "volume" -> "crash";
      default -> "file";
    };
  }

  private void copies(
      ResourceRow r,
      int day,
      int slot,
      String point,
      Instant available,
      Artifact artifact,
      Random random)
      throws IOException {
    for (String store : r.stores()) {
      boolean primary = store.equals(r.stores().get(0));
      if (store.equals("drift-tape") && day % 7 != 5 && r.plan() != Plan.CHAIN) {
        continue;
      }
      Duration lag = primary ? Duration.ZERO : Duration.ofMinutes(25 + random.nextInt(40));
      if (Quirks.copyIsMissing(r, store, day)) {
        jobs.failedCopy(feedOf(r), point, r.key(), store, available);
        continue;
      }
      if (r.key().equals("galley-db") && store.equals("holm-disk") && day <= 3) {
        lag = Duration.ofHours(31);
      }
      Instant finished = available.plus(lag);
      if (finished.isAfter(now)) {
        continue;
      }
      ArtifactShelf.Shelved shelved = artifact == null || store.equals("drift-tape")
          ? null
          : shelf.put(store, r, point, artifact);
      if (shelved != null && r.key().equals("freight-share") && day == 2 && primary) {
        shelf.flipOneBit(store, shelved.place());
      }
      boolean unchecked = Quirks.withoutChecksum(r);
      copies.add(new CopyRow(
          feedOf(r),
          finished,
          CsvCell.row(
              point,
              store,
              finished,
              "present",
              store.equals("nordal-object") ? finished.plus(Duration.ofDays(60)) : null,
              finished.plus(Duration.ofDays(90)),
              shelved == null ? null : artifact.format(),
              shelved == null ? null : shelved.place(),
              unchecked || shelved == null ? null : shelved.sha256(),
              unchecked || shelved == null ? null : shelved.manifest())));
    }
  }

  private static String stamp(Instant instant) {
    var t = instant.atZone(ZoneOffset.UTC);
    return String.format(
        java.util.Locale.ROOT,
        "%02d%02d-%02d%02d",
        t.getMonthValue(),
        t.getDayOfMonth(),
        t.getHour(),
        t.getMinute());
  }

  /** One delivery a day and feed, with what became known since the one before. */
  private void journals(List<Delivery> deliveries) {
    Instant before = Instant.MIN;
    for (int day = DAYS; day >= 0; day--) {
      Instant received = day == 0 ? now : daysAgo(day).minus(Duration.ofMinutes(4));
      for (String feed : List.of(JOURNAL, SILENT)) {
        if (feed.equals(SILENT) && day < 2) {
          continue;
        }
        StringBuilder pointRows = new StringBuilder(POINTS_HEADER);
        StringBuilder copyRows = new StringBuilder(COPIES_HEADER);
        for (PointRow p : points) {
          if (p.feed().equals(feed) && since(p.available(), before, received)) {
            pointRows.append(p.csv());
          }
        }
        for (CopyRow c : copies) {
          if (c.feed().equals(feed) && since(c.finished(), before, received)) {
            copyRows.append(c.csv());
          }
        }
        deliveries.add(new Delivery(received, feed, "points.csv", pointRows.toString()));
        deliveries.add(new Delivery(received, feed, "copies.csv", copyRows.toString()));
        String jobRows = jobs.between(feed, before, received);
        if (jobRows != null) {
          deliveries.add(new Delivery(received, feed, "jobs.csv", jobRows));
        }
      }
      before = received;
    }
  }

  private static boolean since(Instant instant, Instant before, Instant received) {
    return instant.isAfter(before) && !instant.isAfter(received);
  }

  private List<Delivery> inventory() {
    Instant first = daysAgo(DAYS).minus(Duration.ofHours(2));
    List<Delivery> files = new ArrayList<>();
    files.add(new Delivery(first, INVENTORY, "stores.csv", InventoryFiles.stores(stores)));
    files.add(new Delivery(first, INVENTORY, "policies.csv", InventoryFiles.policies(false)));
    files.add(new Delivery(
        daysAgo(6).minus(Duration.ofHours(1)),
        INVENTORY,
        "policies.csv",
        InventoryFiles.policies(true)));
    files.add(new Delivery(first, INVENTORY, "workloads.csv", InventoryFiles.workloads()));
    Instant nineDaysAgo = daysAgo(9).minus(Duration.ofHours(3));
    files.add(new Delivery(
        first,
        INVENTORY,
        "resources.csv",
        InventoryFiles.resources(this::isInventory, now, first, seed, "harbour-sim-4")));
    files.add(new Delivery(
        first,
        SILENT,
        "resources.csv",
        InventoryFiles.resources(
            r -> feedOf(r).equals(SILENT), now, first, seed, "harbour-sim-4")));
    files.add(new Delivery(
        nineDaysAgo,
        INVENTORY,
        "resources.csv",
        InventoryFiles.resources(
            r -> r.key().equals("harbour-sim-4"), now, nineDaysAgo, seed, "")));
    for (int day : List.of(30, 20, 8, 1)) {
      Instant seen = daysAgo(day).minus(Duration.ofHours(2));
      files.add(new Delivery(
          seen,
          INVENTORY,
          "resources.csv",
          InventoryFiles.resources(
              this::isInventory, now, seen, seed, day > 9 ? "harbour-sim-4" : "")));
    }
    files.add(
        new Delivery(daysAgo(40), INVENTORY, "exceptions.csv", InventoryFiles.exceptions(now)));
    return files;
  }

  private boolean isInventory(ResourceRow r) {
    return feedOf(r).equals(JOURNAL);
  }
}
