package hardproof.proving.databases;

import hardproof.proving.formats.WithoutContent;
import hardproof.proving.sandboxes.Commands;
import java.io.BufferedReader;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.TimeUnit;

/** A PostgreSQL server of one drill: on a private socket, with no port, its data in the sandbox. */
public final class PostgresDatabase extends RestoredDatabase {
  private static final Duration START_LIMIT = Duration.ofMinutes(1);
  private static final Duration QUERY_LIMIT = Duration.ofMinutes(10);

  /** A socket's path may be 107 bytes long (sun_path of Linux), and its name takes some. */
  private static final int SOCKET_FOLDER_LONGEST = 80;

  /** Neither superuser nor able to read or write the server's files or run programs. */
  private static final String LOADER = "drill";

  private static final String DISK_FULL = "No space left on device";

  private final PostgresEngine engine;
  private final Process server;
  private final Path log;
  private final Path sockets;
  private final boolean socketsAreOurs;
  private final Runnable stopIfCancelled;

  private PostgresDatabase(
      PostgresEngine engine,
      Process server,
      Path log,
      Path sockets,
      boolean socketsAreOurs,
      Runnable stopIfCancelled) {
    this.engine = engine;
    this.server = server;
    this.log = log;
    this.sockets = sockets;
    this.socketsAreOurs = socketsAreOurs;
    this.stopIfCancelled = stopIfCancelled;
  }

  static PostgresDatabase start(PostgresEngine engine, Path folder, Runnable stopIfCancelled)
      throws QueryFailed, IOException {
    boolean fits = folder.resolve("s").toString().length() <= SOCKET_FOLDER_LONGEST;
    Path sockets =
        fits ? Files.createDirectories(folder.resolve("s")) : Files.createTempDirectory("drill-");
    Path log = folder.resolve("server.log");
    List<String> command = engine.command(
        "postgres",
        "-D",
        folder.resolve("data").toString(),
        "-k",
        sockets.toString(),
        "-c",
        "listen_addresses=",
        "-c",
        "unix_socket_permissions=0700",
        "-c",
        "fsync=off",
        "-c",
        "max_connections=8",
        "-c",
        "autovacuum=off",
        "-c",
        "logging_collector=off",
        "-c",
        "shared_buffers=32MB",
        "-c",
        "statement_timeout=" + QUERY_LIMIT.toMillis());
    ProcessBuilder builder = new ProcessBuilder(command);
    builder.redirectErrorStream(true).redirectOutput(log.toFile());
    Commands.cleanEnvironment(builder);
    Process server = builder.start();
    PostgresDatabase database =
        new PostgresDatabase(engine, server, log, sockets, !fits, stopIfCancelled);
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
        throw new QueryFailed("PostgreSQL did not start: " + lastOfLog(), null);
      }
      Commands.Result answer =
          Commands.run(psql("postgres", "postgres", "-c", "SELECT 1"), Duration.ofSeconds(20));
      if (answer.exit() == 0) {
        return;
      }
      try {
        TimeUnit.MILLISECONDS.sleep(100);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new QueryFailed("interrupted while PostgreSQL started", e);
      }
    }
    throw new QueryFailed("PostgreSQL did not start within a minute: " + lastOfLog(), null);
  }

  private String lastOfLog() throws IOException {
    String text = Files.readString(log, StandardCharsets.UTF_8);
    return text.substring(Math.max(0, text.length() - 400))
        .replaceAll("\\s+", " ")
        .strip();
  }

  private List<String> psql(String user, String database, String... arguments) {
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
        database,
        "-v",
        "ON_ERROR_STOP=1"));
    all.addAll(List.of(arguments));
    return engine.command("psql", all.toArray(String[]::new));
  }

  /**
   * Loads a plain dump into a fresh database. It is loaded by a user that can't reach files or run
   * programs, by a psql that takes no command from the dump; who owns what and who may what is left
   * out, since those people are not known here.
   *
   * @throws QueryFailed with the engine's words and the line of the dump
   */
  public void load(InputStream dump) throws QueryFailed, IOException {
    sql("postgres", "CREATE ROLE " + LOADER + " LOGIN NOSUPERUSER NOCREATEDB NOCREATEROLE");
    sql("postgres", "CREATE DATABASE restored OWNER " + LOADER + " TEMPLATE template0");
    String key = UUID.randomUUID().toString().replace("-", "");
    ProcessBuilder builder =
        new ProcessBuilder(psql(LOADER, "restored", "-c", "\\restrict " + key, "-f", "-"));
    Path errors = log.resolveSibling("load.log");
    builder.redirectOutput(ProcessBuilder.Redirect.DISCARD).redirectError(errors.toFile());
    Commands.cleanEnvironment(builder);
    Process psql = builder.start();
    IOException broken = null;
    PostgresScript script = new PostgresScript();
    try (OutputStream out = psql.getOutputStream();
        BufferedWriter to =
            new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.ISO_8859_1))) {
      // What is sent keeps its bytes, whatever their encoding: each char is one byte.
      BufferedReader lines =
          new BufferedReader(new InputStreamReader(dump, StandardCharsets.ISO_8859_1));
      String line;
      while ((line = lines.readLine()) != null) {
        stopIfCancelled.run();
        to.write(script.passed(line));
        to.write('\n');
      }
    } catch (IOException e) {
      // When psql has ended by an error of the dump, writing on fails: its own words are better.
      broken = e;
    } catch (RuntimeException e) {
      psql.destroyForcibly();
      throw e;
    }
    int exit = Commands.waitFor(psql, Duration.ofHours(2), stopIfCancelled);
    if (exit != 0) {
      String said = Files.readString(errors, StandardCharsets.UTF_8).strip();
      stopIfDiskFull(said);
      throw new QueryFailed(
          said.isEmpty()
              ? "psql ended"
              : WithoutContent.of(said.replaceFirst("^psql:<stdin>:", "line ")),
          null);
    }
    if (broken != null) {
      throw broken;
    }
    if (!script.whole()) {
      throw new QueryFailed("the dump ends without pg_dump's closing line: it is cut off", null);
    }
  }

  private void sql(String database, String statement) throws QueryFailed, IOException {
    Commands.Result result =
        Commands.run(psql("postgres", database, "-c", statement), Duration.ofMinutes(1));
    if (result.exit() != 0) {
      stopIfDiskFull(result.lastLines());
      throw new QueryFailed(result.lastLines(), null);
    }
  }

  /** A server whose disk is full says so to who asked, or to its log before it ends. */
  private void stopIfDiskFull(String said) throws IOException {
    if ((said + lastOfLog()).contains(DISK_FULL)) {
      throw new IOException("PostgreSQL: " + DISK_FULL);
    }
  }

  /**
   * Reads every row of every table and, where the extension amcheck is there, every index against its
   * table.
   */
  @Override
  public List<String> integrityFaults() throws QueryFailed, IOException {
    List<String> faults = new ArrayList<>();
    Commands.Result dumped = Commands.run(
        engine.command(
            "pg_dump",
            "-h",
            sockets.toString(),
            "-U",
            "postgres",
            "-d",
            "restored",
            "-f",
            "/dev/null"),
        QUERY_LIMIT);
    if (dumped.exit() != 0) {
      stopIfDiskFull(dumped.lastLines());
      faults.add("not every row can be read: " + dumped.lastLines());
    }
    // In a schema and by a path where the dump can't have put a function of that name: this
    // runs as superuser. The extension itself reads expression indexes as the table's owner.
    String own = "check_" + UUID.randomUUID().toString().replace("-", "");
    Commands.Result extension = Commands.run(
        psql(
            "postgres",
            "restored",
            "-c",
            "SET search_path = pg_catalog",
            "-c",
            "CREATE SCHEMA " + own,
            "-c",
            "CREATE EXTENSION amcheck SCHEMA " + own),
        Duration.ofMinutes(1));
    if (extension.exit() == 0) {
      Commands.Result checked = Commands.run(
          psql("postgres", "restored", "-c", "SET search_path = pg_catalog", "-c", """
              SELECT %s.bt_index_check(c.oid::regclass, true)
                FROM pg_index i JOIN pg_class c ON c.oid = i.indexrelid
                JOIN pg_am a ON a.oid = c.relam AND a.amname = 'btree'
               WHERE c.relpersistence <> 't' AND i.indisready AND i.indisvalid""".formatted(
                  own)),
          QUERY_LIMIT);
      if (checked.exit() != 0) {
        faults.add(checked.lastLines());
      }
    }
    return faults;
  }

  @Override
  List<String> values(String query, int atMost) throws QueryFailed, IOException {
    // COPY gives NULL as \N and keeps a value on its line; only the first column is looked at.
    String copy = "COPY (" + query.strip().replaceAll(";+\\s*$", "") + ") TO STDOUT";
    Commands.Result result = Commands.run(
        psql(LOADER, "restored", "-c", "SET default_transaction_read_only = on", "-c", copy),
        QUERY_LIMIT);
    if (result.exit() != 0) {
      stopIfDiskFull(result.lastLines());
      throw new QueryFailed(result.lastLines(), null);
    }
    List<String> values = new ArrayList<>();
    for (String line : result.output().split("\n")) {
      if (values.size() >= atMost || line.isEmpty() && result.output().isEmpty()) {
        break;
      }
      int tab = line.indexOf('\t');
      values.add(unescaped(tab < 0 ? line : line.substring(0, tab)));
    }
    return values;
  }

  /** A value as COPY's text form writes it (PostgreSQL manual, COPY, "Text Format"). */
  static String unescaped(String value) {
    if (value.equals("\\N")) {
      return null;
    }
    Map<Character, Character> codes =
        Map.of('b', '\b', 'f', '\f', 'n', '\n', 'r', '\r', 't', '\t', 'v', '\u000b');
    StringBuilder text = new StringBuilder();
    for (int i = 0; i < value.length(); i++) {
      char c = value.charAt(i);
      if (c == '\\' && i + 1 < value.length()) {
        i++;
        text.append(codes.getOrDefault(value.charAt(i), value.charAt(i)));
      } else {
        text.append(c);
      }
    }
    return text.toString();
  }

  /** Stops the server; its data stays in the sandbox. */
  @Override
  public void close() throws IOException {
    server.destroy();
    try {
      if (!server.waitFor(20, TimeUnit.SECONDS)) {
        server.descendants().forEach(ProcessHandle::destroyForcibly);
        server.destroyForcibly();
      }
    } catch (InterruptedException e) {
      server.destroyForcibly();
      Thread.currentThread().interrupt();
    }
    if (socketsAreOurs) {
      hardproof.proving.sandboxes.Sandboxes.removeTree(sockets);
    }
  }
}
