package hardproof.server.facts;

import hardproof.core.facts.State;
import hardproof.core.feeds.FactKind;
import hardproof.core.feeds.Field;
import hardproof.core.wording.WrongValue;
import hardproof.server.storage.UnreadableRow;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/**
 * One kind of fact in SQLite: its columns and statements follow from its fields. Works on plain connections, because
 * an import moves rows by the million.
 */
public final class FactTable<T> {
  /** A fact with the feed it came from and when this state of it became known. */
  public record Known<T>(T fact, String feed, Instant recordedAt) {}

  private final FactKind<T> kind;
  private final String table;
  private final List<Field<T, ?>> fields;
  private final boolean[] numbers;

  FactTable(FactKind<T> kind) {
    this.kind = kind;
    this.table = kind.table();
    this.fields = kind.fields();
    this.numbers = new boolean[fields.size()];
    fields.forEach(f -> numbers[f.place()] = f.type().number());
  }

  public FactKind<T> kind() {
    return kind;
  }

  public String table() {
    return table;
  }

  private String names() {
    return fields.stream().map(Field::column).collect(Collectors.joining(", "));
  }

  private String keyCondition() {
    return kind.keys().stream().map(k -> k.column() + " = ?").collect(Collectors.joining(" AND "));
  }

  /** The values that identify a fact, in the order of the key columns. */
  public List<String> key(T fact) {
    return kind.keys().stream().map(k -> String.valueOf(k.value().apply(fact))).toList();
  }

  private Object[] values(T fact) {
    Object[] values = new Object[fields.size()];
    for (Field<T, ?> field : fields) {
      values[field.place()] = field.keep(fact, Notations.KEPT);
    }
    return values;
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
          long replaced = rows.getLong(fields.size() + 3);
          boolean over = !rows.wasNull();
          states.add(new State<>(
              read(rows), rows.getString(1), rows.getLong(2), over ? replaced : Long.MAX_VALUE));
        }
      }
    }
    return states;
  }

  /** Of a row that begins with its feed and when it was recorded. */
  private T read(ResultSet rows) throws SQLException {
    Object[] values = values(rows);
    String feed = rows.getString(1);
    Instant recordedAt = Instant.ofEpochMilli(rows.getLong(2));
    try {
      return kind.restore(values, feed, feed.equals(OwnFacts.FEED), recordedAt, Notations.KEPT);
    } catch (WrongValue e) {
      throw new UnreadableRow(e);
    }
  }

  private Object[] values(ResultSet rows) throws SQLException {
    Object[] values = new Object[numbers.length];
    for (int i = 0; i < values.length; i++) {
      if (numbers[i]) {
        long number = rows.getLong(i + 3);
        values[i] = rows.wasNull() ? null : (Long) number;
      } else {
        values[i] = rows.getString(i + 3);
      }
    }
    return values;
  }

  private Known<T> known(ResultSet rows) throws SQLException {
    return new Known<>(read(rows), rows.getString(1), Instant.ofEpochMilli(rows.getLong(2)));
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
    try (PreparedStatement select =
        connection.prepareStatement("SELECT " + kind.keys().get(0).column() + " FROM " + table
            + " WHERE feed = ? AND replaced_at IS NULL")) {
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

  /** A fact made ready to be stored: its key, and its values as SQLite takes them. */
  public record Ready<T>(T fact, List<String> key, Object[] values) {}

  public Ready<T> ready(T fact) {
    return new Ready<>(fact, key(fact), values(fact));
  }

  /** Prepared statements for one import. */
  public final class Session implements AutoCloseable {
    private static final int BATCH = 1000;

    private final Connection connection;
    private final PreparedStatement select;
    private final PreparedStatement replace;
    private final Map<BitSet, PreparedStatement> inserts = new HashMap<>();
    private final List<Object[]> waiting = new ArrayList<>(BATCH);

    private Session(Connection connection) throws SQLException {
      this.connection = connection;
      select = connection.prepareStatement("SELECT feed, recorded_at, " + names() + " FROM " + table
          + " WHERE " + keyCondition() + " AND replaced_at IS NULL");
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
      put(ready(fact), feed, recordedAt, replacesOne);
    }

    /** As {@link #put(Object, String, Instant, boolean)}, of what another thread has made ready. */
    public void put(Ready<T> ready, String feed, Instant recordedAt, boolean replacesOne)
        throws SQLException {
      if (replacesOne) {
        replace(ready, recordedAt);
      }
      Object[] row = new Object[fields.size() + 2];
      row[0] = feed;
      row[1] = recordedAt.toEpochMilli();
      System.arraycopy(ready.values(), 0, row, 2, fields.size());
      waiting.add(row);
      if (waiting.size() >= BATCH) {
        flush();
      }
    }

    private void replace(Ready<T> ready, Instant recordedAt) throws SQLException {
      List<String> key = ready.key();
      replace.setLong(1, recordedAt.toEpochMilli());
      for (int i = 0; i < key.size(); i++) {
        replace.setString(i + 2, key.get(i));
      }
      replace.addBatch();
    }

    /** Sends what waits. Ends come before beginnings, so that one state is current at a time. */
    public void flush() throws SQLException {
      if (waiting.isEmpty()) {
        return;
      }
      replace.executeBatch();
      // Columns that none of the rows has a value in are left out: files rarely fill them all.
      BitSet filled = filled();
      PreparedStatement insert = insert(filled);
      addRows(filled, insert);
      insert.executeBatch();
      waiting.clear();
    }

    private BitSet filled() {
      BitSet filled = new BitSet();
      for (Object[] row : waiting) {
        for (int i = 0; i < row.length; i++) {
          if (row[i] != null) {
            filled.set(i);
          }
        }
      }
      return filled;
    }

    private PreparedStatement insert(BitSet filled) throws SQLException {
      PreparedStatement insert = inserts.get(filled);
      if (insert == null) {
        insert = connection.prepareStatement(insertOf(filled));
        inserts.put(filled, insert);
      }
      return insert;
    }

    private void addRows(BitSet filled, PreparedStatement insert) throws SQLException {
      for (Object[] row : waiting) {
        int parameter = 0;
        for (int i = filled.nextSetBit(0); i >= 0; i = filled.nextSetBit(i + 1)) {
          insert.setObject(++parameter, row[i]);
        }
        insert.addBatch();
      }
    }

    private String insertOf(BitSet filled) {
      List<String> names = filled.stream()
          .mapToObj(
              i -> i == 0 ? "feed" : i == 1 ? "recorded_at" : fields.get(i - 2).column())
          .toList();
      return "INSERT INTO " + table + " (" + String.join(", ", names) + ") VALUES (?"
          + ", ?".repeat(names.size() - 1) + ")";
    }

    @Override
    public void close() throws SQLException {
      waiting.clear();
      try (select;
          replace) {
        for (PreparedStatement insert : inserts.values()) {
          insert.close();
        }
      }
    }
  }
}
