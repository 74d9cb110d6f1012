package hardproof.core.feeds;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * The values of a fact that is being made, by field.
 *
 * @param feed who told of it
 * @param decidedHere whether it was written here, by somebody who may decide
 * @param recordedAt when this state of it became known
 */
record FactValues(
    Object[] values,
    String feed,
    boolean decidedHere,
    @Nullable Instant recordedAt) {

  @SuppressWarnings("unchecked")
  <T, V> @Nullable V of(Field<T, V> field) {
    return (V) values[field.place()];
  }

  <T, V> V or(Field<T, V> field, V whenEmpty) {
    V value = of(field);
    return value == null ? whenEmpty : value;
  }
}
