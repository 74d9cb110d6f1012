package hardproof.server.storage;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;

/**
 * Reads columns that may be NULL as null. JDBC tells NULL of a number only right after it was read, so
 * that is done in one place.
 */
public final class Columns {
  private Columns() {}

  public static Long number(ResultSet row, int column) throws SQLException {
    long value = row.getLong(column);
    return row.wasNull() ? null : value;
  }

  public static Long number(ResultSet row, String column) throws SQLException {
    return number(row, row.findColumn(column));
  }

  public static Integer integer(ResultSet row, int column) throws SQLException {
    Long value = number(row, column);
    return value == null ? null : Math.toIntExact(value);
  }

  /** 1 is true. */
  public static Boolean yesNo(ResultSet row, int column) throws SQLException {
    Long value = number(row, column);
    return value == null ? null : value == 1;
  }

  /** Of milliseconds since 1970. */
  public static Instant instant(ResultSet row, int column) throws SQLException {
    Long value = number(row, column);
    return value == null ? null : Instant.ofEpochMilli(value);
  }

  public static Instant instant(ResultSet row, String column) throws SQLException {
    return instant(row, row.findColumn(column));
  }

  /** Of milliseconds. */
  public static Duration duration(ResultSet row, int column) throws SQLException {
    Long value = number(row, column);
    return value == null ? null : Duration.ofMillis(value);
  }

  public static Duration duration(ResultSet row, String column) throws SQLException {
    return duration(row, row.findColumn(column));
  }

  /** An instant as it is kept; null stays null. */
  public static Long millis(Instant instant) {
    return instant == null ? null : instant.toEpochMilli();
  }
}
