package hardproof.proving.databases;

import hardproof.proving.sandboxes.Commands;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;

/** Reads every row of a database and, where the extension amcheck is there, every index against its table. */
final class PostgresIntegrity {
  private final PostgresServer server;

  PostgresIntegrity(PostgresServer server) {
    this.server = server;
  }

  List<String> faults(String database) throws IOException {
    List<String> faults = new ArrayList<>();
    Commands.Result dumped = Commands.run(server.dump(database), PostgresServer.QUERY_LIMIT);
    if (dumped.exit() != 0) {
      server.stopIfDiskFull(dumped.lastLines());
      faults.add("not every row can be read: " + dumped.lastLines());
    }
    // In a schema and by a path where the dump can't have put a function of that name: this
    // runs as superuser. The extension itself reads expression indexes as the table's owner.
    addIndexFaults(database, faults);
    return faults;
  }

  private void addIndexFaults(String database, List<String> faults) throws IOException {
    String own = "check_" + UUID.randomUUID().toString().replace("-", "");
    if (madeIn(own, database)) {
      Commands.Result checked = check(own, database);
      if (checked.exit() != 0) {
        faults.add(checked.lastLines());
      }
    }
  }

  /** Whether amcheck is there, and was made in a schema. */
  private boolean madeIn(String schema, String database) throws IOException {
    List<String> made = server.psql(
        PostgresServer.OWNER,
        database,
        "-c",
        "SET search_path = pg_catalog",
        "-c",
        "CREATE SCHEMA " + schema,
        "-c",
        "DROP EXTENSION IF EXISTS amcheck",
        "-c",
        "CREATE EXTENSION amcheck SCHEMA " + schema);
    return Commands.run(made, Duration.ofMinutes(1)).exit() == 0;
  }

  private Commands.Result check(String schema, String database) throws IOException {
    return Commands.run(
        server.psql(
            PostgresServer.OWNER,
            database,
            "-c",
            "SET search_path = pg_catalog",
            "-c",
            """
            SELECT %s.bt_index_check(c.oid::regclass, true)
              FROM pg_index i JOIN pg_class c ON c.oid = i.indexrelid
              JOIN pg_am a ON a.oid = c.relam AND a.amname = 'btree'
             WHERE c.relkind = 'i' AND c.relpersistence <> 't' AND i.indisready
               AND i.indisvalid""".formatted(schema)),
        PostgresServer.QUERY_LIMIT);
  }
}
