package hardproof.server.feeds;

import hardproof.core.feeds.Rejection;
import hardproof.server.facts.FactTable;
import hardproof.server.facts.FactTables;
import hardproof.server.facts.TableIndexes;
import hardproof.server.storage.Database;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

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
        .map(f -> FileResult.none(notYet(now, until, f), f.type()))
        .toList();
  }

  private static Rejection notYet(Instant now, Instant until, Bundle.Member f) {
    return new Rejection(
        f.name(),
        0,
        DeliveryNote.COVERS_UNTIL,
        until.toString(),
        "is still to come, it is " + now + ": give the instant up to which whoever made the"
            + " delivery had looked; nothing of it was taken");
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
    FilePass.Delivery delivery = new FilePass.Delivery(
        feed, now, bundle.coversUntil(), new FeedStore(database).fullListings(feed), false);
    for (Bundle.Member file : bundle.files()) {
      results.add(database.read(() -> database.onReader(c -> pass(c, file, delivery, progress))));
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
    FilePass.Delivery delivery =
        new FilePass.Delivery(feed, now, bundle.coversUntil(), feeds.fullListings(feed), true);
    for (Bundle.Member file : bundle.files()) {
      FileResult[] left = new FileResult[1];
      try {
        results.add(database.change(() -> {
          feeds.ensure(feed);
          FileResult taken = database.onWriter(c -> pass(c, file, delivery, progress));
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
      FilePass.Delivery delivery,
      ImportProgress progress)
      throws SQLException {
    return pass(connection, FactTables.of(file.type().kind()), file, delivery, progress);
  }

  private static <T> FileResult pass(
      Connection connection,
      FactTable<T> table,
      Bundle.Member file,
      FilePass.Delivery delivery,
      ImportProgress progress)
      throws SQLException {
    try (FactTable<T>.Session session = table.session(connection)) {
      long size = Files.size(file.path());
      progress.begin(file.name(), size);
      boolean empty = table.isEmpty(connection);
      FilePass<T> pass = new FilePass<>(file, delivery, table, session, empty, progress);
      boolean indexAfter = delivery.store() && empty && size > INDEXED_AFTER;
      List<String> indexes = indexAfter ? TableIndexes.drop(connection, table.table()) : List.of();
      pass.run();
      TableIndexes.make(connection, indexes);
      if (delivery.listings().contains(file.type())) {
        pass.markWhatIsNotSeen(table.keysOf(connection, delivery.feed()));
      }
      return pass.result();
    } catch (UnreadableFile e) {
      return FileResult.none(e.rejection(), file.type());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
