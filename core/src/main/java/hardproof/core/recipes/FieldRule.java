package hardproof.core.recipes;

import hardproof.core.wording.WrongValue;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * How a field is filled.
 *
 * @param column the column it comes from; null where it comes from none or from an expression
 * @param expression what it is worked out by, instead of a column
 * @param otherwise what it gets where that is empty; null leaves it empty
 * @param meanings what their values mean; compared without regard to case; others stay as they are
 * @param unit of plain numbers: kB … TiB for sizes, s m h d for durations; null for as written
 */
public record FieldRule(
    @Nullable String column,
    @Nullable String expression,
    @Nullable String otherwise,
    Map<String, String> meanings,
    @Nullable String unit) {
  private static final int MOST_MEANINGS = 500;

  /**
   * @throws WrongValue with what can't be right
   */
  public FieldRule {
    if (column != null && expression != null) {
      throw new WrongValue("comes from a column or from an expression, not from both");
    }
    if (column == null && expression == null && otherwise == null) {
      throw new WrongValue("comes from nothing; name a column, an expression or a value");
    }
    if (meanings.size() > MOST_MEANINGS) {
      throw new WrongValue("has more than " + MOST_MEANINGS + " meanings");
    }
    Map<String, String> byCase = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);
    byCase.putAll(meanings);
    meanings = java.util.Collections.unmodifiableMap(byCase);
  }

  /** From a column as it stands. */
  public static FieldRule column(String name) {
    return new FieldRule(name.toLowerCase(Locale.ROOT), null, null, Map.of(), null);
  }

  /** One value for every row. */
  public static FieldRule always(String value) {
    return new FieldRule(null, null, value, Map.of(), null);
  }

  /** Worked out. */
  public static FieldRule by(String expression) {
    return new FieldRule(null, expression, null, Map.of(), null);
  }

  /** The same, with what their values mean. */
  public FieldRule meaning(Map<String, String> more) {
    return new FieldRule(column, expression, otherwise, more, unit);
  }

  /** The same, with plain numbers in a unit. */
  public FieldRule in(@Nullable String numbers) {
    return new FieldRule(column, expression, otherwise, meanings, numbers);
  }

  /** The same, with what an empty one gets. */
  public FieldRule orElse(String value) {
    return new FieldRule(column, expression, value, meanings, unit);
  }
}
