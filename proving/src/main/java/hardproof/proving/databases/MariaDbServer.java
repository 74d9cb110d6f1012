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

/** The MariaDB server of one drill while it runs, and its clients: on a private socket, with no port. */
final class MariaDbServer implements Closeable {
  private static final Duration START_LIMIT = Duration.ofMinutes(1);
  private static final Duration QUERY_LIMIT = Duration.ofMinutes(10);
  private static final int SOCKET_LONGEST = 100;

  private final Process process;
  private final Path folder;
  private final Path socket;
  private final Runnable stopIfCancelled;
  private String owner;

  private MariaDbServer(
      Process process, Path folder, Path socket, String owner, Runnable stopIfCancelled) {
    this.process = process;
    this.folder = folder;
    this.socket = socket;
    this.owner = owner;
    this.stopIfCancelled = stopIfCancelled;
  }

  static MariaDbServer start(Path folder, String owner, Runnable stopIfCancelled)
      throws QueryFailed, IOException {
    Path near = folder.resolve("s");
    Path socket = near.toString().length() <= SOCKET_LONGEST
        ? near
        : Files.createTempDirectory("drill-").resolve("s");
    MariaDbServer started = begun(folder, owner, stopIfCancelled, socket);
    try {
      started.waitUntilItAnswers();
      return started;
    } catch (QueryFailed | RuntimeException e) {
      started.close();
      throw e;
    }
  }

  private static MariaDbServer begun(
      Path folder, String owner, Runnable stopIfCancelled, Path socket) throws IOException {
    ProcessBuilder builder = new ProcessBuilder(command(folder, socket));
    builder
        .redirectErrorStream(true)
        .redirectOutput(folder.resolve("server.log").toFile());
    Commands.cleanEnvironment(builder);
    return new MariaDbServer(builder.start(), folder, socket, owner, stopIfCancelled);
  }

  private static List<String> command(Path folder, Path socket) {
    return MariaDbEngine.command(
        "mariadbd",
        List.of(
            "--datadir=" + folder.resolve("data"),
            "--socket=" + socket,
            "--skip-networking",
            "--pid-file=" + folder.resolve("pid"),
            "--secure-file-priv=" + folder.resolve("none"),
            "--tmpdir=" + folder.resolve("tmp"),
            "--local-infile=0",
            "--skip-log-bin",
            "--skip-symbolic-links",
            "--event-scheduler=OFF",
            "--max-allowed-packet=1G",
            "--innodb-flush-log-at-trx-commit=0",
            "--character-set-server=utf8mb4"));
  }

  private void waitUntilItAnswers() throws QueryFailed, IOException {
    long end = System.nanoTime() + START_LIMIT.toNanos();
    while (System.nanoTime() - end < 0) {
      stopIfCancelled.run();
      if (!process.isAlive()) {
        throw new QueryFailed("MariaDB did not start: " + lastOfLog(), null);
      }
      if (client(owner, List.of("-e", "SELECT 1")).exit() == 0) {
        return;
      }
      ServedDatabase.pause("MariaDB");
    }
    throw new QueryFailed("MariaDB did not start within a minute: " + lastOfLog(), null);
  }

  private String lastOfLog() throws IOException {
    String text =
        new String(Files.readAllBytes(folder.resolve("server.log")), StandardCharsets.UTF_8);
    return text.substring(Math.max(0, text.length() - 300))
        .replaceAll("\\s+", " ")
        .strip();
  }

  /** Where its data is, and what is noted of it. */
  Path folder() {
    return folder;
  }

  void renameOwner(String newOwner) throws QueryFailed, IOException {
    lines("RENAME USER root@localhost TO " + newOwner + "@localhost");
    owner = newOwner;
  }

  /** What a client of a user's is called with; it takes no command from what it is sent. */
  List<String> command(String user, List<String> more) {
    List<String> arguments = new ArrayList<>(List.of(
        "--socket=" + socket,
        "--user=" + user,
        "--batch",
        "--skip-column-names",
        "--binary-mode",
        "--sandbox",
        "--local-infile=0",
        "--max-allowed-packet=1G",
        "--default-character-set=utf8mb4"));
    arguments.addAll(more);
    return MariaDbEngine.command("mariadb", arguments);
  }

  Commands.Result client(String user, List<String> more) throws IOException {
    return Commands.run(command(user, more), QUERY_LIMIT);
  }

  /** What a statement answers the owner, a line each. */
  List<String> lines(String sql) throws QueryFailed, IOException {
    Commands.Result result = client(owner, List.of("-e", sql));
    if (result.exit() != 0) {
      throw MariaDbRefusal.of(result.output(), "");
    }
    return result.output().lines().toList();
  }

  /** Stops it; its data stays in the sandbox. */
  @Override
  public void close() throws IOException {
    ServedDatabase.stop(process);
    if (!socket.startsWith(folder)) {
      Sandboxes.removeTree(socket.getParent());
    }
  }
}
