package hardproof.standins.artifacts;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.HexFormat;
import java.util.Random;
import java.util.zip.GZIPOutputStream;

/** Small SQLite databases as a backup would hold them. */
public final class Databases {
  /** Rows of every database: what an assertion can count on. */
  public static final int ROWS = 3000;

  private static final String[] PLACES = {
    "Skerry Point", "Holm Inlet", "Drift Lane", "Tarn Head", "Vestmark", "Nordal"
  };

  private Databases() {}

  /** A sound database whose newest row is a minute older than {@code dataTime}. */
  public static Artifact sound(long seed, Instant dataTime) throws IOException {
    return new Artifact("sqlite.gz", gzip(build(seed, dataTime, false)), null);
  }

  /**
   * A database that was damaged inside before it was backed up: a page of an index was overwritten,
   * as a failing disk does. Every checksum of the backup is right.
   */
  public static Artifact corrupt(long seed, Instant dataTime) throws IOException {
    return new Artifact("sqlite.gz", gzip(build(seed, dataTime, true)), null);
  }

  private static byte[] build(long seed, Instant dataTime, boolean damaged) throws IOException {
    Path file = Files.createTempFile("standin-", ".db");
    try {
      int page;
      try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file)) {
        page = fill(connection, seed, dataTime);
      } catch (SQLException e) {
        throw new IOException("the stand-in database could not be made", e);
      }
      byte[] bytes = Files.readAllBytes(file);
      if (damaged) {
        // Keys in the middle of an index page change places with zeros; the page header stays.
        int start = (page - 1) * 4096 + 2048;
        java.util.Arrays.fill(bytes, start, start + 512, (byte) 0);
      }
      return bytes;
    } finally {
      Files.deleteIfExists(file);
    }
  }

  /** Fills the database and gives the number of a leaf page of its index. */
  private static int fill(Connection connection, long seed, Instant dataTime) throws SQLException {
    try (Statement s = connection.createStatement()) {
      s.execute("PRAGMA page_size = 4096");
      // A crash here costs nothing: the file is made anew.
      s.execute("PRAGMA synchronous = OFF");
      s.execute("PRAGMA journal_mode = MEMORY");
      s.execute(
          "CREATE TABLE entry (id INTEGER PRIMARY KEY, made_at TEXT NOT NULL, place TEXT NOT NULL,"
              + " reference TEXT NOT NULL, amount_cents INTEGER NOT NULL) STRICT");
      s.execute("CREATE INDEX entry_by_reference ON entry (reference)");
    }
    connection.setAutoCommit(false);
    Random random = new Random(seed);
    try (PreparedStatement insert =
        connection.prepareStatement("INSERT INTO entry VALUES (?, ?, ?, ?, ?)")) {
      for (int i = 1; i <= ROWS; i++) {
        Instant made = dataTime.minus(Duration.ofMinutes(1 + (long) (ROWS - i) * 7));
        insert.setInt(1, i);
        insert.setString(2, made.toString());
        insert.setString(3, PLACES[random.nextInt(PLACES.length)]);
        insert.setString(4, "TF-" + HexFormat.of().withUpperCase().toHexDigits(random.nextInt()));
        insert.setInt(5, 500 + random.nextInt(20_000));
        insert.addBatch();
      }
      insert.executeBatch();
    }
    connection.commit();
    try (Statement s = connection.createStatement();
        var rows = s.executeQuery(
            "SELECT rootpage FROM sqlite_schema WHERE name = 'entry_by_reference'")) {
      rows.next();
      return leafOf(connection, rows.getInt(1));
    }
  }

  private static int leafOf(Connection connection, int root) throws SQLException {
    connection.commit();
    String path = connection.getMetaData().getURL().substring("jdbc:sqlite:".length());
    try {
      byte[] bytes = Files.readAllBytes(Path.of(path));
      int at = (root - 1) * 4096;
      // Interior index page (SQLite file format 1.6): type 0x02, right-most child at offset 8.
      return bytes[at] == 0x02
          ? (bytes[at + 8] & 0xff) << 24
              | (bytes[at + 9] & 0xff) << 16
              | (bytes[at + 10] & 0xff) << 8
              | bytes[at + 11] & 0xff
          : root;
    } catch (IOException e) {
      throw new SQLException(e);
    }
  }

  private static byte[] gzip(byte[] content) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (GZIPOutputStream gzip = new GZIPOutputStream(out)) {
      gzip.write(content);
    }
    return out.toByteArray();
  }
}
