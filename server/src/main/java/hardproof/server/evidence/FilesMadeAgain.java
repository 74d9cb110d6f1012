package hardproof.server.evidence;

import hardproof.proving.bags.BagReader;
import hardproof.proving.bags.BagWriter;
import hardproof.server.evidence.PackVerifier.Check;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** The files of a pack beside those that are made again from its facts. */
final class FilesMadeAgain implements BagWriter.Taker {
  private static final Set<String> COUNTS =
      new TreeSet<>(List.of("bag-info.txt", "manifest-sha256.txt", "tagmanifest-sha256.txt"));

  private static final Set<String> NAMED = Set.of(
      "data/" + PackBuilder.FACTS,
      "data/" + PackBuilder.WORKLOADS,
      "data/" + PackBuilder.FINDINGS,
      "data/" + PackBuilder.DRILLS,
      "data/" + PackBuilder.REHEARSALS,
      "data/" + PackBuilder.SURVIVAL,
      "data/" + PackBuilder.CONTROLS,
      DrawTables.DRAWS,
      "data/" + PackBuilder.REPORT_PAGE);

  private final BagReader bag;

  /** By the path in the pack; null where the pack has none. */
  private final Map<String, @Nullable Comparison> compared = new TreeMap<>();

  private @Nullable Comparison now;

  /**
   * @param bag the pack
   */
  FilesMadeAgain(BagReader bag) {
    this.bag = bag;
  }

  @Override
  public OutputStream begin(String path) throws IOException {
    now = bag.has(path) ? new Comparison(new BufferedInputStream(bag.open(path), 1 << 16)) : null;
    compared.put(path, now);
    return now == null ? OutputStream.nullOutputStream() : now;
  }

  @Override
  public void end() throws IOException {
    if (now != null) {
      now.close();
    }
  }

  /** All that were made again. */
  Set<String> paths() {
    return compared.keySet();
  }

  /** Whether the pack has it and it is as it was made again, or neither has it. */
  boolean same(String path) {
    Comparison comparison = compared.get(path);
    return comparison == null
        ? !bag.has(path) && !compared.containsKey(path)
        : !comparison.differs();
  }

  /** Everything that was not compared by a name of its own. */
  Check rest(String top) {
    List<String> wrong = new ArrayList<>();
    if (!bag.top().equals(top)) {
      wrong.add("its folder is called " + bag.top() + ", not " + top);
    }
    addDifferent(wrong);
    addSums(wrong);
    bag.paths().stream()
        .filter(path -> !compared.containsKey(path))
        .forEach(path -> wrong.add(path + " is a file that no pack has"));
    return restCheck(wrong);
  }

  private void addDifferent(List<String> wrong) {
    for (String path : compared.keySet()) {
      if (!bag.has(path)) {
        wrong.add(path + " is not in the pack");
      } else if (!same(path) && !comparedByName(path) && !COUNTS.contains(path)) {
        wrong.add(path + " is not as it is made from facts.json");
      }
    }
  }

  /** Whether a check of its own says what is wrong with it. */
  private static boolean comparedByName(String path) {
    return NAMED.contains(path) || path.startsWith("data/" + PackBuilder.LOGS);
  }

  private void addSums(List<String> wrong) {
    // Sums and counts follow from the other files: where one of these differs, they must.
    COUNTS.stream()
        .filter(path -> bag.has(path) && !same(path))
        .filter(path -> same())
        .forEach(path -> wrong.add(path + " is not as it is made from facts.json"));
  }

  private static Check restCheck(List<String> wrong) {
    return new Check(
        "Everything else",
        wrong.isEmpty(),
        wrong.isEmpty()
            ? "bag-info.txt, VERIFY.txt and the manifests made again are the same, and there is no"
                + " other file"
            : PackVerifier.first(wrong));
  }

  /** Whether all that is summed up and counted is as it is made from the facts. */
  private boolean same() {
    return compared.keySet().stream().filter(path -> !COUNTS.contains(path)).allMatch(this::same);
  }

  /**
   * One of them, by a name of its own.
   *
   * @param file below {@code data/}
   * @param what of it is compared, in words
   */
  Check compare(String name, String file, String what) {
    String path = "data/" + file;
    if (!bag.has(path)) {
      return new Check(name, false, path + " is not in the pack");
    }
    if (same(path)) {
      return new Check(name, true, what + " computed again from facts.json agree with " + file);
    }
    try (InputStream again = new BufferedInputStream(bag.open(path))) {
      Comparison.Line line = compared.get(path).line(again);
      return new Check(
          name,
          false,
          file + " does not follow from facts.json: line " + line.number() + " reads \""
              + orNothing(line.theirs()) + "\", computed \"" + orNothing(line.ours()) + "\"");
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static String orNothing(@Nullable String text) {
    return text == null ? "(nothing)" : text;
  }
}
