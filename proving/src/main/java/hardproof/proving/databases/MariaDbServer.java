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

/** The MariaDB server of one drill while it runs, and its clients: on a private socket, with no port. */
final class MariaDbServer extends DatabaseServer {
  private static final Duration QUERY_LIMIT = Duration.ofMinutes(10);
  private static final int SOCKET_LONGEST = 100;

  private final Path socket;
  private String owner;

  private MariaDbServer(Path folder, Path socket, String owner, Runnable stopIfCancelled)
      throws IOException {
    super("MariaDB", command(folder, socket), folder, stopIfCancelled);
    this.socket = socket;
    this.owner = owner;
  }

  static MariaDbServer start(Path folder, String owner, Runnable stopIfCancelled)
      throws QueryFailed, IOException {
    Path near = folder.resolve("s");
    Path socket = near.toString().length() <= SOCKET_LONGEST
        ? near
        : Files.createTempDirectory("drill-").resolve("s");
    return answering(new MariaDbServer(folder, socket, owner, stopIfCancelled));
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

  @Override
  boolean answers() throws IOException {
    return client(owner, List.of("-e", "SELECT 1")).exit() == 0;
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

  @Override
  public void close() throws IOException {
    super.close();
    if (!socket.startsWith(folder())) {
      Sandboxes.removeTree(socket.getParent());
    }
  }
}
