package hardproof.server.demo;

import hardproof.core.criteria.Standard;
import hardproof.core.drills.Method;
import hardproof.core.estate.AcceptedException;
import hardproof.core.facts.Estate;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Values;
import hardproof.core.wording.Coded;
import hardproof.core.wording.Wording;
import hardproof.proving.checks.Check;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.drills.DrillOrders;
import hardproof.server.estate.SelectorJson;
import hardproof.server.feeds.Bundle;
import hardproof.server.feeds.FeedStore;
import hardproof.server.feeds.FileResult;
import hardproof.server.feeds.Importer.WithRejections;
import hardproof.server.installation.Installation;
import hardproof.server.people.PeopleStore;
import hardproof.server.people.Person;
import hardproof.server.people.Role;
import hardproof.server.policies.ExceptionDesk;
import hardproof.server.programmes.Programme;
import hardproof.server.programmes.ProgrammeStore;
import hardproof.server.runs.RunOrder;
import hardproof.server.storage.DataFolder;
import hardproof.standins.estate.DemoEstate;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
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
    Files.createDirectories(folder.root());
    Files.writeString(mark, "");
    for (String suffix : List.of("", "-wal", "-shm")) {
      Files.deleteIfExists(folder.root().resolve("hard-proof.db" + suffix));
    }
    Sandboxes.removeTree(folder.demo());
    say.accept("Making the demo estate: 45 days of facts, real artifacts, past drills …");
    long begun = System.nanoTime();
    DemoEstate demo = DemoEstate.make(folder.demo(), now, SEED);
    SettableClock clock = new SettableClock(now);
    try (Installation installation = Installation.open(folder, clock, List.of(folder.demo()))) {
      people(installation, demo);
      // Nobody listens there: the demo holds an outside check that is never answered.
      installation.outsideHosts().allow(List.of("127.0.0.1:9"), "administrator", now);
      settings(installation, demo, now);
      quietly(() -> days(installation, demo, clock, folder.demo()));
      say.accept("The demo estate is made ("
          + Wording.duration(Duration.ofNanos(System.nanoTime() - begun)) + "): "
          + Wording.count(installation.facts().counts().get(BundleFile.POINTS), "point", "points")
          + " of "
          + Wording.count(
              installation.facts().counts().get(BundleFile.RESOURCES), "resource", "resources")
          + ".");
    }
    Files.delete(mark);
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
    Instant yesterday = now.minus(Duration.ofDays(1));
    demo.programmes()
        .forEach(p -> installation
            .part(ProgrammeStore.class)
            .add(new Programme(
                p.key(),
                p.name(),
                SelectorJson.read(p.scope()),
                p.rule(),
                "UTC",
                now.minus(Duration.ofDays(30)),
                Values.duration(p.startWindow()),
                null,
                yesterday)));
  }

  private static void days(
      Installation installation, DemoEstate demo, SettableClock clock, Path folder)
      throws IOException {
    Path work = Files.createTempDirectory("hard-proof-demo-");
    try {
      int next = 0;
      Instant looked = Instant.MIN;
      for (DemoEstate.Delivery delivery : demo.deliveries()) {
        if (delivery.received().isAfter(clock.instant()) && timeToLook(looked, clock, demo)) {
          looked = clock.instant();
          installation.logFindings(installation.evaluations().now());
        }
        while (next < demo.drills().size()
            && demo.drills().get(next).at().isBefore(delivery.received())) {
          drill(installation, demo, demo.drills().get(next++), clock, folder);
        }
        clock.set(delivery.received());
        deliver(installation, delivery, work, clock);
        if (delivery.feed().endsWith("-journal")
            && installation.feeds().setting(delivery.feed()).isEmpty()) {
          FeedStore.Setting daily =
              new FeedStore.Setting(Duration.ofHours(26), EnumSet.noneOf(BundleFile.class));
          installation.feeds().say(delivery.feed(), daily, "administrator", clock.instant());
        }
        if (delivery.file().startsWith("exceptions")) {
          decide(installation, demo, clock);
        }
      }
      while (next < demo.drills().size()) {
        drill(installation, demo, demo.drills().get(next++), clock, folder);
      }
    } finally {
      Sandboxes.removeTree(work);
    }
  }

  /** What was found is written down every other day of the last ten, and weekly before. */
  private static boolean timeToLook(Instant looked, SettableClock clock, DemoEstate demo) {
    Instant last = demo.deliveries().get(demo.deliveries().size() - 1).received();
    Duration every = Duration.between(clock.instant(), last).toDays() <= 10
        ? Duration.ofHours(44)
        : Duration.ofHours(164);
    return !clock.instant().isAfter(last)
        && clock.instant().isAfter(demo.deliveries().get(0).received())
        && (looked.equals(Instant.MIN)
            || Duration.between(looked, clock.instant()).compareTo(every) > 0);
  }

  /** What a feed says of exceptions is a proposal; the demo's approver agrees an hour later. */
  private static void decide(Installation installation, DemoEstate demo, SettableClock clock) {
    clock.set(clock.instant().plus(Duration.ofHours(1)));
    String approver = demo.people().stream()
        .filter(p -> p.role().equals(Role.APPROVER.code()))
        .findFirst()
        .orElseThrow()
        .name();
    Estate facts = installation.evaluations().now().estate();
    for (AcceptedException proposal : facts.facts().exceptions()) {
      installation
          .part(ExceptionDesk.class)
          .decide(
              proposal.key(),
              true,
              installation
                  .facts()
                  .fact(BundleFile.EXCEPTIONS, List.of(proposal.key()))
                  .orElseThrow()
                  .recordedAt(),
              facts.coverage(proposal.scope()).resources(),
              approver,
              clock.instant());
    }
  }

  private static void deliver(
      Installation installation, DemoEstate.Delivery delivery, Path work, SettableClock clock)
      throws IOException {
    Path file = work.resolve(delivery.file());
    Files.writeString(file, delivery.content());
    for (FileResult result : installation
        .importer()
        .take(
            Bundle.of(List.of(file), work),
            delivery.feed(),
            clock.instant(),
            "inbox",
            WithRejections.TAKE_NONE)) {
      if (!result.taken()) {
        throw new IllegalStateException(
            "the demo estate does not import: " + result.rejections().get(0).sentence());
      }
    }
  }

  private static void drill(
      Installation installation,
      DemoEstate demo,
      DemoEstate.PastDrill drill,
      SettableClock clock,
      Path folder)
      throws IOException {
    clock.set(drill.at());
    for (DemoEstate.LaterChecks later : demo.laterChecks()) {
      List<Check> kept = installation.checks().of(later.resource());
      if (!later.at().isAfter(drill.at()) && !kept.contains(later.check())) {
        List<Check> more = new ArrayList<>(kept);
        more.add(later.check());
        installation.checks().keep(later.resource(), more);
      }
    }
    Estate facts = installation.evaluations().now().estate();
    RunOrder wanted = new RunOrder(
        drill.resource(),
        null,
        "skerry-disk",
        drill.method() == null ? null : Coded.of(Method.class, drill.method()),
        null,
        drill.reason(),
        drill.movedTo() == null ? Duration.ZERO : Duration.ofMinutes(30));
    DrillOrders orders = installation.orders();
    RunOrder order = orders.complete(facts, wanted);
    String run = installation
        .runs()
        .queue(order, orders.plan(facts, order).reaches(), null, drill.by(), clock.instant());
    installation.queue().runOne();
    if (drill.movedTo() != null) {
      Path to = Files.createDirectories(folder.resolve(drill.movedTo())).resolve(run);
      Path sandbox = installation.sandboxes().folder(run);
      Files.move(sandbox, to);
      Files.createSymbolicLink(sandbox, to);
    }
    // Whoever was asked outside does not answer, and their time passes.
    clock.set(drill.at().plus(Duration.ofHours(1)));
    installation.queue().cleanUp();
    clock.set(drill.at());
  }
}
