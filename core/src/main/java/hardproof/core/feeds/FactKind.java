package hardproof.core.feeds;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.function.IntToLongFunction;
import java.util.function.LongFunction;
import org.jspecify.annotations.Nullable;

/**
 * A kind of fact by its fields: from them follow how it is read from a file, written to one and kept. A new field is
 * one line here, beside the component of the record.
 */
public final class FactKind<T> {
  private final String table;
  private final List<Field<T, ?>> fields;
  private final List<Field<T, ?>> keys;
  private final Map<String, Field<T, ?>> byName = new HashMap<>();
  private final Function<FactValues, T> maker;
  private final BiConsumer<FactValues, RowReader> check;
  private final Function<T, @Nullable Instant> speaksOf;
  private final @Nullable Chain<T> chain;
  private final Function<T, List<String>> needs;
  private final @Nullable Listed<T> listed;
  private final boolean canNeed;

  /**
   * A kind of which a full listing may leave one out that was there.
   *
   * @param since since when it has been left out; null while it is listed
   * @param leftOut the same, left out since then
   */
  public record Listed<T>(
      Function<T, @Nullable Instant> since, BiFunction<T, Instant, T> leftOut) {}

  /**
   * A field that leads from a fact to another of its kind, and may not lead back.
   *
   * @param whenCircular what is said of one that does
   */
  public record Chain<T>(Field<T, String> field, String whenCircular) {}

  private FactKind(Fields<T> fields, Function<FactValues, T> maker) {
    this.table = fields.table;
    this.fields = List.copyOf(fields.all);
    this.keys = List.copyOf(fields.keys);
    this.maker = maker;
    this.check = fields.check;
    this.speaksOf = fields.speaksOf;
    this.chain = fields.chain;
    this.needs = fields.needs;
    this.listed = fields.listed;
    this.fields.forEach(f -> byName.put(f.name(), f));
    this.canNeed = byName.containsKey("needs");
  }

  /** The fields of a kind while they are named. */
  static final class Fields<T> {
    private final String table;
    private final List<Field<T, ?>> all = new ArrayList<>();
    private final List<Field<T, ?>> keys = new ArrayList<>();
    private BiConsumer<FactValues, RowReader> check = (v, r) -> {};
    private Function<T, @Nullable Instant> speaksOf = fact -> null;
    private @Nullable Chain<T> chain;
    private Function<T, List<String>> needs = fact -> List.of();
    private @Nullable Listed<T> listed;

    private Fields(String table) {
      this.table = table;
    }

    private <V> Field<T, V> add(
        String name,
        String column,
        FieldType<V> type,
        boolean required,
        boolean ours,
        Function<T, @Nullable V> value) {
      Field<T, V> field = new Field<>(name, all.size(), type, required, ours, column, value);
      all.add(field);
      return field;
    }

    /** What it is known by. */
    <V> Field<T, V> key(String name, FieldType<V> type, Function<T, @Nullable V> value) {
      Field<T, V> field = required(name, type, value);
      keys.add(field);
      return field;
    }

    <V> Field<T, V> required(String name, FieldType<V> type, Function<T, @Nullable V> value) {
      return add(name, name, type, true, false, value);
    }

    <V> Field<T, V> optional(String name, FieldType<V> type, Function<T, @Nullable V> value) {
      return optional(name, name, type, value);
    }

    <V> Field<T, V> optional(
        String name, String column, FieldType<V> type, Function<T, @Nullable V> value) {
      return add(name, column, type, false, false, value);
    }

    /** Written down by us: in no file that is brought in. */
    <V> Field<T, V> ours(String name, FieldType<V> type, Function<T, @Nullable V> value) {
      return add(name, name, type, false, true, value);
    }

    /** What only several fields together can show to be wrong. */
    void check(BiConsumer<FactValues, RowReader> together) {
      check = together;
    }

    /** The instant that a fact tells of. */
    void speaksOf(Function<T, @Nullable Instant> instant) {
      speaksOf = instant;
    }

    void chain(Field<T, String> field, String whenCircular) {
      chain = new Chain<>(field, whenCircular);
    }

    void listed(Function<T, @Nullable Instant> since, BiFunction<T, Instant, T> leftOut) {
      listed = new Listed<>(since, leftOut);
    }

    void needs(Function<T, List<String>> others) {
      needs = others;
    }
  }

  /**
   * @param named names the fields, in the order of the columns of a file, and gives what makes a fact of their values
   */
  static <T> FactKind<T> of(String table, Function<Fields<T>, Function<FactValues, T>> named) {
    Fields<T> fields = new Fields<>(table);
    Function<FactValues, T> maker = named.apply(fields);
    return new FactKind<>(fields, maker);
  }

  /** Where it is kept. */
  public String table() {
    return table;
  }

  /** All of them, with those that are ours. */
  public List<Field<T, ?>> fields() {
    return fields;
  }

  public List<Field<T, ?>> keys() {
    return keys;
  }

  public Field<T, ?> field(String name) {
    return byName.get(name);
  }

  /** The instant that a fact tells of; null where it tells of none. */
  public @Nullable Instant speaksOf(T fact) {
    return speaksOf.apply(fact);
  }

  /** Null where facts of this kind do not hang from each other. */
  public @Nullable Chain<T> chain() {
    return chain;
  }

  /** Null for a kind of which there are no full listings. */
  public @Nullable Listed<T> listed() {
    return listed;
  }

  /** Keys of what it needs; empty for a kind that needs nothing. */
  public List<String> needs(T fact) {
    return needs.apply(fact);
  }

  public boolean canNeed() {
    return canNeed;
  }

  /** The fact of a row, or null where the reader has found what is wrong. */
  @Nullable
  T read(RowReader row, FactReader reader) {
    Object[] values = new Object[fields.size()];
    for (Field<T, ?> field : fields) {
      values[field.place()] = field.ours() ? null : field.read(row);
    }
    FactValues made = new FactValues(values, reader.feed(), false, reader.recordedAt());
    check.accept(made, row);
    return row.ok() ? maker.apply(made) : null;
  }

  /** The fact that was kept. */
  public T restore(
      Object[] kept, String feed, boolean decidedHere, Instant recordedAt, Notation notation) {
    KeptRow row = new KeptRow(this, kept, notation);
    Object[] values = new Object[kept.length];
    for (Field<T, ?> field : fields) {
      values[field.place()] = field.restore(row);
    }
    return maker.apply(new FactValues(values, feed, decidedHere, recordedAt));
  }

  /**
   * The fact of a row of columns that {@link Field#pack} filled.
   *
   * @param packed the number at the place of a field
   */
  public T unpack(
      IntToLongFunction packed,
      long none,
      LongFunction<String> texts,
      String feed,
      @Nullable Instant recordedAt) {
    Object[] values = new Object[fields.size()];
    for (Field<T, ?> field : fields) {
      values[field.place()] = field.unpack(packed.applyAsLong(field.place()), none, texts);
    }
    return maker.apply(new FactValues(values, feed, false, recordedAt));
  }

  /** A row of a file; what is not known is left out. */
  public Map<String, String> row(T fact, Notation notation) {
    Map<String, String> row = new LinkedHashMap<>();
    for (Field<T, ?> field : fields) {
      String text = field.ours() ? null : field.write(fact, notation);
      if (text != null) {
        row.put(field.name(), text);
      }
    }
    return row;
  }
}
