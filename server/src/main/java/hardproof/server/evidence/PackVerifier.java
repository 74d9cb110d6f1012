package hardproof.server.evidence;

import hardproof.core.proof.Evaluation;
import hardproof.core.wording.Wording;
import hardproof.proving.bags.BagReader;
import hardproof.proving.bags.BagWriter;
import hardproof.server.ledger.TreeHead;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.zip.ZipException;
import org.jspecify.annotations.Nullable;

/** Checks a pack with nothing but the pack itself: no server, no database, no network. */
public final class PackVerifier {
  private static final Set<String> COUNTS =
      new TreeSet<>(List.of("bag-info.txt", "manifest-sha256.txt", "tagmanifest-sha256.txt"));

  private static final Set<String> NAMED = Set.of(
      "data/" + PackBuilder.FACTS,
      "data/" + PackBuilder.WORKLOADS,
      "data/" + PackBuilder.FINDINGS,
      "data/" + PackBuilder.DRILLS,
      "data/" + PackBuilder.REPORT_PAGE);

  private PackVerifier() {}

  /** One thing that was checked. */
  public record Check(String name, boolean passed, String sentence) {}

  /**
   * What came out.
   *
   * @param checks never empty
   */
  public record Verification(List<Check> checks) {
    public boolean passed() {
      return checks.stream().allMatch(Check::passed);
    }
  }

  /**
   * Checks a pack: makes it again from the facts in it, and compares every file.
   *
   * @throws IOException when the file can't be read at all
   */
  public static Verification verify(Path pack) throws IOException {
    return verify(pack, null);
  }

  /**
   * As {@link #verify(Path)}.
   *
   * @param kept an earlier head of the ledger that somebody kept; null where nobody did
   */
  public static Verification verify(Path pack, @Nullable TreeHead kept) throws IOException {
    if (!Files.isRegularFile(pack)) {
      throw new IOException(pack + " is not a file");
    }
    List<Check> checks = new ArrayList<>();
    BagReader bag;
    try {
      bag = BagReader.open(pack);
    } catch (ZipException e) {
      return notReadable(pack, checks, e);
    }
    addFaults(checks, bag);
    recompute(bag, kept, checks);
    return new Verification(checks);
  }

  private static Verification notReadable(Path pack, List<Check> checks, ZipException e) {
    checks.add(new Check(
        "Zip",
        false,
        pack.getFileName() + " is not a readable zip (" + e.getMessage()
            + "); ask for the pack again"));
    return new Verification(checks);
  }

  private static void addFaults(List<Check> checks, BagReader bag) {
    List<String> faults = bag.faults();
    checks.add(new Check(
        "Bag (RFC 8493)",
        faults.isEmpty(),
        faults.isEmpty()
            ? Wording.count(bag.paths().size(), "file", "files")
                + ", every SHA-256 as in the manifests"
            : String.join("; ", faults)));
  }

  private static Check canonical(FactsJson read, boolean canonical) {
    return new Check(
        "Facts",
        canonical,
        canonical
            ? "as at " + read.asAt() + ", known at " + read.knownAt() + ", standard "
                + read.standard().title() + ": "
                + Wording.count(read.facts().resources().size(), "resource", "resources") + ", "
                + Wording.count(read.facts().points().size(), "point", "points") + ", "
                + Wording.count(read.facts().copies().size(), "copy", "copies") + ", "
                + Wording.count(read.facts().drills().size(), "drill", "drills")
            : "facts.json is not as it is written here: it says the same in other letters, or more"
                + " than is read of it");
  }

  private static void recompute(BagReader bag, @Nullable TreeHead kept, List<Check> checks) {
    byte[] facts = bag.file("data/" + PackBuilder.FACTS);
    if (facts == null) {
      checks.add(new Check("Facts", false, "data/facts.json is not in the pack"));
      return;
    }
    FactsJson read;
    Evaluation evaluation;
    BagWriter made;
    PackProofs proofs;
    List<Check> ledger = new ArrayList<>();
    try {
      read = FactsJson.read(facts);
      evaluation = PackBuilder.evaluate(read);
      proofs = proofs(bag, ledger, read, kept);
      made = PackBuilder.bag(read, evaluation, proofs);
    } catch (IOException | IllegalArgumentException e) {
      checks.add(new Check("Facts", false, e.getMessage()));
      return;
    }
    Map<String, byte[]> expected = made.files();
    checks.add(canonical(read, Arrays.equals(facts, expected.get("data/" + PackBuilder.FACTS))));
    String verdicts = Wording.count(evaluation.workloads().size(), "verdict", "verdicts");
    checks.add(compare(bag, expected, "Verdicts", PackBuilder.WORKLOADS, verdicts));
    long outcomes = evaluation.workloads().stream()
        .flatMap(w -> w.members().stream())
        .mapToLong(m -> m.outcomes().size())
        .sum();
    String counted = Wording.count(outcomes, "outcome", "outcomes");
    checks.add(compare(bag, expected, "Outcomes", PackBuilder.FINDINGS, counted));
    String drills = Wording.count(read.facts().drills().size(), "drill", "drills");
    checks.add(compare(bag, expected, "Drills", PackBuilder.DRILLS, drills));
    checks.add(
        compare(bag, expected, "Report", PackBuilder.REPORT_PAGE, "the words of the report"));
    checks.add(logs(bag, expected, read));
    checks.addAll(ledger);
    checks.add(rest(bag, expected, made.top()));
  }

  /** Those of the pack, and what is found of them; null where they can't be read. */
  private static @Nullable PackProofs proofs(
      BagReader bag, List<Check> checks, FactsJson facts, @Nullable TreeHead kept) {
    try {
      PackProofs proofs = PackProofs.read(bag);
      PackProofCheck check = new PackProofCheck(facts, proofs);
      checks.addAll(check.checks());
      if (kept != null) {
        checks.add(check.kept(kept));
      }
      return proofs;
    } catch (IllegalArgumentException e) {
      checks.add(PackProofCheck.unreadable(e));
      return null;
    }
  }

  /** A fact of a drill and its log stand and fall together. */
  private static Check logs(BagReader bag, Map<String, byte[]> expected, FactsJson read) {
    List<String> wrong = new ArrayList<>(read.contradictions());
    String logs = "data/" + PackBuilder.LOGS;
    expected.keySet().stream()
        .filter(path -> path.startsWith(logs))
        .filter(path -> !Arrays.equals(bag.file(path), expected.get(path)))
        .forEach(path -> wrong.add(path.substring(5)
            + (bag.file(path) == null
                ? " is not in the pack"
                : " does not follow from facts.json")));
    bag.paths().stream()
        .filter(path -> path.startsWith(logs) && !expected.containsKey(path))
        .forEach(path -> wrong.add(path.substring(5) + " belongs to no drill among the facts"));
    return logsCheck(read, wrong);
  }

  private static Check logsCheck(FactsJson read, List<String> wrong) {
    return new Check(
        "Drill logs",
        wrong.isEmpty(),
        wrong.isEmpty()
            ? Wording.count(read.runs().size(), "log", "logs")
                + " made again from facts.json, each with its fact"
            : first(wrong));
  }

  /** Everything that was not compared by a name of its own. */
  private static Check rest(BagReader bag, Map<String, byte[]> expected, String top) {
    List<String> wrong = new ArrayList<>();
    if (!bag.top().equals(top)) {
      wrong.add("its folder is called " + bag.top() + ", not " + top);
    }
    addDifferent(bag, expected, wrong);
    addSums(bag, expected, wrong);
    bag.paths().stream()
        .filter(path -> !expected.containsKey(path))
        .forEach(path -> wrong.add(path + " is a file that no pack has"));
    return restCheck(wrong);
  }

  private static void addDifferent(
      BagReader bag, Map<String, byte[]> expected, List<String> wrong) {
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

  private static void addSums(BagReader bag, Map<String, byte[]> expected, List<String> wrong) {
    // Sums and counts follow from the other files: where one of these differs, they must.
    COUNTS.stream()
        .filter(path -> bag.file(path) != null)
        .filter(path -> !Arrays.equals(bag.file(path), expected.get(path)))
        .filter(path -> same(bag, expected))
        .forEach(path -> wrong.add(path + " is not as it is made from facts.json"));
  }

  private static Check restCheck(List<String> wrong) {
    return new Check(
        "Everything else",
        wrong.isEmpty(),
        wrong.isEmpty()
            ? "bag-info.txt, VERIFY.txt and the manifests made again are the same, and there is no"
                + " other file"
            : first(wrong));
  }

  /** Whether all that is summed up and counted is as it is made from the facts. */
  private static boolean same(BagReader bag, Map<String, byte[]> expected) {
    return expected.keySet().stream()
        .filter(path -> !COUNTS.contains(path))
        .allMatch(path -> Arrays.equals(bag.file(path), expected.get(path)));
  }

  static String first(List<String> wrong) {
    return String.join("; ", wrong.subList(0, Math.min(5, wrong.size())))
        + (wrong.size() > 5 ? "; … (" + wrong.size() + ")" : "");
  }

  private static Check compare(
      BagReader bag, Map<String, byte[]> expected, String name, String file, String what) {
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
