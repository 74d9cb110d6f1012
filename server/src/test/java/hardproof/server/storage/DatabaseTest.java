package hardproof.server.storage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.feeds.BundleFile;
import hardproof.core.ladder.Rung;
import hardproof.core.recipes.FieldRule;
import hardproof.core.recipes.Layout;
import hardproof.core.recipes.Output;
import hardproof.core.recipes.Recipe;
import hardproof.core.recipes.TimeReading;
import hardproof.core.wording.Coded;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.proving.drills.DrillOptions;
import hardproof.server.recipes.RecipeStore;
import hardproof.server.runs.CheckStore;
import hardproof.server.runs.RunStore;
import java.io.IOException;
import java.net.URISyntaxException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.dao.PessimisticLockingFailureException;
import org.springframework.jdbc.UncategorizedSQLException;
import org.springframework.jdbc.datasource.SingleConnectionDataSource;
import org.springframework.transaction.CannotCreateTransactionException;

class DatabaseTest {
  @TempDir
  Path folder;

  private Path file;

  @BeforeEach
  void name() {
    file = folder.resolve("hard-proof.db");
  }

  private static int addFeed(Database database, String key) {
    return database.write(() -> database
        .writes()
        .sql("INSERT INTO feed (key) VALUES (:key)")
        .param("key", key)
        .update());
  }

  private static long feeds(Database database) {
    return database.reads().sql("SELECT count(*) FROM feed").query(Long.class).single();
  }

  @Test
  void whatWasCommittedIsThereAfterOpeningAgain() throws IOException {
    try (Database database = Database.open(file)) {
      addFeed(database, "a");
    }
    try (Database database = Database.open(file)) {
      assertThat(feeds(database)).isEqualTo(1);
    }
  }

  @Test
  void aTransactionThatFailsLeavesNothing() throws IOException {
    try (Database database = Database.open(file)) {
      assertThatThrownBy(() -> database.change(() -> {
            addFeed(database, "a");
            throw new IllegalStateException("stop");
          }))
          .hasMessage("stop");
      assertThat(feeds(database)).isZero();
      assertThat(database.changes()).isZero();
    }
  }

  @Test
  void changesAreCountedAndWritesAreNot() throws IOException {
    try (Database database = Database.open(file)) {
      addFeed(database, "a");
      assertThat(database.changes()).isZero();
      database.change(() -> addFeed(database, "b"));
      assertThat(database.changes()).isEqualTo(1);
    }
  }

  @Test
  void readersCannotWrite() throws IOException {
    try (Database database = Database.open(file)) {
      assertThatThrownBy(() -> database.reads().sql("DELETE FROM feed").update())
          .isInstanceOf(UncategorizedSQLException.class)
          .hasMessageContaining("READONLY");
    }
  }

  @Test
  void constraintsAreToldApart() throws IOException {
    try (Database database = Database.open(file)) {
      addFeed(database, "a");
      assertThatThrownBy(() -> addFeed(database, "a")).isInstanceOf(DuplicateKeyException.class);
      assertThatThrownBy(() -> database
              .writes()
              .sql("INSERT INTO feed_setting (feed, expected_every_ms, recorded_at, set_by)"
                  + " VALUES ('a', -1, 0, '')")
              .update())
          .isInstanceOf(DataIntegrityViolationException.class);
    }
  }

  @Test
  void manyWritersAtOnceWaitForOneAnother() throws Exception {
    try (Database database = Database.open(file)) {
      ExecutorService threads = Executors.newFixedThreadPool(8);
      List<Callable<Integer>> work = IntStream.range(0, 64)
          .<Callable<Integer>>mapToObj(i -> () -> addFeed(database, "feed " + i))
          .toList();
      for (var done : threads.invokeAll(work)) {
        assertThat(done.get()).isEqualTo(1);
      }
      threads.shutdown();
      assertThat(feeds(database)).isEqualTo(64);
    }
  }

  @Test
  void aFileThatIsNoDatabaseIsRefusedAndNotTouched() throws IOException {
    Files.writeString(file, "These are my notes, not a database.");
    assertThatThrownBy(() -> Database.open(file))
        .isInstanceOf(Database.NotOurDatabase.class)
        .hasMessageContaining("is not a SQLite database")
        .hasMessageContaining("--data");
    assertThat(file).hasContent("These are my notes, not a database.");
  }

  @Test
  void anotherProgramsDatabaseIsRefusedAndNotTouched() throws IOException, SQLException {
    try (Connection c = DriverManager.getConnection("jdbc:sqlite:" + file);
        Statement s = c.createStatement()) {
      s.execute("CREATE TABLE recipes (name TEXT)");
    }
    byte[] before = Files.readAllBytes(file);
    assertThatThrownBy(() -> Database.open(file))
        .isInstanceOf(Database.NotOurDatabase.class)
        .hasMessageContaining("another program's database");
    assertThat(Files.readAllBytes(file)).isEqualTo(before);
  }

  @Test
  void theNewestMigrationIsTheSchema() throws IOException, URISyntaxException {
    Path migrations = Path.of(getClass().getResource("/db/migration").toURI());
    try (Stream<Path> files = Files.list(migrations)) {
      assertThat(files.map(f -> f.getFileName().toString().split("__")[0]))
          .containsExactlyInAnyOrderElementsOf(IntStream.rangeClosed(1, DatabaseFile.SCHEMA)
              .mapToObj(i -> "V" + i)
              .toList());
    }
  }

  private void setVersion(int version) throws SQLException {
    try (Connection c = DriverManager.getConnection("jdbc:sqlite:" + file);
        Statement s = c.createStatement()) {
      s.execute("PRAGMA user_version = " + version);
    }
  }

  @Test
  void aDatabaseOfANewerVersionIsRefused() throws IOException, SQLException {
    Database.open(file).close();
    setVersion(DatabaseFile.SCHEMA + 1);
    assertThatThrownBy(() -> Database.open(file))
        .isInstanceOf(Database.NotOurDatabase.class)
        .hasMessageContaining("written by a newer version")
        .hasMessageContaining("--data");
  }

  @Test
  void aFileFromBeforeItSaidItsSchemaIsBroughtOn() throws IOException, SQLException {
    Database.open(file).close();
    setVersion(0);
    try (Database database = Database.open(file)) {
      assertThat(
              database.reads().sql("PRAGMA user_version").query(Integer.class).single())
          .isEqualTo(DatabaseFile.SCHEMA);
    }
  }

  /** A mapping gave one kind of rows; it is a recipe that gives one. */
  @Test
  void mappingsOfBeforeBecomeRecipes() throws IOException, SQLException {
    try (Connection c = DriverManager.getConnection("jdbc:sqlite:" + file)) {
      Flyway.configure()
          .dataSource(new SingleConnectionDataSource(c, true))
          .target("20")
          .load()
          .migrate();
      try (Statement s = c.createStatement()) {
        s.execute("INSERT INTO mapping VALUES ('Theirs', 'points', '{\"columns\":{\"key\":\"ID\","
            + "\"resource\":\"Client \\\"x\\\"\",\"data_time\":\"Start\",\"outcome\":\"Status\","
            + "\"size\":\"GB\"},\"constants\":{\"form\":\"full\",\"size\":\"1 GB\"},"
            + "\"values\":{\"outcome\":{\"ok; fine\":\"complete\"}},\"zone\":\"Europe/Oslo\","
            + "\"time_pattern\":\"dd.MM.yyyy HH:mm\",\"units\":{\"size\":\"GB\"}}', 5, 'ana'),"
            + " ('Plain', 'workloads', '{\"columns\":{\"key\":\"a\",\"name\":\"b\"},"
            + "\"constants\":{},\"values\":{},\"zone\":null,\"time_pattern\":null,"
            + "\"units\":{}}', 6, 'ana')");
        s.execute("PRAGMA application_id = " + applicationId());
      }
    }
    setVersion(20);
    try (Database database = Database.open(file)) {
      RecipeStore recipes = new RecipeStore(database);
      assertThat(recipes.find("theirs"))
          .contains(new Recipe(
              "Theirs",
              Layout.PLAIN,
              new TimeReading("Europe/Oslo", "dd.MM.yyyy HH:mm"),
              List.of(new Output(
                  BundleFile.POINTS,
                  null,
                  false,
                  Map.of(
                      "key",
                      FieldRule.column("ID"),
                      "resource",
                      FieldRule.column("Client \"x\""),
                      "data_time",
                      FieldRule.column("Start"),
                      "outcome",
                      FieldRule.column("Status").meaning(Map.of("ok; fine", "complete")),
                      "form",
                      FieldRule.always("full"),
                      "size",
                      FieldRule.column("GB").in("GB").orElse("1 GB"))))));
      assertThat(recipes.find("Plain"))
          .contains(Recipe.plain(
              "Plain",
              new Output(
                  BundleFile.WORKLOADS,
                  null,
                  false,
                  Map.of("key", FieldRule.column("a"), "name", FieldRule.column("b")))));
    }
  }

  private int applicationId() throws IOException {
    try (Database ours = Database.open(folder.resolve("ours.db"))) {
      return ours.reads().sql("PRAGMA application_id").query(Integer.class).single();
    }
  }

  /** Checks were queries alone before version 6; those kept and those of old runs are taken along. */
  @Test
  void queriesOfBeforeBecomeChecks() throws IOException, SQLException {
    try (Connection c = DriverManager.getConnection("jdbc:sqlite:" + file)) {
      Flyway.configure()
          .dataSource(new SingleConnectionDataSource(c, true))
          .target("5")
          .load()
          .migrate();
      try (Statement s = c.createStatement()) {
        s.execute(
            "INSERT INTO sql_check (resource, number, query, operator, expected)"
                + " VALUES ('db', 0, 'SELECT 1', 'equals', '1'), ('db', 1, 'SELECT 9', 'at-least', '2')");
        s.execute("INSERT INTO drill_run (id, resource, point, store, method, checks_asked,"
            + " requested_by, reason, queued_at, ended_at, restore, checks, cleanup, hold_ms, reaches)"
            + " VALUES ('r', 'db', 'p', 's', 'database', '[{\"query\":\"SELECT 9\",\"operator\":"
            + "\"AT_LEAST\",\"expected\":\"2\"}]', 'x', 'y', 1, 2, 'done', 'passed', 'done', 0,"
            + " 'running'), ('none', 'db', 'p', 's', 'database', '[]', 'x', 'y', 1, 2, 'done',"
            + " 'passed', 'done', 0, 'running')");
        s.execute("PRAGMA application_id = " + applicationId());
      }
    }
    setVersion(5);
    try (Database database = Database.open(file)) {
      Check equals = new Check(CheckType.QUERY_EQUALS, "SELECT 1", "1");
      Check atLeast = new Check(CheckType.QUERY_AT_LEAST, "SELECT 9", "2");
      assertThat(new CheckStore(database).of("db")).containsExactly(equals, atLeast);
      RunStore runs = new RunStore(database);
      assertThat(runs.find("r").orElseThrow().checksAsked()).containsExactly(atLeast);
      assertThat(runs.find("r").orElseThrow().options()).isEqualTo(DrillOptions.usual());
      assertThat(runs.find("none").orElseThrow().checksAsked()).isEmpty();
      assertThat(runs.facts(Instant.ofEpochMilli(2))).hasSize(2);
    }
  }

  @Test
  void aDatabaseThatCannotBeBroughtToThisVersionIsRefused() throws IOException, SQLException {
    try (Database database = Database.open(file)) {
      database
          .writes()
          .sql("UPDATE flyway_schema_history SET checksum = 1 WHERE version = '1'")
          .update();
    }
    setVersion(DatabaseFile.SCHEMA - 1);
    assertThatThrownBy(() -> Database.open(file))
        .isInstanceOf(Database.NotOurDatabase.class)
        .hasMessageContaining("can't be brought to this version");
  }

  /** What comes after is whole or not at all again, as before. */
  @Test
  void whenAnotherProcessHeldTheFileTheNextWriteIsOneTransactionAgain()
      throws IOException, SQLException {
    Database.open(file).close();
    try (Database database = Database.open(file, Duration.ofMillis(20))) {
      addFeed(database, "a");
      try (Connection other = DriverManager.getConnection("jdbc:sqlite:" + file);
          Statement begin = other.createStatement()) {
        begin.execute("BEGIN IMMEDIATE");
        for (int i = 0; i < 2; i++) {
          assertThatThrownBy(() -> database.change(() -> addFeed(database, "b")))
              .isInstanceOfAny(
                  PessimisticLockingFailureException.class, CannotCreateTransactionException.class);
        }
        begin.execute("ROLLBACK");
      }
      database.change(() -> addFeed(database, "c"));
      assertThatThrownBy(() -> database.change(() -> {
            addFeed(database, "d");
            throw new IllegalStateException("stop");
          }))
          .hasMessage("stop");
      assertThat(database
              .reads()
              .sql("SELECT key FROM feed ORDER BY key")
              .query(String.class)
              .list())
          .containsExactly("a", "c");
    }
  }

  @Test
  void aFullDiskIsSaidPlainlyAndNothingIsLost() throws IOException {
    try (Database database = Database.open(file)) {
      addFeed(database, "a");
      database.writes().sql("PRAGMA max_page_count = 1").query(Long.class).single();
      assertThatThrownBy(() -> {
            for (int i = 0; i < 5000; i++) {
              addFeed(database, "f" + i + "x".repeat(2000));
            }
          })
          .isInstanceOf(NoSpaceLeft.class)
          .hasMessageContaining("no space left")
          .hasMessageContaining("nothing stored before is lost");
      assertThat(database
              .reads()
              .sql("SELECT count(*) FROM feed WHERE key = 'a'")
              .query(Long.class)
              .single())
          .isEqualTo(1);
    }
  }

  @Test
  void aDataFolderHasOneHolderAtATime() throws IOException {
    DataFolder data = new DataFolder(folder);
    try (var first = data.tryLock()) {
      assertThat(first).isNotNull();
      assertThat(data.tryLock()).isNull();
    }
    try (var again = data.tryLock()) {
      assertThat(again).isNotNull();
    }
  }

  /** It would be answered as if whoever asks had written something wrong. */
  @Test
  void aRowThatCannotBeReadIsNoWrongValue() throws Exception {
    try (Database database = Database.open(file)) {
      var row = database.reads().sql("SELECT 'gone' AS role");
      assertThatThrownBy(
              () -> row.query((r, n) -> Coded.of(Rung.class, r.getString(1))).optional())
          .isInstanceOf(UnreadableRow.class)
          .hasMessageStartingWith("a row of the database can't be read: 'gone' is not one of");
    }
  }
}
