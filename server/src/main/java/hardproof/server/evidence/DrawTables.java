package hardproof.server.evidence;

import hardproof.core.evidence.CsvCell;
import hardproof.core.programmes.Draw;
import hardproof.proving.bags.BagWriter;
import hardproof.server.evidence.PackHistory.PackDraw;
import java.util.List;
import java.util.stream.Collectors;

/** What was drawn at random, with all that is needed to draw it again in a shell. */
final class DrawTables {
  static final String DRAWS = "proof/draws.csv";
  private static final String FOLDER = "proof/draws/";

  private DrawTables() {}

  /** Adds the table and, for each draw, the list of its candidates. */
  static void add(List<PackDraw> draws, BagWriter bag) {
    StringBuilder csv = new StringBuilder(CsvCell.row(
        "programme",
        "due",
        "known",
        "seed",
        "candidates",
        "candidates_sha256",
        "sample",
        "drawn_points",
        "runs",
        "drawn_again_agrees",
        "shell"));
    int number = 0;
    for (PackDraw draw : draws) {
      String file = FOLDER + ++number + ".txt";
      bag.tag(file, draw.candidates());
      csv.append(row(draw, draw.again(), file));
    }
    bag.tag(DRAWS, csv.toString());
  }

  private static String row(PackDraw draw, Draw again, String file) {
    return CsvCell.row(
        draw.programme(),
        draw.due(),
        draw.known(),
        again.seed(),
        file,
        again.digest(),
        draw.sample() == null ? "one of each resource" : draw.sample(),
        draw.runs().values().stream()
            .map(c -> c.resource() + " " + c.point())
            .collect(Collectors.joining("; ")),
        String.join("; ", draw.runs().keySet()),
        draw.repeats() ? "yes" : "no",
        shell(again.seed(), file));
  }

  /** Ranks the candidates; the lowest are drawn. */
  private static String shell(String seed, String file) {
    return "while IFS= read -r line; do printf '%s\\t%s\\n' \"$(printf '%s\\n%s' " + seed
        + " \"$line\" | sha256sum | cut -c 1-64)\" \"$line\"; done < " + file + " | LC_ALL=C sort";
  }
}
