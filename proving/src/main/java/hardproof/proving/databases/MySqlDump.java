package hardproof.proving.databases;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
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
  private static final Pattern USE = Pattern.compile("^USE `((?:[^`]|``)+)`;\\s*$");
  private static final Pattern DATABASE = Pattern.compile(
      "^(?:CREATE|DROP|ALTER) DATABASE (?:/\\*!\\d+ )?(?:IF (?:NOT )?EXISTS ?)?(?:\\*/ ?)?`((?:[^`]|``)+)`.*$");
  private static final Pattern DEFINER = Pattern.compile("DEFINER=`([^`]{1,80})`@`([^`]{1,255})`");
  private static final Pattern OF_A_SERVER = Pattern.compile(
      "^(?:/\\*!\\d+ ?)?(FLUSH |SET @@(GLOBAL|SESSION)\\.(GTID_PURGED|SQL_LOG_BIN)|SET GLOBAL |CHANGE MASTER"
          + "|CHANGE REPLICATION|INSTALL |CREATE USER|GRANT |SET @MYSQLDUMP_TEMP_LOG_BIN).*");
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
  private String now;

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
    for (Pattern pattern : new Pattern[] {USE, DATABASE}) {
      Matcher matcher = pattern.matcher(line);
      if (matcher.matches() && !SYSTEM.contains(name(matcher.group(1)))) {
        databases.add(name(matcher.group(1)));
      }
    }
    Matcher definer = DEFINER.matcher(line);
    while (!line.startsWith("INSERT ") && definer.find()) {
      definers.add("'" + definer.group(1).replace("'", "''") + "'@'"
          + definer.group(2).replace("'", "''") + "'");
    }
  }

  private static String name(String quoted) {
    return quoted.replace("``", "`");
  }

  /** The line as it is sent on; an empty one in its place where it is about the server, not the data. */
  String passed(String line) {
    String head = line.length() > LOOKED_AT ? line.substring(0, LOOKED_AT) : line;
    for (Pattern pattern : new Pattern[] {USE, DATABASE}) {
      Matcher matcher = pattern.matcher(head);
      if (matcher.matches()) {
        now = name(matcher.group(1));
      }
    }
    boolean system = now != null && SYSTEM.contains(now);
    return system || OF_A_SERVER.matcher(head).matches() ? "" : line;
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
