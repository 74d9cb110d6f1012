package hardproof.core.recipes;

import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Field;
import hardproof.core.wording.WrongValue;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * One kind of rows that a report gives.
 *
 * @param when condition that a row has to meet to give one; null for every row
 * @param once whether several rows with one key are one: the first of them counts
 */
public record Output(
    BundleFile file, @Nullable String when, boolean once, Map<String, FieldRule> fields) {
  /**
   * @throws WrongValue with what can't be right
   */
  public Output {
    fields = Collections.unmodifiableMap(new LinkedHashMap<>(fields));
    for (String field : fields.keySet()) {
      if (!file.hasColumn(field)) {
        throw new WrongValue("'" + field + "' is no field of " + file.code());
      }
    }
    List<String> missing = new ArrayList<>();
    for (Field<?, ?> field : file.columns()) {
      if (field.required() && !fields.containsKey(field.name())) {
        missing.add(field.name());
      }
    }
    if (!missing.isEmpty()) {
      throw new WrongValue("nothing leads to " + String.join(", ", missing) + ", which "
          + file.code() + " must have; name a column, an expression, or one value for every row");
    }
  }
}
