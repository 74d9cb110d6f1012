package hardproof.server.installation;

import hardproof.core.facts.Estate;
import hardproof.core.findings.Findings;
import hardproof.proving.drills.DrillRunner;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.criteria.StandardStore;
import hardproof.server.drills.DrillOrders;
import hardproof.server.drills.ProgrammeStore;
import hardproof.server.drills.Programmes;
import hardproof.server.drills.RunQueue;
import hardproof.server.drills.RunStore;
import hardproof.server.drills.SqlCheckStore;
import hardproof.server.estate.FactStore;
import hardproof.server.estate.OwnFacts;
import hardproof.server.evidence.PackBuilder;
import hardproof.server.evidence.PackStore;
import hardproof.server.feeds.FeedStore;
import hardproof.server.feeds.Importer;
import hardproof.server.feeds.Inbox;
import hardproof.server.feeds.MappingStore;
import hardproof.server.findings.FindingLog;
import hardproof.server.people.PeopleStore;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import hardproof.server.storage.DataFolder;
import hardproof.server.storage.Database;
import java.io.IOException;
import java.time.Clock;
import java.util.function.Supplier;

/** Opens a data folder and puts the parts together. */
public final class Installation implements AutoCloseable {
  /** Space on the disk that drills never take. */
  private static final long RESERVE_BYTES = 512L << 20;

  private final DataFolder folder;
  private final Clock clock;
  private final Database database;
  private final RunStore runs;
  private final SqlCheckStore sqlChecks;
  private final FactStore facts;
  private final StandardStore standards;
  private final Evaluations evaluations;
  private final FindingLog findingLog;
  private final FeedStore feeds;
  private final DrillOrders orders;
  private final RunQueue queue;
  private final ProgrammeStore programmeStore;
  private final Programmes programmes;
  private final PackBuilder packBuilder;
  private final PackStore packs;

  private Installation(DataFolder folder, Clock clock) throws IOException {
    this.folder = folder;
    this.clock = clock;
    this.database = Database.open(folder.database());
    this.runs = new RunStore(database);
    this.sqlChecks = new SqlCheckStore(database);
    this.facts = new FactStore(database, runs::facts);
    this.standards = new StandardStore(database);
    this.evaluations = new Evaluations(database, facts, standards::inForceAt, clock);
    this.findingLog = new FindingLog(database);
    this.feeds = new FeedStore(database);
    Sandboxes sandboxes = new Sandboxes(folder.sandboxes(), RESERVE_BYTES);
    DrillRunner runner = new DrillRunner(sandboxes);
    Supplier<Estate> estate = () -> evaluations.now().estate();
    this.orders = new DrillOrders(runner, sqlChecks);
    this.queue = new RunQueue(runs, orders, runner, sandboxes, estate, clock);
    this.programmeStore = new ProgrammeStore(database);
    this.programmes = new Programmes(database, programmeStore, runs, orders, estate);
    this.packBuilder = new PackBuilder(runs);
    this.packs = new PackStore(database, folder, packBuilder);
  }

  /**
   * @throws Database.NotOurDatabase when the folder's database is not one of ours
   */
  public static Installation open(DataFolder folder, Clock clock) throws IOException {
    return new Installation(folder, clock);
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

  public SqlCheckStore sqlChecks() {
    return sqlChecks;
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

  public FindingLog findingLog() {
    return findingLog;
  }

  public OwnFacts ownFacts() {
    return new OwnFacts(database);
  }

  /** Writes down what the present evaluation found that was not found before, and what it closes. */
  public void logFindings(Evaluated evaluated) {
    findingLog.record(
        evaluated.evaluation(),
        Findings.of(
            evaluated.evaluation(),
            evaluated.estate(),
            feeds.pending(evaluated.estate().asAt())));
  }

  public DrillOrders orders() {
    return orders;
  }

  public RunQueue queue() {
    return queue;
  }

  public ProgrammeStore programmeStore() {
    return programmeStore;
  }

  public Programmes programmes() {
    return programmes;
  }

  public Importer importer() {
    return new Importer(database);
  }

  public MappingStore mappings() {
    return new MappingStore(database);
  }

  public Inbox inbox() {
    return new Inbox(folder.inbox(), importer(), mappings(), clock);
  }

  public FeedStore feeds() {
    return feeds;
  }

  public PackBuilder packBuilder() {
    return packBuilder;
  }

  public PackStore packs() {
    return packs;
  }

  public PeopleStore people() {
    return new PeopleStore(database);
  }

  @Override
  public void close() {
    queue.close();
    database.close();
  }
}
