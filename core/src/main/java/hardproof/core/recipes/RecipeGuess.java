package hardproof.core.recipes;

import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Reads the first rows of a report and says how they may become facts, so that nobody has to write it down. */
public final class RecipeGuess {
  private RecipeGuess() {}

  /**
   * What was made of a report.
   *
   * @param notes what was taken for granted, in sentences for a person to look at
   */
  public record Guess(Recipe recipe, List<String> notes) {}

  /**
   * By what a report may be: a list of files, one of runs, or one of things of one kind.
   *
   * @param zone of times that don't say theirs
   * @param formats what artifacts may end with, without the dot
   * @return null where nothing of it tells of backups
   */
  public static @Nullable Guess of(
      String name, ReportTable table, ZoneId zone, Set<String> formats, Instant now) {
    Guess listing = ListingGuess.of(name, table, zone, formats, now);
    if (listing != null) {
      return listing;
    }
    List<String> notes = new ArrayList<>();
    Set<String> used = new LinkedHashSet<>();
    List<Output> outputs = RunsGuess.of(table, notes, used);
    if (outputs.isEmpty()) {
      notes.clear();
      Output list = ListGuess.of(table);
      outputs = list == null ? List.of() : List.of(list);
    }
    return outputs.isEmpty() ? null : guess(name, table, zone, now, outputs, notes, used);
  }

  private static Guess guess(
      String name,
      ReportTable table,
      ZoneId zone,
      Instant now,
      List<Output> outputs,
      List<String> notes,
      Set<String> used) {
    Set<String> timed = new LinkedHashSet<>();
    for (Output output : outputs) {
      output.fields().forEach((field, rule) -> {
        if (rule.column() != null) {
          used.add(rule.column());
          if (output.file().column(field).isTime()) {
            timed.add(rule.column());
          }
        }
      });
    }
    TimeReading times = ReportTimes.of(table, timed, zone, now, notes);
    List<String> unused =
        table.columns().stream().filter(c -> !used.contains(c)).toList();
    if (!unused.isEmpty()) {
      notes.add("Not used: " + String.join(", ", unused) + ".");
    }
    return new Guess(new Recipe(name, table.layout(), times, outputs), List.copyOf(notes));
  }

  /** A text in an expression. */
  static String quoted(String text) {
    return "'" + text.replace("\\", "\\\\").replace("'", "\\'").replace("\n", "\\n") + "'";
  }
}
