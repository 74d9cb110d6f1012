package hardproof.core.facts;

import hardproof.core.copies.Copy;
import hardproof.core.points.RecoveryPoint;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Which states of points and copies tell, in hindsight, of an instant. All times in epoch milliseconds. */
final class HindsightRows {
  private static final long NONE = Column.NONE;
  private static final PackedKind<RecoveryPoint> POINTS = PackedKind.POINTS;
  private static final PackedKind<Copy> COPIES = PackedKind.COPIES;
  private static final int LAST_READ = COPIES.column("last_read");
  private static final int PASSED = COPIES.column("last_read_outcome");

  private final long judged;
  private final long known;

  /**
   * @param judged the instant that is told of
   * @param known the instant by which states were recorded
   */
  HindsightRows(long judged, long known) {
    this.judged = judged;
    this.known = known;
  }

  /**
   * Of each point the state that is known last, if the point was available by then (or, where it never was,
   * has its data time by then); else the state that was known then. In the order of the rows.
   */
  int[] points(Column[] points, int rows) {
    Column key = points[POINTS.column("key")];
    Column data = points[POINTS.column("data_time")];
    Column available = points[POINTS.column("available")];
    Column recorded = points[POINTS.recordedAt()];
    Column replaced = points[POINTS.replacedAt()];
    Map<Long, Integer> then = new HashMap<>();
    Map<Long, Integer> last = new HashMap<>();
    for (int row = 0; row < rows; row++) {
      if (holds(recorded.get(row), replaced.get(row), judged)) {
        then.put(key.get(row), row);
      }
      if (holds(recorded.get(row), replaced.get(row), known)) {
        last.put(key.get(row), row);
      }
    }
    List<Integer> chosen = new ArrayList<>(last.size());
    last.forEach((k, row) -> {
      long made = available.get(row) == NONE ? data.get(row) : available.get(row);
      if (made <= judged) {
        chosen.add(row);
      } else if (then.containsKey(k)) {
        chosen.add(then.get(k));
      }
    });
    return chosen.stream().mapToInt(Integer::intValue).sorted().toArray();
  }

  private static boolean holds(long recorded, long replaced, long instant) {
    return recorded <= instant && instant < replaced;
  }

  /** Rows of copies, with the last read-back of each by then. */
  record Copies(int[] rows, long[] lastRead, long[] lastReadPassed) {
    Column[] select(Column[] copies) {
      Column[] told = PackedKind.select(copies, rows);
      told[LAST_READ] = Column.of(lastRead);
      told[PASSED] = Column.of(lastReadPassed);
      return told;
    }
  }

  /**
   * Of each copy the state that was known then, else the first that was told later; from there on through
   * what was told later of its finish time and its read-backs. What has no time of its own stays as it was
   * known: nobody can say that it was so before. A copy that was finished later was not there.
   */
  Copies copies(Column[] copies, int rows) {
    Map<List<Long>, List<Integer>> states = states(copies, rows);
    List<long[]> chosen = new ArrayList<>(states.size());
    for (List<Integer> own : states.values()) {
      long[] copy = copy(copies, own);
      if (copy != null) {
        chosen.add(copy);
      }
    }
    chosen.sort((a, b) -> Long.compare(a[0], b[0]));
    return new Copies(
        chosen.stream().mapToInt(c -> (int) c[0]).toArray(),
        chosen.stream().mapToLong(c -> c[1]).toArray(),
        chosen.stream().mapToLong(c -> c[2]).toArray());
  }

  private Map<List<Long>, List<Integer>> states(Column[] copies, int rows) {
    Column point = copies[COPIES.column("point")];
    Column store = copies[COPIES.column("store")];
    Column recorded = copies[COPIES.recordedAt()];
    Map<List<Long>, List<Integer>> states = new LinkedHashMap<>();
    for (int row = 0; row < rows; row++) {
      if (recorded.get(row) <= known) {
        states
            .computeIfAbsent(List.of(point.get(row), store.get(row)), k -> new ArrayList<>(2))
            .add(row);
      }
    }
    return states;
  }

  /** The row of the state, its last read-back and what that came to; null when it was not there. */
  private long[] copy(Column[] copies, List<Integer> states) {
    Column finished = copies[COPIES.column("finished")];
    Column lastRead = copies[LAST_READ];
    Column passed = copies[PASSED];
    Column recorded = copies[COPIES.recordedAt()];
    Column replaced = copies[COPIES.replacedAt()];
    int first = 0;
    for (int i = 0; i < states.size(); i++) {
      if (recorded.get(states.get(i)) <= judged) {
        first = i;
      }
    }
    int row = states.get(first);
    boolean knownThen = recorded.get(row) <= judged;
    // A copy whose point was moved to another resource meanwhile is told of there.
    if (replaced.get(states.get(states.size() - 1)) <= known
        || !knownThen && isLater(finished.get(row))) {
      return null;
    }
    long read = isLater(lastRead.get(row)) ? NONE : lastRead.get(row);
    long came = isLater(lastRead.get(row)) ? NONE : passed.get(row);
    for (int next : states.subList(first + 1, states.size())) {
      boolean finishedSince = finished.get(next) != NONE && finished.get(next) != finished.get(row);
      if (finishedSince && !isLater(finished.get(next))) {
        row = next;
      }
      if (lastRead.get(next) != NONE && lastRead.get(next) > read && !isLater(lastRead.get(next))) {
        read = lastRead.get(next);
        came = passed.get(next);
      }
    }
    return new long[] {row, read, came};
  }

  /** Not known counts as not later. */
  private boolean isLater(long instant) {
    return instant != NONE && instant > judged;
  }
}
