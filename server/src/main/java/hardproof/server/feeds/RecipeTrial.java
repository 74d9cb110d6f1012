package hardproof.server.feeds;

import hardproof.core.feeds.FactReader;
import hardproof.core.feeds.Rejection;
import hardproof.core.recipes.Output;
import hardproof.core.recipes.Recipe;
import hardproof.server.facts.Notations;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What the first rows of a report give by a recipe. Nothing is stored. */
final class RecipeTrial {
  private static final int ROWS_READ = 400;
  private static final int ROWS_SHOWN = 6;
  private static final int REJECTIONS_SHOWN = 5;

  private RecipeTrial() {}

  /**
   * One kind of rows.
   *
   * @param read rows of the report that were looked at
   * @param good rows that would be taken
   * @param leftOut rows of which none is made
   * @param rows the first of those that are good
   * @param wrong by field, how many rows it rejects
   */
  record OutputTrial(
      String file,
      long read,
      long good,
      long leftOut,
      long rejected,
      List<Map<String, String>> rows,
      List<Rejection> rejections,
      Map<String, Long> wrong) {}

  static List<OutputTrial> of(Path path, String name, Recipe recipe, Instant now)
      throws IOException {
    List<OutputTrial> trials = new ArrayList<>();
    for (Output output : recipe.outputs()) {
      trials.add(of(path, name, recipe, output, now));
    }
    return trials;
  }

  private static OutputTrial of(Path path, String name, Recipe recipe, Output output, Instant now)
      throws IOException {
    FactReader reader = new FactReader("trial", now, Notations.BROUGHT_IN);
    List<Map<String, String>> rows = new ArrayList<>();
    List<Rejection> rejections = new ArrayList<>();
    Map<String, Long> wrong = new LinkedHashMap<>();
    long good = 0;
    long rejected = 0;
    Bundle.Member file =
        new Bundle.Member(name, path, output.file(), new Bundle.By(recipe, output));
    try (Rows shaped = Rows.open(file, ImportProgress.UNWATCHED)) {
      Rows.Next next;
      while (good + rejected + shaped.leftOut() < ROWS_READ && (next = shaped.next()) != null) {
        List<Rejection> why = next.row() == null
            ? List.of(next.rejection())
            : reader.read(output.file().kind(), name, next.row()).rejections();
        if (why.isEmpty()) {
          good++;
          if (rows.size() < ROWS_SHOWN) {
            rows.add(new LinkedHashMap<>(next.row().values()));
          }
        } else {
          rejected++;
          why.stream()
              .map(Rejection::field)
              .filter(f -> f != null)
              .distinct()
              .forEach(f -> wrong.merge(f, 1L, Long::sum));
          why.stream()
              .limit(REJECTIONS_SHOWN - Math.min(REJECTIONS_SHOWN, rejections.size()))
              .forEach(rejections::add);
        }
      }
      return new OutputTrial(
          output.file().code(),
          good + rejected + shaped.leftOut(),
          good,
          shaped.leftOut(),
          rejected,
          rows,
          rejections,
          wrong);
    }
  }
}
