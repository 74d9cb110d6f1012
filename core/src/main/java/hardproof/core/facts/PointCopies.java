package hardproof.core.facts;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import java.util.AbstractList;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * The copies of the points of a {@link PointSet}, by place: those of the point in row {@code i} are at the places from
 * {@code first(i)} on, up to {@code first(i + 1)}, exclusive. Immutable. Times are epoch milliseconds, {@link
 * PointSet#NONE} where not known.
 */
public final class PointCopies {
  private static final PackedKind<Copy> KIND = PackedKind.COPIES;
  private static final int POINT = KIND.column("point");
  private static final int STORE = KIND.column("store");
  private static final int STATE = KIND.column("state");
  private static final int FINISHED = KIND.column("finished");
  private static final int EXPIRES = KIND.column("expires");
  private static final int LOCKED_UNTIL = KIND.column("locked_until");
  private static final int LAST_READ = KIND.column("last_read");
  private static final int LAST_READ_PASSED = KIND.column("last_read_outcome");
  private static final CopyState[] STATES = CopyState.values();

  private final Column[] columns;
  private final Texts texts;
  private final int[] first;

  /** Of the columns. */
  private final int total;

  /** Null when the copies lie in the order of their points. */
  private final int @Nullable [] rows;

  // The columns that arithmetic goes over most, so that none has to be looked up for each row.
  private final Column store;
  private final Column state;
  private final Column finished;
  private final Column passed;

  /**
   * @param rowOfText the row of the point whose key has a text's number; −1 where it is no point's
   * @param count of the copies in {@code columns}, which may be of any points
   */
  PointCopies(Column[] columns, int count, Texts texts, int[] rowOfText, int points) {
    this.columns = columns;
    this.texts = texts;
    this.store = columns[STORE];
    this.state = columns[STATE];
    this.finished = columns[FINISHED];
    this.passed = columns[LAST_READ_PASSED];
    this.total = count;
    this.first = new int[points + 1];
    this.rows = sort(count, rowOfText) ? null : rows(count, rowOfText);
  }

  private PointCopies(PointCopies before, Column lockedUntil) {
    this.columns = before.columns.clone();
    this.columns[LOCKED_UNTIL] = lockedUntil;
    this.texts = before.texts;
    this.store = before.store;
    this.state = before.state;
    this.finished = before.finished;
    this.passed = before.passed;
    this.total = before.total;
    this.first = before.first;
    this.rows = before.rows;
  }

  /**
   * The same with other locks.
   *
   * @param until in epoch milliseconds, by place; {@link PointSet#NONE} where none holds it
   */
  PointCopies locked(Map<Integer, Long> until) {
    long[] all = new long[total];
    for (int row = 0; row < total; row++) {
      all[row] = columns[LOCKED_UNTIL].get(row);
    }
    until.forEach((place, time) -> all[row(place)] = time);
    return new PointCopies(this, Column.of(all));
  }

  /** Counts where the copies of each point begin; whether they lie in that order already. */
  private boolean sort(int count, int[] rowOfText) {
    Column point = columns[POINT];
    boolean inOrder = true;
    int before = 0;
    for (int c = 0; c < count; c++) {
      int row = rowOfText[(int) point.get(c)];
      inOrder &= row >= before;
      before = row;
      if (row >= 0) {
        first[row + 1]++;
      }
    }
    for (int i = 1; i < first.length; i++) {
      first[i] += first[i - 1];
    }
    return inOrder;
  }

  private int[] rows(int count, int[] rowOfText) {
    Column point = columns[POINT];
    int[] next = first.clone();
    int[] sorted = new int[count()];
    for (int c = 0; c < count; c++) {
      int row = rowOfText[(int) point.get(c)];
      if (row >= 0) {
        sorted[next[row]++] = c;
      }
    }
    return sorted;
  }

  /** Of all points of the set. */
  public int count() {
    return first[first.length - 1];
  }

  /** Where the copies of a point begin. */
  public int first(int row) {
    return first[row];
  }

  private int row(int place) {
    return rows == null ? place : rows[place];
  }

  /** The copies of the point in {@code row}. */
  List<Copy> of(int row) {
    List<Copy> own = new ArrayList<>(first[row + 1] - first[row]);
    for (int place = first[row]; place < first[row + 1]; place++) {
      own.add(at(place));
    }
    return own;
  }

  /** All of them, by place; made when they are asked for. */
  public List<Copy> all() {
    return new AbstractList<>() {
      @Override
      public Copy get(int place) {
        return at(place);
      }

      @Override
      public int size() {
        return count();
      }
    };
  }

  public Copy at(int place) {
    return KIND.fact(columns, row(place), texts);
  }

  public CopyState state(int place) {
    return STATES[(int) state.get(row(place))];
  }

  public long finished(int place) {
    return finished.get(row(place));
  }

  public long expires(int place) {
    return columns[EXPIRES].get(row(place));
  }

  public long lockedUntil(int place) {
    return columns[LOCKED_UNTIL].get(row(place));
  }

  public long recordedAt(int place) {
    return columns[KIND.recordedAt()].get(row(place));
  }

  public long lastRead(int place) {
    return columns[LAST_READ].get(row(place));
  }

  /** 1 when its last read-back passed, 0 when it failed. */
  public long lastReadPassed(int place) {
    return passed.get(row(place));
  }

  /** The feed that told of it; null where not known. */
  public @Nullable String feed(int place) {
    return texts.get(columns[KIND.feed()].get(row(place)));
  }

  /** A number that stands for the copy's store within this set. */
  public int store(int place) {
    return (int) store.get(row(place));
  }

  /**
   * The place of the copy that was read back last, of those that passed if {@code passed}; −1 when none
   * was. Of several the first.
   */
  public int newestRead(boolean passed) {
    Column lastRead = columns[LAST_READ];
    int newest = -1;
    if (lastRead.isConstant() && lastRead.get(0) == Column.NONE) {
      return newest;
    }
    for (int place = 0; place < count(); place++) {
      long read = lastRead(place);
      boolean counts = read != Column.NONE && (!passed || lastReadPassed(place) == 1);
      if (counts && (newest < 0 || read > lastRead(newest))) {
        newest = place;
      }
    }
    return newest;
  }

  /** The numbers of those stores of the copies whose key is accepted. */
  public BitSet storesThat(Predicate<String> accepted) {
    BitSet all = new BitSet();
    int last = -1;
    for (int place = 0; place < count(); place++) {
      int number = store(place);
      if (number != last) {
        all.set(number);
        last = number;
      }
    }
    return texts.those(all, accepted);
  }

  /** The number that stands for a store within this set; −1 when no copy is there. */
  public int storeNumber(String key) {
    int last = -1;
    for (int place = 0; place < count(); place++) {
      int number = store(place);
      // The same few stores come again and again, so that the text is hardly ever looked at twice.
      if (number != last && texts.get(number).equals(key)) {
        return number;
      }
      last = number;
    }
    return -1;
  }

  /** The key of a store of {@link #store}. */
  public String storeKey(int number) {
    return texts.get(number);
  }
}
