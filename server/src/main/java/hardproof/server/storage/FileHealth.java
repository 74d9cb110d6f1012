package hardproof.server.storage;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Whether our own file is whole: we hold ourselves to what we ask of others. A damaged page is found when the
 * application starts and each night; a write-ahead log that was taken away, when the file is opened.
 */
public final class FileHealth {
  private static final Logger LOG = LoggerFactory.getLogger(FileHealth.class);
  private static final int NAMED = 3;

  private final Path file;
  private final String lostLog;
  private volatile String damage;

  /**
   * @param file the database, which is open
   * @param lostLog what {@link #lostLog} said before it was opened; null when nothing was wrong
   */
  FileHealth(Path file, String lostLog) {
    this.file = file;
    this.lostLog = lostLog;
  }

  /** Stands beside the file as long as a write-ahead log belongs to it. */
  private static Path marker(Path file) {
    return file.resolveSibling(file.getFileName() + "-has-wal");
  }

  private static Path log(Path file) {
    return file.resolveSibling(file.getFileName() + "-wal");
  }

  /**
   * What is wrong when the log of a file that had one is gone: what was confirmed last was only in there.
   * To be asked before the file is opened.
   *
   * @return null when nothing is wrong
   */
  static String lostLog(Path file) {
    if (!Files.exists(file) || !Files.exists(marker(file)) || Files.exists(log(file))) {
      return null;
    }
    return log(file) + " is gone, though " + file.getFileName()
        + " was not closed before. Unless another"
        + " program has opened and closed the database since, what was confirmed last is lost. If you have"
        + " that file, stop Hard Proof and put it back; else bring in the last deliveries again and look"
        + " which drills and decisions of the last hours are missing.";
  }

  /** To be called when the log is there. */
  static void opened(Path file) throws IOException {
    if (Files.exists(log(file)) && !Files.exists(marker(file))) {
      Files.createFile(marker(file));
    }
  }

  /** To be called when the file was closed: the last one to close it leaves no log. */
  static void closed(Path file) {
    try {
      if (!Files.exists(log(file))) {
        Files.deleteIfExists(marker(file));
      }
    } catch (IOException e) {
      LOG.warn("the marker beside {} could not be removed", file, e);
    }
  }

  /** What whoever relies on this installation must know; empty when all is well. */
  public List<String> warnings() {
    List<String> warnings = new ArrayList<>();
    if (damage != null) {
      warnings.add(damage);
    }
    if (lostLog != null) {
      warnings.add(lostLog);
    }
    return warnings;
  }

  /**
   * Reads the whole file.
   *
   * @param thorough whether every index is held against its table as well, which takes longer
   */
  public void look(boolean thorough) {
    String check = thorough ? "PRAGMA integrity_check" : "PRAGMA quick_check";
    List<String> found = new ArrayList<>();
    try (Connection c = DriverManager.getConnection("jdbc:sqlite:" + file + "?open_mode=1");
        Statement s = c.createStatement();
        ResultSet rows = s.executeQuery(check + "(" + NAMED + ")")) {
      while (rows.next()) {
        rows.getString(1).lines().filter(l -> !l.equals("ok")).forEach(found::add);
      }
    } catch (SQLException e) {
      if (SqliteErrors.busy(e)) {
        return;
      }
      found.add(e.getMessage());
    }
    damage = found.isEmpty() ? null : sentence(found);
    if (damage != null) {
      LOG.error(damage);
    }
  }

  private String sentence(List<String> found) {
    return file + " is damaged ("
        + String.join("; ", found.subList(0, Math.min(NAMED, found.size())))
        + "). Stop Hard Proof and keep a copy of the whole data folder; then put back the newest copy of"
        + " the file that is whole, and bring in again what was delivered since. What was issued in packs"
        + " is not touched: hard-proof verify shows it.";
  }
}
