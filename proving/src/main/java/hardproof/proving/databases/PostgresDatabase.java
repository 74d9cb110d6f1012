package hardproof.proving.databases;

import hardproof.proving.formats.NotReadHere;
import hardproof.proving.names.EntryName;
import hardproof.proving.sandboxes.Commands;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.UUID;

/** A PostgreSQL server of one drill: on a private socket, with no port, its data in the sandbox. */
public final class PostgresDatabase extends ServedDatabase {

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

  private final PostgresServer server;
  private final Runnable stopIfCancelled;
  private final Set<String> ensured = new HashSet<>();
  private final String tag = UUID.randomUUID().toString().replace("-", "");

  private PostgresDatabase(PostgresServer server, Runnable stopIfCancelled) {
    this.server = server;
    this.stopIfCancelled = stopIfCancelled;
  }

  static PostgresDatabase start(PostgresEngine engine, Path folder, Runnable stopIfCancelled)
      throws QueryFailed, IOException {
    return new PostgresDatabase(
        PostgresServer.start(engine, folder, stopIfCancelled), stopIfCancelled);
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
    PostgresSurvey survey = survey(dump);
    makePeople(survey);
    Set<String> settings =
        Set.copyOf(server.lines("template1", "SELECT name FROM pg_catalog.pg_settings"));
    PostgresLoad load = new PostgresLoad(this, survey, settings, stopIfCancelled);
    load.load(reported);
    Files.write(databases(), load.databases());
    refuseUnlessWhole(survey);
    return load.notes();
  }

  private PostgresSurvey survey(Path dump) throws IOException {
    PostgresSurvey survey;
    try (InputStream in = Files.newInputStream(dump)) {
      survey = PostgresSurvey.of(in, stopIfCancelled);
    }
    return survey;
  }

  private static void refuseUnlessWhole(PostgresSurvey survey)
      throws RestoredDatabase.QueryFailed, NotReadHere {
    if (survey.cutOff()) {
      throw new QueryFailed("the dump ends without pg_dump's closing line: it is cut off", null);
    }
    if (survey.unmarked()) {
      throw new NotReadHere(
          "it is loaded, but has neither the opening nor the closing line of pg_dump:"
              + " whether it is whole can't be told");
    }
  }

  /** The loader, and whoever the dump names, without a login. */
  private void makePeople(PostgresSurvey survey) throws QueryFailed, IOException {
    server.sql(
        "template1",
        "CREATE ROLE " + LOADER + " LOGIN NOSUPERUSER NOCREATEDB NOCREATEROLE BYPASSRLS");
    if (server.major() >= 15) {
      // As tools write it that load rows before what they refer to.
      server.sql("template1", "GRANT SET ON PARAMETER session_replication_role TO " + LOADER);
    }
    makeRoles(survey);
  }

  private void makeRoles(PostgresSurvey survey) throws RestoredDatabase.QueryFailed, IOException {
    for (String role : survey.roles()) {
      String quoted = PostgresStatement.quoted(EntryName.of(bytes(role)));
      if (!role.startsWith(PostgresServer.OWNER)) {
        server.sql("template1", "CREATE ROLE " + quoted + " NOLOGIN");
        server.sql("template1", "GRANT " + quoted + " TO " + LOADER);
      }
    }
  }

  /** Names of a dump were read with a char for each of their bytes. */
  private static byte[] bytes(String name) {
    return name.getBytes(StandardCharsets.ISO_8859_1);
  }

  private Path databases() {
    return server.beside("databases");
  }

  @Override
  List<String> loaded() throws IOException {
    return Files.readAllLines(databases());
  }

  PostgresServer server() {
    return server;
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
      server.sql("template1", "ALTER DATABASE " + quoted + " OWNER TO " + LOADER);
    } else {
      server.sql(
          "template1",
          "CREATE DATABASE " + quoted + " OWNER " + LOADER + " TEMPLATE template0"
              + (withoutEncoding ? " ENCODING 'SQL_ASCII' LC_COLLATE 'C' LC_CTYPE 'C'" : ""));
    }
    addExtensionMaker(name);
  }

  /**
   * Makes an extension that only a superuser may make, as long as the dump has put nothing into the schema that the
   * extension's own script could take for its own.
   */
  private void addExtensionMaker(String name) throws QueryFailed, IOException {
    server.sql(name, "CREATE SCHEMA hard_proof");
    server.sql(name, """
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
    server.sql(name, "GRANT USAGE ON SCHEMA hard_proof TO " + LOADER);
  }

  /** A psql of the loader, to be sent a dump. */
  PostgresSession session(String database, int line) throws IOException {
    String key = UUID.randomUUID().toString().replace("-", "");
    return new PostgresSession(
        server.psql(
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
        server.beside("load.log"),
        line,
        stopIfCancelled);
  }

  /**
   * Reads every row of every table and, where the extension amcheck is there, every index against its
   * table.
   */
  @Override
  public List<String> integrityFaults() throws QueryFailed, IOException {
    List<String> faults = new ArrayList<>();
    for (String database : loaded()) {
      faults.addAll(new PostgresIntegrity(server).faults(database));
    }
    return faults;
  }

  @Override
  public Emptiness emptiness() throws QueryFailed, IOException {
    long tables = 0;
    long filled = 0;
    for (String database : loaded()) {
      tables += count(database, "relkind IN ('r', 'p', 'm')");
      filled += count(database, "relkind IN ('r', 'm') AND pg_catalog.pg_relation_size(c.oid) > 0");
      filled += Long.parseLong(server
          .lines(database, "SELECT pg_catalog.count(*) FROM pg_catalog.pg_largeobject")
          .get(0));
    }
    return Emptiness.of(tables, filled);
  }

  /** Tables of the dump; those of extensions and of the system are not. */
  private long count(String database, String which) throws QueryFailed, IOException {
    return Long.parseLong(server.lines(database, """
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
    Commands.Result result = asked(question, copy);
    if (result.exit() != 0) {
      server.stopIfDiskFull(result.lastLines());
      throw PostgresAnswer.refused(result);
    }
    return firstColumns(result.output(), atMost).stream()
        .map(PostgresAnswer::unescaped)
        .toList();
  }

  private Commands.Result asked(Question question, String copy) throws IOException {
    return Commands.run(
        server.psql(
            LOADER,
            question.database(),
            "-v",
            "VERBOSITY=verbose",
            "-c",
            "SET default_transaction_read_only = on",
            "-c",
            copy),
        PostgresServer.QUERY_LIMIT);
  }

  /** Stops the server; its data stays in the sandbox. */
  @Override
  public void close() throws IOException {
    server.close();
  }
}
