package hardproof.core.facts;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.points.Consistency;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.points.SourceRole;
import java.io.ByteArrayOutputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.function.IntFunction;
import java.util.function.ToLongFunction;
import java.util.stream.IntStream;

/**
 * Every state that ever was known of the points and copies of one resource, packed by columns: what was
 * known at any instant is had from it in one go, some hundred times faster than row by row. Made from
 * the facts and never the other way round, so it can be thrown away at any time.
 */
public final class PackedStates {
  /** Of the layout of the bytes; to be raised when that changes. */
  private static final int LAYOUT = 1;

  /** Packed in another layout or by another order of codes it can't be read: then it is made again. */
  private static final long CODES = Arrays.deepHashCode(new Object[] {
    LAYOUT,
    names(PointField.values()),
    names(CopyField.values()),
    names(Form.values()),
    names(PointOutcome.values()),
    names(Consistency.values()),
    names(SourceRole.values()),
    names(CopyState.values())
  });

  private final String resource;
  private final int pointStates;
  private final Column[] points;
  private final int copyStates;
  private final Column[] copies;
  private final Texts texts;

  private PackedStates(
      String resource,
      int pointStates,
      Column[] points,
      int copyStates,
      Column[] copies,
      Texts texts) {
    this.resource = resource;
    this.pointStates = pointStates;
    this.points = points;
    this.copyStates = copyStates;
    this.copies = copies;
    this.texts = texts;
  }

  private static String[] names(Enum<?>[] values) {
    return Arrays.stream(values).map(Enum::name).toArray(String[]::new);
  }

  /**
   * @param points states of points of one resource, in any order
   * @param copies states of copies, in any order
   */
  public static byte[] pack(List<State<RecoveryPoint>> points, List<State<Copy>> copies) {
    return of("", points, copies).bytes();
  }

  /** The columns of these states, not packed. */
  static PackedStates of(
      String resource, List<State<RecoveryPoint>> points, List<State<Copy>> copies) {
    List<State<RecoveryPoint>> sorted = new ArrayList<>(points);
    sorted.sort(Comparator.comparing((State<RecoveryPoint> s) -> s.fact().dataTime())
        .thenComparing(s -> s.fact().key())
        .thenComparing(State::recordedAt));
    Map<String, Integer> order = new HashMap<>();
    Texts.Collector texts = new Texts.Collector();
    for (State<RecoveryPoint> state : sorted) {
      order.putIfAbsent(state.fact().key(), texts.number(state.fact().key()));
    }
    List<State<Copy>> sortedCopies = new ArrayList<>(copies);
    sortedCopies.sort(Comparator.comparing(
            (State<Copy> s) -> order.getOrDefault(s.fact().point(), Integer.MAX_VALUE))
        .thenComparing(s -> s.fact().store())
        .thenComparing(State::recordedAt));
    Column[] pointColumns = Arrays.stream(PointField.values())
        .map(f -> column(
            sorted,
            f == PointField.RECORDED_AT,
            f == PointField.REPLACED_AT,
            fact -> f.of(fact, texts::number)))
        .toArray(Column[]::new);
    Column[] copyColumns = Arrays.stream(CopyField.values())
        .map(f -> column(
            sortedCopies,
            f == CopyField.RECORDED_AT,
            f == CopyField.REPLACED_AT,
            fact -> f.of(fact, texts::number)))
        .toArray(Column[]::new);
    return new PackedStates(
        resource, sorted.size(), pointColumns, sortedCopies.size(), copyColumns, texts.texts());
  }

  private static <T> Column column(
      List<State<T>> states, boolean recorded, boolean replaced, ToLongFunction<T> ofFact) {
    return Column.of(states.stream()
        .mapToLong(s ->
            recorded ? s.recordedAt() : replaced ? s.replacedAt() : ofFact.applyAsLong(s.fact()))
        .toArray());
  }

  private byte[] bytes() {
    ByteArrayOutputStream out = new ByteArrayOutputStream(1 << 14);
    for (long number : new long[] {CODES, pointStates, copyStates, texts.size()}) {
      PackedColumn.writeLong(number, out);
    }
    for (PointField field : PointField.values()) {
      PackedColumn.pack(points[field.ordinal()], base(field), pointStates, out);
    }
    for (CopyField field : CopyField.values()) {
      PackedColumn.pack(copies[field.ordinal()], base(field), copyStates, out);
    }
    texts.pack(out);
    out.writeBytes(new byte[PackedColumn.SLACK]);
    return out.toByteArray();
  }

  /** The times of a point lie near its data time. */
  private Column base(PointField field) {
    return switch (field) {
      case STARTED, AVAILABLE, RECORDED_AT -> points[PointField.DATA_TIME.ordinal()];
      default -> null;
    };
  }

  /** The times of a copy lie near the time it was finished. */
  private Column base(CopyField field) {
    return switch (field) {
      case LOCKED_UNTIL, EXPIRES, LAST_READ, RECORDED_AT -> copies[CopyField.FINISHED.ordinal()];
      default -> null;
    };
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
          + " are of another version; start the program anew, and" + " they are packed again");
    }
    int points = in.nextInt();
    int copies = in.nextInt();
    int texts = in.nextInt();
    Column[] pointColumns = new Column[PointField.COUNT];
    PackedStates states =
        new PackedStates(resource, points, pointColumns, copies, new Column[CopyField.COUNT], null);
    for (PointField field : PointField.values()) {
      states.points[field.ordinal()] = in.next(states.base(field), points);
    }
    for (CopyField field : CopyField.values()) {
      states.copies[field.ordinal()] = in.next(states.base(field), copies);
    }
    return new PackedStates(
        resource,
        points,
        pointColumns,
        copies,
        states.copies,
        Texts.packed(bytes, in.position(), texts));
  }

  /** What was known at {@code instant}, in epoch milliseconds. */
  public PointSet at(long instant) {
    int[] known = known(
        instant,
        pointStates,
        points[PointField.RECORDED_AT.ordinal()],
        points[PointField.REPLACED_AT.ordinal()]);
    int[] knownCopies = known(
        instant,
        copyStates,
        copies[CopyField.RECORDED_AT.ordinal()],
        copies[CopyField.REPLACED_AT.ordinal()]);
    return new PointSet(
        resource,
        known == null ? pointStates : known.length,
        select(points, known),
        knownCopies == null ? copyStates : knownCopies.length,
        select(copies, knownCopies),
        texts);
  }

  /**
   * What by {@code known} had been told of the instant {@code judged}, which is not later; both in epoch
   * milliseconds. A point counts as it is known last if it was available by then; a copy as it was known
   * then, with what later states tell of its finish and its read-backs up to then.
   */
  public PointSet at(long judged, long known) {
    if (known == judged || newest(points, copies) <= judged) {
      return at(judged);
    }
    int[] rows = new HindsightRows(judged, known).points(points, pointStates);
    HindsightRows.Copies chosen = new HindsightRows(judged, known).copies(copies, copyStates);
    Column[] told = select(copies, chosen.rows());
    told[CopyField.LAST_READ.ordinal()] = Column.of(chosen.lastRead());
    told[CopyField.LAST_READ_PASSED.ordinal()] = Column.of(chosen.lastReadPassed());
    return new PointSet(
        resource, rows.length, select(points, rows), chosen.rows().length, told, texts);
  }

  /** When the last of all states was recorded. */
  private long newest(Column[] ofPoints, Column[] ofCopies) {
    Column p = ofPoints[PointField.RECORDED_AT.ordinal()];
    Column c = ofCopies[CopyField.RECORDED_AT.ordinal()];
    return Math.max(
        IntStream.range(0, pointStates).mapToLong(p::get).max().orElse(Long.MIN_VALUE),
        IntStream.range(0, copyStates).mapToLong(c::get).max().orElse(Long.MIN_VALUE));
  }

  /**
   * The same with states that became known since. One that is there already (of the same fact and
   * instant) is taken as it is now; of what a new state replaces, the end is set.
   */
  public byte[] with(List<State<RecoveryPoint>> newPoints, List<State<Copy>> newCopies) {
    PointSet all = new PointSet(resource, pointStates, points, copyStates, copies, texts);
    Column[] p = points;
    Column[] c = copies;
    List<State<RecoveryPoint>> allPoints = states(
        pointStates,
        all::point,
        p[PointField.RECORDED_AT.ordinal()],
        p[PointField.REPLACED_AT.ordinal()]);
    List<State<Copy>> allCopies = states(
        copyStates,
        all::copy,
        c[CopyField.RECORDED_AT.ordinal()],
        c[CopyField.REPLACED_AT.ordinal()]);
    return pack(
        merged(allPoints, newPoints, RecoveryPoint::key),
        merged(allCopies, newCopies, k -> k.point() + "\u0000" + k.store()));
  }

  private static <T> List<State<T>> states(
      int rows, IntFunction<T> fact, Column recorded, Column replaced) {
    return IntStream.range(0, rows)
        .mapToObj(i -> new State<>(fact.apply(i), null, recorded.get(i), replaced.get(i)))
        .toList();
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

  /** The rows known at an instant; null for all of them. */
  private static int[] known(long instant, int rows, Column recorded, Column replaced) {
    if (recorded.isConstant()
        && replaced.isConstant()
        && recorded.get(0) <= instant
        && instant < replaced.get(0)) {
      return null;
    }
    return IntStream.range(0, rows)
        .filter(i -> recorded.get(i) <= instant && instant < replaced.get(i))
        .toArray();
  }

  private static Column[] select(Column[] columns, int[] rows) {
    if (rows == null) {
      return columns;
    }
    return Arrays.stream(columns).map(c -> c.select(rows)).toArray(Column[]::new);
  }
}
