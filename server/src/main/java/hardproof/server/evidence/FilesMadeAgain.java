package hardproof.server.evidence;

import hardproof.proving.bags.BagReader;
import hardproof.server.evidence.PackVerifier.Check;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * The files of a pack beside those that are made again from its facts.
 *
 * @param bag the pack
 * @param expected what is made again, by the path in the pack
 */
record FilesMadeAgain(BagReader bag, Map<String, byte[]> expected) {
  private static final Set<String> COUNTS =
      new TreeSet<>(List.of("bag-info.txt", "manifest-sha256.txt", "tagmanifest-sha256.txt"));

  private static final Set<String> NAMED = Set.of(
      "data/" + PackBuilder.FACTS,
      "data/" + PackBuilder.WORKLOADS,
      "data/" + PackBuilder.FINDINGS,
      "data/" + PackBuilder.DRILLS,
      "data/" + PackBuilder.CONTROLS,
      DrawTables.DRAWS,
      "data/" + PackBuilder.REPORT_PAGE);

  /** Everything that was not compared by a name of its own. */
  Check rest(String top) {
    List<String> wrong = new ArrayList<>();
    if (!bag.top().equals(top)) {
      wrong.add("its folder is called " + bag.top() + ", not " + top);
    }
    addDifferent(wrong);
    addSums(wrong);
    bag.paths().stream()
        .filter(path -> !expected.containsKey(path))
        .forEach(path -> wrong.add(path + " is a file that no pack has"));
    return restCheck(wrong);
  }

  private void addDifferent(List<String> wrong) {
    for (String path : new TreeSet<>(expected.keySet())) {
      byte[] theirs = bag.file(path);
      boolean differs = !Arrays.equals(theirs, expected.get(path));
      if (theirs == null) {
        wrong.add(path + " is not in the pack");
      } else if (differs && !comparedByName(path) && !COUNTS.contains(path)) {
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
        .filter(path -> bag.file(path) != null)
        .filter(path -> !Arrays.equals(bag.file(path), expected.get(path)))
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
    return expected.keySet().stream()
        .filter(path -> !COUNTS.contains(path))
        .allMatch(path -> Arrays.equals(bag.file(path), expected.get(path)));
  }

  /**
   * One of them, by a name of its own.
   *
   * @param file below {@code data/}
   * @param what of it is compared, in words
   */
  Check compare(String name, String file, String what) {
    byte[] inPack = bag.file("data/" + file);
    byte[] made = expected.get("data/" + file);
    if (inPack == null) {
      return new Check(name, false, "data/" + file + " is not in the pack");
    }
    if (Arrays.equals(inPack, made)) {
      return new Check(name, true, what + " computed again from facts.json agree with " + file);
    }
    return differing(name, file, inPack, made);
  }

  private static Check differing(String name, String file, byte[] inPack, byte[] made) {
    String[] theirs = new String(inPack, StandardCharsets.UTF_8).split("\r?\n", -1);
    String[] ours = new String(made, StandardCharsets.UTF_8).split("\r?\n", -1);
    int line = 0;
    while (line < Math.min(theirs.length, ours.length) && theirs[line].equals(ours[line])) {
      line++;
    }
    return new Check(
        name,
        false,
        file + " does not follow from facts.json: line " + (line + 1) + " reads \""
            + at(theirs, line) + "\", computed \"" + at(ours, line) + "\"");
  }

  private static String at(String[] lines, int line) {
    String text = line < lines.length ? lines[line] : "(nothing)";
    return text.length() > 160 ? text.substring(0, 160) + "…" : text;
  }
}
