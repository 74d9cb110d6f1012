package hardproof.server.feeds;

import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.FactReader;
import hardproof.core.feeds.RawRow;
import hardproof.core.feeds.Rejection;
import hardproof.core.points.RecoveryPoint;
import hardproof.server.estate.FactTable;
import hardproof.server.estate.FactTable.Known;
import hardproof.server.estate.FactTables;
import hardproof.server.estate.SelectorJson;
import hardproof.server.schedule.Schedules;
import hardproof.server.storage.Database;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * Compares a bundle with what is known, and takes it. Each file is taken in one transaction, whole
 * or not at all; a crash in between leaves the files that were taken, and the others untouched.
 */
public final class Importer {
  private final Database database;

  public Importer(Database database) {
    this.database = database;
  }

  /** What is done with a file that has rejected rows. */
  public enum WithRejections {
    TAKE_GOOD_ROWS,
    TAKE_NONE
  }

  /** What the bundle would change. Stores nothing. */
  public List<FileResult> preview(Bundle bundle, String feed, Instant now) {
    List<FileResult> results = unknown(bundle);
    for (Bundle.Member file : bundle.files()) {
      results.add(look(file, feed, now));
    }
    return results;
  }

  /** Takes the bundle; {@code by} is who brought it. */
  public List<FileResult> take(
      Bundle bundle, String feed, Instant now, String by, WithRejections choice) {
    List<FileResult> results = unknown(bundle);
    FeedStore feeds = new FeedStore(database);
    for (Bundle.Member file : bundle.files()) {
      // The first pass tells whether to store at all: nothing has to be undone.
      FileResult seen = look(file, feed, now);
      boolean store =
          !seen.fileRejected() && (seen.rejected() == 0 || choice == WithRejections.TAKE_GOOD_ROWS);
      if (!store) {
        results.add(seen.leftOut());
        continue;
      }
      results.add(database.change(() -> {
        feeds.ensure(feed);
        FileResult taken = database.onWriter(c -> pass(c, file, feed, now, true));
        feeds.record(feed, taken, now, by);
        return taken;
      }));
    }
    return results;
  }

  private static List<FileResult> unknown(Bundle bundle) {
    List<FileResult> results = new ArrayList<>();
    bundle.unknown().forEach(r -> results.add(FileResult.none(r, null)));
    return results;
  }

  /** Compares without storing. */
  private FileResult look(Bundle.Member file, String feed, Instant now) {
    return database.read(() -> database.onReader(c -> pass(c, file, feed, now, false)));
  }

  private static FileResult pass(
      Connection connection, Bundle.Member file, String feed, Instant now, boolean store)
      throws SQLException {
    try (Rows rows = Rows.open(file.path(), file.name(), file.type());
        FactTable<Object>.Session session = FactTables.of(file.type()).session(connection)) {
      Pass pass = new Pass(file, feed, now, session, store);
      pass.run(rows);
      return pass.result();
    } catch (UnreadableFile e) {
      return FileResult.none(e.rejection(), file.type().code());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** One reading of one file. */
  private static final class Pass {
    private final Bundle.Member file;
    private final String feed;
    private final Instant now;
    private final FactTable<Object> table;
    private final FactTable<Object>.Session session;
    private final boolean store;
    private final FactReader reader;
    private final Set<List<String>> keys = new HashSet<>();
    private final List<Rejection> rejections = new ArrayList<>();
    private final BasedOnCircles circles = new BasedOnCircles();
    private long read;
    private long added;
    private long changed;
    private long unchanged;
    private long rejected;

    Pass(
        Bundle.Member file,
        String feed,
        Instant now,
        FactTable<Object>.Session session,
        boolean store) {
      this.file = file;
      this.feed = feed;
      this.now = now;
      this.table = FactTables.of(file.type());
      this.session = session;
      this.store = store;
      this.reader = new FactReader(feed, now, SelectorJson::read, Schedules::read);
    }

    void run(Rows rows) throws IOException, SQLException {
      if (file.type() == BundleFile.POINTS) {
        findChains();
      }
      Rows.Next next;
      while ((next = rows.next()) != null) {
        read++;
        if (next.rejection() != null) {
          reject(next.rejection());
        } else {
          row(next.row());
        }
      }
      session.flush();
    }

    /** Chains can only be judged when the whole file has been seen. */
    private void findChains() throws IOException {
      try (Rows rows = Rows.open(file.path(), file.name(), file.type())) {
        Rows.Next next;
        while ((next = rows.next()) != null) {
          if (next.row() != null && next.row().values().get("based_on") != null) {
            circles.add(next.row().values().get("key"), next.row().values().get("based_on"));
          }
        }
      }
    }

    private void row(RawRow row) throws SQLException {
      FactReader.Read<?> result = reader.read(file.type(), file.name(), row);
      if (result.fact() == null) {
        rejected++;
        keep(result.rejections());
        return;
      }
      Object fact = result.fact();
      List<String> key = table.key(fact);
      if (!keys.add(key)) {
        reject(row, "is in this file twice; which one holds can't be known");
        return;
      }
      Known<Object> known = session.current(key);
      if (known != null && !known.feed().equals(feed)) {
        reject(
            row,
            "belongs to feed '" + known.feed()
                + "' already; import it there, or give it another key");
        return;
      }
      if (fact instanceof RecoveryPoint point && circular(point)) {
        reject(row, "is based on a chain that leads back to itself");
        return;
      }
      if (known != null && table.same(known.fact(), fact)) {
        unchanged++;
        return;
      }
      if (known == null) {
        added++;
      } else {
        changed++;
      }
      if (store) {
        session.put(fact, feed, now, known != null);
      }
    }

    private boolean circular(RecoveryPoint point) {
      return point.basedOn() != null
          && circles.circles(point.key(), key -> {
            try {
              Known<Object> known = session.current(List.of(key));
              return known == null ? null : ((RecoveryPoint) known.fact()).basedOn();
            } catch (SQLException e) {
              throw new IllegalStateException(e);
            }
          });
    }

    private void reject(RawRow row, String reason) {
      String field = file.type().fields().get(0).name();
      reject(new Rejection(file.name(), row.line(), field, row.values().get(field), reason));
    }

    private void reject(Rejection rejection) {
      rejected++;
      keep(List.of(rejection));
    }

    private void keep(List<Rejection> more) {
      more.stream().limit(FileResult.REJECTIONS_KEPT - rejections.size()).forEach(rejections::add);
    }

    FileResult result() {
      return new FileResult(
          file.name(),
          file.type().code(),
          read,
          added,
          changed,
          unchanged,
          rejected,
          List.copyOf(rejections),
          false,
          store);
    }
  }
}
