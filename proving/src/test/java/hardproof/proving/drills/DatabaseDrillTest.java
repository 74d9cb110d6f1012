package hardproof.proving.drills;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.ladder.Rung;
import hardproof.proving.Tar;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.DriverManager;
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

  private DrillResult ask(
      Artifact artifact, String query, SqlCheck.Operator operator, String expected) {
    return runner.run(
        request(Method.DATABASE, List.of(new SqlCheck(query, operator, expected)), false, artifact),
        new Recorder());
  }

  @Test
  void aDatabaseThatAnswersIsRunning() throws Exception {
    for (boolean gzip : new boolean[] {false, true}) {
      DrillResult result = ask(
          database("pay.db", gzip), "SELECT count(*) FROM entry", SqlCheck.Operator.EQUALS, "2000");
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
    assertThat(ask(a, "SELECT count(*) FROM entry", SqlCheck.Operator.AT_LEAST, "1999")
            .checks())
        .isEqualTo(ChecksState.PASSED);
    assertThat(ask(a, "SELECT count(*) FROM entry", SqlCheck.Operator.AT_LEAST, "2000")
            .checks())
        .isEqualTo(ChecksState.PASSED);
    DrillResult over = ask(a, "SELECT count(*) FROM entry", SqlCheck.Operator.AT_LEAST, "2001");
    assertThat(over.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(over.sentence())
        .isEqualTo("SELECT count(*) FROM entry gave 2000, at least 2001 was expected");
    assertThat(ask(a, "SELECT note FROM entry WHERE id = 9999", SqlCheck.Operator.EQUALS, "x")
            .sentence())
        .contains("gave nothing");
    assertThat(ask(a, "SELECT * FROM nowhere", SqlCheck.Operator.EQUALS, "x").sentence())
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
    DrillResult result = ask(corrupt, "SELECT 1", SqlCheck.Operator.EQUALS, "1");
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
        SqlCheck.Operator.EQUALS,
        "1");
    assertThat(result.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(result.sentence()).contains("the database");
  }

  @Test
  void aRestoredDatabaseCannotReachOutOrBeWritten() throws Exception {
    Artifact a = database("pay.db", false);
    DrillResult write = ask(
        a,
        "WITH x AS (SELECT 1) INSERT INTO entry SELECT 9999, 1, '' FROM x",
        SqlCheck.Operator.EQUALS,
        "1");
    assertThat(write.checks()).isEqualTo(ChecksState.FAILED);
    assertThatThrownBy(
            () -> new SqlCheck("ATTACH '/etc/passwd' AS p", SqlCheck.Operator.EQUALS, "1"))
        .hasMessage("the query must begin with SELECT or WITH");
    assertThatThrownBy(() -> new SqlCheck("SELECT 1", SqlCheck.Operator.AT_LEAST, "many"))
        .hasMessageContaining("not a number");
    assertThatThrownBy(() -> new SqlCheck("SELECT 1", SqlCheck.Operator.EQUALS, " "))
        .hasMessageContaining("needs a value");
  }

  @Test
  void onlyDatabaseFilesGoThroughTheDatabaseDrill() throws Exception {
    assertThat(run(Method.DATABASE, chain()).sentence())
        .startsWith("the point is a chain of 2 artifacts");
    assertThat(runner
            .run(request(Method.DATABASE, List.of(), false, chain()[0]), new Recorder())
            .sentence())
        .contains("reads sqlite and sqlite.gz");
  }
}
