package hardproof.server.feeds;

import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** All rows but the last few: they are held back until it is known that others follow. */
final class WithoutLast implements Rows {
  private final Rows rows;
  private final int last;
  private final Deque<Next> ahead = new ArrayDeque<>();

  WithoutLast(Rows rows, int last) {
    this.rows = rows;
    this.last = last;
  }

  @Override
  public @Nullable List<String> columns() {
    return rows.columns();
  }

  @Override
  public boolean mayHave(String field) {
    return rows.mayHave(field);
  }

  @Override
  public @Nullable Next next() throws IOException {
    while (ahead.size() <= last) {
      Next next = rows.next();
      if (next == null) {
        return null;
      }
      ahead.add(next);
    }
    return ahead.poll();
  }

  @Override
  public void close() throws IOException {
    rows.close();
  }
}
