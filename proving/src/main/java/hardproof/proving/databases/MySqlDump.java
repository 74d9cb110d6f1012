package hardproof.proving.databases;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What a plain dump of MariaDB or MySQL tells of itself, and which of its lines are sent on. Such dumps put
 * every statement about a whole server on lines of its own, and never break a value over two lines; what is
 * inside of data and routines is not touched.
 */
final class MySqlDump {
  private static final Set<String> SYSTEM =
      Set.of("mysql", "sys", "information_schema", "performance_schema");
  private static final Pattern DATABASE = Pattern.compile(
      "(?:^|; ?)(?:USE|(?:CREATE|DROP|ALTER) (?:DATABASE|SCHEMA)) (?:/\\*!\\d+ )?(?:IF (?:NOT )?EXISTS ?)?(?:\\*/ ?)?"
          + "(?:`((?:[^`]|``)+)`|([0-9A-Za-z_$]+))",
      Pattern.CASE_INSENSITIVE);
  private static final Pattern DELIMITER = Pattern.compile("^DELIMITER (\\S+)\\s*$");
  private static final Pattern VERSION =
      Pattern.compile("^(?:-- Server version\\s+)?(\\d{1,4})\\.(\\d{1,4})\\.\\d+.*");
  private static final Pattern DEFINER = Pattern.compile("DEFINER=`([^`]{1,80})`@`([^`]{1,255})`");
  private static final Pattern OF_A_SERVER = Pattern.compile(
      "^(?:/\\*M?!\\d+ ?)?(FLUSH |SET @@(GLOBAL|SESSION)\\.(GTID_PURGED|SQL_LOG_BIN)|SET GLOBAL |CHANGE MASTER"
          + "|CHANGE REPLICATION|INSTALL |(CREATE|ALTER|DROP) (USER|ROLE|SERVER)|CREATE OR REPLACE SERVER"
          + "|CREATE (OR REPLACE )?(AGGREGATE )?FUNCTION .* SONAME |GRANT |REVOKE |SET (DEFAULT )?ROLE "
          + "|EXECUTE IMMEDIATE CONCAT\\('SET ROLE|SET @MYSQLDUMP_TEMP_LOG_BIN).*");
  private static final Pattern BEGIN =
      Pattern.compile("^-- (MariaDB|MySQL) dump .*|^/\\*!40101 SET @OLD_CHARACTER_SET_CLIENT.*");
  private static final Pattern END =
      Pattern.compile("^-- Dump completed.*|^/\\*!40111 SET SQL_NOTES=@OLD_SQL_NOTES \\*/;.*");
  private static final int LOOKED_AT = 4000;

  private final Set<String> databases = new TreeSet<>();
  private final Set<String> definers = new TreeSet<>();
  private boolean begins;
  private boolean ends;
  private boolean ofMySql;
  private int version;
  private String now;
  private boolean routine;
  private long leftOut;

  /** Looks through a dump before it is loaded. */
  static MySqlDump of(InputStream dump, Runnable stopIfCancelled) throws IOException {
    MySqlDump found = new MySqlDump();
    BufferedReader lines =
        new BufferedReader(new InputStreamReader(dump, StandardCharsets.ISO_8859_1), 1 << 16);
    String line;
    while ((line = lines.readLine()) != null) {
      stopIfCancelled.run();
      found.look(line.length() > LOOKED_AT ? line.substring(0, LOOKED_AT) : line);
    }
    found.routine = false;
    return found;
  }

  private void look(String line) {
    if (BEGIN.matcher(line).matches()) {
      begins = true;
      ofMySql |= line.startsWith("-- MySQL dump");
    }
    if (!line.isBlank()) {
      ends = END.matcher(line).matches() || ends && line.startsWith("--");
    }
    if (line.startsWith("-- Server version")) {
      version = version(line);
    }
    addDatabases(line);
    addDefiners(line);
  }

  private void addDatabases(String line) {
    for (String name : named(line)) {
      if (!SYSTEM.contains(name)) {
        databases.add(name);
      }
    }
  }

  private void addDefiners(String line) {
    Matcher definer = DEFINER.matcher(line);
    while (!line.startsWith("INSERT ") && definer.find()) {
      definers.add("'" + definer.group(1).replace("'", "''") + "'@'"
          + definer.group(2).replace("'", "''") + "'");
    }
  }

  /** The databases that a line makes or goes to; none inside of a routine or of data. */
  private List<String> named(String line) {
    Matcher delimiter = DELIMITER.matcher(line);
    if (delimiter.matches()) {
      routine = !delimiter.group(1).equals(";");
    }
    Matcher database = DATABASE.matcher(line);
    if (routine || !database.lookingAt()) {
      return List.of();
    }
    return database
        .reset()
        .results()
        .map(m -> m.group(1) == null ? m.group(2) : m.group(1).replace("``", "`"))
        .toList();
  }

  /** The line as it is sent on; an empty one in its place where it is about the server, not the data. */
  String passed(String line) {
    String head = line.length() > LOOKED_AT ? line.substring(0, LOOKED_AT) : line;
    for (String name : named(head)) {
      now = name;
    }
    boolean system = now != null && SYSTEM.contains(now);
    boolean ofAServer = !routine && OF_A_SERVER.matcher(head).matches();
    if (ofAServer) {
      leftOut++;
    }
    return system || ofAServer ? "" : line;
  }

  /** Lines about accounts and the server that were not sent on. */
  long leftOut() {
    return leftOut;
  }

  /** Of the server that the dump is of, 10011 for 10.11; 0 when it is not told. */
  int version() {
    return version;
  }

  /** Of a server's own words for its version, or of the line of a dump that holds them. */
  static int version(String words) {
    Matcher told = VERSION.matcher(words);
    return told.matches()
        ? Integer.parseInt(told.group(1)) * 1000 + Integer.parseInt(told.group(2))
        : 0;
  }

  Set<String> databases() {
    return databases;
  }

  /** Accounts that views, triggers and routines are to run as, quoted. */
  Set<String> definers() {
    return definers;
  }

  boolean cutOff() {
    return begins && !ends;
  }

  boolean unmarked() {
    return !begins && !ends;
  }

  boolean ofMySql() {
    return ofMySql;
  }
}
