package hardproof.core.feeds;

import java.util.List;
import java.util.function.Function;
import java.util.function.LongFunction;
import java.util.function.ToIntFunction;
import org.jspecify.annotations.Nullable;

/**
 * A field of a kind of fact: the one place that says its name, what it holds and where it is kept.
 *
 * @param place among the fields of its kind, from 0
 * @param required whether a row without it is refused
 * @param ours whether it is written down by us, and so in no file that is brought in
 * @param column the name by which it is kept
 * @param value what a fact has there
 */
public record Field<T, V>(
    String name,
    int place,
    FieldType<V> type,
    boolean required,
    boolean ours,
    String column,
    Function<T, @Nullable V> value) {

  /** Whether it is an instant. */
  public boolean isTime() {
    return type.equals(FieldType.TIME) || type.equals(FieldType.PAST);
  }

  /** The units in which an export may give plain numbers of it. */
  public List<String> units() {
    return type.equals(FieldType.SIZE)
        ? List.of("kB", "MB", "GB", "TB", "KiB", "MiB", "GiB", "TiB")
        : type.equals(FieldType.DURATION) ? List.of("s", "m", "h", "d") : List.of();
  }

  @Nullable
  V read(RowReader row) {
    return row.read(this);
  }

  /** In one spelling; null where there is nothing to write. */
  public @Nullable String write(T fact, Notation notation) {
    V v = value.apply(fact);
    return v == null ? null : type.writer().apply(v, notation);
  }

  /** As it is kept: a Long or a text; null where nothing is known. */
  public @Nullable Object keep(T fact, Notation notation) {
    V v = value.apply(fact);
    return v == null ? null : type.keeper().apply(v, notation);
  }

  @Nullable
  V restore(KeptRow row) {
    Object kept = row.values()[place];
    return kept == null ? type.nothing() : type.restorer().apply(kept, row);
  }

  /**
   * As a whole number in a column: a number itself, a code by its place, a text by its number. Not for what needs a
   * notation.
   *
   * @param none what stands for nothing
   */
  public long pack(T fact, long none, ToIntFunction<String> texts) {
    V v = value.apply(fact);
    if (v == null) {
      return none;
    }
    if (!type.codes().isEmpty()) {
      return ((Enum<?>) v).ordinal();
    }
    Object kept = type.keeper().apply(v, null);
    return kept instanceof Long number ? number : texts.applyAsInt((String) kept);
  }

  @Nullable
  V unpack(long packed, long none, LongFunction<String> texts) {
    if (packed == none) {
      return type.nothing();
    }
    if (!type.codes().isEmpty()) {
      return type.codes().get((int) packed);
    }
    return type.restorer().apply(type.number() ? (Object) packed : texts.apply(packed), null);
  }
}
