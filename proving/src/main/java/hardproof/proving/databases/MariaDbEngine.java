package hardproof.proving.databases;

import hardproof.proving.databases.RestoredDatabase.QueryFailed;
import hardproof.proving.sandboxes.Commands;
import hardproof.proving.sandboxes.FewerRights;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;

/** The MariaDB that is installed on this machine; a server of it is started for one drill. */
public final class MariaDbEngine {
  private static final List<String> PROGRAMS = List.of("mariadbd", "mariadb-install-db", "mariadb");

  private final String version;

  private MariaDbEngine(String version) {
    this.version = version;
  }

  /** What was looked for and found, for people; {@code engine} null when it can't be used. */
  public record Found(MariaDbEngine engine, String sentence) {}

  public static Found find() {
    for (String program : PROGRAMS) {
      if (path(program) == null) {
        return new Found(
            null,
            "MariaDB is not installed. On Debian: apt-get install mariadb-server. Dumps of MariaDB and MySQL"
                + " can't be loaded without it.");
      }
    }
    try {
      return asInstalled();
    } catch (IOException e) {
      return new Found(null, "MariaDB can't be run: " + e.getMessage());
    }
  }

  private static Found asInstalled() throws IOException {
    String help = Commands.run(
            List.of(path("mariadb"), "--no-defaults", "--help"), Duration.ofSeconds(20))
        .output();
    if (!help.contains("--binary-mode") || !help.contains("--sandbox")) {
      return new Found(
          null,
          "the mariadb client here is too old to be kept from running commands that a dump holds;"
              + " update it.");
    }
    String version = Commands.run(List.of(path("mariadbd"), "--version"), Duration.ofSeconds(20))
        .output()
        .replaceAll("(?s).*?Ver (\\d+\\.\\d+\\.\\d+).*", "$1");
    return new Found(new MariaDbEngine(version.strip()), "MariaDB " + version.strip());
  }

  private static String path(String program) {
    for (String folder : List.of("/usr/bin", "/usr/sbin", "/usr/local/bin", "/usr/local/sbin")) {
      Path path = Path.of(folder, program);
      if (Files.isExecutable(path)) {
        return path.toString();
      }
    }
    return null;
  }

  public String version() {
    return version;
  }

  static List<String> command(String program, List<String> arguments) {
    List<String> command = new ArrayList<>(List.of(path(program), "--no-defaults"));
    command.addAll(arguments);
    return FewerRights.of(command);
  }

  /**
   * Makes a fresh, empty server below {@code folder} and starts it.
   *
   * @throws QueryFailed when it can't be made or started: a fault of the engine, not of the data
   */
  public MariaDbDatabase create(Path folder, Runnable stopIfCancelled)
      throws QueryFailed, IOException {
    Files.createDirectories(folder.resolve("none"));
    Files.createDirectories(folder.resolve("tmp"));
    make(folder);
    // No dump knows who owns this server: "root", which dumps often name, is nobody special here.
    String owner = "o" + UUID.randomUUID().toString().replace("-", "").substring(0, 24);
    Files.writeString(folder.resolve("owner"), owner);
    MariaDbDatabase database = MariaDbDatabase.start(folder, "root", stopIfCancelled);
    database.takeOver(owner);
    return database;
  }

  private static void make(Path folder) throws IOException, RestoredDatabase.QueryFailed {
    Commands.Result made = Commands.run(
        command(
            "mariadb-install-db",
            List.of(
                "--datadir=" + folder.resolve("data"),
                "--auth-root-authentication-method=normal",
                "--skip-test-db")),
        Duration.ofMinutes(2));
    if (made.exit() != 0) {
      throw new QueryFailed("a fresh MariaDB could not be made: " + made.lastLines(), null);
    }
  }

  /** Starts what {@link #create} made. */
  public MariaDbDatabase open(Path folder, Runnable stopIfCancelled)
      throws QueryFailed, IOException {
    return MariaDbDatabase.start(
        folder, Files.readString(folder.resolve("owner")), stopIfCancelled);
  }
}
