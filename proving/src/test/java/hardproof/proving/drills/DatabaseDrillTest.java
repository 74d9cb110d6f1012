package hardproof.proving.drills;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.ladder.Rung;
import hardproof.proving.Tar;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

class DatabaseDrillTest extends WithStore {
  private Artifact database(String name, boolean gzip) throws Exception {
    Path file = temp.resolve("made.db");
    Files.deleteIfExists(file);
    try (var db = DriverManager.getConnection("jdbc:sqlite:" + file);
        var s = db.createStatement()) {
      s.execute("CREATE TABLE entry (id INTEGER PRIMARY KEY, amount INTEGER NOT NULL, note TEXT)");
      s.execute("CREATE INDEX entry_note ON entry (note)");
      s.execute(
          "WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 2000) INSERT INTO entry SELECT i, i * 3, 'note ' || i FROM n");
    }
    byte[] bytes = Files.readAllBytes(file);
    return put(name, gzip ? "sqlite.gz" : "sqlite", gzip ? Tar.gzip(bytes) : bytes, null);
  }

  private DrillResult ask(Artifact artifact, String query, CheckType type, String expected) {
    return ask(Method.DATABASE, artifact, new Check(type, query, expected));
  }

  @Test
  void aDatabaseThatAnswersIsRunning() throws Exception {
    for (boolean gzip : new boolean[] {false, true}) {
      DrillResult result = ask(
          database("pay.db", gzip), "SELECT count(*) FROM entry", CheckType.QUERY_EQUALS, "2000");
      assertThat(result.sentence())
          .isEqualTo(
              "database opened, integrity check ok; SELECT count(*) FROM entry gave 2000, equal to 2000");
      assertThat(result.reaches()).isEqualTo(Rung.RUNNING);
      assertThat(sandboxes.present()).isEmpty();
    }
  }

  @Test
  void aDatabaseThatIsNotAskedIsOnlyRestored() throws Exception {
    DrillResult result = run(Method.DATABASE, database("pay.db", false));
    assertThat(result.reaches()).isEqualTo(Rung.RESTORED);
    assertThat(result.sentence()).endsWith("nothing was asked of it");
  }

  @Test
  void answersAreJudgedJustUnderAtAndOver() throws Exception {
    Artifact a = database("pay.db", false);
    assertThat(ask(a, "SELECT count(*) FROM entry", CheckType.QUERY_AT_LEAST, "1999")
            .checks())
        .isEqualTo(ChecksState.PASSED);
    assertThat(ask(a, "SELECT count(*) FROM entry", CheckType.QUERY_AT_LEAST, "2000")
            .checks())
        .isEqualTo(ChecksState.PASSED);
    DrillResult over = ask(a, "SELECT count(*) FROM entry", CheckType.QUERY_AT_LEAST, "2001");
    assertThat(over.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(over.sentence())
        .isEqualTo("SELECT count(*) FROM entry gave 2000, at least 2001 was expected");
    assertThat(ask(a, "SELECT note FROM entry WHERE id = 9999", CheckType.QUERY_EQUALS, "x")
            .sentence())
        .contains("gave nothing");
    assertThat(ask(a, "SELECT * FROM nowhere", CheckType.QUERY_EQUALS, "x").sentence())
        .contains("could not be answered");
  }

  /** A job can be green over this: the file is whole, what is in it is not. */
  @Test
  void aDatabaseThatIsCorruptInsideIsDisprovedWhereverItLies() throws Exception {
    Artifact good = database("pay.db", false);
    byte[] bytes = Files.readAllBytes(storeFolder.resolve("pay.db"));
    java.util.Arrays.fill(bytes, 4096 * 3 + 100, 4096 * 3 + 1500, (byte) 0x5a);
    Artifact corrupt = put("pay.db", "sqlite", bytes, null);
    assertThat(good.sha256()).isNotEqualTo(corrupt.sha256());
    DrillResult result = ask(corrupt, "SELECT 1", CheckType.QUERY_EQUALS, "1");
    assertThat(result.restore()).isEqualTo(RestoreState.DONE);
    assertThat(result.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(result.sentence())
        .startsWith("restored whole, but the database failed its own integrity check: ");
    assertThat(result.blamedPoint()).isEqualTo("point-pay.db");
    assertThat(result.blamedStore()).isNull();
  }

  @Test
  void whatIsNoDatabaseIsSaidToBeNone() throws Exception {
    DrillResult result = ask(
        put(
            "x.db",
            "sqlite",
            "hello, this is not a database file at all".repeat(30).getBytes(StandardCharsets.UTF_8),
            null),
        "SELECT 1",
        CheckType.QUERY_EQUALS,
        "1");
    assertThat(result.restore()).isEqualTo(RestoreState.FAILED);
    assertThat(result.sentence())
        .isEqualTo("x.db can't be restored (it is said to be sqlite but does not begin like one)");
    assertThat(result.blamedStore()).as("the bytes are as recorded").isNull();
  }

  @Test
  void aRestoredDatabaseCannotReachOutOrBeWritten() throws Exception {
    Artifact a = database("pay.db", false);
    DrillResult write = ask(
        a,
        "WITH x AS (SELECT 1) INSERT INTO entry SELECT 9999, 1, '' FROM x",
        CheckType.QUERY_EQUALS,
        "1");
    assertThat(write.checks()).isEqualTo(ChecksState.FAILED);
    assertThatThrownBy(() -> new Check(CheckType.QUERY_EQUALS, "ATTACH '/etc/passwd' AS p", "1"))
        .hasMessage("the query must begin with SELECT or WITH");
    assertThatThrownBy(() -> new Check(CheckType.QUERY_AT_LEAST, "SELECT 1", "many"))
        .hasMessageContaining("not a number");
    assertThatThrownBy(() -> new Check(CheckType.QUERY_EQUALS, "SELECT 1", " "))
        .hasMessage("the check \"the query's first value equals\" needs: value");
  }

  @Test
  void onlyDatabaseFilesGoThroughTheDatabaseDrill() throws Exception {
    assertThat(run(Method.DATABASE, chain()).sentence())
        .startsWith("the point is a chain of 2 artifacts");
    assertThat(runner
            .run(request(Method.DATABASE, List.of(), false, chain()[0]), new Recorder())
            .sentence())
        .contains("reads sqlite, sql, pgsql, pgdump and mariadb");
  }

  /** What would really be lost, beside what the point promises. */
  @Test
  void theNewestTimeInTheDataIsMeasured() throws Exception {
    Path file = temp.resolve("times.db");
    try (var db = DriverManager.getConnection("jdbc:sqlite:" + file);
        var s = db.createStatement()) {
      s.execute("CREATE TABLE entry (at TEXT)");
      s.execute("INSERT INTO entry VALUES ('2026-11-24T08:30:00Z'), ('2026-11-24T07:00:00Z')");
    }
    Artifact a = put("times.db", "sqlite", Files.readAllBytes(file), null);
    String newest = "SELECT max(at) FROM entry";
    DrillResult at = ask(a, newest, CheckType.NEWEST_WITHIN, "30m");
    assertThat(at.checks()).isEqualTo(ChecksState.PASSED);
    assertThat(at.newest()).isEqualTo(Instant.parse("2026-11-24T08:30:00Z"));
    assertThat(at.sentence())
        .endsWith(
            "the newest data is of 24 Nov 08:30, 30 m before the point's data time; 30 m allowed");
    DrillResult over = ask(a, newest, CheckType.NEWEST_WITHIN, "29m");
    assertThat(over.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(over.newest()).as("measured all the same").isEqualTo(at.newest());
    assertThat(ask(a, "SELECT 'soon'", CheckType.NEWEST_WITHIN, "1h").sentence())
        .isEqualTo("SELECT 'soon' gave soon, a time was expected");
  }

  @Test
  void markersShowWhichPointWasRestored() throws Exception {
    Artifact a = database("pay.db", false);
    String notes = "SELECT note FROM entry";
    assertThat(ask(a, notes, CheckType.MARKER_THERE, "note 7").checks())
        .isEqualTo(ChecksState.PASSED);
    assertThat(ask(a, notes, CheckType.MARKER_ABSENT, "note 2001").checks())
        .isEqualTo(ChecksState.PASSED);
    assertThat(ask(a, notes, CheckType.MARKER_ABSENT, "note 7").sentence())
        .isEqualTo("the marker note 7 is among what SELECT note FROM entry gives");
  }

  private DrillResult dump(String sql) throws Exception {
    return runner.run(
        request(
            Method.DATABASE,
            List.of(new Check(CheckType.QUERY_EQUALS, "SELECT count(*) FROM entry", "2")),
            false,
            put("d.sql.gz", "sql.gz", Tar.gzip(sql.getBytes(StandardCharsets.UTF_8)), null)),
        new Recorder());
  }

  @Test
  void aDumpIsLoadedIntoAFreshDatabase() throws Exception {
    DrillResult result = dump("""
        PRAGMA foreign_keys=OFF; -- a comment; with a semicolon
        BEGIN TRANSACTION;
        CREATE TABLE entry (id INTEGER PRIMARY KEY, note TEXT);
        INSERT INTO entry VALUES(1,'it''s; here'),(2,'a
        second line');
        CREATE TABLE log (n);
        CREATE TRIGGER t AFTER INSERT ON entry BEGIN INSERT INTO log VALUES (CASE new.id WHEN 1 THEN 2 END); DELETE FROM log; END;
        COMMIT;
        """);
    assertThat(result.checks()).as(result.sentence()).isEqualTo(ChecksState.PASSED);
    assertThat(result.reaches()).isEqualTo(Rung.RUNNING);
    assertThat(sandboxes.present()).isEmpty();
  }

  @Test
  void aDumpThatIsCutOffIsNotTakenForWhole() throws Exception {
    assertThat(dump("BEGIN; CREATE TABLE entry (id); INSERT INTO entry VALUES (1),(2);")
            .sentence())
        .isEqualTo("d.sql.gz can't be loaded: it ends inside a transaction: it is cut off");
    assertThat(dump("CREATE TABLE entry (id); INSERT INTO ent").sentence())
        .isEqualTo("d.sql.gz can't be loaded: statement 2, which begins on line 1, was refused by"
            + " SQLite: incomplete input");
    assertThat(dump("-- nothing").sentence()).contains("d.sql.gz can't be loaded");
    assertThat(dump("").sentence()).contains("it holds no statement");
  }

  /** ATTACH and VACUUM INTO would reach other files; both are refused by the engine. */
  @Test
  void aDumpCannotReachAnotherFile() throws Exception {
    Path other = temp.resolve("other.db");
    String attach = "ATTACH '" + other + "' AS o; CREATE TABLE o.x (id);";
    assertThat(dump(attach).sentence()).contains("was refused").contains("attached");
    assertThat(dump("CREATE TABLE entry (id); VACUUM INTO '" + other + "';").sentence())
        .contains("was refused");
    assertThat(other).doesNotExist();
    assertThat(dump("SELECT load_extension('/tmp/x.so');").sentence()).contains("was refused");
    assertThat(sandboxes.present()).isEmpty();
  }

  /** A script could be cut off between any two of its statements, and nobody would see it. */
  @Test
  void aScriptThatTellsNoEndIsNotJudged() throws Exception {
    DrillResult result = dump("CREATE TABLE entry (id); INSERT INTO entry VALUES (1), (2);");
    assertThat(result.restore()).isEqualTo(RestoreState.INTERRUPTED);
    assertThat(result.sentence()).contains("no BEGIN and COMMIT").contains("can't be told");
    assertThat(result.blamedPoint()).isNull();
  }

  /** The bytes are right, and another program's: what is on record of them is wrong. */
  @Test
  void aDumpOfAnotherSystemIsNotJudged() throws Exception {
    for (String other : List.of(
        "--\n-- PostgreSQL database dump\n--\n\nSET client_encoding = 'UTF8';\n",
        "-- MariaDB dump 10.19  Distrib 10.11.6-MariaDB\n--\n",
        "<?xml version=\"1.0\"?>\n<database/>\n",
        "\u00ff\u00feB\u0000E\u0000")) {
      DrillResult result = ask(
          Method.DATABASE, put("d.sql", "sql", other.getBytes(StandardCharsets.ISO_8859_1), null));
      assertThat(result.restore()).as(result.sentence()).isEqualTo(RestoreState.INTERRUPTED);
      assertThat(result.blamedPoint()).isNull();
    }
  }

  /** Settings of whoever runs it, some of the whole process, are not the dump's to make. */
  @Test
  void onlyWhatSaysSomethingOfTheDatabaseIsSet() throws Exception {
    Path elsewhere = Files.createDirectory(temp.resolve("elsewhere"));
    DrillResult result = dump("PRAGMA user_version = 7; pragma main.max_page_count=1;\n"
        + "/* x */ -- y\n PRAGMA temp_store_directory = '" + elsewhere + "';\n"
        + "EXPLAIN QUERY PLAN PRAGMA hard_heap_limit = 1; PRAGMA \"cache_size\" = 1;\n"
        + "/* y */ begin; CREATE TABLE entry (id); INSERT INTO entry VALUES (1), (2); COMMIT;");
    assertThat(result.checks()).as(result.sentence()).isEqualTo(ChecksState.PASSED);
    try (var c = DriverManager.getConnection("jdbc:sqlite::memory:");
        var s = c.createStatement();
        var directory = s.executeQuery("PRAGMA temp_store_directory")) {
      String set = directory.next() ? directory.getString(1) : "";
      assertThat(set).isNotEqualTo(elsewhere.toString());
    }
  }
}
