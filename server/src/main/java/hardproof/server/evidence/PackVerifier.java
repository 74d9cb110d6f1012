package hardproof.server.evidence;

import hardproof.core.evidence.Tables;
import hardproof.core.proof.Evaluation;
import hardproof.core.wording.Wording;
import hardproof.proving.bags.BagReader;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.zip.ZipException;

/** Checks a pack with nothing but the pack itself: no server, no database, no network. */
public final class PackVerifier {
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
   * Checks a pack.
   *
   * @throws IOException when the file can't be read at all
   */
  public static Verification verify(Path pack) throws IOException {
    if (!Files.isRegularFile(pack)) {
      throw new IOException(pack + " is not a file");
    }
    List<Check> checks = new ArrayList<>();
    BagReader bag;
    try {
      bag = BagReader.open(pack);
    } catch (ZipException e) {
      checks.add(new Check(
          "Zip",
          false,
          pack.getFileName() + " is not a readable zip (" + e.getMessage()
              + "); ask for the pack again"));
      return new Verification(checks);
    }
    List<String> faults = bag.faults();
    checks.add(new Check(
        "Bag (RFC 8493)",
        faults.isEmpty(),
        faults.isEmpty()
            ? Wording.count(bag.paths().size(), "file", "files")
                + ", every SHA-256 as in the manifests"
            : String.join("; ", faults)));
    recompute(bag, checks);
    return new Verification(checks);
  }

  private static void recompute(BagReader bag, List<Check> checks) {
    byte[] facts = bag.file("data/" + PackBuilder.FACTS);
    if (facts == null) {
      checks.add(new Check("Facts", false, "data/facts.json is not in the pack"));
      return;
    }
    FactsJson read;
    Evaluation evaluation;
    try {
      read = FactsJson.read(facts);
      evaluation = PackBuilder.evaluate(read);
    } catch (IOException e) {
      checks.add(new Check("Facts", false, e.getMessage()));
      return;
    }
    checks.add(new Check(
        "Facts",
        true,
        "as at " + read.asAt() + ", standard " + read.standard().title() + ": "
            + Wording.count(read.facts().resources().size(), "resource", "resources") + ", "
            + Wording.count(read.facts().points().size(), "point", "points") + ", "
            + Wording.count(read.facts().copies().size(), "copy", "copies") + ", "
            + Wording.count(read.facts().drills().size(), "drill", "drills")));
    checks.add(compare(
        bag,
        "Verdicts",
        PackBuilder.WORKLOADS,
        Tables.workloads(evaluation),
        Wording.count(evaluation.workloads().size(), "verdict", "verdicts")));
    checks.add(compare(
        bag,
        "Outcomes",
        PackBuilder.FINDINGS,
        Tables.findings(evaluation),
        Wording.count(
            evaluation.workloads().stream()
                .flatMap(w -> w.members().stream())
                .mapToLong(m -> m.outcomes().size())
                .sum(),
            "outcome",
            "outcomes")));
    checks.add(compare(
        bag,
        "Drills",
        PackBuilder.DRILLS,
        Tables.drills(read.facts().drills()),
        Wording.count(read.facts().drills().size(), "drill", "drills")));
  }

  private static Check compare(
      BagReader bag, String name, String file, String computed, String what) {
    byte[] inPack = bag.file("data/" + file);
    if (inPack == null) {
      return new Check(name, false, "data/" + file + " is not in the pack");
    }
    if (Arrays.equals(inPack, computed.getBytes(StandardCharsets.UTF_8))) {
      return new Check(name, true, what + " computed again from facts.json agree with " + file);
    }
    String[] theirs = new String(inPack, StandardCharsets.UTF_8).split("\r\n", -1);
    String[] ours = computed.split("\r\n", -1);
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
