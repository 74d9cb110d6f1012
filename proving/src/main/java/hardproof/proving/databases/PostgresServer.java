package hardproof.proving.databases;

import hardproof.proving.databases.RestoredDatabase.QueryFailed;
import hardproof.proving.sandboxes.Commands;
import hardproof.proving.sandboxes.Sandboxes;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/** The PostgreSQL server of one drill while it runs, and its clients: on a private socket, with no port. */
final class PostgresServer extends DatabaseServer {
  static final Duration QUERY_LIMIT = Duration.ofMinutes(10);

  /** Of this server alone: "postgres", which dumps often name, is nobody special here. */
  static final String OWNER = "hard_proof";

  /** A socket's path may be 107 bytes long (sun_path of Linux), and its name takes some. */
  private static final int SOCKET_FOLDER_LONGEST = 80;

  private static final String DISK_FULL = "No space left on device";
  private final PostgresEngine engine;
  private final Path sockets;

  private PostgresServer(PostgresEngine engine, Path folder, Path sockets, Runnable stopIfCancelled)
      throws IOException {
    super("PostgreSQL", command(engine, folder, sockets), folder, stopIfCancelled);
    this.engine = engine;
    this.sockets = sockets;
  }

  static PostgresServer start(PostgresEngine engine, Path folder, Runnable stopIfCancelled)
      throws QueryFailed, IOException {
    Path near = folder.resolve("s");
    Path sockets = near.toString().length() <= SOCKET_FOLDER_LONGEST
        ? Files.createDirectories(near)
        : Files.createTempDirectory("drill-");
    return answering(new PostgresServer(engine, folder, sockets, stopIfCancelled));
  }

  private static List<String> command(PostgresEngine engine, Path folder, Path sockets) {
    List<String> options = new ArrayList<>();
    for (String option : List.of(
        "listen_addresses=",
        "unix_socket_permissions=0700",
        "fsync=off",
        "max_connections=8",
        "autovacuum=off",
        "logging_collector=off",
        "shared_buffers=32MB",
        "statement_timeout=" + QUERY_LIMIT.toMillis())) {
      options.addAll(List.of("-c", option));
    }
    options.addAll(0, List.of("-D", folder.resolve("data").toString(), "-k", sockets.toString()));
    return engine.command("postgres", options.toArray(String[]::new));
  }

  @Override
  boolean answers() throws IOException {
    return Commands.run(psql(OWNER, "template1", "-c", "SELECT 1"), Duration.ofSeconds(20))
            .exit()
        == 0;
  }

  int major() {
    return Integer.parseInt(engine.version().replaceFirst("\\..*", ""));
  }

  /** A file beside its log. */
  Path beside(String name) {
    return folder().resolve(name);
  }

  /** What a psql of a user's is called with. */
  List<String> psql(String user, String database, String... arguments) {
    List<String> all = new ArrayList<>(List.of(
        "-X",
        "-A",
        "-t",
        "-q",
        "-h",
        sockets.toString(),
        "-U",
        user,
        "-d",
        connection(database),
        "-v",
        "ON_ERROR_STOP=1"));
    all.addAll(List.of(arguments));
    return engine.command("psql", all.toArray(String[]::new));
  }

  /** What a pg_dump of a whole database is called with, that keeps nothing. */
  List<String> dump(String database) {
    return engine.command(
        "pg_dump",
        "-h",
        sockets.toString(),
        "-U",
        OWNER,
        "-d",
        connection(database),
        "-f",
        "/dev/null");
  }

  /** Has a statement carried out as the owner. */
  void sql(String database, String statement) throws QueryFailed, IOException {
    Commands.Result result =
        Commands.run(psql(OWNER, database, "-c", statement), Duration.ofMinutes(1));
    if (result.exit() != 0) {
      stopIfDiskFull(result.lastLines());
      throw new QueryFailed(result.lastLines(), null);
    }
  }

  /** What a query answers the owner, a line each. */
  List<String> lines(String database, String query) throws QueryFailed, IOException {
    Commands.Result result = Commands.run(psql(OWNER, database, "-c", query), QUERY_LIMIT);
    if (result.exit() != 0) {
      stopIfDiskFull(result.lastLines());
      throw new QueryFailed(result.lastLines(), null);
    }
    return result.output().lines().toList();
  }

  /** A server whose disk is full says so to who asked, or to its log before it ends. */
  void stopIfDiskFull(String said) throws IOException {
    if ((said + lastOfLog()).contains(DISK_FULL)) {
      throw new IOException("PostgreSQL: " + DISK_FULL);
    }
  }

  private static String connection(String database) {
    return "dbname='" + database.replace("\\", "\\\\").replace("'", "\\'") + "'";
  }

  @Override
  public void close() throws IOException {
    super.close();
    if (!sockets.startsWith(folder())) {
      Sandboxes.removeTree(sockets);
    }
  }
}
