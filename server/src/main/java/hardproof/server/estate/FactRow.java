package hardproof.server.estate;

import hardproof.core.feeds.Values;
import hardproof.core.wording.Coded;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;

/**
 * One row of a fact table, read by column. Null is "not known"; lists and tags are then empty.
 *
 * @param index number of each column in the result; looking names up in the driver costs more than
 *     reading the value
 */
record FactRow(ResultSet rows, Map<String, Integer> index) {
  private int at(String column) {
    return index.get(column);
  }

  String text(String column) throws SQLException {
    return rows.getString(at(column));
  }

  Long number(String column) throws SQLException {
    long value = rows.getLong(at(column));
    return rows.wasNull() ? null : value;
  }

  Integer integer(String column) throws SQLException {
    Long value = number(column);
    return value == null ? null : value.intValue();
  }

  Boolean yesNo(String column) throws SQLException {
    Long value = number(column);
    return value == null ? null : value == 1;
  }

  Instant instant(String column) throws SQLException {
    Long value = number(column);
    return value == null ? null : Instant.ofEpochMilli(value);
  }

  /** What an older version took of a length that is none counts as the longest there is. */
  Duration duration(String column) throws SQLException {
    Long value = number(column);
    return value == null ? null : Duration.ofMillis(Math.min(value, Values.LONGEST.toMillis()));
  }

  List<String> list(String column) throws SQLException {
    String value = text(column);
    return value == null ? List.of() : Values.list(value);
  }

  Map<String, String> tags(String column) throws SQLException {
    String value = text(column);
    return value == null ? Map.of() : Values.tags(value);
  }

  <E extends Enum<E> & Coded> E code(String column, Class<E> type) throws SQLException {
    String value = text(column);
    return value == null ? null : Coded.of(type, value);
  }
}
