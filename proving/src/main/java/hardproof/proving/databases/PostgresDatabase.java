package hardproof.proving.databases;

import hardproof.proving.formats.NotReadHere;
import hardproof.proving.names.EntryName;
import hardproof.proving.sandboxes.Commands;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A PostgreSQL server of one drill: on a private socket, with no port, its data in the sandbox. */
public final class PostgresDatabase extends ServedDatabase {
  private static final Duration START_LIMIT = Duration.ofMinutes(1);
  private static final Duration QUERY_LIMIT = Duration.ofMinutes(10);

  /** A socket's path may be 107 bytes long (sun_path of Linux), and its name takes some. */
  private static final int SOCKET_FOLDER_LONGEST = 80;

  /** Of this server alone: "postgres", which dumps often name, is nobody special here. */
  static final String OWNER = "hard_proof";

  /** Neither superuser nor able to read or write the server's files or run programs. */
  private static final String LOADER = "hard_proof_drill";

  /** Needs a superuser to be made, and can reach nothing outside of its server. */
  private static final Set<String> HARMLESS = Set.of(
      "amcheck",
      "autoinc",
      "bloom",
      "dict_xsyn",
      "earthdistance",
      "insert_username",
      "intagg",
      "moddatetime",
      "pageinspect",
      "pg_buffercache",
      "pg_freespacemap",
      "pg_prewarm",
      "pg_stat_statements",
      "pg_visibility",
      "pgrowlocks",
      "pgstattuple",
      "refint",
      "sslinfo",
      "xml2");

  private static final Pattern STATE = Pattern.compile("ERROR:  ([0-9A-Z]{5}): (.*)");

  private static final String DISK_FULL = "No space left on device";

  private final PostgresEngine engine;
  private final Process server;
  private final Path log;
  private final Path sockets;
  private final boolean socketsAreOurs;
  private final Runnable stopIfCancelled;
  private final Set<String> ensured = new HashSet<>();
  private final String tag = UUID.randomUUID().toString().replace("-", "");

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
          Commands.run(psql(OWNER, "template1", "-c", "SELECT 1"), Duration.ofSeconds(20));
      if (answer.exit() == 0) {
        return;
      }
      pause("PostgreSQL");
    }
    throw new QueryFailed("PostgreSQL did not start within a minute: " + lastOfLog(), null);
  }

  private String lastOfLog() throws IOException {
    String text = new String(Files.readAllBytes(log), StandardCharsets.UTF_8);
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
        connection(database),
        "-v",
        "ON_ERROR_STOP=1"));
    all.addAll(List.of(arguments));
    return engine.command("psql", all.toArray(String[]::new));
  }

  /**
   * Loads a plain dump into fresh databases. It is loaded by a user that can't reach files or run programs,
   * by a psql that takes no command from it. People that it names are made without a login; who owns what
   * and who may what is left out.
   *
   * @param reported the same file again, for whoever watches how far it is
   * @return what was left out and who is missing, for people; empty when nothing was
   * @throws QueryFailed with the engine's words and the line of the dump
   * @throws NotReadHere when it takes what is not here
   */
  public String load(Path dump, InputStream reported) throws QueryFailed, IOException {
    PostgresSurvey survey;
    try (InputStream in = Files.newInputStream(dump)) {
      survey = PostgresSurvey.of(in, stopIfCancelled);
    }
    sql(
        "template1",
        "CREATE ROLE " + LOADER + " LOGIN NOSUPERUSER NOCREATEDB NOCREATEROLE BYPASSRLS");
    if (major() >= 15) {
      // As tools write it that load rows before what they refer to.
      sql("template1", "GRANT SET ON PARAMETER session_replication_role TO " + LOADER);
    }
    for (String role : survey.roles()) {
      String quoted = PostgresStatement.quoted(EntryName.of(bytes(role)));
      if (!role.startsWith(OWNER)) {
        sql("template1", "CREATE ROLE " + quoted + " NOLOGIN");
        sql("template1", "GRANT " + quoted + " TO " + LOADER);
      }
    }
    Set<String> settings =
        Set.copyOf(lines(OWNER, "template1", "SELECT name FROM pg_catalog.pg_settings"));
    PostgresLoad load = new PostgresLoad(this, survey, settings, stopIfCancelled);
    load.load(reported);
    Files.write(databases(), load.databases());
    if (survey.cutOff()) {
      throw new QueryFailed("the dump ends without pg_dump's closing line: it is cut off", null);
    }
    if (survey.unmarked()) {
      throw new NotReadHere(
          "it is loaded, but has neither the opening nor the closing line of pg_dump:"
              + " whether it is whole can't be told");
    }
    return load.notes();
  }

  /** Names of a dump were read with a char for each of their bytes. */
  private static byte[] bytes(String name) {
    return name.getBytes(StandardCharsets.ISO_8859_1);
  }

  private Path databases() {
    return log.resolveSibling("databases");
  }

  @Override
  List<String> loaded() throws IOException {
    return Files.readAllLines(databases());
  }

  int major() {
    return Integer.parseInt(engine.version().replaceFirst("\\..*", ""));
  }

  /** Part of a quote that no dump knows. */
  String tag() {
    return tag;
  }

  boolean needsRights(String extension) {
    return HARMLESS.contains(extension);
  }

  /** Makes a database that is not there yet, and what a drill needs in it. */
  void ensure(String name, boolean withoutEncoding) throws QueryFailed, IOException {
    if (!ensured.add(name)) {
      return;
    }
    String quoted = PostgresStatement.quoted(name);
    if (name.equals("postgres") || name.equals("template1")) {
      sql("template1", "ALTER DATABASE " + quoted + " OWNER TO " + LOADER);
    } else {
      sql(
          "template1",
          "CREATE DATABASE " + quoted + " OWNER " + LOADER + " TEMPLATE template0"
              + (withoutEncoding ? " ENCODING 'SQL_ASCII' LC_COLLATE 'C' LC_CTYPE 'C'" : ""));
    }
    // Makes an extension that only a superuser may make, as long as the dump has put nothing into
    // the
    // schema that the extension's own script could take for its own.
    sql(name, "CREATE SCHEMA hard_proof");
    sql(name, """
        CREATE FUNCTION hard_proof.extension(name text, into_schema text) RETURNS void
        LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, pg_temp AS $$
        BEGIN
          IF NOT name = ANY (ARRAY[%s]) THEN
            RAISE insufficient_privilege;
          END IF;
          IF EXISTS (SELECT FROM pg_catalog.pg_proc p JOIN pg_catalog.pg_roles r ON r.oid = p.proowner
                      WHERE NOT r.rolsuper)
             OR EXISTS (SELECT FROM pg_catalog.pg_operator o JOIN pg_catalog.pg_roles r ON r.oid = o.oprowner
                      WHERE NOT r.rolsuper) THEN
            RAISE insufficient_privilege;
          END IF;
          EXECUTE pg_catalog.format('CREATE EXTENSION IF NOT EXISTS %%I SCHEMA %%I', name, into_schema);
        END $$""".formatted(
            String.join(", ", HARMLESS.stream().sorted().map(n -> "'" + n + "'").toList())));
    sql(name, "GRANT USAGE ON SCHEMA hard_proof TO " + LOADER);
  }

  /** A psql of the loader, to be sent a dump. */
  PostgresSession session(String database, int line) throws IOException {
    String key = UUID.randomUUID().toString().replace("-", "");
    return new PostgresSession(
        psql(
            LOADER,
            database,
            "-v",
            "VERBOSITY=verbose",
            "-c",
            "SET statement_timeout = 0",
            "-c",
            "\\restrict " + key,
            "-f",
            "-"),
        log.resolveSibling("load.log"),
        line,
        stopIfCancelled);
  }

  private void sql(String database, String statement) throws QueryFailed, IOException {
    Commands.Result result =
        Commands.run(psql(OWNER, database, "-c", statement), Duration.ofMinutes(1));
    if (result.exit() != 0) {
      stopIfDiskFull(result.lastLines());
      throw new QueryFailed(result.lastLines(), null);
    }
  }

  private List<String> lines(String user, String database, String query)
      throws QueryFailed, IOException {
    Commands.Result result = Commands.run(psql(user, database, "-c", query), QUERY_LIMIT);
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

  /**
   * Reads every row of every table and, where the extension amcheck is there, every index against its
   * table.
   */
  @Override
  public List<String> integrityFaults() throws QueryFailed, IOException {
    List<String> faults = new ArrayList<>();
    for (String database : loaded()) {
      faults.addAll(integrityFaults(database));
    }
    return faults;
  }

  private List<String> integrityFaults(String database) throws IOException {
    List<String> faults = new ArrayList<>();
    Commands.Result dumped = Commands.run(
        engine.command(
            "pg_dump",
            "-h",
            sockets.toString(),
            "-U",
            OWNER,
            "-d",
            connection(database),
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
            OWNER,
            database,
            "-c",
            "SET search_path = pg_catalog",
            "-c",
            "CREATE SCHEMA " + own,
            "-c",
            "DROP EXTENSION IF EXISTS amcheck",
            "-c",
            "CREATE EXTENSION amcheck SCHEMA " + own),
        Duration.ofMinutes(1));
    if (extension.exit() == 0) {
      Commands.Result checked = Commands.run(
          psql(OWNER, database, "-c", "SET search_path = pg_catalog", "-c", """
              SELECT %s.bt_index_check(c.oid::regclass, true)
                FROM pg_index i JOIN pg_class c ON c.oid = i.indexrelid
                JOIN pg_am a ON a.oid = c.relam AND a.amname = 'btree'
               WHERE c.relkind = 'i' AND c.relpersistence <> 't' AND i.indisready
                 AND i.indisvalid""".formatted(own)),
          QUERY_LIMIT);
      if (checked.exit() != 0) {
        faults.add(checked.lastLines());
      }
    }
    return faults;
  }

  private static String connection(String database) {
    return "dbname='" + database.replace("\\", "\\\\").replace("'", "\\'") + "'";
  }

  @Override
  public Emptiness emptiness() throws QueryFailed, IOException {
    long tables = 0;
    long filled = 0;
    for (String database : loaded()) {
      tables += count(database, "relkind IN ('r', 'p', 'm')");
      filled += count(database, "relkind IN ('r', 'm') AND pg_catalog.pg_relation_size(c.oid) > 0");
      filled += Long.parseLong(
          lines(OWNER, database, "SELECT pg_catalog.count(*) FROM pg_catalog.pg_largeobject")
              .get(0));
    }
    return Emptiness.of(tables, filled);
  }

  /** Tables of the dump; those of extensions and of the system are not. */
  private long count(String database, String which) throws QueryFailed, IOException {
    return Long.parseLong(lines(OWNER, database, """
        SELECT pg_catalog.count(*) FROM pg_catalog.pg_class c
          JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
         WHERE n.nspname !~ '^(pg_|information_schema$|hard_proof$|check_)'
           AND NOT EXISTS (SELECT FROM pg_catalog.pg_depend d
                            WHERE d.classid = 'pg_catalog.pg_class'::pg_catalog.regclass
                              AND d.objid = c.oid AND d.deptype = 'e')
           AND\s""" + which).get(0));
  }

  @Override
  boolean holdsTables(String database) throws QueryFailed, IOException {
    return count(database, "relkind IN ('r', 'p', 'm', 'v')") > 0;
  }

  @Override
  List<String> values(String query, int atMost) throws QueryFailed, IOException {
    // COPY gives NULL as \N and keeps a value on its line; only the first column is looked at.
    Question question = question(query);
    String copy = "COPY (" + question.query() + ") TO STDOUT";
    Commands.Result result = Commands.run(
        psql(
            LOADER,
            question.database(),
            "-v",
            "VERBOSITY=verbose",
            "-c",
            "SET default_transaction_read_only = on",
            "-c",
            copy),
        QUERY_LIMIT);
    if (result.exit() != 0) {
      stopIfDiskFull(result.lastLines());
      throw refused(result);
    }
    return firstColumns(result.output(), atMost).stream()
        .map(PostgresDatabase::unescaped)
        .toList();
  }

  /** Why a question was not answered: by its own fault or the data's; what is ours says nothing of them. */
  private static QueryFailed refused(Commands.Result result) throws NotReadHere {
    Matcher error = STATE.matcher(result.output());
    if (!error.find()) {
      return new QueryFailed(result.lastLines(), null);
    }
    boolean ours = PostgresMissing.ours(error.group(1));
    if (ours) {
      throw new NotReadHere("PostgreSQL could not answer (" + error.group(2) + ")");
    }
    return new QueryFailed("ERROR:  " + error.group(2), null);
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
    stop(server);
    if (socketsAreOurs) {
      hardproof.proving.sandboxes.Sandboxes.removeTree(sockets);
    }
  }
}
