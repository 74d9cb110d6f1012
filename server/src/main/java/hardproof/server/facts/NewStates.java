package hardproof.server.facts;

import hardproof.core.copies.Copy;
import hardproof.core.facts.State;
import hardproof.core.points.RecoveryPoint;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.BiConsumer;

/** The states of points and copies that came since all was packed, by resource. */
record NewStates(
    Map<String, List<State<RecoveryPoint>>> points,
    Map<String, List<State<Copy>>> copies,
    Set<String> movedBetween) {
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

  static NewStates since(PackedPoints.Upto done, Connection c) throws SQLException {
    Map<String, String> resourceOf = new HashMap<>();
    pairs(c, CURRENT_POINT_OF_NEW_COPY, done.copyRow(), resourceOf::put);
    Map<String, List<State<RecoveryPoint>>> points = new HashMap<>();
    for (State<RecoveryPoint> state :
        FactTables.POINTS.states(c, "WHERE rowid > ?", List.of(done.pointRow()))) {
      resourceOf.put(state.fact().key(), state.fact().resource());
      points.computeIfAbsent(state.fact().resource(), k -> new ArrayList<>()).add(state);
    }
    Map<String, List<State<Copy>>> copies = copies(done, c, resourceOf);
    Set<String> moved = new HashSet<>();
    pairs(c, MOVED_POINT, done.pointRow(), (from, to) -> moved.addAll(List.of(from, to)));
    return new NewStates(points, copies, moved);
  }

  private static Map<String, List<State<Copy>>> copies(
      PackedPoints.Upto done, Connection c, Map<String, String> resourceOf) throws SQLException {
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
    return copies;
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
