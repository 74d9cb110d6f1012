package hardproof.core.facts;

import hardproof.core.copies.Copy;
import hardproof.core.feeds.FactKind;
import hardproof.core.feeds.FactKinds;
import hardproof.core.feeds.Field;
import hardproof.core.points.RecoveryPoint;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.function.Function;
import java.util.function.ToIntFunction;
import java.util.function.ToLongFunction;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * The columns in which facts of a kind are packed: one for each of its fields, in their order, then who told of it,
 * when it was recorded and when it was replaced.
 */
final class PackedKind<T> {
  static final PackedKind<RecoveryPoint> POINTS =
      new PackedKind<>(FactKinds.POINTS, "data_time", RecoveryPoint::feed);
  static final PackedKind<Copy> COPIES = new PackedKind<>(FactKinds.COPIES, "finished", Copy::feed);

  private final FactKind<T> kind;
  private final Function<T, @Nullable String> feed;
  private final int middle;
  private final int fields;

  /**
   * @param middle the time that the other times of a fact lie near to
   */
  private PackedKind(FactKind<T> kind, String middle, Function<T, @Nullable String> feed) {
    this.kind = kind;
    this.feed = feed;
    this.middle = kind.field(middle).place();
    this.fields = kind.fields().size();
  }

  int column(String field) {
    return kind.field(field).place();
  }

  int feed() {
    return fields;
  }

  int recordedAt() {
    return fields + 1;
  }

  int replacedAt() {
    return fields + 2;
  }

  int count() {
    return fields + 3;
  }

  /** What must be the same for packed columns to be understood. */
  Object[] layout() {
    return kind.fields().stream()
        .flatMap(f -> Stream.of(f.name(), f.type().number(), f.type().codes().toString()))
        .toArray();
  }

  Column[] pack(List<State<T>> states, ToIntFunction<String> texts) {
    Column[] columns = new Column[count()];
    for (Field<T, ?> field : kind.fields()) {
      columns[field.place()] = column(states, s -> field.pack(s.fact(), Column.NONE, texts));
    }
    columns[feed()] = column(states, s -> {
      String by = feed.apply(s.fact());
      return by == null ? Column.NONE : texts.applyAsInt(by);
    });
    columns[recordedAt()] = column(states, State::recordedAt);
    columns[replacedAt()] = column(states, State::replacedAt);
    return columns;
  }

  private static <T> Column column(List<State<T>> states, ToLongFunction<State<T>> number) {
    return Column.of(states.stream().mapToLong(number).toArray());
  }

  /** The column that the numbers of one lie near to; null where they lie near to none. */
  @Nullable
  Column base(int column, Column[] columns) {
    boolean near = column == recordedAt()
        || column < fields && column > middle && kind.fields().get(column).isTime();
    return near ? columns[middle] : null;
  }

  T fact(Column[] columns, int row, Texts texts) {
    long recorded = columns[recordedAt()].get(row);
    return kind.unpack(
        column -> columns[column].get(row),
        Column.NONE,
        texts::get,
        texts.get(columns[feed()].get(row)),
        recorded == Column.NONE ? null : Instant.ofEpochMilli(recorded));
  }

  /** All states that the columns hold. */
  List<State<T>> states(Column[] columns, int rows, Texts texts) {
    return IntStream.range(0, rows)
        .mapToObj(row -> new State<>(
            fact(columns, row, texts),
            null,
            columns[recordedAt()].get(row),
            columns[replacedAt()].get(row)))
        .toList();
  }

  /** The rows known at an instant, in epoch milliseconds; null for all of them. */
  int @Nullable [] known(Column[] columns, int rows, long instant) {
    Column recorded = columns[recordedAt()];
    Column replaced = columns[replacedAt()];
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

  /** When the last of the states was recorded. */
  long newest(Column[] columns, int rows) {
    Column recorded = columns[recordedAt()];
    return IntStream.range(0, rows).mapToLong(recorded::get).max().orElse(Long.MIN_VALUE);
  }

  static Column[] select(Column[] columns, int @Nullable [] rows) {
    return rows == null
        ? columns
        : Arrays.stream(columns).map(c -> c.select(rows)).toArray(Column[]::new);
  }
}
