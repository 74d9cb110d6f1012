package hardproof.server.facts;

import hardproof.core.copies.Copy;
import hardproof.core.facts.PackedStates;
import hardproof.core.facts.PointSource;
import hardproof.core.facts.State;
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
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
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
  record Upto(long pointRow, long copyRow) {}

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
    pack(done, newest);
    if (!held) {
      writeUpto(newest);
    }
  }

  private void pack(Upto done, Upto newest) {
    long rows = newest.pointRow() - done.pointRow() + newest.copyRow() - done.copyRow();
    if (rows > mergedMost) {
      packAnew(Marks.touchedByRows(done.pointRow(), done.copyRow(), database));
    } else {
      merge(done);
    }
  }

  private void writeUpto(Upto newest) {
    written(() -> database
        .writes()
        .sql("UPDATE packed_upto SET point_row = :points, copy_row = :copies")
        .param("points", newest.pointRow())
        .param("copies", newest.copyRow())
        .update());
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
    byte[] any = packedOne();
    if (any != null && !PackedStates.readable(any)) {
      clear();
    }
    versionChecked = true;
  }

  private byte[] packedOne() {
    byte[] any = database.onReader(c -> {
      try (PreparedStatement select = c.prepareStatement("SELECT body FROM packed_points LIMIT 1");
          ResultSet rows = select.executeQuery()) {
        return rows.next() ? rows.getBytes(1) : null;
      }
    });
    return any;
  }

  private void clear() {
    database.write(() -> {
      database
          .writes()
          .sql("UPDATE packed_upto SET point_row = 0, copy_row = 0")
          .update();
      return database.writes().sql("DELETE FROM packed_points").update();
    });
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

  private void merge(Upto done) {
    NewStates added = database.read(() -> database.onReader(c -> NewStates.since(done, c)));
    packAnew(added.movedBetween());
    Set<String> resources = new TreeSet<>(added.points().keySet());
    resources.addAll(added.copies().keySet());
    resources.removeAll(added.movedBetween());
    List<String> all = List.copyOf(resources);
    byte[] nothing = PackedStates.pack(List.of(), List.of());
    for (int i = 0; i < all.size(); i += AT_ONCE) {
      List<String> some = all.subList(i, Math.min(all.size(), i + AT_ONCE));
      Map<String, byte[]> before = bodies(some);
      Map<String, byte[]> after = merged(added, nothing, some, before);
      write(after);
    }
  }

  private static Map<String, byte[]> merged(
      NewStates added, byte[] nothing, List<String> some, Map<String, byte[]> before) {
    Map<String, byte[]> after = new ConcurrentHashMap<>();
    some.parallelStream()
        .forEach(r -> after.put(
            r,
            PackedStates.read(r, before.getOrDefault(r, nothing))
                .with(
                    added.points().getOrDefault(r, List.of()),
                    added.copies().getOrDefault(r, List.of()))));
    return after;
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
    return new KnownPoints(this::bodies, judged.toEpochMilli(), known.toEpochMilli());
  }
}
