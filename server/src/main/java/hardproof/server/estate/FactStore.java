package hardproof.server.estate;

import hardproof.core.drills.DrillFact;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Policy;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.FactWriter;
import hardproof.server.storage.Database;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;

/** Reads facts as they were known at an instant. */
public final class FactStore {
  private static final FactWriter WRITER = new FactWriter(SelectorJson::write);

  /** Some 200 bytes each. */
  private static final long HISTORY_MOST = 500_000;

  private final Database database;
  private final Function<Instant, List<DrillFact>> drills;
  private final long historyMost;
  private final OwnFacts own;
  private volatile History history;

  /**
   * @param drills the drills that had ended by an instant
   */
  public FactStore(Database database, Function<Instant, List<DrillFact>> drills) {
    this(database, drills, HISTORY_MOST);
  }

  /**
   * @param historyMost with more states of points and copies than this they stay in the file
   */
  FactStore(Database database, Function<Instant, List<DrillFact>> drills, long historyMost) {
    this.database = database;
    this.drills = drills;
    this.historyMost = historyMost;
    this.own = new OwnFacts(database);
  }

  private static List<Policy> withAdditions(
      List<Policy> policies, Map<String, List<String>> additions) {
    return additions.isEmpty()
        ? policies
        : policies.stream()
            .map(p -> additions.containsKey(p.key())
                ? p.withScope(p.scope().withAlso(additions.get(p.key())))
                : p)
            .toList();
  }

  /**
   * The estate as known at {@code asAt}. Points and copies are in memory where they fit, and otherwise
   * read one resource at a time: states that are over do not change, so that it comes out the same.
   */
  public Estate estate(Instant asAt) {
    Facts facts = facts(asAt);
    return fitsInMemory()
        ? new Estate(asAt, facts)
        : new Estate(asAt, facts, StoredPoints.at(database, asAt));
  }

  private boolean fitsInMemory() {
    return states() <= historyMost;
  }

  /**
   * All facts as known at {@code asAt}, read from one state of the database; without points and copies
   * where they do not fit into memory.
   */
  private Facts facts(Instant asAt) {
    return database.read(() -> {
      Facts imported = imported(asAt);
      return new Facts(
          feeds(asAt),
          imported.workloads(),
          imported.resources(),
          imported.stores(),
          withAdditions(imported.policies(), own.additions(asAt)),
          imported.points(),
          imported.copies(),
          imported.jobs(),
          imported.exceptions(),
          drills.apply(asAt));
    });
  }

  private Facts imported(Instant asAt) {
    long batch = database
        .reads()
        .sql("SELECT coalesce(max(id), 0) FROM import_batch")
        .query(Long.class)
        .single();
    History all = history;
    if (all != null && all.batch() == batch) {
      return all.at(asAt);
    }
    if (fitsInMemory()) {
      history = database.onReader(connection -> History.read(batch, connection));
      return history.at(asAt);
    }
    history = null;
    return readImported(asAt);
  }

  private long states() {
    return database
        .reads()
        .sql("SELECT coalesce((SELECT max(rowid) FROM recovery_point), 0)"
            + " + coalesce((SELECT max(rowid) FROM copy), 0)")
        .query(Long.class)
        .single();
  }

  private Facts readImported(Instant asAt) {
    return database.read(() -> database.onReader(connection -> new Facts(
        List.of(),
        known(FactTables.WORKLOADS, connection, asAt),
        known(FactTables.RESOURCES, connection, asAt),
        known(FactTables.STORES, connection, asAt),
        known(FactTables.POLICIES, connection, asAt),
        List.of(),
        List.of(),
        known(FactTables.JOBS, connection, asAt),
        known(FactTables.EXCEPTIONS, connection, asAt),
        List.of())));
  }

  private static <T> List<T> known(FactTable<T> table, Connection connection, Instant asAt)
      throws SQLException {
    List<T> facts = new ArrayList<>();
    table.forEachKnown(connection, asAt, k -> facts.add(k.fact()));
    return facts;
  }

  /** Every feed with when it last came before {@code asAt}. */
  public List<Feed> feeds(Instant asAt) {
    return database
        .reads()
        .sql("""
            SELECT key, expected_every_ms,
                   (SELECT max(received_at) FROM import_batch
                     WHERE feed = feed.key AND received_at <= :as_at) AS last_received
              FROM feed ORDER BY key
            """)
        .param("as_at", asAt.toEpochMilli())
        .query((rows, n) -> {
          long every = rows.getLong(2);
          Duration expected = rows.wasNull() ? null : Duration.ofMillis(every);
          long last = rows.getLong(3);
          return new Feed(
              rows.getString(1), expected, rows.wasNull() ? null : Instant.ofEpochMilli(last));
        })
        .list();
  }

  /** One state of a fact as a row of the bundle. */
  public record FactState(String feed, Instant recordedAt, Map<String, String> values) {}

  /**
   * A fact as it is known now.
   *
   * @param key the values of its key fields, in their order
   */
  public Optional<FactState> fact(BundleFile type, List<String> key) {
    FactTable<Object> table = FactTables.of(type);
    return database.read(() -> database.onReader(connection -> {
      try (FactTable<Object>.Session session = table.session(connection)) {
        return Optional.ofNullable(session.current(key))
            .map(k -> new FactState(k.feed(), k.recordedAt(), WRITER.row(type, k.fact())));
      }
    }));
  }

  /** How many facts of each file are known now. */
  public Map<BundleFile, Long> counts() {
    Map<BundleFile, Long> counts = new java.util.EnumMap<>(BundleFile.class);
    Arrays.stream(BundleFile.values())
        .forEach(type -> counts.put(
            type,
            database
                .reads()
                .sql("SELECT count(*) FROM " + FactTables.of(type).table()
                    + " WHERE replaced_at IS NULL")
                .query(Long.class)
                .single()));
    return counts;
  }
}
