package hardproof.server.evidence;

import hardproof.core.copies.Copy;
import hardproof.core.criteria.Standard;
import hardproof.core.criteria.Subject;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.feeds.FactKind;
import hardproof.core.feeds.FactKinds;
import hardproof.core.feeds.Field;
import hardproof.core.points.RecoveryPoint;
import hardproof.server.facts.Notations;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * The facts of a pack as plain tables of an SQLite file, for whoever trusts only SQL; with what the standard asks of each
 * resource. Times are epoch milliseconds, lengths milliseconds. The same facts always give the same rows; which bytes
 * they lie in, the version of SQLite decides.
 */
final class FactsTables {
  static final String FILE = "facts.sqlite";

  /** Where the head of a database says which SQLite wrote it. */
  private static final int WRITER_AT = 96;

  private static final int AT_ONCE = 1_000;

  private FactsTables() {}

  /** A column that is not a field of a fact. */
  private record Extra<T>(String name, Function<T, @Nullable Object> value) {}

  /**
   * @param file is written over
   * @return the file
   */
  static Path make(FactsJson facts, Path file) throws IOException {
    Files.deleteIfExists(file);
    try (Connection sql = DriverManager.getConnection("jdbc:sqlite:" + file)) {
      try (Statement s = sql.createStatement()) {
        s.execute("PRAGMA page_size = 4096");
        s.execute("PRAGMA journal_mode = OFF");
      }
      sql.setAutoCommit(false);
      fill(facts, sql);
      sql.commit();
      return file;
    } catch (SQLException e) {
      throw new IOException("the facts can't be written as tables: " + e.getMessage(), e);
    }
  }

  private static void fill(FactsJson facts, Connection sql) throws SQLException {
    Estate estate = facts.estate();
    table(sql, "pack", List.of(facts), pack());
    table(
        sql,
        FactKinds.STORES,
        facts.facts().stores(),
        List.of(new Extra<>("effective_failure_domain", s -> s.effectiveFailureDomain())));
    table(sql, FactKinds.POLICIES, facts.facts().policies(), List.of());
    table(sql, FactKinds.WORKLOADS, facts.facts().workloads(), List.of());
    table(sql, FactKinds.RESOURCES, facts.facts().resources(), List.of());
    points(sql, estate);
    table(sql, FactKinds.JOBS, facts.facts().jobs(), List.of());
    table(sql, FactKinds.EXCEPTIONS, facts.facts().exceptions(), List.of());
    table(sql, "drill", byEnd(facts.facts().drills()), drill());
    table(sql, "rehearsal", facts.facts().rehearsals(), rehearsal());
    asked(sql, estate, facts.standard());
    try (Statement s = sql.createStatement()) {
      s.execute("CREATE INDEX point_of ON recovery_point (resource, key)");
      s.execute("CREATE INDEX point_on ON recovery_point (resource, based_on)"
          + " WHERE based_on IS NOT NULL");
      s.execute("CREATE INDEX copy_of ON copy (point, store)");
    }
  }

  /** Resource by resource, as each is unpacked by itself. */
  private static void points(Connection sql, Estate estate) throws SQLException {
    try (Rows<RecoveryPoint> points = rows(
            sql,
            FactKinds.POINTS,
            List.of(
                new Extra<>("stands_alone", p -> p.form().standsAlone() ? 1 : 0),
                new Extra<>("consistency_rank", p -> p.consistency().ordinal())));
        Rows<Copy> copies = rows(
            sql,
            FactKinds.COPIES,
            List.of(new Extra<>("recorded_at", c -> millis(c.recordedAt()))))) {
      for (Resource resource : estate.facts().resources()) {
        if (Thread.interrupted()) {
          throw new SQLException("it was stopped");
        }
        PointSet own = estate.pointSet(resource.key());
        points.addAll(own.points());
        copies.addAll(own.copies().all());
      }
    }
  }

  /** One at a time, as each holds the points of its resource. */
  private static void asked(Connection sql, Estate estate, Standard standard) throws SQLException {
    try (Rows<Subject> asked = new Rows<>(sql, "asked", asked());
        Rows<Promised> promised = new Rows<>(sql, "copy_promised", promise())) {
      for (Resource resource : estate.facts().resources()) {
        Subject subject = new Subject(estate, standard, resource);
        asked.add(subject);
        promised.addAll(promised(subject).toList());
      }
    }
  }

  private static List<DrillFact> byEnd(List<DrillFact> drills) {
    return drills.stream().sorted(Comparator.comparing(DrillFact::ended)).toList();
  }

  private static @Nullable Long millis(@Nullable Instant instant) {
    return instant == null ? null : instant.toEpochMilli();
  }

  private static List<Extra<FactsJson>> pack() {
    return List.of(
        new Extra<>("as_at", f -> millis(f.asAt())),
        new Extra<>("known_at", f -> millis(f.knownAt())),
        new Extra<>("standard", f -> f.standard().title()),
        new Extra<>("zone", f -> f.standard().zone().getId()),
        new Extra<>("period", f -> f.standard().period().toMillis()));
  }

  private static List<Extra<DrillFact>> drill() {
    return List.of(
        new Extra<>("run", DrillFact::run),
        new Extra<>("resource", DrillFact::resource),
        new Extra<>("point", DrillFact::point),
        new Extra<>("store", DrillFact::store),
        new Extra<>("method", d -> d.method().code()),
        new Extra<>("reaches", d -> d.reaches().number()),
        new Extra<>("restore", d -> d.restore().code()),
        new Extra<>("checks", d -> d.checks().code()),
        new Extra<>("clean_up", d -> d.cleanup().code()),
        new Extra<>("passed", d -> d.passed() ? 1 : 0),
        new Extra<>("failed", d -> d.failed() ? 1 : 0),
        new Extra<>("started", d -> millis(d.started())),
        new Extra<>("ended", d -> millis(d.ended())),
        new Extra<>("bytes", DrillFact::bytes),
        new Extra<>("blamed_point", DrillFact::blamedPoint),
        new Extra<>("blamed_store", DrillFact::blamedStore),
        new Extra<>("sentence", DrillFact::sentence));
  }

  private static List<Extra<RehearsalFact>> rehearsal() {
    return List.of(
        new Extra<>("id", RehearsalFact::id),
        new Extra<>("workload", RehearsalFact::workload),
        new Extra<>("moment", r -> millis(r.moment())),
        new Extra<>("loss", RehearsalFact::loss),
        new Extra<>("outcome", r -> r.outcome().code()),
        new Extra<>("started", r -> millis(r.started())),
        new Extra<>("ended", r -> millis(r.ended())),
        new Extra<>("clock", r -> r.clock().toMillis()),
        new Extra<>("expected", r -> r.expected() == null ? null : r.expected().toMillis()),
        new Extra<>("sentence", RehearsalFact::sentence));
  }

  private static List<Extra<Subject>> asked() {
    return List.of(
        new Extra<>("resource", s -> s.resource().key()),
        new Extra<>("protector", s -> s.protector().key()),
        new Extra<>("rpo", s -> s.demand().rpo().toMillis()),
        new Extra<>("consistency_rank", s -> s.demand().consistency().ordinal()),
        new Extra<>("copy_freshness", s -> s.demand().copyRule().freshness().toMillis()),
        new Extra<>("told_until", s -> millis(s.horizon())),
        new Extra<>("failure_domain", s -> s.resource().tags().get(Resource.FAILURE_DOMAIN_TAG)));
  }

  private record Promised(String resource, Policy.CopyTarget target) {}

  private static Stream<Promised> promised(Subject subject) {
    return subject.policies().stream()
        .flatMap(p -> p.copyTo().stream())
        .distinct()
        .map(t -> new Promised(subject.resource().key(), t));
  }

  private static List<Extra<Promised>> promise() {
    return List.of(
        new Extra<>("resource", Promised::resource),
        new Extra<>("store", p -> p.target().store()),
        new Extra<>("deadline", p -> p.target().deadline().toMillis()));
  }

  private static <T> void table(
      Connection sql, FactKind<T> kind, List<T> facts, List<Extra<T>> extras) throws SQLException {
    try (Rows<T> rows = rows(sql, kind, extras)) {
      rows.addAll(facts);
    }
  }

  private static <T> void table(Connection sql, String name, List<T> facts, List<Extra<T>> columns)
      throws SQLException {
    try (Rows<T> rows = new Rows<>(sql, name, columns)) {
      rows.addAll(facts);
    }
  }

  private static <T> Rows<T> rows(Connection sql, FactKind<T> kind, List<Extra<T>> extras)
      throws SQLException {
    List<Extra<T>> columns = new ArrayList<>();
    for (Field<T, ?> field : kind.fields()) {
      if (!field.ours()) {
        columns.add(new Extra<>(field.column(), fact -> field.keep(fact, Notations.KEPT)));
      }
    }
    columns.addAll(extras);
    return new Rows<>(sql, kind.table(), columns);
  }

  /** Fills a table, some rows at a time. */
  private static final class Rows<T> implements AutoCloseable {
    private final List<Extra<T>> columns;
    private final PreparedStatement insert;
    private int waiting;

    /** Makes the table. */
    Rows(Connection sql, String name, List<Extra<T>> columns) throws SQLException {
      this.columns = columns;
      try (Statement s = sql.createStatement()) {
        s.execute("CREATE TABLE " + name + " ("
            + columns.stream().map(c -> '"' + c.name() + '"').collect(Collectors.joining(", "))
            + ")");
      }
      String marks = columns.stream().map(c -> "?").collect(Collectors.joining(", "));
      insert = sql.prepareStatement("INSERT INTO " + name + " VALUES (" + marks + ")");
    }

    void addAll(List<T> facts) throws SQLException {
      for (T fact : facts) {
        add(fact);
      }
    }

    void add(T fact) throws SQLException {
      for (int i = 0; i < columns.size(); i++) {
        insert.setObject(i + 1, columns.get(i).value().apply(fact));
      }
      insert.addBatch();
      if (++waiting == AT_ONCE) {
        insert.executeBatch();
        waiting = 0;
      }
    }

    @Override
    public void close() throws SQLException {
      try (insert) {
        insert.executeBatch();
      }
    }
  }

  /**
   * What differs between the tables of a pack and those that its facts give; null where nothing does.
   *
   * @param theirs the file in the pack
   */
  static @Nullable String difference(Opened theirs, FactsJson facts) throws IOException {
    Path our = Files.createTempFile("facts-", ".sqlite");
    Path their = our.resolveSibling(our.getFileName() + ".theirs");
    try {
      make(facts, our);
      try (InputStream in = theirs.open()) {
        Files.copy(in, their);
      }
      long at = Files.mismatch(our, their);
      String differs = at < 0 ? null : compare(our, their);
      return at < 0 || differs != null || !ofOneWriter(our, their)
          ? differs
          : "byte " + at + " is not what facts.json gives, though no table holds it";
    } finally {
      Files.deleteIfExists(their);
      Files.deleteIfExists(our);
    }
  }

  /**
   * Whether both were written by the same SQLite, which then writes the same bytes; another one may lay out the same tables
   * otherwise. Source: "Database File Format" of SQLite, 1.3.
   */
  private static boolean ofOneWriter(Path our, Path their) throws IOException {
    return writer(our) == writer(their);
  }

  private static int writer(Path file) throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      byte[] head = in.readNBytes(WRITER_AT + Integer.BYTES);
      return ByteBuffer.wrap(head).getInt(WRITER_AT);
    }
  }

  /** What can be read through. */
  @FunctionalInterface
  interface Opened {
    InputStream open() throws IOException;
  }

  private static @Nullable String compare(Path our, Path their) {
    try (Connection sql = DriverManager.getConnection("jdbc:sqlite:" + our);
        Statement s = sql.createStatement()) {
      s.execute("PRAGMA trusted_schema = OFF");
      s.execute("PRAGMA cell_size_check = ON");
      s.execute("ATTACH '" + their.toString().replace("'", "''") + "' AS theirs");
      String schema = "SELECT type, name, tbl_name, sql FROM %s.sqlite_schema";
      if (differ(s, schema)) {
        return "its tables are not those that facts.json gives";
      }
      List<String> tables = new ArrayList<>();
      try (ResultSet names = s.executeQuery(
          "SELECT name FROM main.sqlite_schema WHERE type = 'table' ORDER BY name")) {
        while (names.next()) {
          tables.add(names.getString(1));
        }
      }
      for (String table : tables) {
        if (differ(s, "SELECT rowid, * FROM %s." + table)) {
          return "its table " + table + " has other rows than facts.json gives";
        }
      }
      try (ResultSet check = s.executeQuery("PRAGMA theirs.integrity_check(1)")) {
        check.next();
        return check.getString(1).equals("ok")
            ? null
            : "SQLite finds it damaged: " + check.getString(1);
      }
    } catch (SQLException e) {
      return "SQLite can't read it: " + e.getMessage();
    }
  }

  private static boolean differ(Statement s, String select) throws SQLException {
    String ours = String.format(Locale.ROOT, select, "main");
    String theirs = String.format(Locale.ROOT, select, "theirs");
    try (ResultSet found = s.executeQuery("SELECT EXISTS (SELECT * FROM (" + ours + " EXCEPT "
        + theirs + ")) OR EXISTS (SELECT * FROM (" + theirs + " EXCEPT " + ours + "))")) {
      found.next();
      return found.getBoolean(1);
    }
  }
}
