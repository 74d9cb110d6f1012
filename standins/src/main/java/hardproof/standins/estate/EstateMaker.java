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
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.IntPredicate;

/** Turns the scenario into facts day by day, and into artifacts. */
final class EstateMaker {
  static final int DAYS = 45;
  static final String INVENTORY = "tarnwick-inventory";
  static final String JOURNAL = "skerry-journal";
  static final String SILENT = "inlet-journal";

  private final Instant now;
  private final long seed;
  private final ArtifactShelf shelf;
  private final Path stores;
  private final JournalFiles journal = new JournalFiles();
  private final Map<String, Long> usual = new HashMap<>();
  private final JobJournal jobs = new JobJournal();

  EstateMaker(Path stores, Instant now, long seed) {
    this(stores, now, seed, new ArtifactShelf(stores, seed));
  }

  /**
   * @param shelf remembers what was made lately
   */
  EstateMaker(Path stores, Instant now, long seed, ArtifactShelf shelf) {
    this.now = now.truncatedTo(ChronoUnit.MINUTES);
    this.seed = seed;
    this.stores = stores;
    this.shelf = shelf;
  }

  DemoEstate make() throws IOException {
    DemoProving proving = new DemoProving(now);
    for (ResourceRow resource : Scenario.RESOURCES) {
      points(resource);
    }
    Quirks.leaveOver(shelf, now);
    List<Delivery> deliveries = new ArrayList<>(new InventoryDeliveries(now, stores, seed).all());
    deliveries.addAll(journal.deliveries(now, jobs));
    deliveries.sort(Comparator.comparing(Delivery::received));
    return new DemoEstate(
        deliveries,
        proving.past(),
        proving.rehearsals(),
        DemoProving.checks(),
        proving.laterChecks(),
        proving.programmes(),
        List.of(proving.sampled()),
        Scenario.PEOPLE,
        Scenario.REGIONS);
  }

  private Instant daysAgo(int days) {
    return now.minus(Duration.ofDays(days));
  }

  static String feedOf(ResourceRow r) {
    return r.workload().equals("timetable-site") ? SILENT : JOURNAL;
  }

  private void points(ResourceRow r) throws IOException {
    Random random = new Random(seed ^ r.key().hashCode());
    String base = null;
    for (int day = DAYS; day >= 0; day--) {
      for (int i = Habits.slots(r) - 1; i >= 0; i--) {
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
    Duration age = Habits.age(r, day, slot);
    Instant data = now.minus(age);
    Duration run = Habits.run(r, random);
    Instant available = data.plus(run);
    boolean full = r.plan() != Plan.CHAIN || day % 7 == 5 || day == DAYS;
    String key = r.key() + "-" + Habits.stamp(data);
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
    addPoint(
        r,
        key,
        full,
        full ? null : base,
        new Times(data, available),
        new Outcome(Quirks.outcome(r, day), day, Quirks.size(r, day, size)));
    if (day <= JobJournal.DAYS) {
      jobs.backup(
          feedOf(r), key, r.key(), Habits.policy(r), data, available, Quirks.outcome(r, day));
    }
    copies(r, day, key, available, artifact, random);
    return key;
  }

  /**
   * What feeds bring of a time after the estate was made: points, copies and jobs at their own hours, and now and then
   * a run that fails.
   */
  List<Delivery> between(Instant after, Instant until) throws IOException {
    int days = (int) Duration.between(now, until).toDays() + 1;
    // Of what was made last, copies are still to come.
    int first = Math.max(0, (int) Duration.between(now, after).toDays() - 2);
    for (ResourceRow r : Scenario.RESOURCES) {
      for (int day = first; day <= days && r.plan() != Plan.NONE; day++) {
        for (int slot = Habits.slots(r) - 1; slot >= 0; slot--) {
          live(r, -day, slot, after, until);
        }
      }
    }
    return journal.between(JOURNAL, after, until, jobs);
  }

  private void live(ResourceRow r, int day, int slot, Instant after, Instant until)
      throws IOException {
    long own = seed ^ r.key().hashCode() * 31L ^ day * 1_000_003L ^ slot;
    // One for each purpose: what is drawn must not hang from what else is asked for at the same
    // time.
    Random random = new Random(own);
    Random lags = new Random(own * 7);
    Instant data = now.minus(Habits.age(r, day, slot));
    Instant available = data.plus(Habits.run(r, random));
    String outcome = Quirks.laterOutcome(r, random);
    boolean full = r.plan() != Plan.CHAIN || Math.floorMod(day, 7) == 5;
    String key = r.key() + "-" + Habits.stamp(data);
    boolean whole = outcome.equals("complete");
    if (available.isAfter(after) && !available.isAfter(until)) {
      Artifact artifact = artifact(r, day, slot, data, full);
      long size =
          artifact == null ? usualSize(r, full, new Random(own * 5)) : artifact.bytes().length;
      addPoint(
          r,
          key,
          full,
          full ? null : r.key() + "-" + Habits.stamp(now.minus(Habits.age(r, day + 1, slot))),
          new Times(data, available),
          new Outcome(outcome, day, whole ? size : size / 3));
      jobs.backup(feedOf(r), key, r.key(), Habits.policy(r), data, available, outcome);
    }
    for (String store : whole ? r.stores() : List.<String>of()) {
      Instant finished = available.plus(Habits.lag(r, store, day, lags));
      boolean onTape = !store.equals("drift-tape") || Math.floorMod(day, 7) == 5 || !full;
      if (onTape && finished.isAfter(after) && !finished.isAfter(until)) {
        copy(r, day, key, store, finished, artifact(r, day, slot, data, full));
      }
    }
  }

  /** Null where the estate holds facts only. */
  private Artifact artifact(ResourceRow r, int day, int slot, Instant data, boolean full)
      throws IOException {
    return r.artifacts() ? shelf.made(r, DAYS - day, slot, data, full) : null;
  }

  private record Times(Instant data, Instant available) {}

  private record Outcome(String outcome, int day, long size) {}

  private void addPoint(
      ResourceRow r, String key, boolean full, String base, Times times, Outcome o) {
    journal.addPoint(
        feedOf(r),
        times.available(),
        CsvCell.row(
            key,
            r.key(),
            Habits.policy(r),
            full ? "full" : "incremental",
            base,
            times.data(),
            times.data(),
            times.available(),
            o.outcome(),
            Habits.consistency(r),
            Quirks.preStep(r),
            Quirks.sourceRole(r, o.day()),
            o.size(),
            "yes",
            Quirks.skipped(r, o.day())));
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

  private static boolean anyDrill(ResourceRow r, IntPredicate near) {
    Integer rehearsed = Scenario.REHEARSED.get(r.workload());
    return Arrays.stream(r.drills()).anyMatch(near) || rehearsed != null && near.test(rehearsed);
  }

  /** Whether the point of {@code day} is in the chain of the point of {@code of}. */
  private static boolean inChainOf(int day, int of) {
    int full = of;
    while (full % 7 != 5 && full < DAYS) {
      full++;
    }
    return day >= of && day <= full;
  }

  private void copies(
      ResourceRow r, int day, String point, Instant available, Artifact artifact, Random random)
      throws IOException {
    for (String store : r.stores()) {
      if (store.equals("drift-tape") && day % 7 != 5 && r.plan() != Plan.CHAIN) {
        continue;
      }
      Duration lag = Habits.lag(r, store, day, random);
      if (Quirks.copyIsMissing(r, store, day)) {
        jobs.failedCopy(feedOf(r), point, r.key(), store, available);
      } else if (!available.plus(lag).isAfter(now)) {
        copy(r, day, point, store, available.plus(lag), artifact);
      }
    }
  }

  private void copy(
      ResourceRow r, int day, String point, String store, Instant finished, Artifact artifact)
      throws IOException {
    ArtifactShelf.Shelved shelved = artifact == null || store.equals("drift-tape")
        ? null
        : shelf.put(store, r, point, artifact, finished);
    if (shelved != null
        && r.key().equals("freight-share")
        && day == 2
        && Habits.primary(r, store)) {
      shelf.flipOneBit(store, shelved.place());
    }
    if (shelved != null && Quirks.tidiedAway(r, store, day)) {
      shelf.remove(store, shelved.place());
    }
    boolean summed = shelved != null && !Quirks.withoutChecksum(r);
    journal.addCopy(
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
            summed ? shelved.sha256() : null,
            summed ? shelved.manifest() : null));
  }
}
