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

  /** A row every seven minutes, the newest a minute before ?1; what it holds is scattered by ?2. */
  private static final String ENTRIES = """
      INSERT INTO entry
      WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ROWS)
      SELECT i, strftime('%Y-%m-%dT%H:%M:%SZ', ?1 - 60 * (1 + (ROWS - i) * 7), 'unixepoch'),
             CASE (i * 31 + ?2) % 6 WHEN 0 THEN 'Skerry Point' WHEN 1 THEN 'Holm Inlet'
               WHEN 2 THEN 'Drift Lane' WHEN 3 THEN 'Tarn Head' WHEN 4 THEN 'Vestmark' ELSE 'Nordal' END,
             printf('TF-%08X', (i * 2654435761 + ?2 * 40503) & 4294967295),
             500 + (i * 7919 + ?2) % 20000
        FROM n
      """.replace("ROWS", Integer.toString(ROWS));

  private Databases() {}

  /** A sound database whose newest row is a minute older than {@code dataTime}. */
  public static Artifact sound(long seed, Instant dataTime) throws IOException {
    return new Artifact("sqlite.gz", gzip(build(seed, dataTime, false, null)), null);
  }

  /** A sound database that holds a marker which somebody planted. */
  public static Artifact marked(long seed, Instant dataTime, String marker) throws IOException {
    return new Artifact("sqlite.gz", gzip(build(seed, dataTime, false, marker)), null);
  }

  /** The same data as a dump of statements. */
  public static Artifact dump(long seed, Instant dataTime) throws IOException {
    StringBuilder sql = new StringBuilder("PRAGMA foreign_keys=OFF;\nBEGIN TRANSACTION;\n");
    sql.append(
        "CREATE TABLE entry (id INTEGER PRIMARY KEY, made_at TEXT NOT NULL, place TEXT NOT NULL,"
            + " reference TEXT NOT NULL, amount_cents INTEGER NOT NULL);\n");
    Random random = new Random(seed);
    addRows(dataTime, sql, random);
    sql.append("CREATE INDEX entry_by_reference ON entry (reference);\nCOMMIT;\n");
    return new Artifact(
        "sql.gz", gzip(sql.toString().getBytes(java.nio.charset.StandardCharsets.UTF_8)), null);
  }

  /** The same data as PostgreSQL's own program dumps it. */
  public static Artifact postgres(long seed, Instant dataTime) throws IOException {
    StringBuilder sql = new StringBuilder("""
        --
        -- PostgreSQL database dump
        --

        SET statement_timeout = 0;
        SET client_encoding = 'UTF8';
        SET standard_conforming_strings = on;
        SELECT pg_catalog.set_config('search_path', '', false);

        CREATE TABLE public.entry (
            id integer NOT NULL,
            made_at timestamp with time zone NOT NULL,
            place text NOT NULL,
            reference text NOT NULL,
            amount_cents integer NOT NULL
        );

        COPY public.entry (id, made_at, place, reference, amount_cents) FROM stdin;
        """);
    Random random = new Random(seed);
    for (int i = 1; i <= ROWS; i++) {
      Instant made = dataTime.minus(Duration.ofMinutes(1 + (long) (ROWS - i) * 7));
      sql.append(i)
          .append('\t')
          .append(made)
          .append('\t')
          .append(PLACES[random.nextInt(PLACES.length)])
          .append("\tTF-")
          .append(HexFormat.of().withUpperCase().toHexDigits(random.nextInt()))
          .append('\t')
          .append(500 + random.nextInt(20_000))
          .append('\n');
    }
    sql.append("""
        \\.


        ALTER TABLE ONLY public.entry
            ADD CONSTRAINT entry_pkey PRIMARY KEY (id);

        CREATE INDEX entry_by_reference ON public.entry USING btree (reference);

        --
        -- PostgreSQL database dump complete
        --
        """);
    return new Artifact(
        "pgsql.gz", gzip(sql.toString().getBytes(java.nio.charset.StandardCharsets.UTF_8)), null);
  }

  private static void addRows(Instant dataTime, StringBuilder sql, Random random) {
    for (int i = 1; i <= ROWS; i++) {
      Instant made = dataTime.minus(Duration.ofMinutes(1 + (long) (ROWS - i) * 7));
      sql.append("INSERT INTO entry VALUES(")
          .append(i)
          .append(",'")
          .append(made)
          .append("','");
      sql.append(PLACES[random.nextInt(PLACES.length)]).append("','TF-");
      sql.append(HexFormat.of().withUpperCase().toHexDigits(random.nextInt())).append("',");
      sql.append(500 + random.nextInt(20_000)).append(");\n");
    }
  }

  /**
   * A database that was damaged inside before it was backed up: a page of an index was overwritten,
   * as a failing disk does. Every checksum of the backup is right.
   */
  public static Artifact corrupt(long seed, Instant dataTime) throws IOException {
    return new Artifact("sqlite.gz", gzip(build(seed, dataTime, true, null)), null);
  }

  private static byte[] build(long seed, Instant dataTime, boolean damaged, String marker)
      throws IOException {
    Path file = Files.createTempFile("standin-", ".db");
    try {
      int page;
      try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file)) {
        page = fill(connection, seed, dataTime, marker);
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
  private static int fill(Connection connection, long seed, Instant dataTime, String marker)
      throws SQLException {
    prepare(connection);
    connection.setAutoCommit(false);
    try (PreparedStatement insert = connection.prepareStatement(ENTRIES)) {
      insert.setLong(1, dataTime.getEpochSecond());
      insert.setLong(2, Math.floorMod(seed, 1_000_003L));
      insert.executeUpdate();
    }
    mark(connection, dataTime, marker);
    connection.commit();
    try (Statement s = connection.createStatement();
        var rows = s.executeQuery(
            "SELECT rootpage FROM sqlite_schema WHERE name = 'entry_by_reference'")) {
      rows.next();
      return leafOf(connection, rows.getInt(1));
    }
  }

  private static void mark(Connection connection, Instant dataTime, String marker)
      throws SQLException {
    if (marker != null) {
      try (PreparedStatement insert =
          connection.prepareStatement("INSERT INTO entry VALUES (?, ?, ?, ?, 0)")) {
        insert.setInt(1, ROWS + 1);
        insert.setString(2, dataTime.minus(Duration.ofMinutes(1)).toString());
        insert.setString(3, PLACES[0]);
        insert.setString(4, marker);
        insert.executeUpdate();
      }
    }
  }

  private static void prepare(Connection connection) throws SQLException {
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
