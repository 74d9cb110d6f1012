package hardproof.server.facts;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** The indexes of a table, dropped while much is written and made again. */
public final class TableIndexes {
  private TableIndexes() {}

  /** Drops the indexes of the table; gives the statements that make them again. */
  public static List<String> drop(Connection connection, String table) throws SQLException {
    Map<String, String> indexes = indexes(connection, table);
    for (String name : indexes.keySet()) {
      execute(connection, "DROP INDEX " + name);
    }
    return List.copyOf(indexes.values());
  }

  private static Map<String, String> indexes(Connection connection, String table)
      throws SQLException {
    Map<String, String> indexes = new LinkedHashMap<>();
    try (PreparedStatement select = connection.prepareStatement(
        "SELECT name, sql FROM sqlite_schema WHERE type = 'index' AND tbl_name = ?"
            + " AND sql IS NOT NULL ORDER BY name")) {
      select.setString(1, table);
      try (ResultSet rows = select.executeQuery()) {
        while (rows.next()) {
          indexes.put(rows.getString(1), rows.getString(2));
        }
      }
    }
    return indexes;
  }

  /** Makes the indexes that {@link #drop} dropped. */
  public static void make(Connection connection, List<String> statements) throws SQLException {
    for (String statement : statements) {
      execute(connection, statement);
    }
  }

  private static void execute(Connection connection, String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }
}
