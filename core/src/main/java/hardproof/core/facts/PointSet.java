package hardproof.core.facts;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.points.Consistency;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.points.SourceRole;
import java.time.Instant;
import java.util.AbstractList;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.RandomAccess;
import java.util.function.Predicate;

/**
 * The points of one resource, oldest data first, each with its copies by store. Immutable. Held as
 * columns, because arithmetic over thousands of rows needs few of their fields; a point or copy is made
 * an object when it is asked for. Rows count from 0; times are epoch milliseconds, {@link #NONE} where
 * not known.
 */
public final class PointSet {
  /** Where nothing is known. */
  public static final long NONE = Column.NONE;

  public static final PointSet EMPTY = of(List.of(), Map.of());

  private static final Form[] FORMS = Form.values();
  private static final PointOutcome[] OUTCOMES = PointOutcome.values();
  private static final Consistency[] CONSISTENCIES = Consistency.values();
  private static final SourceRole[] ROLES = SourceRole.values();
  private static final CopyState[] STATES = CopyState.values();

  private final String resource;
  private final int size;
  private final Column[] points;
  private final Column[] copies;
  private final Texts texts;

  // The columns that arithmetic goes over most, so that none has to be looked up for each row.
  private final Column form;
  private final Column basedOn;
  private final Column dataTime;
  private final Column available;
  private final Column outcome;
  private final Column consistency;
  private final Column copyStore;
  private final Column copyState;
  private final Column copyFinished;
  private final Column copyPassed;

  /** The row of the point whose key has a text's number; −1 where it is no point's. */
  private final int[] rowOfText;

  /** The copies of point {@code i} are {@code copyRows[firstCopy[i]]} up to those of the next. */
  private final int[] firstCopy;

  /** Null when the copies lie in the order of their points. */
  private final int[] copyRows;

  private final RecoveryPoint[] made;
  private final List<RecoveryPoint> list = new Points();

  /**
   * @param points sorted by data time and key, one row for each key
   * @param copies of any points, {@code copyCount} rows
   */
  PointSet(
      String resource, int size, Column[] points, int copyCount, Column[] copies, Texts texts) {
    this.resource = resource;
    this.size = size;
    this.points = points;
    this.copies = copies;
    this.texts = texts;
    this.made = new RecoveryPoint[size];
    this.form = p(PointField.FORM);
    this.basedOn = p(PointField.BASED_ON);
    this.dataTime = p(PointField.DATA_TIME);
    this.available = p(PointField.AVAILABLE);
    this.outcome = p(PointField.OUTCOME);
    this.consistency = p(PointField.CONSISTENCY);
    this.copyStore = copies[CopyField.STORE.ordinal()];
    this.copyState = copies[CopyField.STATE.ordinal()];
    this.copyFinished = copies[CopyField.FINISHED.ordinal()];
    this.copyPassed = copies[CopyField.LAST_READ_PASSED.ordinal()];
    this.rowOfText = new int[texts.size()];
    java.util.Arrays.fill(rowOfText, -1);
    for (int i = 0; i < size; i++) {
      rowOfText[(int) p(PointField.KEY).get(i)] = i;
    }
    this.firstCopy = new int[size + 1];
    this.copyRows = sortCopies(copyCount);
  }

  private int[] sortCopies(int count) {
    Column point = copies[CopyField.POINT.ordinal()];
    boolean inOrder = true;
    int before = 0;
    for (int c = 0; c < count; c++) {
      int row = rowOfText[(int) point.get(c)];
      inOrder &= row >= before;
      before = row;
      if (row >= 0) {
        firstCopy[row + 1]++;
      }
    }
    for (int i = 0; i < size; i++) {
      firstCopy[i + 1] += firstCopy[i];
    }
    if (inOrder) {
      return null;
    }
    int[] next = firstCopy.clone();
    int[] rows = new int[firstCopy[size]];
    for (int c = 0; c < count; c++) {
      int row = rowOfText[(int) point.get(c)];
      if (row >= 0) {
        rows[next[row]++] = c;
      }
    }
    return rows;
  }

  /**
   * @param points of one resource, in any order
   * @param copies by the key of their point; those of other points are not looked at
   */
  public static PointSet of(List<RecoveryPoint> points, Map<String, List<Copy>> copies) {
    List<State<Copy>> own = points.stream()
        .flatMap(p -> copies.getOrDefault(p.key(), List.of()).stream())
        .map(c -> new State<>(c, c.feed(), PointField.time(c.recordedAt()), Long.MAX_VALUE))
        .toList();
    return PackedStates.of(
            points.isEmpty() ? "" : points.get(0).resource(),
            points.stream()
                .map(p -> new State<>(p, p.feed(), NONE, Long.MAX_VALUE))
                .toList(),
            own)
        .at(Long.MAX_VALUE - 1);
  }

  private Column p(PointField field) {
    return points[field.ordinal()];
  }

  private long c(CopyField field, int copy) {
    return copies[field.ordinal()].get(copy);
  }

  /** Number of points. */
  public int size() {
    return size;
  }

  public List<RecoveryPoint> points() {
    return list;
  }

  private final class Points extends AbstractList<RecoveryPoint> implements RandomAccess {
    @Override
    public RecoveryPoint get(int row) {
      return point(row);
    }

    @Override
    public int size() {
      return size;
    }
  }

  public RecoveryPoint point(int row) {
    RecoveryPoint point = made[row];
    if (point == null) {
      // Two threads may both make it: the two are equal.
      point = new RecoveryPoint(
          key(row),
          resource,
          texts.get(p(PointField.POLICY).get(row)),
          form(row),
          basedOnKey(row),
          new RecoveryPoint.Times(
              Instant.ofEpochMilli(dataTime(row)),
              instant(p(PointField.STARTED).get(row)),
              instant(available(row))),
          outcome(row),
          new RecoveryPoint.Taken(
              consistency(row),
              yesNo(p(PointField.PRE_STEP).get(row)),
              code(ROLES, p(PointField.SOURCE_ROLE).get(row))),
          new RecoveryPoint.Content(
              number(p(PointField.SIZE_BYTES).get(row)),
              yesNo(p(PointField.ENCRYPTED).get(row)),
              number(p(PointField.SKIPPED_ITEMS).get(row))),
          texts.get(p(PointField.FEED).get(row)));
      made[row] = point;
    }
    return point;
  }

  /** The point with a key; null when the resource has none. */
  public RecoveryPoint point(String key) {
    int row = row(key);
    return row < 0 ? null : point(row);
  }

  private int row(String key) {
    int text = key == null ? -1 : texts.numberOf(key);
    return text < 0 ? -1 : rowOfText[text];
  }

  public String key(int row) {
    return texts.get(p(PointField.KEY).get(row));
  }

  public long dataTime(int row) {
    return dataTime.get(row);
  }

  public long available(int row) {
    return available.get(row);
  }

  public Form form(int row) {
    return FORMS[(int) form.get(row)];
  }

  public PointOutcome outcome(int row) {
    return OUTCOMES[(int) outcome.get(row)];
  }

  public Consistency consistency(int row) {
    return CONSISTENCIES[(int) consistency.get(row)];
  }

  /** 1 when it is encrypted, 0 when it is not. */
  public long encrypted(int row) {
    return p(PointField.ENCRYPTED).get(row);
  }

  /** 1 when the step before it ran, 0 when it did not. */
  public long preStep(int row) {
    return p(PointField.PRE_STEP).get(row);
  }

  /** Whether it hangs from another point. */
  public boolean hangs(int row) {
    return basedOn.get(row) != NONE;
  }

  /** The row of the point it hangs from; −1 when that is missing. */
  public int basedOn(int row) {
    return rowOfText[(int) basedOn.get(row)];
  }

  /** Null when it stands alone. */
  public String basedOnKey(int row) {
    return texts.get(basedOn.get(row));
  }

  /**
   * The place of the copy that was read back last, of those that passed if {@code passed}; −1 when none
   * was. Of several the first.
   */
  public int newestRead(boolean passed) {
    Column lastRead = copies[CopyField.LAST_READ.ordinal()];
    int newest = -1;
    if (lastRead.isConstant() && lastRead.get(0) == NONE) {
      return newest;
    }
    for (int place = 0; place < firstCopy[size]; place++) {
      long read = copyLastRead(place);
      boolean counts = read != NONE && (!passed || copyLastReadPassed(place) == 1);
      if (counts && (newest < 0 || read > copyLastRead(newest))) {
        newest = place;
      }
    }
    return newest;
  }

  /** The copies of the point in {@code row}. */
  public List<Copy> copiesOf(int row) {
    List<Copy> own = new ArrayList<>(firstCopy[row + 1] - firstCopy[row]);
    for (int i = firstCopy[row]; i < firstCopy[row + 1]; i++) {
      own.add(copy(copyAt(i)));
    }
    return own;
  }

  public List<Copy> copiesOf(RecoveryPoint point) {
    int row = row(point.key());
    return row < 0 ? List.of() : copiesOf(row);
  }

  /**
   * Where the copies of a point begin: they are at the places from {@code firstCopy(row)} on, up to
   * {@code firstCopy(row + 1)}, exclusive.
   */
  public int firstCopy(int row) {
    return firstCopy[row];
  }

  private int copyAt(int i) {
    return copyRows == null ? i : copyRows[i];
  }

  /** The copy at a place counted as by {@link #firstCopy}. */
  public Copy copyAtPlace(int place) {
    return copy(copyAt(place));
  }

  public CopyState copyState(int place) {
    return STATES[(int) copyState.get(copyAt(place))];
  }

  public long copyFinished(int place) {
    return copyFinished.get(copyAt(place));
  }

  public long copyExpires(int place) {
    return c(CopyField.EXPIRES, copyAt(place));
  }

  public long copyLockedUntil(int place) {
    return c(CopyField.LOCKED_UNTIL, copyAt(place));
  }

  public long copyRecordedAt(int place) {
    return c(CopyField.RECORDED_AT, copyAt(place));
  }

  public long copyLastRead(int place) {
    return c(CopyField.LAST_READ, copyAt(place));
  }

  /** 1 when its last read-back passed, 0 when it failed. */
  public long copyLastReadPassed(int place) {
    return copyPassed.get(copyAt(place));
  }

  /** The feed that told of it; null where not known. */
  public String copyFeed(int place) {
    return texts.get(c(CopyField.FEED, copyAt(place)));
  }

  /** A number that stands for the copy's store within this set. */
  public int copyStore(int place) {
    return (int) copyStore.get(copyAt(place));
  }

  /** The numbers of those stores of its copies whose key is accepted. */
  public BitSet storesThat(Predicate<String> accepted) {
    BitSet all = new BitSet();
    int last = -1;
    for (int place = 0; place < firstCopy[size]; place++) {
      int number = copyStore(place);
      if (number != last) {
        all.set(number);
        last = number;
      }
    }
    return texts.those(all, accepted);
  }

  /** The number that stands for a store within this set; −1 when no copy is there. */
  public int storeNumber(String store) {
    int last = -1;
    for (int place = 0; place < firstCopy[size]; place++) {
      int number = copyStore(place);
      // The same few stores come again and again, so that the text is hardly ever looked at twice.
      if (number != last && texts.get(number).equals(store)) {
        return number;
      }
      last = number;
    }
    return -1;
  }

  /** The key of a store of {@link #copyStore}. */
  public String storeKey(int number) {
    return texts.get(number);
  }

  Copy copy(int c) {
    return new Copy(
        texts.get(c(CopyField.POINT, c)),
        texts.get(c(CopyField.STORE, c)),
        instant(c(CopyField.FINISHED, c)),
        STATES[(int) c(CopyField.STATE, c)],
        instant(c(CopyField.LOCKED_UNTIL, c)),
        instant(c(CopyField.EXPIRES, c)),
        new Copy.Artifact(
            texts.get(c(CopyField.FORMAT, c)),
            texts.get(c(CopyField.PLACE, c)),
            texts.get(c(CopyField.SHA256, c)),
            texts.get(c(CopyField.MANIFEST, c))),
        new Copy.ReadBack(
            instant(c(CopyField.LAST_READ, c)), yesNo(c(CopyField.LAST_READ_PASSED, c))),
        instant(c(CopyField.RECORDED_AT, c)),
        texts.get(c(CopyField.FEED, c)));
  }

  private static Instant instant(long value) {
    return value == NONE ? null : Instant.ofEpochMilli(value);
  }

  private static Boolean yesNo(long value) {
    return value == NONE ? null : value == 1;
  }

  private static Long number(long value) {
    return value == NONE ? null : value;
  }

  private static <E> E code(E[] codes, long value) {
    return value == NONE ? null : codes[(int) value];
  }
}
