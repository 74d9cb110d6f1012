package hardproof.server.stores;

import hardproof.core.census.Claim;
import hardproof.proving.stores.Listed;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A list of a store while it is compared, in a file of its own: there may be more on a store than any memory holds, and
 * whoever writes to the database in the meantime does not wait for it. The file goes when it is closed.
 */
final class ListingFile implements AutoCloseable {
  private static final int TOGETHER = 10_000;

  private final Path file;
  private final Connection connection;
  private final PreparedStatement insert;
  private final PreparedStatement exact;
  private final PreparedStatement folder;
  private final PreparedStatement told;
  private int waiting;

  private ListingFile(Path file) throws SQLException {
    this.file = file;
    this.connection = DriverManager.getConnection("jdbc:sqlite:" + file);
    try (var settings = connection.createStatement()) {
      settings.execute("PRAGMA journal_mode = OFF");
      settings.execute("PRAGMA synchronous = OFF");
      settings.execute("PRAGMA cache_size = -65536");
      settings.execute("""
          CREATE TABLE listed (place TEXT PRIMARY KEY, size INTEGER NOT NULL, modified INTEGER NOT NULL,
                               deleted INTEGER NOT NULL, older INTEGER NOT NULL, told INTEGER NOT NULL DEFAULT 0)
          STRICT, WITHOUT ROWID
          """);
    }
    connection.setAutoCommit(false);
    insert = connection.prepareStatement(
        "INSERT OR REPLACE INTO listed (place, size, modified, deleted, older) VALUES (?, ?, ?, ?, ?)");
    exact =
        connection.prepareStatement("SELECT size, modified, deleted FROM listed WHERE place = ?");
    folder = connection.prepareStatement(
        "SELECT count(*), sum(size), max(modified) FROM listed WHERE place >= ? AND place < ? AND deleted = 0");
    told = connection.prepareStatement("UPDATE listed SET told = 1 WHERE place >= ? AND place < ?");
  }

  /** In a folder that is made where it is not there. */
  static ListingFile in(Path folder, long census) throws IOException, SQLException {
    Files.createDirectories(folder);
    Path file = folder.resolve("census-" + census + ".db");
    Files.deleteIfExists(file);
    return new ListingFile(file);
  }

  void add(Listed thing) throws SQLException {
    insert.setString(1, thing.place());
    insert.setLong(2, thing.size());
    insert.setLong(3, thing.modified().toEpochMilli());
    insert.setInt(4, thing.deleted() ? 1 : 0);
    insert.setLong(5, thing.older());
    insert.addBatch();
    if (++waiting == TOGETHER) {
      flush();
    }
  }

  void flush() throws SQLException {
    insert.executeBatch();
    waiting = 0;
  }

  /** All that can be read. */
  void each(Censuses.ListedThing each) throws IOException {
    try (var statement = connection.createStatement();
        ResultSet r = statement.executeQuery(
            "SELECT place, size, modified FROM listed WHERE deleted = 0 ORDER BY place")) {
      while (r.next()) {
        each.thing(r.getString(1), r.getLong(2), Instant.ofEpochMilli(r.getLong(3)));
      }
    } catch (SQLException e) {
      throw new IOException("the list of a store can't be read again: " + e.getMessage(), e);
    }
  }

  /** What lies under a place: a file, or all files below it. Null where nothing does. */
  Claim.@Nullable Found found(String place) throws SQLException {
    exact.setString(1, place);
    try (ResultSet r = exact.executeQuery()) {
      if (r.next()) {
        return r.getInt(3) == 1
            ? null
            : new Claim.Found(r.getLong(1), Instant.ofEpochMilli(r.getLong(2)));
      }
    }
    String begin = place.endsWith("/") ? place : place + "/";
    folder.setString(1, begin);
    folder.setString(2, after(begin, '/'));
    try (ResultSet r = folder.executeQuery()) {
      return r.next() && r.getLong(1) > 0
          ? new Claim.Found(r.getLong(2), Instant.ofEpochMilli(r.getLong(3)))
          : null;
    }
  }

  /** When what was under a place was deleted, where older versions are still kept; null else. */
  @Nullable
  Instant deleted(String place) throws SQLException {
    exact.setString(1, place);
    try (ResultSet r = exact.executeQuery()) {
      return r.next() && r.getInt(3) == 1 ? Instant.ofEpochMilli(r.getLong(2)) : null;
    }
  }

  /**
   * Some feed tells of a place: of the file, of all below it, and of what lies beside it under its name with something
   * behind, such as its manifest.
   */
  void told(String place) throws SQLException {
    String name = place.endsWith("/") ? place.substring(0, place.length() - 1) : place;
    told.setString(1, name);
    told.setString(2, name + '\0');
    told.executeUpdate();
    told.setString(1, name + '-');
    told.setString(2, after(name + '/', '/'));
    told.executeUpdate();
  }

  /** The first text behind all that begin with one that ends with a character. */
  private static String after(String begin, char last) {
    return begin.substring(0, begin.length() - 1) + (char) (last + 1);
  }

  /** What there is in all, and what nobody tells of. */
  Census.Listed counted() throws SQLException {
    try (var statement = connection.createStatement();
        ResultSet r = statement.executeQuery("""
            SELECT count(*) FILTER (WHERE deleted = 0), coalesce(sum(size), 0), coalesce(sum(older), 0),
                   count(*) FILTER (WHERE told = 0 AND deleted = 0),
                   coalesce(sum(size) FILTER (WHERE told = 0), 0) FROM listed
            """)) {
      r.next();
      return new Census.Listed(
          r.getLong(1), r.getLong(2), r.getLong(3), r.getLong(4), r.getLong(5));
    }
  }

  /** What nobody tells of, the largest first. */
  List<CensusStore.Untold> untold(int most) throws SQLException {
    List<CensusStore.Untold> all = new ArrayList<>();
    try (var statement = connection.createStatement();
        ResultSet r = statement.executeQuery(
            "SELECT place, size, modified FROM listed WHERE told = 0 AND deleted = 0"
                + " ORDER BY size DESC, place LIMIT " + most)) {
      while (r.next()) {
        all.add(new CensusStore.Untold(
            r.getString(1), r.getLong(2), Instant.ofEpochMilli(r.getLong(3))));
      }
    }
    return all;
  }

  @Override
  public void close() throws SQLException {
    connection.close();
    try {
      Files.deleteIfExists(file);
    } catch (IOException e) {
      throw new SQLException("the list of a store can't be taken away: " + e.getMessage(), e);
    }
  }
}
