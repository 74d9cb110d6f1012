package hardproof.core.feeds;

import org.jspecify.annotations.Nullable;

/**
 * A fact as it is kept: one value for each field of its kind, in order.
 *
 * @param values whole numbers as Long, and texts; null where nothing is known
 */
record KeptRow(FactKind<?> kind, Object[] values, Notation notation) {
  @Nullable
  String text(String field) {
    return (String) values[kind.field(field).place()];
  }
}
