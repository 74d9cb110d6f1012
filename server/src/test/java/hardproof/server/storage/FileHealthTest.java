package hardproof.server.storage;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sqlite.SQLiteErrorCode;
import org.sqlite.SQLiteException;

/** A file that is whole is never called damaged, and one that is damaged or has lost its log is. */
class FileHealthTest {
  @TempDir
  Path folder;

  private Path file;

  @BeforeEach
  void name() {
    file = folder.resolve("hard-proof.db");
  }

  private static void fill(Database database) {
    database.write(() -> database.writes().sql("""
            WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 2000)
            INSERT INTO activity (at, by, what, subject, detail)
            SELECT i, 'a', 'b', 'c', printf('%0200d', i) FROM n
            """).update());
  }

  @Test
  void aWholeFileHasNothingWrong() throws IOException {
    try (Database database = Database.open(file)) {
      fill(database);
      database.health().look(false);
      database.health().look(true);
      assertThat(database.health().warnings()).isEmpty();
    }
    assertThat(folder)
        .isDirectoryNotContaining("glob:**-wal")
        .isDirectoryNotContaining("glob:**-has-wal");
    try (Database again = Database.open(file)) {
      assertThat(again.health().warnings()).isEmpty();
    }
  }

  @Test
  void aDamagedPageIsNamedWithWhatToDo() throws IOException {
    try (Database database = Database.open(file)) {
      fill(database);
    }
    try (RandomAccessFile raw = new RandomAccessFile(file.toFile(), "rw")) {
      // A page of the rows, which stand behind the schema, whose head says where its cells begin.
      raw.seek(raw.length() / 4096 * 3 / 4 * 4096);
      raw.write(new byte[] {1, 2, 3, 4, 5, 6, 7, 8});
    }
    try (Database database = Database.open(file)) {
      assertThat(database.health().warnings()).isEmpty();
      database.health().look(false);
      assertThat(database.health().warnings())
          .singleElement()
          .asString()
          .startsWith(file + " is damaged (")
          .contains("age ")
          .contains("Stop Hard Proof and keep a copy of the whole data folder");
      database.health().look(true);
      assertThat(database.health().warnings()).hasSize(1);
    }
  }

  /** As when a process was killed: the log stays, and what is in it is not lost. */
  @Test
  void aLogThatIsStillThereIsNothingToSay() throws IOException {
    Path killed = killed();
    try (Database database = Database.open(killed)) {
      assertThat(database.health().warnings()).isEmpty();
      assertThat(database
              .reads()
              .sql("SELECT count(*) FROM activity")
              .query(Long.class)
              .single())
          .isEqualTo(2000);
    }
  }

  @Test
  void aLogThatWasTakenAwayIsSaid() throws IOException {
    Path killed = killed();
    Files.delete(killed.resolveSibling("hard-proof.db-wal"));
    Files.delete(killed.resolveSibling("hard-proof.db-shm"));
    try (Database database = Database.open(killed)) {
      assertThat(database.health().warnings())
          .singleElement()
          .asString()
          .startsWith(killed + "-wal is gone, though hard-proof.db was not closed before")
          .contains("bring in the last deliveries again");
    }
    try (Database database = Database.open(killed)) {
      assertThat(database.health().warnings()).as("said once").isEmpty();
    }
  }

  /** The files of a folder whose process ended at this moment. */
  private Path killed() throws IOException {
    Path copy = Files.createDirectories(folder.resolve("killed"));
    try (Database database = Database.open(file)) {
      fill(database);
      for (String name : new String[] {"", "-wal", "-shm", "-has-wal"}) {
        Files.copy(
            folder.resolve("hard-proof.db" + name),
            copy.resolve("hard-proof.db" + name),
            StandardCopyOption.REPLACE_EXISTING);
      }
    }
    return copy.resolve("hard-proof.db");
  }

  /** A full disk shows itself in several codes, also below what a migration makes of them. */
  @Test
  void aFullDiskIsKnownByItsCodes() {
    SQLiteException full = new SQLiteException("full", SQLiteErrorCode.SQLITE_FULL);
    SQLiteException shared = new SQLiteException("shm", SQLiteErrorCode.SQLITE_IOERR_SHMSIZE);
    SQLiteException other = new SQLiteException("read", SQLiteErrorCode.SQLITE_IOERR_READ);
    assertThat(SqliteErrors.full(full)).isTrue();
    assertThat(SqliteErrors.full(new IllegalStateException("commit", shared))).isTrue();
    assertThat(SqliteErrors.full(other)).isFalse();
    assertThat(new SqliteErrors().translate("t", null, shared)).isInstanceOf(NoSpaceLeft.class);
  }
}
