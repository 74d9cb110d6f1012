package hardproof.core.recipes;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Where in a report its rows begin and end: below titles and names, above totals. */
public final class HeaderGuess {
  private static final int LONGEST_NAME = 60;
  private static final int MOST_FOOTERS = 5;
  private static final String COUNT =
      "(?i)\\(?\\d+ (rows?|records?|entries|lines|files?)\\b.*|(grand )?totals?\\b.*|end of .*";

  private HeaderGuess() {}

  /**
   * A row as it stands.
   *
   * @param number of its line or row, from 1
   */
  public record Line(int number, List<@Nullable String> cells) {
    int filled() {
      return (int) cells.stream().filter(c -> c != null && !c.isBlank()).count();
    }
  }

  /** How many fields most rows have something in. */
  private static int usual(List<Line> lines) {
    int best = 0;
    long most = 0;
    for (Line line : lines) {
      long same = lines.stream().filter(l -> l.filled() == line.filled()).count();
      if (same > most || same == most && line.filled() > best) {
        most = same;
        best = line.filled();
      }
    }
    return best;
  }

  /** The number of the line of names; 0 where there is none. */
  public static int header(List<Line> lines) {
    int usual = usual(lines);
    for (Line line : lines) {
      if (line.filled() * 5 < usual * 4) {
        continue;
      }
      return names(line, lines) ? line.number() : 0;
    }
    return 0;
  }

  /** Names are texts, mostly each another, that are no times, sizes or places, and of which hardly one stands below. */
  private static boolean names(Line line, List<Line> lines) {
    Set<String> seen = new HashSet<>();
    for (String cell : line.cells()) {
      if (cell == null || cell.isBlank()) {
        continue;
      }
      String text = cell.strip();
      boolean name = text.length() <= LONGEST_NAME
          && text.matches(".*\\p{L}.*")
          && !text.matches(".*\\d{3}.*")
          && !text.matches("[./].*|.*/.*/.*|.*\\.(tar|gz|zip|sql|img|bak|dump|qcow2|tgz|zst)$")
          && !TimeGuess.times(List.of(text));
      if (!name) {
        return false;
      }
      seen.add(text);
    }
    if (seen.size() * 2 <= line.filled()) {
      return false;
    }
    List<String> below = new ArrayList<>();
    for (Line other : lines) {
      for (int i = 0;
          other != line && i < other.cells().size() && i < line.cells().size();
          i++) {
        String cell = other.cells().get(i);
        if (cell != null && cell.equals(line.cells().get(i))) {
          below.add(cell);
        }
      }
    }
    return below.size() * 2 <= seen.size();
  }

  /**
   * How many rows at the end are none.
   *
   * @param last the last rows, in their order
   */
  public static int footers(List<Line> first, List<Line> last) {
    int usual = usual(first);
    int footers = 0;
    for (int i = last.size() - 1; i >= 0 && footers < MOST_FOOTERS; i--) {
      Line line = last.get(i);
      String text = line.cells().stream()
          .filter(c -> c != null && !c.isBlank())
          .findFirst()
          .orElse("");
      boolean footer = usual <= 2
          ? text.strip().matches(COUNT)
          : line.filled() * 5 < usual * 3 || text.strip().matches(COUNT);
      if (!footer) {
        return footers;
      }
      footers++;
    }
    return footers < MOST_FOOTERS ? footers : 0;
  }
}
