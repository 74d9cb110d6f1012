package hardproof.proving.databases;

import hardproof.proving.databases.RestoredDatabase.QueryFailed;
import hardproof.proving.sandboxes.Commands;
import hardproof.proving.sandboxes.Sandboxes;
import java.io.Closeable;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/** The PostgreSQL server of one drill while it runs, and its clients: on a private socket, with no port. */
final class PostgresServer implements Closeable {
  static final Duration QUERY_LIMIT = Duration.ofMinutes(10);

  /** Of this server alone: "postgres", which dumps often name, is nobody special here. */
  static final String OWNER = "hard_proof";

  private static final Duration START_LIMIT = Duration.ofMinutes(1);
  /** A socket's path may be 107 bytes long (sun_path of Linux), and its name takes some. */
  private static final int SOCKET_FOLDER_LONGEST = 80;

  private static final String DISK_FULL = "No space left on device";
  private final PostgresEngine engine;
  private final Process process;
  private final Path log;
  private final Path sockets;
  private final boolean socketsAreOurs;
  private final Runnable stopIfCancelled;

  private PostgresServer(
      PostgresEngine engine,
      Process process,
      Path log,
      Path sockets,
      boolean socketsAreOurs,
      Runnable stopIfCancelled) {
    this.engine = engine;
    this.process = process;
    this.log = log;
    this.sockets = sockets;
    this.socketsAreOurs = socketsAreOurs;
    this.stopIfCancelled = stopIfCancelled;
  }

  static PostgresServer start(PostgresEngine engine, Path folder, Runnable stopIfCancelled)
      throws QueryFailed, IOException {
    boolean fits = folder.resolve("s").toString().length() <= SOCKET_FOLDER_LONGEST;
    Path sockets =
        fits ? Files.createDirectories(folder.resolve("s")) : Files.createTempDirectory("drill-");
    PostgresServer started = begun(engine, folder, stopIfCancelled, fits, sockets);
    try {
      started.waitUntilItAnswers();
      return started;
    } catch (QueryFailed | RuntimeException e) {
      started.close();
      throw e;
    }
  }

  private static PostgresServer begun(
      PostgresEngine engine, Path folder, Runnable stopIfCancelled, boolean fits, Path sockets)
      throws IOException {
    Path log = folder.resolve("server.log");
    ProcessBuilder builder = new ProcessBuilder(command(engine, folder, sockets));
    builder.redirectErrorStream(true).redirectOutput(log.toFile());
    Commands.cleanEnvironment(builder);
    Process server = builder.start();
    return new PostgresServer(engine, server, log, sockets, !fits, stopIfCancelled);
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

  private void waitUntilItAnswers() throws QueryFailed, IOException {
    long end = System.nanoTime() + START_LIMIT.toNanos();
    while (System.nanoTime() - end < 0) {
      stopIfCancelled.run();
      if (!process.isAlive()) {
        throw new QueryFailed("PostgreSQL did not start: " + lastOfLog(), null);
      }
      Commands.Result answer =
          Commands.run(psql(OWNER, "template1", "-c", "SELECT 1"), Duration.ofSeconds(20));
      if (answer.exit() == 0) {
        return;
      }
      ServedDatabase.pause("PostgreSQL");
    }
    throw new QueryFailed("PostgreSQL did not start within a minute: " + lastOfLog(), null);
  }

  private String lastOfLog() throws IOException {
    String text = new String(Files.readAllBytes(log), StandardCharsets.UTF_8);
    return text.substring(Math.max(0, text.length() - 400))
        .replaceAll("\\s+", " ")
        .strip();
  }

  int major() {
    return Integer.parseInt(engine.version().replaceFirst("\\..*", ""));
  }

  /** A file beside its log. */
  Path beside(String name) {
    return log.resolveSibling(name);
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

  /** Stops it; its data stays in the sandbox. */
  @Override
  public void close() throws IOException {
    ServedDatabase.stop(process);
    if (socketsAreOurs) {
      Sandboxes.removeTree(sockets);
    }
  }
}
