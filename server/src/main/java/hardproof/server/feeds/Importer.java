package hardproof.server.feeds;

import hardproof.core.copies.Copy;
import hardproof.core.estate.Job;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Workload;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.FactReader;
import hardproof.core.feeds.RawRow;
import hardproof.core.feeds.Rejection;
import hardproof.core.feeds.Values;
import hardproof.core.points.RecoveryPoint;
import hardproof.proving.formats.ArtifactFormat;
import hardproof.server.estate.FactTable;
import hardproof.server.estate.FactTable.Known;
import hardproof.server.estate.FactTables;
import hardproof.server.estate.SelectorJson;
import hardproof.server.schedule.Schedules;
import hardproof.server.storage.Database;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
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
  /**
   * A larger first file, in bytes, gets its indexes when all of it is in, which takes half as long. They
   * are dropped and made in the transaction of the file, so that nobody sees the table without.
   */
  private static final long INDEXED_AFTER = 16L << 20;

  private final Database database;

  public Importer(Database database) {
    this.database = database;
  }

  /** What is done with a file that has rejected rows. */
  public enum WithRejections {
    TAKE_GOOD_ROWS,
    TAKE_NONE
  }

  private static void refuseName(String feed) {
    String refusal = FeedNames.refusal(feed);
    if (refusal != null) {
      throw new Refused(refusal);
    }
  }

  /** Nobody can have looked at what is still to come, so that nothing of such a delivery is believed. */
  private static List<FileResult> toCome(Bundle bundle, Instant now) {
    Instant until = bundle.coversUntil();
    if (until == null || !until.isAfter(now)) {
      return List.of();
    }
    return bundle.files().stream()
        .map(f -> FileResult.none(
            new Rejection(
                f.name(),
                0,
                DeliveryNote.COVERS_UNTIL,
                until.toString(),
                "is still to come, it is " + now + ": give the instant up to which whoever made the"
                    + " delivery had looked; nothing of it was taken"),
            f.type().code()))
        .toList();
  }

  /** What the bundle would change. Stores nothing. */
  public List<FileResult> preview(Bundle bundle, String feed, Instant now) {
    return preview(bundle, feed, now, ImportProgress.UNWATCHED);
  }

  /** As {@link #preview(Bundle, String, Instant)}, watched. */
  public List<FileResult> preview(
      Bundle bundle, String feed, Instant now, ImportProgress progress) {
    refuseName(feed);
    List<FileResult> results = unknown(bundle);
    if (results.addAll(toCome(bundle, now))) {
      return results;
    }
    Set<BundleFile> listings = new FeedStore(database).fullListings(feed);
    for (Bundle.Member file : bundle.files()) {
      boolean listing = listings.contains(file.type());
      results.add(database.read(() -> database.onReader(
          c -> pass(c, file, feed, now, bundle.coversUntil(), false, listing, progress))));
    }
    return results;
  }

  /** Takes the bundle; {@code by} is who brought it. */
  public List<FileResult> take(
      Bundle bundle, String feed, Instant now, String by, WithRejections choice) {
    return take(bundle, feed, now, by, choice, ImportProgress.UNWATCHED);
  }

  /**
   * As {@link #take(Bundle, String, Instant, String, WithRejections)}, watched.
   *
   * @throws ImportProgress.ImportCancelled when it was asked to stop; files taken before stay taken
   */
  public List<FileResult> take(
      Bundle bundle,
      String feed,
      Instant clock,
      String by,
      WithRejections choice,
      ImportProgress progress) {
    refuseName(feed);
    Instant now = database.notBefore(clock);
    List<FileResult> results = unknown(bundle);
    if (results.addAll(toCome(bundle, now))) {
      return results;
    }
    FeedStore feeds = new FeedStore(database);
    Set<BundleFile> listings = feeds.fullListings(feed);
    for (Bundle.Member file : bundle.files()) {
      FileResult[] left = new FileResult[1];
      try {
        results.add(database.change(() -> {
          feeds.ensure(feed);
          FileResult taken = database.onWriter(c -> pass(
              c,
              file,
              feed,
              now,
              bundle.coversUntil(),
              true,
              listings.contains(file.type()),
              progress));
          boolean store = !taken.fileRejected()
              && (taken.rejected() == 0 || choice == WithRejections.TAKE_GOOD_ROWS);
          if (!store) {
            left[0] = taken.leftOut();
            throw new LeftOut();
          }
          feeds.record(feed, taken, now, by);
          return taken;
        }));
      } catch (LeftOut e) {
        results.add(left[0]);
      }
    }
    return results;
  }

  /** Undoes the transaction of a file that is not taken. */
  private static final class LeftOut extends RuntimeException {
    private static final long serialVersionUID = 1L;

    LeftOut() {
      super("left out", null, false, false);
    }
  }

  private static List<FileResult> unknown(Bundle bundle) {
    List<FileResult> results = new ArrayList<>();
    bundle.unknown().forEach(r -> results.add(FileResult.none(r, null)));
    return results;
  }

  private static FileResult pass(
      Connection connection,
      Bundle.Member file,
      String feed,
      Instant now,
      Instant coversUntil,
      boolean store,
      boolean listing,
      ImportProgress progress)
      throws SQLException {
    FactTable<Object> table = FactTables.of(file.type());
    try (FactTable<Object>.Session session = table.session(connection)) {
      long size = Files.size(file.path());
      progress.begin(file.name(), size);
      Pass pass = new Pass(file, feed, now, session, store, progress);
      pass.empty = table.isEmpty(connection);
      boolean indexAfter = store && pass.empty && size > INDEXED_AFTER;
      List<String> indexes = indexAfter ? table.dropIndexes(connection) : List.of();
      pass.run();
      table.makeIndexes(connection, indexes);
      if (listing && pass.rejected == 0) {
        pass.markWhatIsNotSeen(table.keysOf(connection, feed));
      }
      return pass.result(coversUntil);
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
    private final Set<String> keys = new HashSet<>();
    private final ImportProgress progress;
    /** Nothing has to be looked up in a table that had no rows. */
    private boolean empty;

    private final List<Rejection> rejections = new ArrayList<>();
    private final BasedOnCircles circles = new BasedOnCircles();
    private final NeedCircles needs = new NeedCircles();
    private long read;
    private long added;
    private long changed;
    private long unchanged;
    private long rejected;
    private long notSeen;
    /** The newest instant that a row speaks of; null while none does. */
    private Instant newest;

    Pass(
        Bundle.Member file,
        String feed,
        Instant now,
        FactTable<Object>.Session session,
        boolean store,
        ImportProgress progress) {
      this.progress = progress;
      this.file = file;
      this.feed = feed;
      this.now = now;
      this.table = FactTables.of(file.type());
      this.session = session;
      this.store = store;
      this.reader =
          new FactReader(feed, now, SelectorJson::read, Schedules::read, ArtifactFormat::read);
    }

    void run() throws IOException, SQLException {
      if (file.type() == BundleFile.POINTS) {
        findCircles("based_on");
      } else if (file.type() == BundleFile.RESOURCES) {
        findCircles("parent");
      }
      if (file.type() == BundleFile.RESOURCES || file.type() == BundleFile.WORKLOADS) {
        findNeeds();
      }
      try (ReadAhead rows = new ReadAhead(
          Rows.open(file, progress), r -> reader.read(file.type(), file.name(), r), table)) {
        ReadAhead.Checked next;
        while ((next = rows.next()) != null) {
          progress.row(++read);
          if (next.read() == null) {
            reject(next.next().rejection());
          } else if (next.ready() == null) {
            rejected++;
            keep(next.read().rejections());
          } else {
            row(next.next().row(), next.ready());
          }
        }
      }
      session.flush();
    }

    /** Resources that a full listing does not name any more: they are kept, with since when. */
    void markWhatIsNotSeen(List<String> known) throws SQLException {
      for (String key : known) {
        if (keys.contains(key)) {
          continue;
        }
        Known<Object> state = session.current(List.of(key));
        if (state != null && state.fact() instanceof Resource r && r.missingSince() == null) {
          notSeen++;
          if (store) {
            session.put(r.missing(now), feed, now, true);
          }
        }
      }
      session.flush();
    }

    /** Circles can only be judged when the whole file has been seen. */
    private void findCircles(String field) throws IOException {
      try (Rows rows = Rows.open(file, progress)) {
        if (!rows.mayHave(field)) {
          return;
        }
        Rows.Next next;
        while ((next = rows.next()) != null) {
          progress.stopIfCancelled();
          if (next.row() != null && next.row().values().get(field) != null) {
            circles.add(next.row().values().get("key"), next.row().values().get(field));
          }
        }
      }
    }

    private void findNeeds() throws IOException {
      try (Rows rows = Rows.open(file, progress)) {
        if (!rows.mayHave("needs")) {
          return;
        }
        Rows.Next next;
        while ((next = rows.next()) != null) {
          progress.stopIfCancelled();
          if (next.row() != null && next.row().values().get("needs") != null) {
            needs.add(
                next.row().values().get("key"), Values.list(next.row().values().get("needs")));
          }
        }
      }
    }

    private List<String> storedNeeds(String key) {
      try {
        Known<Object> known = empty ? null : session.current(List.of(key));
        return known == null
            ? List.of()
            : known.fact() instanceof Workload w ? w.needs() : ((Resource) known.fact()).needs();
      } catch (SQLException e) {
        throw new IllegalStateException(e);
      }
    }

    private void row(RawRow row, FactTable.Ready<Object> ready) throws SQLException {
      Object fact = ready.fact();
      List<String> key = ready.key();
      if (!keys.add(key.size() == 1 ? key.get(0) : String.join("\u0000", key))) {
        reject(row, "is in this file twice; which one holds can't be known");
        return;
      }
      Known<Object> known = empty ? null : session.current(key);
      if (known != null && !known.feed().equals(feed)) {
        reject(
            row,
            "belongs to feed '" + known.feed()
                + "' already; import it there, or give it another key");
        return;
      }
      if (fact instanceof RecoveryPoint point && circular(point.key(), point.basedOn())) {
        reject(row, "is based on a chain that leads back to itself");
        return;
      }
      if (fact instanceof Resource resource && circular(resource.key(), resource.parent())) {
        reject(row, "lies inside itself: its parents lead back to it");
        return;
      }
      if ((fact instanceof Resource || fact instanceof Workload)
          && needs.leadsBack(key.get(0), this::storedNeeds)) {
        reject(row, "needs itself: what it needs leads back to it");
        return;
      }
      speaksOf(fact);
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
        session.put(ready, feed, now, known != null);
      }
    }

    private void speaksOf(Object fact) {
      Instant of = fact instanceof RecoveryPoint point
          ? point.available()
          : fact instanceof Copy copy
              ? copy.finished()
              : fact instanceof Job job
                  ? job.ended()
                  : fact instanceof Resource resource ? resource.lastSeen() : null;
      newest = of == null || newest != null && newest.isAfter(of) ? newest : of;
    }

    /** What the delivery says of itself, but what its rows tell it has told; nobody tells of what is to come. */
    private Instant toldUntil(Instant coversUntil) {
      Instant told = newest == null || coversUntil != null && coversUntil.isAfter(newest)
          ? coversUntil
          : newest;
      return told != null && told.isAfter(now) ? now : told;
    }

    private boolean circular(String key, String above) {
      return above != null
          && circles.circles(key, other -> {
            try {
              Known<Object> known = empty ? null : session.current(List.of(other));
              return known == null
                  ? null
                  : known.fact() instanceof RecoveryPoint p
                      ? p.basedOn()
                      : ((Resource) known.fact()).parent();
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

    FileResult result(Instant coversUntil) {
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
          store,
          notSeen,
          toldUntil(coversUntil));
    }
  }
}
