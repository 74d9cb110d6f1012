package hardproof.proving.databases;

import hardproof.core.wording.Wording;
import hardproof.proving.formats.NotReadHere;
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

/** A MariaDB server of one drill: on a private socket, with no port, its data in the sandbox. */
public final class MariaDbDatabase extends ServedDatabase {
  private static final String LOADER = "hard_proof_drill";
  private final MariaDbServer server;
  private final Runnable stopIfCancelled;

  private MariaDbDatabase(MariaDbServer server, Runnable stopIfCancelled) {
    this.server = server;
    this.stopIfCancelled = stopIfCancelled;
  }

  static MariaDbDatabase start(Path folder, String owner, Runnable stopIfCancelled)
      throws QueryFailed, IOException {
    return new MariaDbDatabase(
        MariaDbServer.start(folder, owner, stopIfCancelled), stopIfCancelled);
  }
  /** Gives the server another owner, and takes away whoever else came with it. */
  void takeOver(String newOwner) throws QueryFailed, IOException {
    server.renameOwner(newOwner);
    for (String account : server.lines(
        "SELECT concat(quote(User), '@', quote(Host)) FROM mysql.user WHERE User IN ('root', '')")) {
      server.lines("DROP USER " + account);
    }
    server.lines("CREATE USER " + LOADER + "@localhost");
    server.lines("GRANT SET USER ON *.* TO " + LOADER + "@localhost");
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
    Set<String> databases = makeFor(survey);
    send(survey, reported);
    Files.write(server.folder().resolve("databases"), databases);
    refuseUnlessWhole(survey);
    return remarks(survey);
  }

  private static void refuseUnlessWhole(MySqlDump survey)
      throws RestoredDatabase.QueryFailed, NotReadHere {
    if (survey.cutOff()) {
      throw new QueryFailed("the dump ends without its closing line: it is cut off", null);
    }
    if (survey.unmarked()) {
      throw new NotReadHere(
          "it is loaded, but has neither the opening nor the closing line of a dump:"
              + " whether it is whole can't be told");
    }
  }

  /** The databases that a dump is loaded into, and the accounts that it names, which can't log in. */
  private Set<String> makeFor(MySqlDump survey) throws QueryFailed, IOException {
    Set<String> databases = new TreeSet<>(survey.databases());
    databases.add(RESTORED);
    for (String name : databases) {
      server.lines("CREATE DATABASE IF NOT EXISTS " + quoted(name));
      server.lines("GRANT ALL ON " + pattern(name) + ".* TO " + LOADER + "@localhost");
    }
    for (String account : survey.definers()) {
      server.lines("CREATE USER IF NOT EXISTS " + text(account) + " ACCOUNT LOCK");
      for (String name : databases) {
        server.lines("GRANT ALL ON " + pattern(name) + ".* TO " + text(account));
      }
    }
    return databases;
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
    Path errors = server.folder().resolve("load.log");
    ProcessBuilder builder = new ProcessBuilder(server.command(LOADER, List.of(RESTORED)));
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
      throw MariaDbRefusal.of(said, madeBy(survey));
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
    int here = MySqlDump.version(server.lines("SELECT version()").get(0));
    return survey.version() > here ? "a newer MariaDB" : "";
  }

  @Override
  List<String> loaded() throws IOException {
    return Files.readAllLines(server.folder().resolve("databases"));
  }

  private static String literal(String text) {
    return "'" + text.replace("\\", "\\\\").replace("'", "''") + "'";
  }

  private List<String> tables(String database) throws QueryFailed, IOException {
    return server.lines("SELECT table_name FROM information_schema.tables WHERE table_schema = "
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
        for (String line : server.lines("CHECK TABLE " + whole + " EXTENDED")) {
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
        if (filled == 0 && !server.lines("SELECT 1 FROM " + whole + " LIMIT 1").isEmpty()) {
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
    Commands.Result result = asked(question);
    List<String> values = new ArrayList<>();
    for (String value : firstColumns(result.output(), atMost)) {
      values.add(
          value.equals("NULL")
              ? null
              : value.replace("\\t", "\t").replace("\\n", "\n").replace("\\\\", "\\"));
    }
    return values;
  }

  private Commands.Result asked(Question question)
      throws IOException, RestoredDatabase.QueryFailed {
    Commands.Result result = server.client(
        LOADER,
        List.of(
            "--database=" + text(question.database()),
            "-e",
            "SET SESSION TRANSACTION READ ONLY; START TRANSACTION READ ONLY; " + question.query()));
    if (result.exit() != 0) {
      throw MariaDbRefusal.of(result.output(), "");
    }
    return result;
  }

  /** Stops the server; its data stays in the sandbox. */
  @Override
  public void close() throws IOException {
    server.close();
  }
}
