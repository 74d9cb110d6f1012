package hardproof.server.feeds;

import hardproof.core.recipes.Layout;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Names of the columns of somebody else's report: in lower case, each another. */
final class Columns {
  private Columns() {}

  /** One without a name is called by its place; of those with one name the later have a number. */
  static List<String> named(List<@Nullable String> cells) {
    List<String> names = new ArrayList<>();
    Set<String> seen = new HashSet<>();
    for (int i = 0; i < cells.size(); i++) {
      String cell = cells.get(i);
      String plain = cell == null ? "" : cell.strip().replaceAll("\\s+", " ");
      String name = plain.isEmpty() ? Layout.column(i) : plain.toLowerCase(Locale.ROOT);
      String one = name;
      for (int n = 2; !seen.add(one); n++) {
        one = name + " " + n;
      }
      names.add(one);
    }
    return names;
  }
}
