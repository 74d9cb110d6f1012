package hardproof.core.recipes;

import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Field;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** A report that lists one kind of things, such as machines or stores: of the kinds that it could be the fullest. */
final class ListGuess {
  private static final List<BundleFile> LISTS = List.of(
      BundleFile.COPIES,
      BundleFile.JOBS,
      BundleFile.STORES,
      BundleFile.POLICIES,
      BundleFile.RESOURCES,
      BundleFile.WORKLOADS);

  private ListGuess() {}

  /** Null where it has not what any kind must have. */
  static @Nullable Output of(ReportTable table) {
    Output best = null;
    int most = 0;
    for (BundleFile file : LISTS) {
      Map<String, String> columns = new LinkedHashMap<>(FieldGuess.guess(file, table));
      if (!columns.containsKey("key") && columns.containsKey("name")) {
        columns.put("key", columns.get("name"));
      }
      if (!columns.containsKey("name") && columns.containsKey("key")) {
        columns.put("name", columns.get("key"));
      }
      columns.keySet().removeIf(f -> !file.hasColumn(f));
      Output output = of(file, columns, table);
      if (output != null && columns.size() > most) {
        most = columns.size();
        best = output;
      }
    }
    return best;
  }

  private static @Nullable Output of(
      BundleFile file, Map<String, String> columns, ReportTable table) {
    Map<String, FieldRule> fields = new LinkedHashMap<>();
    columns.forEach((field, column) -> {
      String name = file.code() + "." + field;
      FieldRule rule = FieldRule.column(column).in(FieldGuess.unit(file.column(field), column));
      fields.put(
          field,
          Vocabulary.knows(name)
              ? rule.meaning(Vocabulary.meanings(name, table.samples(column)))
              : rule);
    });
    if (file == BundleFile.RESOURCES && fields.containsKey("name") && !fields.containsKey("kind")) {
      fields.put("kind", FieldRule.always(Vocabulary.kindOf(columns.get("name"))));
    }
    if (file == BundleFile.STORES && fields.containsKey("path") && !fields.containsKey("medium")) {
      fields.put("medium", FieldRule.always("disk"));
    }
    boolean complete =
        file.columns().stream().filter(Field::required).allMatch(f -> fields.containsKey(f.name()));
    return complete && fields.size() > 1 ? new Output(file, null, false, fields) : null;
  }
}
