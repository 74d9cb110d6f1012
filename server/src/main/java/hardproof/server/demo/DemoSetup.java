package hardproof.server.demo;

import hardproof.core.criteria.Standard;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Values;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.PointChoice;
import hardproof.core.programmes.Showing;
import hardproof.core.wording.Coded;
import hardproof.core.wording.Wording;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.facts.SelectorJson;
import hardproof.server.installation.Installation;
import hardproof.server.people.PeopleStore;
import hardproof.server.people.Person;
import hardproof.server.people.Role;
import hardproof.server.programmes.Programme;
import hardproof.server.programmes.ProgrammeStore;
import hardproof.server.reports.ReportStore;
import hardproof.server.reports.ShippedReports;
import hardproof.server.storage.DataFolder;
import hardproof.server.stores.Censuses;
import hardproof.standins.estate.DemoEstate;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import org.springframework.boot.logging.LogLevel;
import org.springframework.boot.logging.LoggingSystem;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;

/**
 * Lets the last 45 days of the demo estate pass: every delivery is imported and every past drill
 * carried out as on its day, by the same code that does it for real. Only the clock is set by hand.
 */
public final class DemoSetup {
  private static final long SEED = 20261124;
  private static final String DRILLS = "hardproof.server.drills";
  private static final String MARK = "demo-is-being-made";

  private DemoSetup() {}

  /**
   * Fills the folder unless it holds something. A folder whose filling was cut off is filled anew.
   *
   * @param say told what goes on
   */
  public static void fillIfEmpty(DataFolder folder, Consumer<String> say) throws IOException {
    fillIfEmpty(folder, Instant.now(), say);
  }

  static void fillIfEmpty(DataFolder folder, Instant now, Consumer<String> say) throws IOException {
    Path mark = folder.root().resolve(MARK);
    if (Files.exists(folder.database()) && !Files.exists(mark)) {
      return;
    }
    begin(folder, mark);
    say.accept("Making the demo estate: 45 days of facts, real artifacts, past drills …");
    make(folder, now, say);
    Files.delete(mark);
  }

  private static void begin(DataFolder folder, Path mark) throws IOException {
    Files.createDirectories(folder.root());
    Files.writeString(mark, "");
    for (String suffix : List.of("", "-wal", "-shm")) {
      Files.deleteIfExists(folder.root().resolve("hard-proof.db" + suffix));
    }
    Sandboxes.removeTree(folder.demo());
  }

  private static void make(DataFolder folder, Instant now, Consumer<String> say)
      throws IOException {
    long begun = System.nanoTime();
    DemoEstate demo = DemoEstate.make(folder.demo(), now, SEED);
    SettableClock clock = new SettableClock(now);
    try (Installation installation = Installation.open(folder, clock, List.of(folder.demo()))) {
      people(installation, demo);
      // Nobody listens there: the demo holds an outside check that is never answered.
      installation.outsideHosts().allow(List.of("127.0.0.1:9"), "administrator", now);
      settings(installation, demo, now);
      ShippedReports.add(
          installation.part(ReportStore.class),
          "continuity@tarnwick.example",
          "administrator",
          now.minus(Duration.ofDays(1)).truncatedTo(ChronoUnit.MINUTES));
      quietly(new DemoPast(installation, demo, clock, folder.demo())::letPass);
      listStores(folder, installation);
      DemoFeed.made(folder, now.truncatedTo(ChronoUnit.MINUTES), SEED);
      say.accept("The demo estate is made ("
          + Wording.duration(Duration.ofNanos(System.nanoTime() - begun)) + "): "
          + Wording.count(installation.facts().counts().get(BundleFile.POINTS), "point", "points")
          + " of "
          + Wording.count(
              installation.facts().counts().get(BundleFile.RESOURCES), "resource", "resources")
          + ".");
    }
  }

  /** As they were listed last night. */
  private static void listStores(DataFolder folder, Installation installation) throws IOException {
    Censuses censuses = installation.part(Censuses.class);
    DemoStores stores = DemoStores.start(folder, installation);
    try {
      censuses.beginWhatIsDue(installation.clock().instant());
      censuses.awaitEnd();
    } finally {
      stores.close();
    }
  }

  /** Work that may fail. */
  private interface Work {
    void carryOut() throws IOException;
  }

  /** What the past of the demo has that is wrong is meant to be: nobody is warned of it. */
  private static void quietly(Work work) throws IOException {
    LoggingSystem logging = LoggingSystem.get(DemoSetup.class.getClassLoader());
    logging.setLogLevel(DRILLS, LogLevel.ERROR);
    try {
      work.carryOut();
    } finally {
      logging.setLogLevel(DRILLS, null);
    }
  }

  /** Writes down that stores may lie where the demo's do, for every command. */
  public static void allowStores(DataFolder folder) throws IOException {
    Path file = folder.storeRoots();
    List<String> lines = Files.exists(file) ? Files.readAllLines(file) : List.of();
    if (Files.isDirectory(folder.demo()) && !lines.contains(folder.demo().toString())) {
      List<String> more = new ArrayList<>(lines);
      more.add("# The demo's own stores.");
      more.add(folder.demo().toString());
      Files.write(file, more);
      folder.keepToOwner();
    }
  }

  private static void people(Installation installation, DemoEstate demo) {
    String hash = new BCryptPasswordEncoder().encode(DemoEstate.PASSWORD);
    demo.people()
        .forEach(p -> installation
            .part(PeopleStore.class)
            .add(new Person(p.name(), p.fullName(), Coded.of(Role.class, p.role()), hash, true)));
  }

  private static void settings(Installation installation, DemoEstate demo, Instant now) {
    demo.checks().forEach((resource, checks) -> installation.checks().keep(resource, checks));
    putStandardInForce(installation, demo, now);
    demo.programmes().forEach(p -> installation.part(ProgrammeStore.class).add(programme(p)));
  }

  private static void putStandardInForce(Installation installation, DemoEstate demo, Instant now) {
    Standard shipped = Standard.shipped();
    Instant first = now.minus(Duration.ofDays(46));
    Standard own = installation
        .standards()
        .save(
            new Standard(
                shipped.name(),
                1,
                shipped.period(),
                shipped.zone(),
                shipped.tiers(),
                demo.regions(),
                List.of()),
            1,
            "Personal and payment data stay in Nordal",
            "administrator",
            first);
    installation.standards().putInForce(own, "administrator", first);
  }

  private static Programme programme(DemoEstate.DemoProgramme p) {
    Programme programme = Programme.byRule(
        p.key(),
        p.name(),
        SelectorJson.read(p.scope()),
        p.rule(),
        Values.duration(p.startWindow()),
        Showing.STRONGEST,
        p.within() == null
            ? PointChoice.NEWEST
            : new PointChoice(PointChoice.Way.RANDOM, Values.duration(p.within()), p.sample()),
        new CopyChoice(CopyChoice.Way.ANY, null),
        p.begins());
    // A sample only looks: finding the last good point of what failed is left to people.
    return p.sample() == null
        ? programme
        : programme.with(new Programme.OnFailure(1, Duration.ZERO, false));
  }
}
