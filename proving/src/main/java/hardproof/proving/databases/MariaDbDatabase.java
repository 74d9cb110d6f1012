package hardproof.proving.databases;

import hardproof.core.wording.Wording;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.formats.WithoutContent;
import hardproof.proving.names.EntryName;
import hardproof.proving.sandboxes.Commands;
import java.io.BufferedReader;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.OutputStreamWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A MariaDB server of one drill: on a private socket, with no port, its data in the sandbox. */
public final class MariaDbDatabase extends ServedDatabase {
  private static final Duration START_LIMIT = Duration.ofMinutes(1);
  private static final Duration QUERY_LIMIT = Duration.ofMinutes(10);
  private static final int SOCKET_LONGEST = 100;
  private static final String LOADER = "hard_proof_drill";
  private static final Pattern ERROR =
      Pattern.compile("ERROR (\\d+) \\((\\w{5})\\)(?: at line (\\d+))?[^:]*: (.*)");

  /**
   * What the server lacks, or has no room or rights for (MariaDB, "Error Codes"): collations, character sets,
   * engines, variables, options and plugins that are not known here, rights, and its own troubles. Below
   * {@link #FIRST_OF_SQL} there are those of files and memory.
   */
  private static final Set<Integer> LACKING = Set.of(
      1273, 1115, 1286, 1193, 1524, 1911, 1912, 1227, 1044, 1045, 1142, 1370, 1396, 1290, 1030,
      1037, 1038, 1041, 1053, 1114, 1153, 1205, 1317, 2006, 2013);

  /** Those whose words name nothing but what is lacking. */
  private static final Set<Integer> NAMED = Set.of(1273, 1115, 1286, 1193, 1524, 1911);

  private static final int FIRST_OF_SQL = 1000;

  private final Process server;
  private final Path folder;
  private final Path socket;
  private final Runnable stopIfCancelled;
  private String owner;

  private MariaDbDatabase(
      Process server, Path folder, Path socket, String owner, Runnable stopIfCancelled) {
    this.server = server;
    this.folder = folder;
    this.socket = socket;
    this.owner = owner;
    this.stopIfCancelled = stopIfCancelled;
  }

  static MariaDbDatabase start(Path folder, String owner, Runnable stopIfCancelled)
      throws QueryFailed, IOException {
    Path near = folder.resolve("s");
    Path socket = near.toString().length() <= SOCKET_LONGEST
        ? near
        : Files.createTempDirectory("drill-").resolve("s");
    List<String> command = MariaDbEngine.command(
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
    ProcessBuilder builder = new ProcessBuilder(command);
    builder
        .redirectErrorStream(true)
        .redirectOutput(folder.resolve("server.log").toFile());
    Commands.cleanEnvironment(builder);
    MariaDbDatabase database =
        new MariaDbDatabase(builder.start(), folder, socket, owner, stopIfCancelled);
    try {
      database.waitUntilItAnswers();
      return database;
    } catch (QueryFailed | RuntimeException e) {
      database.close();
      throw e;
    }
  }

  private void waitUntilItAnswers() throws QueryFailed, IOException {
    long end = System.nanoTime() + START_LIMIT.toNanos();
    while (System.nanoTime() - end < 0) {
      stopIfCancelled.run();
      if (!server.isAlive()) {
        throw new QueryFailed("MariaDB did not start: " + lastOfLog(), null);
      }
      if (client(owner, List.of("-e", "SELECT 1")).exit() == 0) {
        return;
      }
      pause("MariaDB");
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

  private List<String> command(String user, List<String> more) {
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

  private Commands.Result client(String user, List<String> more) throws IOException {
    return Commands.run(command(user, more), QUERY_LIMIT);
  }

  private List<String> lines(String user, String sql) throws QueryFailed, IOException {
    Commands.Result result = client(user, List.of("-e", sql));
    if (result.exit() != 0) {
      throw refused(result.output(), "");
    }
    return result.output().lines().toList();
  }

  /** Gives the server another owner, and takes away whoever else came with it. */
  void takeOver(String newOwner) throws QueryFailed, IOException {
    lines(owner, "RENAME USER root@localhost TO " + newOwner + "@localhost");
    owner = newOwner;
    for (String account : lines(
        owner,
        "SELECT concat(quote(User), '@', quote(Host)) FROM mysql.user WHERE User IN ('root', '')")) {
      lines(owner, "DROP USER " + account);
    }
    lines(owner, "CREATE USER " + LOADER + "@localhost");
    lines(owner, "GRANT SET USER ON *.* TO " + LOADER + "@localhost");
  }

  /**
   * Loads a plain dump. It is loaded by a user that can't reach files, other databases or the server's own
   * tables, by a client that takes no command from it.
   *
   * @param reported the same file again, for whoever watches how far it is
   * @return what is worth saying, for people; empty when nothing is
   */
  public String load(Path dump, InputStream reported) throws QueryFailed, IOException {
    MySqlDump survey;
    try (InputStream in = Files.newInputStream(dump)) {
      survey = MySqlDump.of(in, stopIfCancelled);
    }
    Set<String> databases = new TreeSet<>(survey.databases());
    databases.add(RESTORED);
    for (String name : databases) {
      lines(owner, "CREATE DATABASE IF NOT EXISTS " + quoted(name));
      lines(owner, "GRANT ALL ON " + pattern(name) + ".* TO " + LOADER + "@localhost");
    }
    for (String account : survey.definers()) {
      lines(owner, "CREATE USER IF NOT EXISTS " + text(account) + " ACCOUNT LOCK");
      for (String name : databases) {
        lines(owner, "GRANT ALL ON " + pattern(name) + ".* TO " + text(account));
      }
    }
    send(survey, reported);
    Files.write(folder.resolve("databases"), databases);
    if (survey.cutOff()) {
      throw new QueryFailed("the dump ends without its closing line: it is cut off", null);
    }
    if (survey.unmarked()) {
      throw new NotReadHere(
          "it is loaded, but has neither the opening nor the closing line of a dump:"
              + " whether it is whole can't be told");
    }
    return remarks(survey);
  }

  private static String remarks(MySqlDump survey) {
    List<String> remarks = new ArrayList<>();
    int accounts = survey.definers().size();
    if (accounts > 0) {
      remarks.add(Wording.count(accounts, "account is", "accounts are") + " not in this dump ("
          + EntryName.shown(survey.definers(), 6).replace("'", "")
          + "): make them first, or views and routines do not run");
    }
    if (survey.leftOut() > 0) {
      remarks.add(Wording.count(survey.leftOut(), "line", "lines")
          + " about accounts and the server left out");
    }
    return String.join("; ", remarks);
  }

  /** Names were read byte by byte. */
  private static String text(String bytes) {
    return EntryName.of(bytes.getBytes(StandardCharsets.ISO_8859_1));
  }

  private static String quoted(String name) {
    return "`" + text(name).replace("`", "``") + "`";
  }

  /** In a grant, two signs of a name would stand for others. */
  private static String pattern(String name) {
    return quoted(name.replace("\\", "\\\\").replace("_", "\\_").replace("%", "\\%"));
  }

  private void send(MySqlDump survey, InputStream dump) throws QueryFailed, IOException {
    Path errors = folder.resolve("load.log");
    ProcessBuilder builder = new ProcessBuilder(command(LOADER, List.of(RESTORED)));
    builder.redirectOutput(ProcessBuilder.Redirect.DISCARD).redirectError(errors.toFile());
    Commands.cleanEnvironment(builder);
    Process client = builder.start();
    IOException broken = null;
    try (BufferedWriter to = new BufferedWriter(
        new OutputStreamWriter(client.getOutputStream(), StandardCharsets.ISO_8859_1), 1 << 16)) {
      BufferedReader from =
          new BufferedReader(new InputStreamReader(dump, StandardCharsets.ISO_8859_1), 1 << 16);
      String line;
      while ((line = from.readLine()) != null) {
        stopIfCancelled.run();
        to.write(survey.passed(line));
        to.write('\n');
      }
    } catch (IOException e) {
      // When the client has ended by an error of the dump, writing on fails: its own words are
      // better.
      broken = e;
    } catch (RuntimeException e) {
      client.destroyForcibly();
      throw e;
    }
    int exit = Commands.waitFor(client, Duration.ofHours(12), stopIfCancelled);
    String said = new String(Files.readAllBytes(errors), StandardCharsets.UTF_8);
    if (exit != 0) {
      throw refused(said, madeBy(survey));
    }
    if (broken != null) {
      throw broken;
    }
  }

  /** Another system that the dump is of; empty when it is of this one. */
  private String madeBy(MySqlDump survey) throws QueryFailed, IOException {
    if (survey.ofMySql()) {
      return "MySQL";
    }
    int here = MySqlDump.version(lines(owner, "SELECT version()").get(0));
    return survey.version() > here ? "a newer MariaDB" : "";
  }

  /**
   * @param madeBy another system that the dump is of; empty when it is of this one
   */
  private static QueryFailed refused(String said, String madeBy) throws IOException {
    if (said.contains("No space left on device") || said.contains("ERROR 1021")) {
      throw new IOException("MariaDB: No space left on device");
    }
    Matcher error = ERROR.matcher(said);
    if (!error.find()) {
      return new QueryFailed(WithoutContent.of(said), null);
    }
    int code = Integer.parseInt(error.group(1));
    String where = error.group(3) == null ? "" : "line " + error.group(3) + ": ";
    String words = WithoutContent.of(error.group(4));
    boolean named = NAMED.contains(code);
    if (code < FIRST_OF_SQL) {
      throw new NotReadHere(where + "MariaDB here has a trouble of its own (" + words + ")");
    }
    if (LACKING.contains(code)) {
      throw new NotReadHere(where + "MariaDB here lacks it, or a drill gives no rights for it ("
          + (named ? error.group(4) : words) + ")");
    }
    if (!madeBy.isEmpty() && code == 1064) {
      throw new NotReadHere(
          where + "it was made by " + madeBy + ", and MariaDB here does not know what it says");
    }
    return new QueryFailed(where + "ERROR " + code + ": " + words, null);
  }

  @Override
  List<String> loaded() throws IOException {
    return Files.readAllLines(folder.resolve("databases"));
  }

  private static String literal(String text) {
    return "'" + text.replace("\\", "\\\\").replace("'", "''") + "'";
  }

  private List<String> tables(String database) throws QueryFailed, IOException {
    return lines(
        owner,
        "SELECT table_name FROM information_schema.tables WHERE table_schema = "
            + literal(text(database)) + " AND table_type = 'BASE TABLE'");
  }

  /** Has the server read every row and index of every table. */
  @Override
  public List<String> integrityFaults() throws QueryFailed, IOException {
    List<String> faults = new ArrayList<>();
    for (String database : loaded()) {
      for (String table : tables(database)) {
        stopIfCancelled.run();
        String whole = quoted(database) + ".`" + table.replace("`", "``") + "`";
        for (String line : lines(owner, "CHECK TABLE " + whole + " EXTENDED")) {
          String[] columns = line.split("\t");
          if (columns.length > 3 && columns[2].equalsIgnoreCase("error")) {
            faults.add(columns[0] + ": " + columns[3]);
          }
        }
      }
    }
    return faults;
  }

  @Override
  public Emptiness emptiness() throws QueryFailed, IOException {
    long tables = 0;
    long filled = 0;
    for (String database : loaded()) {
      for (String table : tables(database)) {
        tables++;
        String whole = quoted(database) + ".`" + table.replace("`", "``") + "`";
        if (filled == 0 && !lines(owner, "SELECT 1 FROM " + whole + " LIMIT 1").isEmpty()) {
          filled++;
        }
      }
    }
    return Emptiness.of(tables, filled);
  }

  @Override
  boolean holdsTables(String database) throws QueryFailed, IOException {
    return !tables(database).isEmpty();
  }

  @Override
  List<String> values(String query, int atMost) throws QueryFailed, IOException {
    Question question = question(query);
    Commands.Result result = client(
        LOADER,
        List.of(
            "--database=" + text(question.database()),
            "-e",
            "SET SESSION TRANSACTION READ ONLY; START TRANSACTION READ ONLY; " + question.query()));
    if (result.exit() != 0) {
      throw refused(result.output(), "");
    }
    List<String> values = new ArrayList<>();
    for (String value : firstColumns(result.output(), atMost)) {
      values.add(
          value.equals("NULL")
              ? null
              : value.replace("\\t", "\t").replace("\\n", "\n").replace("\\\\", "\\"));
    }
    return values;
  }

  /** Stops the server; its data stays in the sandbox. */
  @Override
  public void close() throws IOException {
    stop(server);
    if (!socket.startsWith(folder)) {
      hardproof.proving.sandboxes.Sandboxes.removeTree(socket.getParent());
    }
  }
}
