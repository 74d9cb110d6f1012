package hardproof.server.ledger;

import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.springframework.jdbc.core.simple.JdbcClient;

/** The facts that entries are made of, as they stand in the database. */
final class RecordedFacts {
  /** Columns of instants, besides those whose name ends with {@code _at}. */
  private static final Set<String> INSTANTS = Set.of(
      "since", "moment", "worked_until", "newest_data", "from_time", "until_time", "locked_until");

  private final JdbcClient sql;

  /**
   * @param sql of the connection that they are read on
   */
  RecordedFacts(JdbcClient sql) {
    this.sql = sql;
  }

  /** What an entry holds of one; empty where there is none. */
  Optional<LedgerEntry.Recorded> find(LedgerKind kind, String key) {
    Optional<Map<String, Object>> found =
        sql.sql(kind.one()).param("key", key).query((r, n) -> row(r)).optional();
    return found.map(content -> {
      if (kind.steps() != null) {
        content.put(
            "steps",
            sql.sql(kind.steps()).param("key", key).query((r, n) -> row(r)).list());
      }
      String actor = String.valueOf(content.remove("actor"));
      Instant at = Instant.ofEpochMilli((Long) content.remove("at"));
      return new LedgerEntry.Recorded(actor, at, content);
    });
  }

  /** By the names of the columns, without those that are empty. */
  private static Map<String, Object> row(ResultSet r) throws SQLException {
    Map<String, Object> row = new TreeMap<>();
    ResultSetMetaData columns = r.getMetaData();
    for (int i = 1; i <= columns.getColumnCount(); i++) {
      String name = columns.getColumnLabel(i);
      Object value = r.getObject(i);
      if (value instanceof Number number) {
        boolean instant = name.endsWith("_at") || INSTANTS.contains(name);
        long whole = number.longValue();
        row.put(name, instant ? Instant.ofEpochMilli(whole).toString() : (Object) whole);
      } else if (value != null) {
        row.put(name, value);
      }
    }
    return row;
  }
}
