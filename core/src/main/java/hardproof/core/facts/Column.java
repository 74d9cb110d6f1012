package hardproof.core.facts;

/**
 * A column of whole numbers: times in epoch milliseconds, sizes, ordinals of codes, numbers of texts.
 * One that has the same number in every row keeps it once. Immutable.
 */
final class Column {
  /** In a row where nothing is known. */
  static final long NONE = Long.MIN_VALUE;

  private final long[] values;
  private final long constant;

  private Column(long[] values, long constant) {
    this.values = values;
    this.constant = constant;
  }

  static Column constant(long value) {
    return new Column(null, value);
  }

  /**
   * @param values not to be changed afterwards
   */
  static Column of(long[] values) {
    for (int i = 1; i < values.length; i++) {
      if (values[i] != values[0]) {
        return new Column(values, 0);
      }
    }
    return constant(values.length == 0 ? NONE : values[0]);
  }

  long get(int row) {
    return values == null ? constant : values[row];
  }

  boolean isConstant() {
    return values == null;
  }

  /** The same numbers in {@code rows} only, in their order. */
  Column select(int[] rows) {
    if (values == null) {
      return this;
    }
    long[] selected = new long[rows.length];
    for (int i = 0; i < rows.length; i++) {
      selected[i] = values[rows[i]];
    }
    return new Column(selected, 0);
  }
}
