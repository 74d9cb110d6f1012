package hardproof.proving.databases;

import hardproof.proving.formats.NotReadHere;
import java.sql.SQLException;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.sqlite.SQLiteErrorCode;
import org.sqlite.SQLiteException;

/**
 * Tells what the SQLite that ships lacks, or could not do, from what is wrong with a database: functions,
 * collations and modules are brought by the program that made it (SQLite manual, "Application-Defined SQL
 * Functions", "Run-Time Loadable Extensions").
 */
final class SqliteMissing {
  private static final Pattern LACKS = Pattern.compile(
      "no such (function|module|collation sequence|tokenizer): ?\\S*|unknown (function|tokenizer): ?\\S*|"
          + "unable to use function \\S+ in the requested context|unsafe use of \\S+",
      Pattern.CASE_INSENSITIVE);

  private static final Set<Integer> OURS = Set.of(
      SQLiteErrorCode.SQLITE_INTERRUPT.code,
      SQLiteErrorCode.SQLITE_NOMEM.code,
      SQLiteErrorCode.SQLITE_TOOBIG.code);

  private SqliteMissing() {}

  /** What is missing, in the engine's own words; null when nothing is. */
  static String of(String said) {
    Matcher matcher = LACKS.matcher(String.valueOf(said));
    return matcher.find() ? matcher.group() : null;
  }

  /**
   * @param what was asked, for people
   * @throws NotReadHere when it failed by what is missing, or by a limit of ours
   */
  static void stopIfOurs(SQLException e, String what) throws NotReadHere {
    String missing = of(e.getMessage());
    if (missing != null) {
      throw new NotReadHere(
          what + " takes what the program that made the database brings along and SQLite"
              + " here does not have (" + missing + ")",
          e);
    }
    int code = e instanceof SQLiteException s ? s.getResultCode().code & 0xff : e.getErrorCode();
    if (OURS.contains(code)) {
      throw new NotReadHere(what + " took more time or memory than a drill gives it", e);
    }
  }
}
