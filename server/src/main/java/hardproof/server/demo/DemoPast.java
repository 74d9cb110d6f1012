package hardproof.server.demo;

import hardproof.core.drills.Method;
import hardproof.core.estate.AcceptedException;
import hardproof.core.facts.Estate;
import hardproof.core.feeds.BundleFile;
import hardproof.core.wording.Coded;
import hardproof.proving.checks.Check;
import hardproof.proving.drills.DrillOptions;
import hardproof.proving.drills.DrillPlan;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.drills.DrillOrders;
import hardproof.server.feeds.Bundle;
import hardproof.server.feeds.FeedStore;
import hardproof.server.feeds.FileResult;
import hardproof.server.feeds.Importer.WithRejections;
import hardproof.server.installation.Installation;
import hardproof.server.people.Role;
import hardproof.server.policies.ExceptionDesk;
import hardproof.server.runs.RunNeeds;
import hardproof.server.runs.RunOrder;
import hardproof.standins.estate.DemoEstate;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;

/** The past of the demo estate: deliveries, drills and decisions, each by the code that does it for real. */
final class DemoPast {
  private final Installation installation;
  private final DemoEstate demo;
  private final SettableClock clock;
  private final Path folder;
  private Instant looked = Instant.MIN;
  private int drilled;
  private int started;
  private int rehearsed;

  DemoPast(Installation installation, DemoEstate demo, SettableClock clock, Path folder) {
    this.installation = installation;
    this.demo = demo;
    this.clock = clock;
    this.folder = folder;
  }

  /** Every delivery and every drill, each on its day. */
  void letPass() throws IOException {
    Path work = Files.createTempDirectory("hard-proof-demo-");
    try {
      for (DemoEstate.Delivery delivery : demo.deliveries()) {
        if (delivery.received().isAfter(clock.instant()) && timeToLook()) {
          looked = clock.instant();
          installation.logFindings(installation.evaluations().now());
        }
        drillBefore(delivery.received());
        clock.set(delivery.received());
        deliver(delivery, work);
        promiseDaily(delivery.feed());
        if (delivery.file().startsWith("exceptions")) {
          decide();
        }
      }
      drillBefore(Instant.MAX);
    } finally {
      Sandboxes.removeTree(work);
    }
  }

  private void drillBefore(Instant instant) throws IOException {
    while (drilled < demo.drills().size() && demo.drills().get(drilled).at().isBefore(instant)) {
      rehearseBefore(demo.drills().get(drilled).at());
      startBefore(demo.drills().get(drilled).at());
      drill(demo.drills().get(drilled++));
    }
    rehearseBefore(instant);
    startBefore(instant);
  }

  private void rehearseBefore(Instant instant) {
    while (rehearsed < demo.rehearsals().size()
        && demo.rehearsals().get(rehearsed).at().isBefore(instant)) {
      startBefore(demo.rehearsals().get(rehearsed).at());
      new DemoRehearsal(installation, clock).carryOut(demo.rehearsals().get(rehearsed++));
    }
  }

  /** What programmes start, and its drills. */
  private void startBefore(Instant instant) {
    while (started < demo.starts().size() && demo.starts().get(started).isBefore(instant)) {
      Instant at = demo.starts().get(started++);
      clock.set(at);
      installation.programmes().startWhatIsDue(at);
      while (installation.queue().runOne()) {}
      clock.set(at.plus(Duration.ofHours(1)));
      installation.queue().cleanUp();
    }
  }

  private void promiseDaily(String feed) {
    if (feed.endsWith("-journal") && installation.feeds().setting(feed).isEmpty()) {
      FeedStore.Setting daily =
          new FeedStore.Setting(Duration.ofHours(26), EnumSet.noneOf(BundleFile.class));
      installation.feeds().say(feed, daily, "administrator", clock.instant());
    }
  }

  /** What was found is written down every other day of the last ten, and weekly before. */
  private boolean timeToLook() {
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
  private void decide() {
    clock.set(clock.instant().plus(Duration.ofHours(1)));
    String approver = demo.people().stream()
        .filter(p -> p.role().equals(Role.APPROVER.code()))
        .findFirst()
        .orElseThrow()
        .name();
    Estate facts = installation.evaluations().now().estate();
    for (AcceptedException proposal : facts.facts().exceptions()) {
      agree(proposal, facts.coverage(proposal.scope()).resources(), approver);
    }
  }

  private void agree(AcceptedException proposal, int covers, String approver) {
    Instant seen = installation
        .facts()
        .fact(BundleFile.EXCEPTIONS, List.of(proposal.key()))
        .orElseThrow()
        .recordedAt();
    installation
        .part(ExceptionDesk.class)
        .decide(proposal.key(), true, seen, covers, approver, clock.instant());
  }

  private void deliver(DemoEstate.Delivery delivery, Path work) throws IOException {
    Path file = work.resolve(delivery.file());
    Files.writeString(file, delivery.content());
    Bundle bundle = Bundle.of(List.of(file), work);
    for (FileResult result : installation
        .importer()
        .take(bundle, delivery.feed(), clock.instant(), "inbox", WithRejections.TAKE_NONE)) {
      if (!result.taken()) {
        throw new IllegalStateException(
            "the demo estate does not import: " + result.rejections().get(0).sentence());
      }
    }
  }

  private void drill(DemoEstate.PastDrill drill) throws IOException {
    clock.set(drill.at());
    addLaterChecks(drill.at());
    String run = queue(drill);
    installation.queue().runOne();
    if (drill.movedTo() != null) {
      move(run, drill.movedTo());
    }
    // Whoever was asked outside does not answer, and their time passes.
    clock.set(drill.at().plus(Duration.ofHours(1)));
    installation.queue().cleanUp();
    clock.set(drill.at());
  }

  private void addLaterChecks(Instant at) {
    for (DemoEstate.LaterChecks later : demo.laterChecks()) {
      List<Check> kept = installation.checks().of(later.resource());
      if (!later.at().isAfter(at) && !kept.contains(later.check())) {
        List<Check> more = new ArrayList<>(kept);
        more.add(later.check());
        installation.checks().keep(later.resource(), more);
      }
    }
  }

  private String queue(DemoEstate.PastDrill drill) {
    Estate facts = installation.evaluations().now().estate();
    DrillOrders orders = installation.orders();
    RunOrder order = orders.complete(facts, wanted(drill));
    DrillPlan plan = orders.plan(facts, order);
    RunNeeds needs = RunNeeds.of(plan.readBytes(), plan.spaceBytes());
    return installation
        .runs()
        .queue(order, plan.reaches(), needs, null, drill.by(), clock.instant());
  }

  /** Machines by the engine that ships: the past is the same wherever the demo is made, and takes no minutes. */
  private static RunOrder wanted(DemoEstate.PastDrill drill) {
    DrillOptions usual = DrillOptions.usual();
    return new RunOrder(
            drill.resource(),
            null,
            "skerry-disk",
            drill.method() == null ? null : Coded.of(Method.class, drill.method()),
            null,
            drill.reason(),
            drill.movedTo() == null ? Duration.ZERO : Duration.ofMinutes(30))
        .with(new DrillOptions(
            usual.seed(), usual.sample(), usual.paths(), "stand-in", usual.bootLimit()));
  }

  /** As an administrator does who needs the room: a link stays where the sandbox was. */
  private void move(String run, String store) throws IOException {
    Path to = Files.createDirectories(folder.resolve(store)).resolve(run);
    Path sandbox = installation.sandboxes().folder(run);
    Files.move(sandbox, to);
    Files.createSymbolicLink(sandbox, to);
  }
}
