package hardproof.server.storage;

import java.sql.SQLException;
import org.springframework.dao.CannotAcquireLockException;
import org.springframework.dao.DataAccessException;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.jdbc.UncategorizedSQLException;
import org.springframework.jdbc.support.SQLExceptionTranslator;
import org.sqlite.SQLiteErrorCode;
import org.sqlite.SQLiteException;

/** The driver gives no SQL state, so its result codes are read to tell errors apart. */
final class SqliteErrors implements SQLExceptionTranslator {
  /** Whether another process or connection holds what was asked for. */
  static boolean busy(SQLException e) {
    return e instanceof SQLiteException sqlite
        && switch (sqlite.getResultCode()) {
          case SQLITE_BUSY, SQLITE_BUSY_SNAPSHOT, SQLITE_BUSY_TIMEOUT, SQLITE_LOCKED -> true;
          default -> false;
        };
  }

  /** Whether an error, or what led to it, is that the disk is full. */
  static boolean full(Throwable error) {
    for (Throwable e = error; e != null; e = e.getCause()) {
      if (e instanceof SQLiteException sqlite
          && (sqlite.getResultCode() == SQLiteErrorCode.SQLITE_FULL
              || sqlite.getResultCode() == SQLiteErrorCode.SQLITE_IOERR_SHMSIZE)) {
        return true;
      }
    }
    return false;
  }

  @Override
  public DataAccessException translate(String task, String sql, SQLException e) {
    if (busy(e)) {
      return new CannotAcquireLockException(e.getMessage(), e);
    }
    if (full(e)) {
      return new NoSpaceLeft(e);
    }
    if (e instanceof SQLiteException sqlite) {
      switch (sqlite.getResultCode()) {
        case SQLITE_CONSTRAINT_UNIQUE, SQLITE_CONSTRAINT_PRIMARYKEY -> {
          return new DuplicateKeyException(e.getMessage(), e);
        }
        case SQLITE_CONSTRAINT_FOREIGNKEY,
            SQLITE_CONSTRAINT_CHECK,
            SQLITE_CONSTRAINT_NOTNULL,
            SQLITE_CONSTRAINT_TRIGGER,
            SQLITE_CONSTRAINT_DATATYPE,
            SQLITE_CONSTRAINT -> {
          return new DataIntegrityViolationException(e.getMessage(), e);
        }
        default -> {
          // falls through to the general case
        }
      }
    }
    return new UncategorizedSQLException(task, sql, e);
  }
}
