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
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * Points and copies of each resource in packed form, kept beside their rows. What rows were added since
 * is packed before anybody reads; a crash in between leaves work to be done again, and nothing wrong.
 */
final class PackedPoints {
  /** Up to so many new rows are held in memory and merged; beyond, resources are packed anew. */
  private static final long MERGED_MOST = 200_000;

  /** Resources packed in one transaction, so that others get to write in between. */
  private static final int AT_ONCE = 200;

  private static final String OF_RESOURCE =
      "WHERE point IN (SELECT key FROM recovery_point WHERE resource = ?) AND ";

  private final Database database;
  private final long mergedMost;
  private boolean versionChecked;

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

  /** Packs what came since it was done last. */
  synchronized void bringUpToDate() {
    checkVersion();
    Upto done = database.onReader(PackedPoints::done);
    Upto newest = database.read(() -> database.onReader(c -> new Upto(
        History.newestRow(FactTables.POINTS, c), History.newestRow(FactTables.COPIES, c))));
    if (done.equals(newest)) {
      return;
    }
    long rows = newest.pointRow() - done.pointRow() + newest.copyRow() - done.copyRow();
    if (rows > mergedMost) {
      packAnew(database.onReader(c -> touched(c, done)));
    } else {
      merge(done);
    }
    database.write(() -> database
        .writes()
        .sql("UPDATE packed_upto SET point_row = :points, copy_row = :copies")
        .param("points", newest.pointRow())
        .param("copies", newest.copyRow())
        .update());
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

  /** The resources that new rows of points and copies are about, before and after. */
  private static Set<String> touched(Connection connection, Upto done) throws SQLException {
    Set<String> touched = new TreeSet<>();
    String sql = """
        SELECT DISTINCT resource FROM recovery_point WHERE rowid > ?1
        UNION SELECT o.resource FROM recovery_point n JOIN recovery_point o
            ON o.key = n.key AND o.replaced_at IS NOT NULL WHERE n.rowid > ?1
        UNION SELECT p.resource FROM copy c JOIN recovery_point p
            ON p.key = c.point AND p.replaced_at IS NULL WHERE c.rowid > ?2
        """;
    try (PreparedStatement select = connection.prepareStatement(sql)) {
      select.setLong(1, done.pointRow());
      select.setLong(2, done.copyRow());
      try (ResultSet rows = select.executeQuery()) {
        while (rows.next()) {
          touched.add(rows.getString(1));
        }
      }
    }
    return touched;
  }

  private void packAnew(Set<String> resources) {
    List<String> all = List.copyOf(resources);
    for (int i = 0; i < all.size(); i += AT_ONCE) {
      List<String> some = all.subList(i, Math.min(all.size(), i + AT_ONCE));
      Map<String, byte[]> bodies = new LinkedHashMap<>();
      some.parallelStream()
          .map(r -> Map.entry(r, database.onReader(c -> pack(c, r))))
          .toList()
          .forEach(e -> bodies.put(e.getKey(), e.getValue()));
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

  private void merge(Upto done) {
    Map<String, List<State<RecoveryPoint>>> points = new HashMap<>();
    Map<String, List<State<Copy>>> copies = new HashMap<>();
    Set<String> anew = new HashSet<>();
    database.read(() -> database.onReader(c -> {
      for (State<RecoveryPoint> state :
          FactTables.POINTS.states(c, "WHERE rowid > ?", List.of(done.pointRow()))) {
        String resource = state.fact().resource();
        points.computeIfAbsent(resource, k -> new ArrayList<>()).add(state);
        for (State<RecoveryPoint> past : FactTables.POINTS.states(
            c, "WHERE key = ? AND replaced_at IS NOT NULL", List.of(state.fact().key()))) {
          if (!past.fact().resource().equals(resource)) {
            anew.addAll(List.of(resource, past.fact().resource()));
          }
        }
        // Copies that came before their point are brought in with it.
        for (String when : List.of("replaced_at IS NOT NULL", "replaced_at IS NULL")) {
          copies
              .computeIfAbsent(resource, k -> new ArrayList<>())
              .addAll(FactTables.COPIES.states(
                  c, "WHERE point = ? AND " + when, List.of(state.fact().key())));
        }
      }
      for (State<Copy> state :
          FactTables.COPIES.states(c, "WHERE rowid > ?", List.of(done.copyRow()))) {
        for (State<RecoveryPoint> point : FactTables.POINTS.states(
            c, "WHERE key = ? AND replaced_at IS NULL", List.of(state.fact().point()))) {
          copies
              .computeIfAbsent(point.fact().resource(), k -> new ArrayList<>())
              .add(state);
        }
      }
      return null;
    }));
    packAnew(anew);
    Set<String> resources = new TreeSet<>(points.keySet());
    resources.addAll(copies.keySet());
    resources.removeAll(anew);
    List<String> all = List.copyOf(resources);
    for (int i = 0; i < all.size(); i += AT_ONCE) {
      Map<String, byte[]> bodies = new LinkedHashMap<>();
      for (String resource : all.subList(i, Math.min(all.size(), i + AT_ONCE))) {
        byte[] before = body(resource);
        bodies.put(
            resource,
            PackedStates.read(
                    resource, before == null ? PackedStates.pack(List.of(), List.of()) : before)
                .with(
                    points.getOrDefault(resource, List.of()),
                    copies.getOrDefault(resource, List.of())));
      }
      write(bodies);
    }
  }

  private void write(Map<String, byte[]> bodies) {
    if (bodies.isEmpty()) {
      return;
    }
    database.write(() -> database.onWriter(c -> {
      try (PreparedStatement put = c.prepareStatement("INSERT INTO packed_points VALUES (?, ?)"
          + " ON CONFLICT (resource) DO UPDATE SET body = excluded.body")) {
        for (Map.Entry<String, byte[]> body : bodies.entrySet()) {
          put.setString(1, body.getKey());
          put.setBytes(2, body.getValue());
          put.addBatch();
        }
        return put.executeBatch();
      }
    }));
  }

  /** Null when nothing is known of the resource. */
  private byte[] body(String resource) {
    return database.onReader(c -> {
      try (PreparedStatement select =
          c.prepareStatement("SELECT body FROM packed_points WHERE resource = ?")) {
        select.setString(1, resource);
        try (ResultSet rows = select.executeQuery()) {
          return rows.next() ? rows.getBytes(1) : null;
        }
      }
    });
  }

  /** What was known at an instant, read when it is asked for. */
  PointSource at(Instant asAt) {
    return new Known(asAt.toEpochMilli());
  }

  /** A few resources are kept, because the criteria ask for one several times in a row. */
  private final class Known implements PointSource {
    private static final int KEPT = 16;

    private final long instant;
    private final Map<String, PointSet> kept = new LinkedHashMap<>(KEPT, 0.75f, true) {
      private static final long serialVersionUID = 1L;

      @Override
      protected boolean removeEldestEntry(Map.Entry<String, PointSet> eldest) {
        return size() > KEPT;
      }
    };

    Known(long instant) {
      this.instant = instant;
    }

    @Override
    public boolean any(String resource) {
      return of(resource).size() > 0;
    }

    @Override
    public PointSet of(String resource) {
      synchronized (kept) {
        PointSet known = kept.get(resource);
        if (known != null) {
          return known;
        }
      }
      byte[] body = body(resource);
      PointSet read =
          body == null ? PointSet.EMPTY : PackedStates.read(resource, body).at(instant);
      synchronized (kept) {
        kept.put(resource, read);
      }
      return read;
    }
  }
}
