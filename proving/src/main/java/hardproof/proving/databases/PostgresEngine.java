package hardproof.proving.databases;

import hardproof.proving.databases.RestoredDatabase.QueryFailed;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.formats.WithoutContent;
import hardproof.proving.sandboxes.Commands;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * The PostgreSQL that is installed on this machine. A server of it is started for one drill, on a
 * socket that only its own user can reach, and is never given root's rights.
 */
public final class PostgresEngine {
  private static final Path DEBIAN = Path.of("/usr/lib/postgresql");
  private static final Pattern VERSION = Pattern.compile("(\\d+)(?:\\.(\\d+))?");

  /** Since these releases psql can be told to run no command of the dump's (CVE-2025-8714). */
  private static final int[][] RESTRICT_SINCE = {{13, 22}, {14, 19}, {15, 14}, {16, 10}, {17, 6}};

  private final Path bin;
  private final String version;
  private final List<String> prefix;

  private PostgresEngine(Path bin, String version, List<String> prefix) {
    this.bin = bin;
    this.version = version;
    this.prefix = prefix;
  }

  /** What was looked for and found, for people; {@code engine} null when it can't be used. */
  public record Found(PostgresEngine engine, String sentence) {}

  /** Looks for a PostgreSQL that can be used, the newest first. */
  public static Found find() {
    List<Path> folders = folders();
    for (Path folder : folders) {
      boolean whole = Stream.of("initdb", "postgres", "psql", "pg_dump", "pg_restore")
          .allMatch(n -> Files.isExecutable(folder.resolve(n)));
      if (whole) {
        return in(folder);
      }
    }
    return new Found(
        null,
        "PostgreSQL is not installed. On Debian: apt-get install postgresql. Its dumps can't be"
            + " loaded without it.");
  }

  private static List<Path> folders() {
    List<Path> folders = new ArrayList<>();
    if (Files.isDirectory(DEBIAN)) {
      try (Stream<Path> list = Files.list(DEBIAN)) {
        list.sorted(Comparator.comparing((Path p) -> p.getFileName().toString().length())
                .thenComparing(Comparator.naturalOrder())
                .reversed())
            .map(p -> p.resolve("bin"))
            .forEach(folders::add);
      } catch (IOException e) {
        // As if there were none.
      }
    }
    for (String part : System.getenv().getOrDefault("PATH", "").split(":")) {
      if (!part.isEmpty()) {
        folders.add(Path.of(part));
      }
    }
    return folders;
  }

  private static Found in(Path bin) {
    String version;
    try {
      version = Commands.run(
              List.of(bin.resolve("psql").toString(), "--version"), Duration.ofSeconds(20))
          .output();
    } catch (IOException e) {
      return new Found(null, "psql in " + bin + " can't be run: " + e.getMessage());
    }
    Matcher matcher = VERSION.matcher(version);
    if (!matcher.find() || !restricts(matcher)) {
      return new Found(
          null,
          "psql in " + bin + " (" + version.strip()
              + ") is too old to be kept from running commands" + " that a dump holds; update it.");
    }
    String number = matcher.group();
    if (!root()) {
      return new Found(new PostgresEngine(bin, number, List.of()), "PostgreSQL " + number);
    }
    // PostgreSQL refuses to run as root; a user namespace takes root's rights away and keeps its
    // files.
    List<String> unshare = List.of("unshare", "--user");
    try {
      List<String> trial = new ArrayList<>(unshare);
      trial.add("true");
      if (Commands.run(trial, Duration.ofSeconds(20)).exit() == 0) {
        return new Found(new PostgresEngine(bin, number, unshare), "PostgreSQL " + number);
      }
    } catch (IOException e) {
      // Said below.
    }
    return new Found(
        null,
        "PostgreSQL " + number + " is there but does not run as root, and user namespaces are off;"
            + " start Hard Proof as an ordinary user.");
  }

  private static boolean root() {
    return "root".equals(System.getProperty("user.name"));
  }

  private static boolean restricts(Matcher version) {
    int major = Integer.parseInt(version.group(1));
    int minor = version.group(2) == null ? 0 : Integer.parseInt(version.group(2));
    for (int[] since : RESTRICT_SINCE) {
      if (since[0] == major) {
        return minor >= since[1];
      }
    }
    return major > 17;
  }

  public String version() {
    return version;
  }

  List<String> command(String program, String... arguments) {
    List<String> command = new ArrayList<>(prefix);
    command.add(bin.resolve(program).toString());
    command.addAll(List.of(arguments));
    return command;
  }

  /**
   * Makes a fresh, empty server below {@code folder} and starts it.
   *
   * @throws QueryFailed when it can't be made or started: a fault of the engine, not of the data
   */
  public PostgresDatabase create(Path folder, Runnable stopIfCancelled)
      throws QueryFailed, IOException {
    Files.createDirectories(folder);
    Commands.Result made = Commands.run(initdb(folder), Duration.ofMinutes(2));
    if (made.exit() != 0) {
      throw new QueryFailed("a fresh PostgreSQL could not be made: " + made.lastLines(), null);
    }
    return open(folder, stopIfCancelled);
  }

  private List<String> initdb(Path folder) {
    return command(
        "initdb",
        "-D",
        folder.resolve("data").toString(),
        "-U",
        PostgresServer.OWNER,
        "-A",
        "trust",
        "-E",
        "UTF8",
        "--locale=C.UTF-8",
        "--no-sync");
  }

  /**
   * Writes what an archive of pg_dump holds as a plain dump.
   *
   * @param archive a file, or the folder of a directory archive
   * @throws QueryFailed when the archive is damaged
   * @throws NotReadHere when it takes a newer version
   */
  public void plain(Path archive, Path dump, Runnable stopIfCancelled)
      throws QueryFailed, IOException {
    Path errors = dump.resolveSibling("pg_restore.log");
    ProcessBuilder builder =
        new ProcessBuilder(command("pg_restore", "-f", dump.toString(), archive.toString()));
    builder.redirectErrorStream(true).redirectOutput(errors.toFile());
    Commands.cleanEnvironment(builder);
    int exit = Commands.waitFor(builder.start(), Duration.ofHours(12), stopIfCancelled);
    String said =
        new String(Files.readAllBytes(errors), java.nio.charset.StandardCharsets.UTF_8).strip();
    Files.delete(errors);
    refuseUnlessRead(exit, said);
  }

  private void refuseUnlessRead(int exit, String said)
      throws IOException, RestoredDatabase.QueryFailed {
    if (said.contains("No space left on device")) {
      throw new IOException("pg_restore: No space left on device");
    }
    if (said.contains("unsupported version")) {
      throw new NotReadHere("the archive was made by a newer pg_dump than PostgreSQL " + version
          + " reads: install the newer one");
    }
    if (exit != 0 || said.contains("pg_restore: error:") || said.contains("pg_restore: warning:")) {
      throw new QueryFailed(
          "pg_restore can't read it whole: "
              + WithoutContent.of(said.replaceFirst("^pg_restore: (error|warning): ", "")),
          null);
    }
  }

  /** Starts what {@link #create} made. */
  public PostgresDatabase open(Path folder, Runnable stopIfCancelled)
      throws QueryFailed, IOException {
    return PostgresDatabase.start(this, folder, stopIfCancelled);
  }

  /** Only where the engine is there. */
  public static Optional<PostgresEngine> present() {
    return Optional.ofNullable(find().engine());
  }
}
