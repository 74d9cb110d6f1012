package hardproof.server.feeds;

import hardproof.core.feeds.RawRow;
import hardproof.core.recipes.Expressions;
import hardproof.core.recipes.Layout;
import hardproof.core.recipes.Output;
import hardproof.core.recipes.Recipe;
import hardproof.core.recipes.RowShaper;
import hardproof.core.wording.WrongValue;
import hardproof.server.recipes.CelExpressions;
import java.io.IOException;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Rows of one kind out of somebody else's report, made one by one. */
final class RecipeRows implements Rows {
  private static final Expressions EXPRESSIONS = new CelExpressions();

  private final Rows rows;
  private final Layout layout;
  private final Output output;
  private final RowShaper shaper;
  private final Map<String, String> above = new HashMap<>();
  private long leftOut;

  private RecipeRows(Rows rows, Recipe recipe, Output output, RowShaper shaper) {
    this.rows = rows;
    this.layout = recipe.layout();
    this.output = output;
    this.shaper = shaper;
  }

  /**
   * @param rows are closed with these, and here when there can be none
   * @throws UnreadableFile when a column that is asked for is not there
   */
  static RecipeRows of(Rows rows, String file, Recipe recipe, Output output) throws IOException {
    try {
      RowShaper shaper = new RowShaper(file, recipe, output, EXPRESSIONS);
      List<String> columns = rows.columns();
      if (columns != null) {
        refuseMissing(file, recipe, shaper, columns);
      }
      return new RecipeRows(rows, recipe, output, shaper);
    } catch (WrongValue e) {
      rows.close();
      throw new UnreadableFile(
          file, 0, null, "can't be read by the recipe '" + recipe.name() + "': " + e.getMessage());
    } catch (IOException | RuntimeException e) {
      rows.close();
      throw e;
    }
  }

  /** Whatever can be said of a recipe without a file. */
  static void check(Recipe recipe) {
    recipe.outputs().forEach(o -> new RowShaper("", recipe, o, EXPRESSIONS));
  }

  private static void refuseMissing(
      String file, Recipe recipe, RowShaper shaper, List<String> columns) throws UnreadableFile {
    Set<String> there = columns.stream().map(Expressions::name).collect(Collectors.toSet());
    for (String asked : shaper.asked()) {
      if (!there.contains(asked)) {
        throw new UnreadableFile(
            file,
            recipe.layout().header(),
            asked,
            "is a column that the recipe '" + recipe.name()
                + "' needs, and this file does not have it; its columns are "
                + String.join(", ", columns));
      }
    }
  }

  @Override
  public boolean mayHave(String field) {
    return output.fields().containsKey(field);
  }

  @Override
  public @Nullable Next next() throws IOException {
    Next next;
    while ((next = rows.next()) != null) {
      if (next.row() == null) {
        return next;
      }
      RowShaper.Shaped shaped = shaper.shape(filled(next.row()));
      if (shaped.row() != null || shaped.rejection() != null) {
        return new Next(shaped.row(), shaped.rejection());
      }
      leftOut++;
    }
    return null;
  }

  @Override
  public long leftOut() {
    return leftOut;
  }

  private RawRow filled(RawRow row) {
    if (layout.filledDown().isEmpty()) {
      return row;
    }
    Map<String, String> values = new LinkedHashMap<>(row.values());
    for (String column : layout.filledDown()) {
      String value = values.get(column);
      if (value != null) {
        above.put(column, value);
      } else if (above.containsKey(column)) {
        values.put(column, above.get(column));
      }
    }
    return new RawRow(row.line(), values);
  }

  @Override
  public void close() throws IOException {
    rows.close();
  }
}
