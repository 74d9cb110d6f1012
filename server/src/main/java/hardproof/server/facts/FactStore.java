package hardproof.server.facts;

import hardproof.core.census.CensusFact;
import hardproof.core.census.StoreListing;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Policy;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import hardproof.core.facts.Hindsight;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.FactKind;
import hardproof.core.moves.Stay;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;

/** Reads facts as they were known at an instant. */
public final class FactStore {
  private final Database database;
  private final Function<Instant, List<DrillFact>> drills;
  private final Function<Instant, List<RehearsalFact>> rehearsals;
  private final Function<Instant, List<CensusFact>> censuses;
  private final Function<Instant, List<StoreListing>> listings;
  private final OwnFacts own;
  private final History history;
  private final PackedPoints points;

  /**
   * @param drills the drills that had ended by an instant
   */
  public FactStore(Database database, Function<Instant, List<DrillFact>> drills) {
    this(database, drills, asAt -> List.of(), asAt -> List.of(), asAt -> List.of());
  }

  /**
   * @param drills the drills that had ended by an instant
   * @param rehearsals the same of rehearsals
   * @param censuses what censuses had found by an instant
   * @param listings how lists of stores had ended by an instant
   */
  public FactStore(
      Database database,
      Function<Instant, List<DrillFact>> drills,
      Function<Instant, List<RehearsalFact>> rehearsals,
      Function<Instant, List<CensusFact>> censuses,
      Function<Instant, List<StoreListing>> listings) {
    this(database, drills, rehearsals, censuses, listings, new PackedPoints(database));
  }

  FactStore(
      Database database,
      Function<Instant, List<DrillFact>> drills,
      Function<Instant, List<RehearsalFact>> rehearsals,
      Function<Instant, List<CensusFact>> censuses,
      Function<Instant, List<StoreListing>> listings,
      PackedPoints points) {
    this.database = database;
    this.drills = drills;
    this.rehearsals = rehearsals;
    this.censuses = censuses;
    this.listings = listings;
    this.own = new OwnFacts(database);
    this.history = new History(database);
    this.points = points;
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
   * The estate as known at {@code asAt}. Points and copies are read one resource at a time: states that
   * are over do not change, so that it comes out the same whenever they are.
   */
  public Estate estate(Instant asAt) {
    return estate(asAt, asAt);
  }

  /**
   * The estate at {@code asAt} by what had been recorded by {@code knownAt}; in hindsight where that is later.
   * What was decided and done here is as it was at {@code asAt}: nothing is decided backwards.
   */
  public Estate estate(Instant asAt, Instant knownAt) {
    points.bringUpToDate();
    return new Estate(asAt, knownAt, facts(asAt, knownAt), points.at(asAt, knownAt));
  }

  /** Rows of points and copies that the next estate has to work through first. */
  public long backlog() {
    return points.backlog();
  }

  /** At which sites resources were by what was known at an instant, oldest first; a site that nobody names is none. */
  public List<Stay> stays(Instant asAt) {
    return database.read(() -> history.stays(asAt));
  }

  /** All facts but points and copies, read from one state of the database. */
  private Facts facts(Instant asAt, Instant knownAt) {
    return database.read(() -> {
      List<Feed> feeds = feeds(asAt, knownAt);
      Facts imported = imported(asAt, knownAt);
      return facts(asAt, feeds, imported);
    });
  }

  private Facts imported(Instant asAt, Instant knownAt) {
    Facts imported;
    if (knownAt.equals(asAt)) {
      imported = history.at(asAt);
    } else {
      Set<String> spoken = feeds(asAt).stream().map(Feed::key).collect(Collectors.toSet());
      imported = history.at(new Hindsight(asAt, knownAt, f -> !spoken.contains(f)));
    }
    return imported;
  }

  private Facts facts(Instant asAt, List<Feed> feeds, Facts imported) {
    return new Facts(
        feeds,
        imported.workloads(),
        imported.resources(),
        imported.stores(),
        withAdditions(imported.policies(), own.additions(asAt)),
        List.of(),
        List.of(),
        imported.jobs(),
        imported.exceptions(),
        drills.apply(asAt),
        rehearsals.apply(asAt),
        censuses.apply(asAt),
        listings.apply(asAt));
  }

  /** Every feed that had come by {@code asAt}, with what was said of it then and when it last came. */
  public List<Feed> feeds(Instant asAt) {
    return feeds(asAt, asAt);
  }

  /**
   * Every feed that had come by {@code knownAt}, with when it last came and up to when it had spoken; with
   * what was said of it at {@code asAt}, or first where nothing had been said by then.
   */
  private List<Feed> feeds(Instant asAt, Instant knownAt) {
    return database
        .reads()
        .sql("""
            SELECT key, expected_every_ms, last_received, told_until FROM (
              SELECT b.feed AS key, max(b.received_at) AS last_received, max(b.told_until) AS told_until,
                     max(:as_at, (SELECT min(recorded_at) FROM feed_setting WHERE feed = b.feed)) AS said
                FROM import_batch b WHERE b.received_at <= :known_at GROUP BY b.feed)
              LEFT JOIN feed_setting s ON s.feed = key AND s.recorded_at <= said
               AND s.recorded_at <= :known_at AND (s.replaced_at IS NULL OR s.replaced_at > said)
             ORDER BY key
            """)
        .param("as_at", asAt.toEpochMilli())
        .param("known_at", knownAt.toEpochMilli())
        .query((rows, n) -> new Feed(
            rows.getString(1),
            Columns.duration(rows, 2),
            Columns.instant(rows, 3),
            Columns.instant(rows, 4)))
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
    return fact(type.kind(), key);
  }

  private <T> Optional<FactState> fact(FactKind<T> kind, List<String> key) {
    FactTable<T> table = FactTables.of(kind);
    return database.read(() -> database.onReader(connection -> {
      try (FactTable<T>.Session session = table.session(connection)) {
        return Optional.ofNullable(session.current(key))
            .map(k -> new FactState(k.feed(), k.recordedAt(), kind.row(k.fact(), Notations.KEPT)));
      }
    }));
  }

  /** Who brought a state of a fact in; empty when that is not known. */
  public Optional<String> broughtBy(BundleFile type, FactState state) {
    return database
        .reads()
        .sql("""
            SELECT received_by FROM import_batch
             WHERE feed = :feed AND received_at = :at AND type = :type ORDER BY id DESC LIMIT 1
            """)
        .param("feed", state.feed())
        .param("at", state.recordedAt().toEpochMilli())
        .param("type", type.code())
        .query(String.class)
        .optional();
  }

  /** How many facts of each file are known now. */
  public Map<BundleFile, Long> counts() {
    Map<BundleFile, Long> counts = new java.util.EnumMap<>(BundleFile.class);
    Arrays.stream(BundleFile.values())
        .forEach(type -> counts.put(
            type,
            database
                .reads()
                .sql("SELECT count(*) FROM " + type.kind().table() + " WHERE replaced_at IS NULL")
                .query(Long.class)
                .single()));
    return counts;
  }
}
