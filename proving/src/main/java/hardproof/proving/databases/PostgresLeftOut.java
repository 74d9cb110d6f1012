package hardproof.proving.databases;

import hardproof.core.wording.Wording;
import hardproof.proving.names.EntryName;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/** What a drill does not carry out of a dump: what it gives no rights for, or what belongs to a whole server. */
final class PostgresLeftOut {
  /** About people and rights: who owns what is not judged. */
  private static final List<String> ROLES = List.of(
      "CREATE ROLE",
      "CREATE USER",
      "CREATE GROUP",
      "ALTER ROLE",
      "ALTER USER",
      "ALTER GROUP",
      "DROP ROLE",
      "DROP USER",
      "DROP GROUP",
      "COMMENT ON ROLE",
      "REASSIGN OWNED",
      "DROP OWNED");

  /** Needs the rights of a whole server, or leads to another one. */
  private static final Map<String, List<String>> OF_A_SERVER = new TreeMap<>(Map.of(
      "event triggers",
      List.of("CREATE EVENT TRIGGER", "ALTER EVENT TRIGGER", "COMMENT ON EVENT TRIGGER"),
      "publications",
      List.of("CREATE PUBLICATION", "ALTER PUBLICATION", "COMMENT ON PUBLICATION"),
      "subscriptions",
      List.of("CREATE SUBSCRIPTION", "ALTER SUBSCRIPTION", "COMMENT ON SUBSCRIPTION"),
      "tablespaces",
      List.of("CREATE TABLESPACE", "ALTER TABLESPACE", "COMMENT ON TABLESPACE"),
      "foreign servers and tables",
      List.of(
          "CREATE FOREIGN",
          "ALTER FOREIGN",
          "COMMENT ON FOREIGN",
          "CREATE SERVER",
          "ALTER SERVER",
          "COMMENT ON SERVER",
          "CREATE USER MAPPING",
          "ALTER USER MAPPING",
          "IMPORT FOREIGN SCHEMA"),
      "settings of the server",
      List.of("ALTER SYSTEM", "UPDATE pg_catalog.pg_database")));

  /** Extensions that read files or other servers: a drill has none of them, and no data lies in them. */
  private static final Set<String> OUTWARD =
      Set.of("adminpack", "dblink", "file_fdw", "postgres_fdw", "pg_cron");

  private final Set<String> settings;
  private final Map<String, Integer> leftOut = new TreeMap<>();
  private final Set<String> newer = new TreeSet<>();

  /**
   * @param settings that this server knows
   */
  PostgresLeftOut(Set<String> settings) {
    this.settings = settings;
  }

  /** The kinds of which something was met. */
  Set<String> kinds() {
    return leftOut.keySet();
  }

  /** Whether a statement is left out; it is counted then, where it makes something. */
  boolean takes(PostgresStatement statement) {
    if (statement.ofRights()
        || statement.beginsWithOneOf(ROLES)
        || statement.begins("COMMENT ON EXTENSION")) {
      return true;
    }
    for (Map.Entry<String, List<String>> kind : OF_A_SERVER.entrySet()) {
      if (statement.beginsWithOneOf(kind.getValue())) {
        leftOut.merge(kind.getKey(), statement.begins("CREATE") ? 1 : 0, Integer::sum);
        return true;
      }
    }
    return statement.database() == null
        && (statement.changesWorker()
            || statement.makesPlpgsql()
            || setting(statement.setting())
            || leadsOutside(statement.extension()));
  }

  private boolean leadsOutside(String[] extension) {
    if (extension == null || !OUTWARD.contains(extension[0])) {
      return false;
    }
    leftOut.merge("extensions that lead outside of the database", 1, Integer::sum);
    return true;
  }

  /** Whether the setting is one that must not or can't be made here. */
  private boolean setting(String[] setting) {
    if (setting == null) {
      return false;
    }
    String value = setting[1].replace("'", "").replace("\"", "").strip();
    if (setting[0].equals("default_tablespace")) {
      return ofTablespace(value);
    }
    if (!setting[0].contains(".") && !settings.contains(setting[0]) && !several(setting[0])) {
      newer.add(setting[0]);
      return true;
    }
    return false;
  }

  private boolean ofTablespace(String value) {
    if (!value.isEmpty() && !value.equalsIgnoreCase("pg_default")) {
      leftOut.merge("tablespaces", 1, Integer::sum);
      return true;
    }
    return false;
  }

  /** Settings that are written in words of their own. */
  private static boolean several(String name) {
    return Set.of("time", "names", "transaction", "constraints", "schema", "seed", "xml", "session")
        .contains(name);
  }

  /**
   * What was left out and who is missing, for people; empty when nothing was.
   *
   * @param missing roles that the dump names and does not make
   */
  String notes(Set<String> missing) {
    List<String> notes = new ArrayList<>();
    if (!missing.isEmpty()) {
      notes.add(Wording.count(missing.size(), "role is", "roles are") + " not in this dump ("
          + shown(missing) + "): restore them first, or nobody owns what they own");
    }
    addKinds(notes);
    if (!newer.isEmpty()) {
      notes.add("settings of a newer version left out: " + Wording.list(List.copyOf(newer)));
    }
    return String.join("; ", notes);
  }

  private void addKinds(List<String> notes) {
    List<String> kinds = leftOut.entrySet().stream()
        .filter(kind -> kind.getValue() > 0)
        .map(kind -> kind.getValue() + " of " + kind.getKey())
        .toList();
    if (!kinds.isEmpty()) {
      notes.add("left out, as a drill gives no rights for it: " + Wording.list(kinds));
    }
  }

  /** Names were read byte by byte. */
  private static String shown(Set<String> names) {
    List<String> shown = new ArrayList<>();
    for (String name : names) {
      shown.add(EntryName.of(name.getBytes(StandardCharsets.ISO_8859_1)));
    }
    return EntryName.shown(shown, 6);
  }
}
