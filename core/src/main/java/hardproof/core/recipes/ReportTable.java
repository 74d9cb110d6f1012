package hardproof.core.recipes;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * The first rows of a report.
 *
 * @param columns by their names in lower case
 * @param rows a text for each column; null where it is empty
 */
public record ReportTable(Layout layout, List<String> columns, List<List<@Nullable String>> rows) {
  private static final int SAMPLES = 60;

  public ReportTable {
    columns = columns.stream().map(c -> c.strip().toLowerCase(Locale.ROOT)).toList();
  }

  /** All values of a column, in their order, null where it is empty. */
  List<@Nullable String> values(String column) {
    int at = columns.indexOf(column);
    List<@Nullable String> values = new ArrayList<>();
    for (List<@Nullable String> row : rows) {
      values.add(at < row.size() ? row.get(at) : null);
    }
    return values;
  }

  /** Different values of a column, the first of them. */
  public List<String> samples(String column) {
    return values(column).stream()
        .filter(v -> v != null && !v.isBlank())
        .distinct()
        .limit(SAMPLES)
        .map(String::strip)
        .toList();
  }

  /** Whether no two rows have the same there, and none has nothing. */
  boolean different(List<String> together) {
    List<List<@Nullable String>> all = together.stream().map(this::values).toList();
    List<List<@Nullable String>> keys = new ArrayList<>();
    for (int i = 0; i < rows.size(); i++) {
      List<@Nullable String> key = new ArrayList<>();
      for (List<@Nullable String> column : all) {
        if (column.get(i) == null) {
          return false;
        }
        key.add(column.get(i));
      }
      keys.add(key);
    }
    return keys.stream().distinct().count() == keys.size();
  }
}
