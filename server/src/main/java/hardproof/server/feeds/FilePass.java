package hardproof.server.feeds;

import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.FactKind;
import hardproof.core.feeds.FactReader;
import hardproof.core.feeds.RawRow;
import hardproof.core.feeds.Rejection;
import hardproof.server.facts.FactTable;
import hardproof.server.facts.FactTable.Known;
import hardproof.server.facts.Notations;
import java.io.IOException;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** One reading of one file: each row is compared with what is known, and stored where that is asked. */
final class FilePass<T> {
  private final Bundle.Member file;
  private final Delivery delivery;
  private final FactKind<T> kind;
  private final FactTable<T> table;
  private final FactTable<T>.Session session;
  /** Nothing has to be looked up in a table that had no rows. */
  private final boolean empty;

  private final ImportProgress progress;
  private final FactReader reader;
  private final Circles<T> circles;
  private final Set<String> keys = new HashSet<>();
  private final List<Rejection> rejections = new ArrayList<>();
  private long read;
  private long added;
  private long changed;
  private long unchanged;
  private long rejected;
  private long notSeen;
  private long passedOver;
  /** The newest instant that a row speaks of; null while none does. */
  private @Nullable Instant newest;

  /**
   * What a file comes with.
   *
   * @param coversUntil up to when whoever made it had looked; null where nobody says
   * @param listings files of the feed that name everything there is
   * @param store whether it is taken, and not only looked at
   */
  record Delivery(
      String feed,
      Instant now,
      @Nullable Instant coversUntil,
      Set<BundleFile> listings,
      boolean store) {}

  FilePass(
      Bundle.Member file,
      Delivery delivery,
      FactTable<T> table,
      FactTable<T>.Session session,
      boolean empty,
      ImportProgress progress) {
    this.file = file;
    this.delivery = delivery;
    this.kind = table.kind();
    this.table = table;
    this.session = session;
    this.empty = empty;
    this.progress = progress;
    this.reader = new FactReader(delivery.feed(), delivery.now(), Notations.BROUGHT_IN);
    this.circles = new Circles<>(kind);
  }

  void run() throws IOException, SQLException {
    circles.look(file, progress);
    Rows given = Rows.open(file, progress);
    try (ReadAhead<T> rows =
        new ReadAhead<>(given, row -> reader.read(kind, file.name(), row), table, keys)) {
      ReadAhead.Checked<T> next;
      while ((next = rows.next()) != null) {
        progress.row(++read);
        if (next.read() == null) {
          reject(next.next().rejection());
        } else if (next.ready() == null) {
          rejected++;
          keep(next.read().rejections());
        } else {
          row(next.next().row(), next.ready(), next.again());
        }
      }
    }
    passedOver = given.leftOut();
    session.flush();
  }

  /** What a full listing does not name any more is kept, with since when. */
  void markWhatIsNotSeen(List<String> known) throws SQLException {
    if (kind.listed() == null || rejected > 0) {
      return;
    }
    for (String key : known) {
      T fact = keys.contains(key) ? null : stored(List.of(key));
      if (fact != null && kind.listed().since().apply(fact) == null) {
        notSeen++;
        if (delivery.store()) {
          Instant now = delivery.now();
          session.put(kind.listed().leftOut().apply(fact, now), delivery.feed(), now, true);
        }
      }
    }
    session.flush();
  }

  private @Nullable T stored(List<String> key) throws SQLException {
    Known<T> known = empty ? null : session.current(key);
    return known == null ? null : known.fact();
  }

  private void row(RawRow row, FactTable.Ready<T> ready, boolean again) throws SQLException {
    Known<T> known = empty ? null : session.current(ready.key());
    String problem = problem(ready, known, again);
    if (problem != null) {
      reject(row, problem);
      return;
    }
    Instant of = kind.speaksOf(ready.fact());
    newest = of == null || newest != null && newest.isAfter(of) ? newest : of;
    if (known != null && table.same(known.fact(), ready.fact())) {
      unchanged++;
      return;
    }
    take(ready, known);
  }

  private void reject(RawRow row, String problem) {
    String field = kind.keys().get(0).name();
    reject(new Rejection(file.name(), row.line(), field, row.values().get(field), problem));
  }

  private void take(FactTable.Ready<T> ready, Known<T> known) throws SQLException {
    if (known == null) {
      added++;
    } else {
      changed++;
    }
    if (delivery.store()) {
      session.put(ready, delivery.feed(), delivery.now(), known != null);
    }
  }

  /** Why a row can't be taken although it is a fact; null when it can. */
  private @Nullable String problem(
      FactTable.Ready<T> ready, @Nullable Known<T> known, boolean again) {
    List<String> key = ready.key();
    if (again) {
      return "is in this file twice; which one holds can't be known";
    }
    if (known != null && !known.feed().equals(delivery.feed())) {
      return "belongs to feed '" + known.feed()
          + "' already; import it there, or give it another key";
    }
    return circles.problem(key.get(0), ready.fact(), other -> {
      try {
        return stored(List.of(other));
      } catch (SQLException e) {
        throw new IllegalStateException(e);
      }
    });
  }

  /** What the delivery says of itself, but what its rows tell it has told; nobody tells of what is to come. */
  private @Nullable Instant toldUntil() {
    Instant until = delivery.coversUntil();
    Instant told = newest == null || until != null && until.isAfter(newest) ? until : newest;
    return told != null && told.isAfter(delivery.now()) ? delivery.now() : told;
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
        file.type(),
        read,
        added,
        changed,
        unchanged,
        rejected,
        List.copyOf(rejections),
        false,
        delivery.store(),
        passedOver,
        notSeen,
        toldUntil());
  }
}
