package hardproof.proving.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.StringReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class DumpPragmasTest {
  @TempDir
  Path temp;

  /** SQLite skips comments and a byte order mark; EXPLAIN still carries out what works while prepared. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "PRAGMA max_page_count = 1",
        "\uFEFF/* a */ pragma\n--b\n main . Max_Page_Count(1)",
        "EXPLAIN PRAGMA max_page_count=1",
        "explain query plan/**/pragma max_page_count=1",
        "\t\f PRAGMA/*;*/max_page_count"
      })
  void areToldHoweverTheyAreWritten(String sql) {
    assertThat(DumpPragmas.leftOut(sql)).isEqualTo("max_page_count");
  }

  @Test
  void thoseOfTheDatabaseItselfAreCarriedOut() {
    for (String sql : List.of(
        "PRAGMA foreign_keys=OFF;",
        "pragma writable_schema=ON",
        "PRAGMA main.user_version = 3",
        "CREATE TABLE pragma (x)",
        "INSERT INTO t VALUES ('PRAGMA temp_store_directory')",
        "",
        ";")) {
      assertThat(DumpPragmas.leftOut(sql)).as(sql).isNull();
    }
    assertThat(DumpPragmas.leftOut("PRAGMA \"user_version\" = 3")).isEqualTo("in quotes");
    assertThat(DumpPragmas.leftOut("PRAGMA")).isEqualTo("without a name");
  }

  @Test
  void whatIsLeftOutIsNamed() throws Exception {
    String dump =
        "PRAGMA cache_size=9; PRAGMA journal_mode=WAL; BEGIN; CREATE TABLE trigger (x); COMMIT;";
    SqliteDump.Loaded loaded = SqliteDump.load(
        new ByteArrayInputStream(dump.getBytes(StandardCharsets.UTF_8)),
        temp.resolve("x.db"),
        1 << 20,
        () -> {});
    assertThat(loaded.sentence())
        .isEqualTo("5 statements; left out, as it says nothing of the data: PRAGMA cache_size and"
            + " journal_mode");
  }

  /** A table of that name was taken for the beginning of a trigger, and all behind it for its body. */
  @Test
  void aTableMayBeCalledTrigger() throws Exception {
    SqlStatements statements = new SqlStatements(
        new StringReader("CREATE TABLE trigger (x);\nINSERT INTO trigger VALUES (1);\n\n"
            + "CREATE TEMP TRIGGER t AFTER INSERT ON x BEGIN SELECT 1; END;\n SELECT 2;"));
    assertThat(statements.next()).isEqualTo("CREATE TABLE trigger (x);");
    assertThat(statements.line()).isEqualTo(1);
    assertThat(statements.next()).isEqualTo("\nINSERT INTO trigger VALUES (1);");
    assertThat(statements.line()).isEqualTo(2);
    assertThat(statements.next()).endsWith("BEGIN SELECT 1; END;");
    assertThat(statements.line()).isEqualTo(4);
    assertThat(statements.next()).isEqualTo("\n SELECT 2;");
    assertThat(statements.line()).isEqualTo(5);
    assertThat(statements.next()).isNull();
  }

  /** What does not fit into memory lies where it was said, seen through the system's list of open files. */
  @Test
  void whatDoesNotFitIntoMemoryLiesInTheSandboxesFolder() throws Exception {
    Path descriptors = Path.of("/proc/self/fd");
    org.junit.jupiter.api.Assumptions.assumeTrue(Files.isDirectory(descriptors));
    Path folder = Files.createDirectories(temp.resolve("sand'boxes/temporary"));
    SqliteDatabase.temporaryFilesIn(folder);
    try (var c = java.sql.DriverManager.getConnection("jdbc:sqlite::memory:");
        var s = c.createStatement();
        var rows = s.executeQuery("""
            WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 400000)
            SELECT hex(randomblob(40)) AS x FROM n ORDER BY x""")) {
      assertThat(rows.next()).isTrue();
      try (var list = Files.list(descriptors)) {
        assertThat(list.map(DumpPragmasTest::target).filter(t -> t.contains("etilqs_")))
            .isNotEmpty()
            .allMatch(t -> t.startsWith(folder.toString()));
      }
    } finally {
      SqliteDatabase.temporaryFilesIn(Path.of(System.getProperty("java.io.tmpdir")));
    }
  }

  private static String target(Path link) {
    try {
      return Files.readSymbolicLink(link).toString();
    } catch (java.io.IOException e) {
      return ""; // Closed meanwhile.
    }
  }
}
