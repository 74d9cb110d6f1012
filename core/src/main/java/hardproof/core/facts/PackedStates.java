package hardproof.core.facts;

import hardproof.core.copies.Copy;
import hardproof.core.points.RecoveryPoint;
import java.io.ByteArrayOutputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/**
 * Every state that ever was known of the points and copies of one resource, packed by columns: what was
 * known at any instant is had from it in one go, some hundred times faster than row by row. Made from
 * the facts and never the other way round, so it can be thrown away at any time.
 */
public final class PackedStates {
  private static final PackedKind<RecoveryPoint> POINTS = PackedKind.POINTS;
  private static final PackedKind<Copy> COPIES = PackedKind.COPIES;

  /** Of the layout of the bytes; to be raised when that changes. */
  private static final int LAYOUT = 2;

  /** Packed in another layout or by another order of codes it can't be read: then it is made again. */
  private static final long CODES =
      Arrays.deepHashCode(new Object[] {LAYOUT, POINTS.layout(), COPIES.layout()});

  private final int pointStates;
  private final Column[] points;
  private final int copyStates;
  private final Column[] copies;
  private final Texts texts;

  private PackedStates(
      int pointStates, Column[] points, int copyStates, Column[] copies, Texts texts) {
    this.pointStates = pointStates;
    this.points = points;
    this.copyStates = copyStates;
    this.copies = copies;
    this.texts = texts;
  }

  /**
   * @param points states of points of one resource, in any order
   * @param copies states of copies, in any order
   */
  public static byte[] pack(List<State<RecoveryPoint>> points, List<State<Copy>> copies) {
    return of(points, copies).bytes();
  }

  /** The columns of these states, not packed. */
  static PackedStates of(List<State<RecoveryPoint>> points, List<State<Copy>> copies) {
    List<State<RecoveryPoint>> sorted = inOrder(points);
    Map<String, Integer> order = new HashMap<>();
    Texts.Collector texts = new Texts.Collector();
    for (State<RecoveryPoint> state : sorted) {
      order.putIfAbsent(state.fact().key(), texts.number(state.fact().key()));
    }
    List<State<Copy>> sortedCopies = inOrder(copies, order);
    Column[] pointColumns = POINTS.pack(sorted, texts::number);
    Column[] copyColumns = COPIES.pack(sortedCopies, texts::number);
    return new PackedStates(
        sorted.size(), pointColumns, sortedCopies.size(), copyColumns, texts.texts());
  }

  private static List<State<RecoveryPoint>> inOrder(List<State<RecoveryPoint>> points) {
    List<State<RecoveryPoint>> sorted = new ArrayList<>(points);
    sorted.sort(Comparator.comparing((State<RecoveryPoint> s) -> s.fact().dataTime())
        .thenComparing(s -> s.fact().key())
        .thenComparing(State::recordedAt));
    return sorted;
  }

  private static List<State<Copy>> inOrder(List<State<Copy>> copies, Map<String, Integer> order) {
    List<State<Copy>> sortedCopies = new ArrayList<>(copies);
    sortedCopies.sort(Comparator.comparing(
            (State<Copy> s) -> order.getOrDefault(s.fact().point(), Integer.MAX_VALUE))
        .thenComparing(s -> s.fact().store())
        .thenComparing(State::recordedAt));
    return sortedCopies;
  }

  private byte[] bytes() {
    ByteArrayOutputStream out = new ByteArrayOutputStream(1 << 14);
    for (long number : new long[] {CODES, pointStates, copyStates, texts.size()}) {
      PackedColumn.writeLong(number, out);
    }
    for (int i = 0; i < points.length; i++) {
      PackedColumn.pack(points[i], POINTS.base(i, points), pointStates, out);
    }
    for (int i = 0; i < copies.length; i++) {
      PackedColumn.pack(copies[i], COPIES.base(i, copies), copyStates, out);
    }
    texts.pack(out);
    out.writeBytes(new byte[PackedColumn.SLACK]);
    return out.toByteArray();
  }

  /** Whether {@link #read} understands the bytes; if not, they are to be made again. */
  public static boolean readable(byte[] bytes) {
    return bytes.length > Long.BYTES && new PackedColumn.Reader(bytes, 0).nextLong() == CODES;
  }

  /**
   * @param resource whose states they are
   * @throws IllegalArgumentException when they were packed by another version
   */
  public static PackedStates read(String resource, byte[] bytes) {
    PackedColumn.Reader in = new PackedColumn.Reader(bytes, 0);
    if (in.nextLong() != CODES) {
      throw new IllegalArgumentException("the packed points of " + resource
          + " are of another version; start the program anew, and they are packed again");
    }
    int points = in.nextInt();
    int copies = in.nextInt();
    int texts = in.nextInt();
    Column[] pointColumns = columns(in, POINTS, points);
    Column[] copyColumns = columns(in, COPIES, copies);
    return new PackedStates(
        points, pointColumns, copies, copyColumns, Texts.packed(bytes, in.position(), texts));
  }

  private static Column[] columns(PackedColumn.Reader in, PackedKind<?> kind, int rows) {
    Column[] columns = new Column[kind.count()];
    for (int i = 0; i < columns.length; i++) {
      columns[i] = in.next(kind.base(i, columns), rows);
    }
    return columns;
  }

  /** What was known at {@code instant}, in epoch milliseconds. */
  public PointSet at(long instant) {
    int[] known = POINTS.known(points, pointStates, instant);
    int[] knownCopies = COPIES.known(copies, copyStates, instant);
    return new PointSet(
        known == null ? pointStates : known.length,
        PackedKind.select(points, known),
        knownCopies == null ? copyStates : knownCopies.length,
        PackedKind.select(copies, knownCopies),
        texts);
  }

  /**
   * What by {@code known} had been told of the instant {@code judged}, which is not later; both in epoch
   * milliseconds. A point counts as it is known last if it was available by then; a copy as it was known
   * then, with what later states tell of its finish and its read-backs up to then.
   */
  public PointSet at(long judged, long known) {
    long newest = Math.max(POINTS.newest(points, pointStates), COPIES.newest(copies, copyStates));
    if (known == judged || newest <= judged) {
      return at(judged);
    }
    HindsightRows hindsight = new HindsightRows(judged, known);
    int[] rows = hindsight.points(points, pointStates);
    HindsightRows.Copies chosen = hindsight.copies(copies, copyStates);
    return new PointSet(
        rows.length,
        PackedKind.select(points, rows),
        chosen.rows().length,
        chosen.select(copies),
        texts);
  }

  /**
   * The same with states that became known since. One that is there already (of the same fact and
   * instant) is taken as it is now; of what a new state replaces, the end is set.
   */
  public byte[] with(List<State<RecoveryPoint>> newPoints, List<State<Copy>> newCopies) {
    return pack(
        merged(POINTS.states(points, pointStates, texts), newPoints, RecoveryPoint::key),
        merged(
            COPIES.states(copies, copyStates, texts),
            newCopies,
            c -> c.point() + "\u0000" + c.store()));
  }

  private static <T> List<State<T>> merged(
      List<State<T>> old, List<State<T>> added, Function<T, String> key) {
    Map<String, List<State<T>>> byKey = new LinkedHashMap<>();
    old.forEach(
        s -> byKey.computeIfAbsent(key.apply(s.fact()), k -> new ArrayList<>(2)).add(s));
    for (State<T> state : added) {
      List<State<T>> own = byKey.computeIfAbsent(key.apply(state.fact()), k -> new ArrayList<>(2));
      own.removeIf(s -> s.recordedAt() == state.recordedAt());
      own.replaceAll(s -> s.recordedAt() < state.recordedAt() && s.replacedAt() == Long.MAX_VALUE
          ? new State<>(s.fact(), s.feed(), s.recordedAt(), state.recordedAt())
          : s);
      own.add(state);
    }
    return byKey.values().stream().flatMap(List::stream).toList();
  }
}
