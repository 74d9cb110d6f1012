package hardproof.server.feeds;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.estate.Workload;
import hardproof.core.feeds.FactKinds;
import hardproof.core.feeds.FactReader;
import hardproof.core.feeds.RawRow;
import hardproof.core.feeds.Rejection;
import hardproof.server.facts.FactTables;
import hardproof.server.facts.Notations;
import java.io.IOException;
import java.time.Instant;
import java.util.HashSet;
import java.util.Map;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.IntFunction;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

@Timeout(60)
class ReadAheadTest {
  private final AtomicBoolean closed = new AtomicBoolean();

  private ReadAhead<Workload> ahead(int rows, IntFunction<Rows.Next> row, IOException end) {
    FactReader reader = new FactReader("feed", Instant.EPOCH, Notations.KEPT);
    Rows source = new Rows() {
      private int at;

      @Override
      public Next next() throws IOException {
        if (at == rows) {
          if (end != null) {
            throw end;
          }
          return null;
        }
        return row.apply(at++);
      }

      @Override
      public void close() {
        closed.set(true);
      }
    };
    return new ReadAhead<>(
        source,
        r -> reader.read(FactKinds.WORKLOADS, "workloads.csv", r),
        FactTables.of(FactKinds.WORKLOADS),
        new HashSet<>());
  }

  private static Rows.Next workload(int i) {
    return new Rows.Next(
        new RawRow(i, i % 3 == 1 ? Map.of("key", "w" + i) : Map.of("key", "w" + i, "name", "W")),
        null);
  }

  @Test
  void rowsComeOutInTheirOrderAndOnlyWhatIsRightIsReady() throws IOException {
    try (ReadAhead<Workload> rows = ahead(12_345, ReadAheadTest::workload, null)) {
      for (int i = 0; i < 12_345; i++) {
        ReadAhead.Checked<Workload> next = rows.next();
        assertThat(next.next().row().line()).isEqualTo(i);
        if (i % 3 == 1) {
          assertThat(next.ready()).isNull();
          assertThat(next.read().rejections()).extracting(Rejection::field).containsExactly("name");
        } else {
          assertThat(next.ready().key()).containsExactly("w" + i);
        }
      }
      assertThat(rows.next()).isNull();
      assertThat(rows.next()).isNull();
    }
    assertThat(closed).isTrue();
  }

  @Test
  void aRowThatCannotBeReadComesOutWithItsReason() throws IOException {
    Rejection reason = new Rejection("workloads.csv", 1, null, null, "has 2 fields");
    try (ReadAhead<Workload> rows = ahead(1, i -> new Rows.Next(null, reason), null)) {
      assertThat(rows.next().next().rejection()).isEqualTo(reason);
      assertThat(rows.next()).isNull();
    }
  }

  @Test
  void aFileThatBreaksOffGivesWhatCameBeforeAndThenSaysSo() throws IOException {
    try (ReadAhead<Workload> rows = ahead(700, ReadAheadTest::workload, new IOException("torn"))) {
      for (int i = 0; i < 700; i++) {
        assertThat(rows.next()).isNotNull();
      }
      assertThatThrownBy(rows::next).isInstanceOf(IOException.class).hasMessage("torn");
    }
  }

  /** The reader waits for room; closing must not wait for it to come. */
  @Test
  void closedInTheMiddleItEnds() throws IOException {
    ReadAhead<Workload> rows = ahead(Integer.MAX_VALUE, ReadAheadTest::workload, null);
    assertThat(rows.next()).isNotNull();
    rows.close();
    assertThat(closed).isTrue();
  }
}
