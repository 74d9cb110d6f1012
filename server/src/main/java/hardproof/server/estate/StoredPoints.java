package hardproof.server.estate;

import hardproof.core.copies.Copy;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.PointSource;
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

/**
 * Points and copies as known at an instant, read from the file one resource at a time, for estates
 * that do not fit into memory. A few resources are kept, because the criteria ask for one several times
 * in a row.
 */
final class StoredPoints implements PointSource {
  private static final int KEPT = 16;

  private final Database database;
  private final Instant asAt;
  private final Set<String> resources;
  private final Map<String, PointSet> kept = new LinkedHashMap<>(KEPT, 0.75f, true) {
    private static final long serialVersionUID = 1L;

    @Override
    protected boolean removeEldestEntry(Map.Entry<String, PointSet> eldest) {
      return size() > KEPT;
    }
  };

  private StoredPoints(Database database, Instant asAt, Set<String> resources) {
    this.database = database;
    this.asAt = asAt;
    this.resources = resources;
  }

  static StoredPoints at(Database database, Instant asAt) {
    Set<String> resources = database.onReader(connection -> {
      // One step of the index for each resource, instead of reading every point.
      String sql = """
          WITH RECURSIVE next (resource) AS (
            SELECT min(resource) FROM recovery_point
            UNION ALL
            SELECT (SELECT min(resource) FROM recovery_point WHERE resource > next.resource)
              FROM next WHERE next.resource IS NOT NULL)
          SELECT resource FROM next WHERE resource IS NOT NULL
          """;
      Set<String> found = new HashSet<>();
      try (PreparedStatement select = connection.prepareStatement(sql);
          ResultSet rows = select.executeQuery()) {
        while (rows.next()) {
          found.add(rows.getString(1));
        }
      }
      return found;
    });
    return new StoredPoints(database, asAt, resources);
  }

  @Override
  public boolean any(String resource) {
    return resources.contains(resource) && !of(resource).points().isEmpty();
  }

  @Override
  public PointSet of(String resource) {
    if (!resources.contains(resource)) {
      return PointSet.EMPTY;
    }
    synchronized (kept) {
      PointSet known = kept.get(resource);
      if (known != null) {
        return known;
      }
    }
    PointSet read = database.onReader(connection -> read(connection, resource));
    synchronized (kept) {
      kept.put(resource, read);
    }
    return read;
  }

  private PointSet read(Connection connection, String resource) throws SQLException {
    List<RecoveryPoint> points =
        FactTables.POINTS.knownWhere(connection, "resource = ?", resource, asAt);
    Map<String, List<Copy>> copies = new HashMap<>();
    for (Copy copy : FactTables.COPIES.knownWhere(
        connection,
        "point IN (SELECT key FROM recovery_point WHERE resource = ?)",
        resource,
        asAt)) {
      copies.computeIfAbsent(copy.point(), k -> new ArrayList<>(4)).add(copy);
    }
    return PointSet.of(points, copies);
  }
}
