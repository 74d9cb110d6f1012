package hardproof.core.facts;

import hardproof.core.census.CensusFact;
import hardproof.core.copies.Copy;
import hardproof.core.points.Consistency;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import java.time.Duration;
import java.util.AbstractList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.RandomAccess;
import org.jspecify.annotations.Nullable;

/**
 * The points of one resource, oldest data first, each with its copies by store. Immutable. Held as
 * columns, because arithmetic over thousands of rows needs few of their fields; a point or copy is made
 * an object when it is asked for. Rows count from 0; times are epoch milliseconds, {@link #NONE} where
 * not known.
 */
public final class PointSet {
  /** Where nothing is known. */
  public static final long NONE = Column.NONE;

  private static final PackedKind<RecoveryPoint> KIND = PackedKind.POINTS;
  private static final int KEY = KIND.column("key");
  private static final int FORM = KIND.column("form");
  private static final int BASED_ON = KIND.column("based_on");
  private static final int DATA_TIME = KIND.column("data_time");
  private static final int AVAILABLE = KIND.column("available");
  private static final int STARTED = KIND.column("started");
  private static final int SIZE = KIND.column("size");
  private static final int OUTCOME = KIND.column("outcome");
  private static final int CONSISTENCY = KIND.column("consistency");
  private static final int ENCRYPTED = KIND.column("encrypted");
  private static final int PRE_STEP = KIND.column("pre_step");
  private static final Form[] FORMS = Form.values();
  private static final PointOutcome[] OUTCOMES = PointOutcome.values();
  private static final Consistency[] CONSISTENCIES = Consistency.values();

  public static final PointSet EMPTY = of(List.of(), Map.of());

  private final int size;
  private final Column[] columns;
  private final PointCopies copies;
  private final Texts texts;

  // The columns that arithmetic goes over most, so that none has to be looked up for each row.
  private final Column form;
  private final Column basedOn;
  private final Column dataTime;
  private final Column available;
  private final Column outcome;
  private final Column consistency;

  /** The row of the point whose key has a text's number; −1 where it is no point's. */
  private final int[] rowOfText;

  private final RecoveryPoint[] made;
  private final List<RecoveryPoint> list = new Points();

  /** What was asked for last: the copies of one point after another are. */
  private volatile @Nullable Told told;

  private record Told(List<CensusFact> found, PointSet set) {}

  /**
   * @param columns of the points, sorted by data time and key, one row for each key
   * @param copies of any points, {@code copyCount} rows
   */
  PointSet(int size, Column[] columns, int copyCount, Column[] copies, Texts texts) {
    this.size = size;
    this.columns = columns;
    this.texts = texts;
    this.made = new RecoveryPoint[size];
    this.form = columns[FORM];
    this.basedOn = columns[BASED_ON];
    this.dataTime = columns[DATA_TIME];
    this.available = columns[AVAILABLE];
    this.outcome = columns[OUTCOME];
    this.consistency = columns[CONSISTENCY];
    this.rowOfText = new int[texts.size()];
    Arrays.fill(rowOfText, -1);
    for (int i = 0; i < size; i++) {
      rowOfText[(int) columns[KEY].get(i)] = i;
    }
    this.copies = new PointCopies(copies, copyCount, texts, rowOfText, size);
  }

  private PointSet(PointSet before, PointCopies copies) {
    this.size = before.size;
    this.columns = before.columns;
    this.texts = before.texts;
    this.made = before.made;
    this.form = before.form;
    this.basedOn = before.basedOn;
    this.dataTime = before.dataTime;
    this.available = before.available;
    this.outcome = before.outcome;
    this.consistency = before.consistency;
    this.rowOfText = before.rowOfText;
    this.copies = copies;
  }

  /** The same, locked as its stores say themselves where that is not as claimed. */
  PointSet asStoresSay(List<CensusFact> found) {
    Told known = told;
    if (known == null || known.found() != found) {
      Map<Integer, Long> until = LocksTold.of(this, found);
      PointSet set = until.isEmpty() ? this : new PointSet(this, copies.locked(until));
      known = new Told(found, set);
      told = known;
    }
    return known.set();
  }

  /**
   * @param points of one resource, in any order
   * @param copies by the key of their point; those of other points are not looked at
   */
  public static PointSet of(List<RecoveryPoint> points, Map<String, List<Copy>> copies) {
    List<State<Copy>> own = states(points, copies);
    return PackedStates.of(
            points.stream()
                .map(p -> new State<>(p, p.feed(), NONE, Long.MAX_VALUE))
                .toList(),
            own)
        .at(Long.MAX_VALUE - 1);
  }

  private static List<State<Copy>> states(
      List<RecoveryPoint> points, Map<String, List<Copy>> copies) {
    return points.stream()
        .flatMap(p -> copies.getOrDefault(p.key(), List.of()).stream())
        .map(c -> new State<>(
            c,
            c.feed(),
            c.recordedAt() == null ? NONE : c.recordedAt().toEpochMilli(),
            Long.MAX_VALUE))
        .toList();
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
      point = KIND.fact(columns, row, texts);
      made[row] = point;
    }
    return point;
  }

  /** The point with a key; null when the resource has none. */
  public @Nullable RecoveryPoint point(String key) {
    int row = row(key);
    return row < 0 ? null : point(row);
  }

  /** The row of a point by its key; −1 when there is none. */
  public int row(String key) {
    int text = key == null ? -1 : texts.numberOf(key);
    return text < 0 ? -1 : rowOfText[text];
  }

  public String key(int row) {
    return texts.get(columns[KEY].get(row));
  }

  /** Who told of it; null when nobody is known to have. */
  public @Nullable String feed(int row) {
    return texts.one(columns[KIND.feed()].get(row));
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

  /** How large it is, in bytes; {@link #NONE} where not known. */
  public long sizeBytes(int row) {
    return columns[SIZE].get(row);
  }

  /** How long it took to make, as {@link RecoveryPoint#runTime}; null while it is being made. */
  public @Nullable Duration runTime(int row) {
    if (available(row) == NONE) {
      return null;
    }
    long started = columns[STARTED].get(row);
    return Duration.ofMillis(available(row) - (started == NONE ? dataTime(row) : started));
  }

  /** 1 when it is encrypted, 0 when it is not. */
  public long encrypted(int row) {
    return columns[ENCRYPTED].get(row);
  }

  /** 1 when the step before it ran, 0 when it did not. */
  public long preStep(int row) {
    return columns[PRE_STEP].get(row);
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
  public @Nullable String basedOnKey(int row) {
    return texts.get(basedOn.get(row));
  }

  /** The copies of all points. */
  public PointCopies copies() {
    return copies;
  }

  /** The copies of the point in {@code row}. */
  public List<Copy> copiesOf(int row) {
    return copies.of(row);
  }

  public List<Copy> copiesOf(RecoveryPoint point) {
    int row = row(point.key());
    return row < 0 ? List.of() : copies.of(row);
  }
}
