package hardproof.server.estate;

import hardproof.core.copies.Copy;
import hardproof.core.facts.PackedStates;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.PointSource;
import hardproof.core.facts.State;
import hardproof.core.points.RecoveryPoint;
import hardproof.server.storage.Database;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.BiConsumer;
import java.util.function.Supplier;
import org.springframework.dao.PessimisticLockingFailureException;
import org.springframework.transaction.CannotCreateTransactionException;

/**
 * Points and copies of each resource in packed form, kept beside their rows. What rows were added since
 * is packed before anybody reads; a crash in between leaves work to be done again, and nothing wrong.
 */
final class PackedPoints {
  /** Up to so many new rows are held in memory and merged; beyond, resources are packed anew. */
  private static final long MERGED_MOST = 200_000;

  /** Resources packed in one transaction, so that others get to write in between. */
  private static final int AT_ONCE = 200;

  private static final String CURRENT_POINT_OF_NEW_COPY = """
      SELECT p.key, p.resource FROM copy c CROSS JOIN recovery_point p
        ON p.key = c.point AND p.replaced_at IS NULL WHERE c.rowid > ?
      """;

  /** To be completed: whether states that are over are meant, or those that hold. */
  private static final String COPY_OF_NEW_POINT = """
      WHERE rowid IN (SELECT c.rowid FROM recovery_point n CROSS JOIN copy c
        ON c.point = n.key AND c.replaced_at IS %s WHERE n.rowid > ? AND c.rowid <= ?)
      ORDER BY rowid
      """;

  private static final String MOVED_POINT = """
      SELECT o.resource, n.resource FROM recovery_point n CROSS JOIN recovery_point o
        ON o.key = n.key AND o.replaced_at IS NOT NULL AND o.resource <> n.resource WHERE n.rowid > ?
      """;

  private static final String OF_RESOURCE =
      "WHERE point IN (SELECT key FROM recovery_point WHERE resource = ?) AND ";

  /** Who reads does not wait for who writes in this process; another process is waited for by SQLite. */
  private static final Duration WAITS_TO_WRITE = Duration.ofMillis(50);

  private final Database database;
  private final long mergedMost;
  private boolean versionChecked;

  /**
   * What was packed while another process held the database: who reads does not wait for who writes.
   * It is packed again, and then written, the next time.
   */
  private final Map<String, byte[]> unwritten = new ConcurrentHashMap<>();

  /** Whether another process was found to hold it: that is waited for once each time. */
  private boolean held;

  PackedPoints(Database database) {
    this(database, MERGED_MOST);
  }

  /**
   * @param mergedMost with more new rows than this resources are packed anew
   */
  PackedPoints(Database database, long mergedMost) {
    this.database = database;
    this.mergedMost = mergedMost;
  }

  /** Rows up to and with which all is packed, or is to be. */
  private record Upto(long pointRow, long copyRow) {}

  /** Rows that have come since it was done last. */
  long backlog() {
    Upto done = database.onReader(PackedPoints::done);
    Upto newest = database.read(() -> database.onReader(c -> new Upto(
        History.newestRow(FactTables.POINTS, c), History.newestRow(FactTables.COPIES, c))));
    return newest.pointRow() - done.pointRow() + newest.copyRow() - done.copyRow();
  }

  /** Packs what came since it was done last. */
  synchronized void bringUpToDate() {
    checkVersion();
    Upto done = database.onReader(PackedPoints::done);
    Upto newest = database.read(() -> database.onReader(c -> new Upto(
        History.newestRow(FactTables.POINTS, c), History.newestRow(FactTables.COPIES, c))));
    if (done.equals(newest)) {
      return;
    }
    held = false;
    long rows = newest.pointRow() - done.pointRow() + newest.copyRow() - done.copyRow();
    if (rows > mergedMost) {
      packAnew(Marks.touchedByRows(done.pointRow(), done.copyRow(), database));
    } else {
      merge(done);
    }
    if (!held) {
      written(() -> database
          .writes()
          .sql("UPDATE packed_upto SET point_row = :points, copy_row = :copies")
          .param("points", newest.pointRow())
          .param("copies", newest.copyRow())
          .update());
    }
  }

  /** Does it in a transaction; false when another process does not let go of the database. */
  private boolean written(Supplier<?> work) {
    try {
      database.write(work, WAITS_TO_WRITE);
      return true;
    } catch (Database.Busy
        | PessimisticLockingFailureException
        | CannotCreateTransactionException e) {
      return false;
    }
  }

  /** What another version packed is thrown away. */
  private void checkVersion() {
    if (versionChecked) {
      return;
    }
    byte[] any = database.onReader(c -> {
      try (PreparedStatement select = c.prepareStatement("SELECT body FROM packed_points LIMIT 1");
          ResultSet rows = select.executeQuery()) {
        return rows.next() ? rows.getBytes(1) : null;
      }
    });
    if (any != null && !PackedStates.readable(any)) {
      database.write(() -> {
        database
            .writes()
            .sql("UPDATE packed_upto SET point_row = 0, copy_row = 0")
            .update();
        return database.writes().sql("DELETE FROM packed_points").update();
      });
    }
    versionChecked = true;
  }

  private static Upto done(Connection connection) throws SQLException {
    try (PreparedStatement select =
            connection.prepareStatement("SELECT point_row, copy_row FROM packed_upto");
        ResultSet rows = select.executeQuery()) {
      rows.next();
      return new Upto(rows.getLong(1), rows.getLong(2));
    }
  }

  private void packAnew(Set<String> resources) {
    List<String> all = resources.stream().sorted().toList();
    for (int i = 0; i < all.size(); i += AT_ONCE) {
      Map<String, byte[]> bodies = new ConcurrentHashMap<>();
      all.subList(i, Math.min(all.size(), i + AT_ONCE)).parallelStream()
          .forEach(r -> bodies.put(r, database.onReader(c -> pack(c, r))));
      write(bodies);
    }
  }

  private static byte[] pack(Connection connection, String resource) throws SQLException {
    List<State<Copy>> copies = new ArrayList<>();
    // Asked for apart, so that each is found by its own index.
    for (String when : List.of("replaced_at IS NOT NULL", "replaced_at IS NULL")) {
      copies.addAll(FactTables.COPIES.states(connection, OF_RESOURCE + when, List.of(resource)));
    }
    return PackedStates.pack(
        FactTables.POINTS.states(connection, "WHERE resource = ?", List.of(resource)), copies);
  }

  /** What came since, by resource. */
  private record New(
      Map<String, List<State<RecoveryPoint>>> points,
      Map<String, List<State<Copy>>> copies,
      Set<String> movedBetween) {
    static New since(Upto done, Connection c) throws SQLException {
      Map<String, String> resourceOf = new HashMap<>();
      pairs(c, CURRENT_POINT_OF_NEW_COPY, done.copyRow(), resourceOf::put);
      Map<String, List<State<RecoveryPoint>>> points = new HashMap<>();
      for (State<RecoveryPoint> state :
          FactTables.POINTS.states(c, "WHERE rowid > ?", List.of(done.pointRow()))) {
        resourceOf.put(state.fact().key(), state.fact().resource());
        points.computeIfAbsent(state.fact().resource(), k -> new ArrayList<>()).add(state);
      }
      Map<String, List<State<Copy>>> copies = new HashMap<>();
      List<State<Copy>> found =
          new ArrayList<>(FactTables.COPIES.states(c, "WHERE rowid > ?", List.of(done.copyRow())));
      // Copies that came before their point are brought in with it.
      for (String when : List.of("NOT NULL", "NULL")) {
        found.addAll(FactTables.COPIES.states(
            c, COPY_OF_NEW_POINT.formatted(when), List.of(done.pointRow(), done.copyRow())));
      }
      for (State<Copy> state : found) {
        String resource = resourceOf.get(state.fact().point());
        if (resource != null) {
          copies.computeIfAbsent(resource, k -> new ArrayList<>()).add(state);
        }
      }
      Set<String> moved = new HashSet<>();
      pairs(c, MOVED_POINT, done.pointRow(), (from, to) -> moved.addAll(List.of(from, to)));
      return new New(points, copies, moved);
    }

    private static void pairs(Connection c, String sql, long row, BiConsumer<String, String> each)
        throws SQLException {
      try (PreparedStatement select = c.prepareStatement(sql)) {
        select.setLong(1, row);
        try (ResultSet rows = select.executeQuery()) {
          while (rows.next()) {
            each.accept(rows.getString(1), rows.getString(2));
          }
        }
      }
    }
  }

  private void merge(Upto done) {
    New added = database.read(() -> database.onReader(c -> New.since(done, c)));
    packAnew(added.movedBetween());
    Set<String> resources = new TreeSet<>(added.points().keySet());
    resources.addAll(added.copies().keySet());
    resources.removeAll(added.movedBetween());
    List<String> all = List.copyOf(resources);
    byte[] nothing = PackedStates.pack(List.of(), List.of());
    for (int i = 0; i < all.size(); i += AT_ONCE) {
      List<String> some = all.subList(i, Math.min(all.size(), i + AT_ONCE));
      Map<String, byte[]> before = bodies(some);
      Map<String, byte[]> after = new ConcurrentHashMap<>();
      some.parallelStream()
          .forEach(r -> after.put(
              r,
              PackedStates.read(r, before.getOrDefault(r, nothing))
                  .with(
                      added.points().getOrDefault(r, List.of()),
                      added.copies().getOrDefault(r, List.of()))));
      write(after);
    }
  }

  private void write(Map<String, byte[]> bodies) {
    if (bodies.isEmpty()) {
      return;
    }
    held = held || !written(() -> put(bodies));
    if (held) {
      unwritten.putAll(bodies);
    } else {
      unwritten.keySet().removeAll(bodies.keySet());
    }
  }

  private int[] put(Map<String, byte[]> bodies) {
    return database.onWriter(c -> {
      try (PreparedStatement put = c.prepareStatement("INSERT INTO packed_points VALUES (?, ?)"
          + " ON CONFLICT (resource) DO UPDATE SET body = excluded.body")) {
        for (Map.Entry<String, byte[]> body : bodies.entrySet()) {
          put.setString(1, body.getKey());
          put.setBytes(2, body.getValue());
          put.addBatch();
        }
        return put.executeBatch();
      }
    });
  }

  /** Without those of which nothing is known. */
  private Map<String, byte[]> bodies(Collection<String> resources) {
    return database.onReader(c -> {
      Map<String, byte[]> bodies = new HashMap<>();
      try (PreparedStatement select =
          c.prepareStatement("SELECT body FROM packed_points WHERE resource = ?")) {
        for (String resource : resources) {
          byte[] here = unwritten.get(resource);
          if (here != null) {
            bodies.put(resource, here);
            continue;
          }
          select.setString(1, resource);
          try (ResultSet rows = select.executeQuery()) {
            if (rows.next()) {
              bodies.put(resource, rows.getBytes(1));
            }
          }
        }
      }
      return bodies;
    });
  }

  /** What by an instant of knowing had been told of one that is judged, read when it is asked for. */
  PointSource at(Instant judged, Instant known) {
    return new Known(judged.toEpochMilli(), known.toEpochMilli());
  }

  /** Some resources are kept, because the criteria ask for one several times in a row. */
  private final class Known implements PointSource {
    private static final int KEPT = 16 * Runtime.getRuntime().availableProcessors();

    private final long judged;
    private final long known;
    private final Map<String, PointSet> kept = new LinkedHashMap<>(KEPT, 0.75f, true) {
      private static final long serialVersionUID = 1L;

      @Override
      protected boolean removeEldestEntry(Map.Entry<String, PointSet> eldest) {
        return size() > KEPT;
      }
    };

    Known(long judged, long known) {
      this.judged = judged;
      this.known = known;
    }

    @Override
    public boolean any(String resource) {
      return of(resource).size() > 0;
    }

    @Override
    public PointSet of(String resource) {
      synchronized (kept) {
        PointSet before = kept.get(resource);
        if (before != null) {
          return before;
        }
      }
      return read(List.of(resource)).get(resource);
    }

    @Override
    public void expect(List<String> resources) {
      List<String> missing = new ArrayList<>(resources);
      synchronized (kept) {
        missing.removeAll(kept.keySet());
      }
      read(missing);
    }

    private Map<String, PointSet> read(List<String> resources) {
      Map<String, byte[]> bodies = resources.isEmpty() ? Map.of() : bodies(resources);
      Map<String, PointSet> read = new HashMap<>();
      resources.forEach(r -> read.put(
          r,
          bodies.containsKey(r)
              ? PackedStates.read(r, bodies.get(r)).at(judged, known)
              : PointSet.EMPTY));
      synchronized (kept) {
        kept.putAll(read);
      }
      return read;
    }
  }
}
