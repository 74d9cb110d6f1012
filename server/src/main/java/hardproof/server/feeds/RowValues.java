package hardproof.server.feeds;

import java.util.AbstractMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;

/**
 * The values of one row by the names of their columns, which all rows of a file share: a map of its own
 * for each of a million rows would take longer to make than all that is read from it.
 */
final class RowValues extends AbstractMap<String, String> {
  private final Map<String, Integer> columns;
  private final String[] values;

  /**
   * @param columns place of each column, in their order
   * @param values null where the row has none
   */
  RowValues(Map<String, Integer> columns, String[] values) {
    this.columns = columns;
    this.values = values;
  }

  @Override
  public String get(Object column) {
    Integer place = columns.get(column);
    return place == null ? null : values[place];
  }

  @Override
  public boolean containsKey(Object column) {
    return get(column) != null;
  }

  @Override
  public Set<Entry<String, String>> entrySet() {
    Map<String, String> present = new LinkedHashMap<>();
    columns.forEach((column, place) -> {
      if (values[place] != null) {
        present.put(column, values[place]);
      }
    });
    return present.entrySet();
  }
}
