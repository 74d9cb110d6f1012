package hardproof.server.feeds;

import hardproof.core.feeds.FactReader;
import hardproof.core.feeds.RawRow;
import hardproof.server.facts.FactTable;
import java.io.Closeable;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.function.Function;

/**
 * Reads and checks the rows of a file in a thread of its own, a bounded way ahead, while those before
 * are compared and stored. Rows come out in their order.
 */
final class ReadAhead<T> implements Closeable {
  private static final int ROWS = 500;
  private static final int BATCHES = 8;

  /**
   * A row as it was read, with what was made of it.
   *
   * @param read null where {@code next} has no row
   * @param ready null where no fact could be made of the row
   * @param again whether a row before it has the same key
   */
  record Checked<T>(
      Rows.Next next, FactReader.Read<T> read, FactTable.Ready<T> ready, boolean again) {}

  /** Some rows; the last batch says how it ended. */
  private record Batch<T>(List<Checked<T>> rows, boolean last, Throwable failure) {}

  private final Rows rows;
  private final Function<RawRow, FactReader.Read<T>> check;
  private final FactTable<T> table;
  private final Set<String> keys;
  private final BlockingQueue<Batch<T>> ready = new ArrayBlockingQueue<>(BATCHES);
  private final Thread reader;
  private Batch<T> batch = new Batch<>(List.of(), false, null);
  private int at;

  /**
   * @param rows are closed with this
   * @param check makes a fact of a row
   * @param table the facts are made ready for
   * @param keys gets the key of every fact; not to be looked at before this is closed
   */
  ReadAhead(
      Rows rows, Function<RawRow, FactReader.Read<T>> check, FactTable<T> table, Set<String> keys) {
    this.rows = rows;
    this.keys = keys;
    this.table = table;
    this.check = check;
    this.reader = new Thread(this::readAll, "read-ahead");
    reader.setDaemon(true);
    reader.start();
  }

  private void readAll() {
    List<Checked<T>> some = new ArrayList<>(ROWS);
    Throwable failure = null;
    try {
      Rows.Next next;
      while ((next = rows.next()) != null) {
        some.add(checked(next));
        if (some.size() == ROWS) {
          ready.put(new Batch<>(some, false, null));
          some = new ArrayList<>(ROWS);
        }
      }
    } catch (InterruptedException e) {
      return;
    } catch (Exception | Error e) {
      failure = e;
    }
    try {
      ready.put(new Batch<>(some, true, failure));
    } catch (InterruptedException e) {
      // Nobody waits for it any more.
    }
  }

  private Checked<T> checked(Rows.Next next) {
    FactReader.Read<T> read = next.row() == null ? null : check.apply(next.row());
    T fact = read == null ? null : read.fact();
    FactTable.Ready<T> made = fact == null ? null : table.ready(fact);
    return new Checked<>(next, read, made, made != null && !keys.add(oneText(made.key())));
  }

  private static String oneText(List<String> key) {
    return key.size() == 1 ? key.get(0) : String.join("\u0000", key);
  }

  /**
   * The next row; null at the end.
   *
   * @throws UnreadableFile when nothing after this place can be read
   */
  Checked<T> next() throws IOException {
    while (at == batch.rows().size()) {
      if (batch.last()) {
        fail(batch.failure());
        return null;
      }
      try {
        batch = ready.take();
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new IOException("interrupted while waiting for rows", e);
      }
      at = 0;
    }
    return batch.rows().get(at++);
  }

  private static void fail(Throwable failure) throws IOException {
    if (failure instanceof IOException e) {
      throw e;
    } else if (failure instanceof RuntimeException e) {
      throw e;
    } else if (failure instanceof Error e) {
      throw e;
    }
  }

  @Override
  public void close() throws IOException {
    reader.interrupt();
    try {
      reader.join();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
    rows.close();
  }
}
