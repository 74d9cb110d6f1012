package hardproof.server.estate;

import hardproof.core.estate.Selector;
import hardproof.core.facts.State;
import hardproof.core.wording.Coded;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;

/**
 * One kind of fact in SQLite. The columns are named once, here; the statements are built from them.
 * Works on plain connections, because an import moves rows by the million.
 */
public final class FactTable<T> {
  /** A column and where its value comes from. */
  record Column<T>(String name, Function<T, Object> value) {}

  /** Makes a fact of a row. */
  @FunctionalInterface
  interface Reader<T> {
    T read(FactRow row) throws SQLException;
  }

  /** A fact with the feed it came from and when this state of it became known. */
  public record Known<T>(T fact, String feed, Instant recordedAt) {}

  private final String table;
  private final List<String> keys;
  private final List<Column<T>> columns;
  private final List<Column<T>> keyColumns;
  private final Reader<T> reader;
  private final Map<String, Integer> index = new HashMap<>();

  FactTable(String table, String keys, List<Column<T>> columns, Reader<T> reader) {
    this.table = table;
    this.keys = List.of(keys.split(" "));
    this.columns = List.copyOf(columns);
    this.keyColumns = this.keys.stream()
        .map(k -> columns.stream().filter(c -> c.name().equals(k)).findFirst().orElseThrow())
        .toList();
    this.reader = reader;
    index.put("feed", 1);
    index.put("recorded_at", 2);
    this.columns.forEach(c -> index.put(c.name(), index.size() + 1));
  }

  public String table() {
    return table;
  }

  private String names() {
    return columns.stream().map(Column::name).collect(Collectors.joining(", "));
  }

  private String keyCondition() {
    return keys.stream().map(k -> k + " = ?").collect(Collectors.joining(" AND "));
  }

  /** The values that identify a fact, in the order of the key columns. */
  public List<String> key(T fact) {
    if (keyColumns.size() == 1) {
      return List.of(String.valueOf(keyColumns.get(0).value().apply(fact)));
    }
    return keyColumns.stream().map(c -> String.valueOf(c.value().apply(fact))).toList();
  }

  private Object[] values(T fact) {
    Object[] values = new Object[columns.size()];
    for (int i = 0; i < values.length; i++) {
      values[i] = stored(columns.get(i).value().apply(fact));
    }
    return values;
  }

  private static Object stored(Object value) {
    if (value instanceof Instant instant) {
      return instant.toEpochMilli();
    } else if (value instanceof Duration duration) {
      return duration.toMillis();
    } else if (value instanceof Coded code) {
      return code.code();
    } else if (value instanceof Boolean yes) {
      return yes ? 1L : 0L;
    } else if (value instanceof Integer number) {
      return number.longValue();
    } else if (value instanceof Selector selector) {
      return SelectorJson.write(selector);
    } else if (value instanceof List<?> list) {
      return list.isEmpty()
          ? null
          : list.stream().map(Object::toString).collect(Collectors.joining(";"));
    } else if (value instanceof Map<?, ?> map) {
      return map.isEmpty()
          ? null
          : map.entrySet().stream()
              .map(e -> e.getKey() + "=" + e.getValue())
              .collect(Collectors.joining(";"));
    }
    return value;
  }

  /** Same values in every column: an unchanged row costs nothing. */
  public boolean same(T a, T b) {
    return Arrays.equals(values(a), values(b));
  }

  /** Every state of every fact that ever was known, in the order they became known. */
  List<State<T>> states(Connection connection) throws SQLException {
    return states(connection, "ORDER BY rowid", List.of());
  }

  /**
   * The states of some rows.
   *
   * @param condition what follows the name of the table
   * @param values of its parameters: texts and whole numbers
   */
  List<State<T>> states(Connection connection, String condition, List<?> values)
      throws SQLException {
    List<State<T>> states = new ArrayList<>();
    try (PreparedStatement select = connection.prepareStatement(
        "SELECT feed, recorded_at, " + names() + ", replaced_at FROM " + table + " " + condition)) {
      for (int i = 0; i < values.size(); i++) {
        select.setObject(i + 1, values.get(i));
      }
      try (ResultSet rows = select.executeQuery()) {
        while (rows.next()) {
          T fact = reader.read(new FactRow(rows, index));
          long recorded = rows.getLong(2);
          long replaced = rows.getLong(columns.size() + 3);
          states.add(new State<>(fact, recorded, rows.wasNull() ? Long.MAX_VALUE : replaced));
        }
      }
    }
    return states;
  }

  private Known<T> known(ResultSet rows) throws SQLException {
    FactRow row = new FactRow(rows, index);
    return new Known<>(reader.read(row), row.text("feed"), row.instant("recorded_at"));
  }

  /** Whether nothing was ever known of this kind. */
  public boolean isEmpty(Connection connection) throws SQLException {
    try (PreparedStatement select =
            connection.prepareStatement("SELECT 1 FROM " + table + " LIMIT 1");
        ResultSet rows = select.executeQuery()) {
      return !rows.next();
    }
  }

  /** The first key field of every fact of a feed that is known now. */
  public List<String> keysOf(Connection connection, String feed) throws SQLException {
    List<String> found = new ArrayList<>();
    try (PreparedStatement select = connection.prepareStatement(
        "SELECT " + keys.get(0) + " FROM " + table + " WHERE feed = ? AND replaced_at IS NULL")) {
      select.setString(1, feed);
      try (ResultSet rows = select.executeQuery()) {
        while (rows.next()) {
          found.add(rows.getString(1));
        }
      }
    }
    return found;
  }

  /** Looks up and writes facts through one connection; to be closed. */
  public Session session(Connection connection) throws SQLException {
    return new Session(connection);
  }

  /** Prepared statements for one import. */
  public final class Session implements AutoCloseable {
    private static final int BATCH = 1000;

    private final PreparedStatement select;
    private final PreparedStatement insert;
    private final PreparedStatement replace;
    private int waiting;

    private Session(Connection connection) throws SQLException {
      select = connection.prepareStatement("SELECT feed, recorded_at, " + names() + " FROM " + table
          + " WHERE " + keyCondition() + " AND replaced_at IS NULL");
      insert = connection.prepareStatement("INSERT INTO " + table + " (feed, recorded_at, "
          + names() + ") VALUES (?, ?" + ", ?".repeat(columns.size()) + ")");
      replace = connection.prepareStatement("UPDATE " + table + " SET replaced_at = ? WHERE "
          + keyCondition() + " AND replaced_at IS NULL");
    }

    /** The fact with these key values as it is known now; null when there is none. */
    public Known<T> current(List<String> key) throws SQLException {
      for (int i = 0; i < key.size(); i++) {
        select.setString(i + 1, key.get(i));
      }
      try (ResultSet rows = select.executeQuery()) {
        return rows.next() ? known(rows) : null;
      }
    }

    /** Writes a new state; what was known before gets its end. */
    public void put(T fact, String feed, Instant recordedAt, boolean replacesOne)
        throws SQLException {
      if (replacesOne) {
        List<String> key = key(fact);
        replace.setLong(1, recordedAt.toEpochMilli());
        for (int i = 0; i < key.size(); i++) {
          replace.setString(i + 2, key.get(i));
        }
        replace.addBatch();
      }
      insert.setString(1, feed);
      insert.setLong(2, recordedAt.toEpochMilli());
      Object[] values = values(fact);
      for (int i = 0; i < values.length; i++) {
        insert.setObject(i + 3, values[i]);
      }
      insert.addBatch();
      if (++waiting >= BATCH) {
        flush();
      }
    }

    /** Sends what waits. Ends come before beginnings, so that one state is current at a time. */
    public void flush() throws SQLException {
      if (waiting > 0) {
        replace.executeBatch();
        insert.executeBatch();
        waiting = 0;
      }
    }

    @Override
    public void close() throws SQLException {
      try (select;
          insert;
          replace) {
        waiting = 0;
      }
    }
  }
}
