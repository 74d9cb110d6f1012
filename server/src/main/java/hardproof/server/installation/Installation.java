package hardproof.server.installation;

import hardproof.core.facts.Estate;
import hardproof.core.findings.Finding;
import hardproof.core.findings.Findings;
import hardproof.proving.databases.SqliteDatabase;
import hardproof.proving.drills.DrillLimits;
import hardproof.proving.drills.DrillRunner;
import hardproof.proving.drills.Engines;
import hardproof.proving.encryption.Keys;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.activity.Activity;
import hardproof.server.alerts.AlertDelivery;
import hardproof.server.alerts.AlertDesk;
import hardproof.server.calendar.CalendarTokens;
import hardproof.server.criteria.StandardStore;
import hardproof.server.delivery.MailDrop;
import hardproof.server.discovery.Follower;
import hardproof.server.discovery.StoreFeedStore;
import hardproof.server.drills.DrillOrders;
import hardproof.server.drills.RunQueue;
import hardproof.server.evidence.OutcomeSnapshots;
import hardproof.server.evidence.PackBuilder;
import hardproof.server.evidence.PackDesk;
import hardproof.server.evidence.PackHistories;
import hardproof.server.evidence.PackLedger;
import hardproof.server.evidence.PackStore;
import hardproof.server.facts.FactStore;
import hardproof.server.facts.OwnFacts;
import hardproof.server.feeds.FeedStore;
import hardproof.server.feeds.Importer;
import hardproof.server.feeds.Inbox;
import hardproof.server.fetching.Delivering;
import hardproof.server.fetching.DeliveryTokens;
import hardproof.server.fetching.FetchStore;
import hardproof.server.fetching.Fetcher;
import hardproof.server.findings.FindingLog;
import hardproof.server.integrity.ReadBackStore;
import hardproof.server.integrity.SweepStore;
import hardproof.server.integrity.Sweeps;
import hardproof.server.ledger.Ledger;
import hardproof.server.ledger.LedgerDesk;
import hardproof.server.ledger.LedgerHeads;
import hardproof.server.ledger.LedgerKeys;
import hardproof.server.moves.SettledStore;
import hardproof.server.outside.EventSigner;
import hardproof.server.outside.OutsideChecks;
import hardproof.server.outside.OutsideHosts;
import hardproof.server.people.PeopleDesk;
import hardproof.server.people.PeopleStore;
import hardproof.server.plan.PlanDesk;
import hardproof.server.policies.ExceptionDesk;
import hardproof.server.programmes.CapacityStore;
import hardproof.server.programmes.DrawStore;
import hardproof.server.programmes.FollowUps;
import hardproof.server.programmes.ProgrammeStore;
import hardproof.server.programmes.Programmes;
import hardproof.server.programmes.Renewing;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import hardproof.server.recipes.RecipeStore;
import hardproof.server.rehearsals.DueRehearsals;
import hardproof.server.rehearsals.RehearsalOrders;
import hardproof.server.rehearsals.RehearsalStore;
import hardproof.server.rehearsals.Rehearsals;
import hardproof.server.reports.IssuedReports;
import hardproof.server.reports.ReportDelivery;
import hardproof.server.runs.BaselineStore;
import hardproof.server.runs.CheckStore;
import hardproof.server.runs.RunStore;
import hardproof.server.runs.ScreenStore;
import hardproof.server.runs.WaitingStore;
import hardproof.server.searches.PointSearches;
import hardproof.server.storage.DataFolder;
import hardproof.server.storage.Database;
import hardproof.server.stores.CensusStore;
import hardproof.server.stores.Censuses;
import hardproof.server.stores.Connecting;
import hardproof.server.stores.ConnectionStore;
import hardproof.server.stores.Secrets;
import hardproof.server.stores.Stores;
import hardproof.server.survival.KeptLosses;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;

/** Opens a data folder and puts the parts together. */
public final class Installation implements AutoCloseable {
  /** Space on the disk that drills never take. */
  private static final long RESERVE_BYTES = 512L << 20;

  private final DataFolder folder;
  private final Clock clock;
  private final Database database;
  private final LedgerDesk ledger;
  private final RunStore runs;
  private final CheckStore checks;
  private final OutsideHosts outsideHosts;
  private final Engines engines;
  private final Sandboxes sandboxes;
  private final DrillRunner runner;
  private final FactStore facts;
  private final StandardStore standards;
  private final Evaluations evaluations;
  private final FeedStore feeds;
  private final Stores stores;
  private final Censuses censuses;
  private final DrillOrders orders;
  private final RunQueue queue;
  private final Programmes programmes;
  private final Rehearsals rehearsals;
  private final PackStore packs;
  private final Importer importer;
  private final OutsideChecks outside;
  private final FindingLog findingLog;
  private final PointSearches searches;
  private final Sweeps sweeps;
  private final Activity activity;
  private final RecipeStore recipes;
  private final PeopleStore people;
  private final PlanDesk plans;
  private final List<Object> parts = new ArrayList<>();

  private Installation(DataFolder folder, Clock clock, List<Path> stores) throws IOException {
    this.folder = folder;
    this.clock = part(clock);
    folder.keepToOwner();
    this.sandboxes = part(new Sandboxes(folder.sandboxes(), RESERVE_BYTES));
    SqliteDatabase.temporaryFilesIn(sandboxes.temporary());
    this.database = part(Database.open(folder.database()));
    this.ledger = ledger();
    this.runs = part(new RunStore(database));
    this.checks = part(new CheckStore(database));
    ReadBackStore readBacks = new ReadBackStore(database);
    RehearsalStore rehearsalStore = part(new RehearsalStore(database));
    CensusStore censusStore = part(new CensusStore(database));
    this.facts = part(new FactStore(
        database,
        asAt -> readBacks.among(runs.facts(asAt), asAt),
        rehearsalStore::facts,
        censusStore::facts,
        censusStore::listings));
    this.standards = part(new StandardStore(database));
    this.evaluations = part(new Evaluations(database, facts, standards::inForceAt, clock));
    this.findingLog = part(new FindingLog(database));
    this.feeds = part(new FeedStore(database));
    this.engines = part(
        new Engines(folder.root().resolve("engine-test"), Keys.in(folder.root().resolve("keys"))));
    this.runner = part(new DrillRunner(sandboxes, engines, DrillLimits.usual()));
    ScreenStore screens = part(new ScreenStore(database));
    BaselineStore baselines = new BaselineStore(database);
    EventSigner signer = part(EventSigner.open(folder.keys()));
    this.outsideHosts = part(new OutsideHosts(database));
    this.outside = part(new OutsideChecks(database, outsideHosts, signer, clock));
    Supplier<Estate> estate = () -> evaluations.now().estate();
    Secrets secrets = new Secrets(folder.keys());
    ConnectionStore connections = part(new ConnectionStore(database, secrets));
    part(new Connecting(connections));
    this.stores = part(new Stores(AllowedStores.of(folder, stores), connections));
    this.censuses =
        part(new Censuses(censusStore, this.stores, estate, folder.root().resolve("lists"), clock));
    this.orders = part(orders(screens, baselines));
    WaitingStore waiting = part(new WaitingStore(database));
    this.queue = part(new RunQueue(
        runs, waiting, orders, screens, baselines, outside, runner, sandboxes, estate, clock));
    this.searches = part(new PointSearches(database, runs, orders, queue, estate, clock));
    SweepStore sweepStore = part(new SweepStore(database));
    this.sweeps = part(new Sweeps(sweepStore, readBacks, orders, runner, estate, clock));
    ProgrammeParts programmeParts =
        new ProgrammeParts(database, runs, waiting, orders, feeds, evaluations, parts::add);
    this.programmes = programmeParts.programmes();
    this.plans = programmeParts.plans();
    queue.admitBy(() -> programmeParts.outlook().admission(clock.instant()));
    CapacityStore capacities = part(CapacityStore.class);
    this.rehearsals = part(new Rehearsals(
        database,
        rehearsalStore,
        runs,
        queue,
        new RehearsalOrders(orders),
        estate,
        () -> capacities.at(clock.instant()).capacity(),
        clock));
    programmes.rehearseBy(
        new DueRehearsals(rehearsals, () -> capacities.at(clock.instant()).capacity()));
    this.packs = packs(folder);
    OwnFacts ownFacts = part(new OwnFacts(database));
    this.activity = part(new Activity(database, clock));
    part(new ExceptionDesk(estate, facts, ownFacts));
    this.importer = part(new Importer(database));
    StoreFeedStore storeFeeds = part(new StoreFeedStore(database));
    censuses.onListed(new Follower(storeFeeds, importer, estate, clock)::listed);
    this.recipes = part(new RecipeStore(database));
    FetchStore fetches = part(new FetchStore(database, secrets));
    Delivering delivering = part(new Delivering(importer, clock));
    part(new DeliveryTokens(database));
    part(new Fetcher(fetches, outsideHosts, recipes, delivering, clock));
    this.people = part(new PeopleStore(database));
    MailDrop mail = part(new MailDrop(folder.mailDrop()));
    FollowUps followUps = part(new FollowUps(
        part(ProgrammeStore.class), runs, waiting, searches, mail, activity, estate, clock));
    queue.onChange(followUps::changed);
    new TellingParts(this, mail);
    part(new CalendarTokens(database, people));
    folder.keepToOwner();
  }

  /** Before anything is written that belongs into it. */
  private LedgerDesk ledger() throws IOException {
    Ledger own = part(new Ledger(database));
    LedgerKeys keys = part(new LedgerKeys(folder.keys(), database, own, clock));
    keys.open();
    LedgerHeads heads = part(new LedgerHeads(database, own, keys, clock));
    return part(new LedgerDesk(database, own, heads, keys, clock));
  }

  private PackStore packs(DataFolder folder) {
    PackLedger proofs =
        new PackLedger(database, part(Ledger.class), part(LedgerHeads.class), folder.outbox());
    PackBuilder builder = part(new PackBuilder(
        runs,
        part(ScreenStore.class),
        part(new PackHistories(database, folder, findingLog, part(DrawStore.class))),
        proofs));
    PackStore store = part(new PackStore(database, folder, builder));
    part(new PackDesk(store, ledger, clock));
    part(new OutcomeSnapshots(database));
    part(new SettledStore(database));
    part(new KeptLosses(database));
    return store;
  }

  private DrillOrders orders(ScreenStore screens, BaselineStore baselines) {
    return new DrillOrders(
        runner, runs, sandboxes, checks, screens, baselines, stores, outsideHosts, clock);
  }

  <T> T part(T part) {
    parts.add(part);
    return part;
  }

  /**
   * One of them by its type, for those that are seldom asked for.
   *
   * @throws java.util.NoSuchElementException when there is none
   */
  public <T> T part(Class<T> type) {
    return parts.stream().filter(type::isInstance).map(type::cast).findFirst().orElseThrow();
  }

  /** All of them, for whoever hands them to others by their types. */
  public List<Object> parts() {
    return List.copyOf(parts);
  }

  /**
   * Stores may lie where the data folder's own setting allows it.
   *
   * @throws Database.NotOurDatabase when the folder's database is not one of ours
   */
  public static Installation open(DataFolder folder, Clock clock) throws IOException {
    return open(folder, clock, List.of());
  }

  /**
   * @param stores folders that stores may lie in, besides those that the data folder's setting allows
   * @throws AllowedStores.NotAllowed when one of them, or the setting, can't be accepted
   */
  public static Installation open(DataFolder folder, Clock clock, List<Path> stores)
      throws IOException {
    return new Installation(folder, clock, stores);
  }

  public DataFolder folder() {
    return folder;
  }

  public Clock clock() {
    return clock;
  }

  public Database database() {
    return database;
  }

  public RunStore runs() {
    return runs;
  }

  public CheckStore checks() {
    return checks;
  }

  public OutsideHosts outsideHosts() {
    return outsideHosts;
  }

  public Engines engines() {
    return engines;
  }

  public Sandboxes sandboxes() {
    return sandboxes;
  }

  public DrillRunner runner() {
    return runner;
  }

  public FactStore facts() {
    return facts;
  }

  public Evaluations evaluations() {
    return evaluations;
  }

  public StandardStore standards() {
    return standards;
  }

  public PeopleDesk peopleDesk() {
    return new PeopleDesk(people, new BCryptPasswordEncoder(), activity, clock);
  }

  /** Writes down what the present evaluation found that was not found before, and what it closes; opens and closes alerts. */
  public void logFindings(Evaluated evaluated) {
    List<Finding> findings = Findings.of(
        evaluated.evaluation(),
        evaluated.estate(),
        feeds.pending(evaluated.estate().asAt()),
        part(Renewing.class).in(evaluated));
    findingLog.record(evaluated.evaluation(), findings);
    part(AlertDesk.class).update(evaluated, findings);
  }

  public DrillOrders orders() {
    return orders;
  }

  public RunQueue queue() {
    return queue;
  }

  public Programmes programmes() {
    return programmes;
  }

  public Importer importer() {
    return importer;
  }

  public Inbox inbox() {
    return new Inbox(folder.inbox(), importer, recipes, clock);
  }

  public FeedStore feeds() {
    return feeds;
  }

  public PackStore packs() {
    return packs;
  }

  /**
   * Begins what goes on by itself; only the holder of the data folder may.
   *
   * @param address where others find this server, for whoever is asked from outside
   * @param drillsAtOnce how many runs can go on at the same time; the capacity says how many may
   */
  public void start(String address, int drillsAtOnce) throws IOException {
    // Before anything goes on that may ask somebody outside.
    outside.answersTo(address);
    part(AlertDelivery.class).at(address);
    part(ReportDelivery.class).at(address);
    sandboxes.removeAside();
    packs.removeHalfMade();
    part(IssuedReports.class).removeHalfMade();
    queue.recover();
    rehearsals.recover();
    censuses.recover();
    queue.start(drillsAtOnce);
    rehearsals.start();
    searches.recover();
    sweeps.start();
  }

  /** What has begun ends before what it works with. */
  @Override
  public void close() {
    plans.close();
    censuses.close();
    sweeps.close();
    rehearsals.close();
    queue.close();
    outside.close();
    stores.close();
    ledger.close();
    database.close();
  }
}
