package hardproof.server.evidence;

import hardproof.core.proof.Evaluation;
import hardproof.core.wording.Wording;
import hardproof.proving.bags.BagReader;
import hardproof.proving.bags.BagWriter;
import hardproof.proving.bags.BagWriter.Body;
import hardproof.server.ledger.TreeHead;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.zip.ZipException;
import org.jspecify.annotations.Nullable;

/** Checks a pack with nothing but the pack itself: no server, no database, no network. */
public final class PackVerifier {
  private static final String FACTS = "data/" + PackBuilder.FACTS;
  private static final String PDF = "data/" + PackBuilder.REPORT_PDF;
  private static final String TABLES = "data/" + FactsTables.FILE;

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
                + Wording.count(read.estate().pointCount(), "point", "points") + ", "
                + Wording.count(read.estate().copyCount(), "copy", "copies") + ", "
                + Wording.count(read.facts().drills().size(), "drill", "drills")
            : "facts.json is not as it is written here: it says the same in other letters, or more"
                + " than is read of it");
  }

  private static void recompute(BagReader bag, @Nullable TreeHead kept, List<Check> checks) {
    if (!bag.has(FACTS)) {
      checks.add(new Check("Facts", false, FACTS + " is not in the pack"));
      return;
    }
    FactsJson read;
    Evaluation evaluation;
    String top;
    FilesMadeAgain files = new FilesMadeAgain(bag);
    List<Check> ledger = new ArrayList<>();
    try {
      read = facts(bag);
      evaluation = PackBuilder.evaluate(read);
      BagWriter made =
          PackBuilder.bag(read, evaluation, proofs(bag, ledger, read, kept), others(bag, read));
      made.write(files);
      top = made.top();
    } catch (IOException | UncheckedIOException | IllegalArgumentException e) {
      checks.add(new Check("Facts", false, e.getMessage()));
      return;
    }
    checks.add(canonical(read, files.same(FACTS)));
    String verdicts = Wording.count(evaluation.workloads().size(), "verdict", "verdicts");
    checks.add(files.compare("Verdicts", PackBuilder.WORKLOADS, verdicts));
    long outcomes = evaluation.workloads().stream()
        .flatMap(w -> w.members().stream())
        .mapToLong(m -> m.outcomes().size())
        .sum();
    String counted = Wording.count(outcomes, "outcome", "outcomes");
    checks.add(files.compare("Outcomes", PackBuilder.FINDINGS, counted));
    checks.add(files.compare("Controls", PackBuilder.CONTROLS, "the outcomes by public control"));
    checks.add(draws(files, read));
    String drills = Wording.count(read.facts().drills().size(), "drill", "drills");
    checks.add(files.compare("Drills", PackBuilder.DRILLS, drills));
    checks.add(files.compare(
        "Rehearsals",
        PackBuilder.REHEARSALS,
        Wording.count(read.facts().rehearsals().size(), "rehearsal", "rehearsals")));
    checks.add(files.compare("Survival", PackBuilder.SURVIVAL, "what each single loss takes"));
    checks.add(files.compare("Report", PackBuilder.REPORT_PAGE, "the words of the report"));
    checks.add(logs(bag, files, read));
    checks.add(tables(bag, read));
    checks.addAll(ledger);
    checks.add(files.rest(top));
    // Last, and only where all else is as it should be, as it takes longer than all the rest.
    if (checks.stream().allMatch(Check::passed)) {
      checks.add(pdf(bag, read.asAt()));
    }
  }

  private static FactsJson facts(BagReader bag) throws IOException {
    try (InputStream in = bag.open(FACTS)) {
      return FactsJson.read(in);
    }
  }

  /** What is not made again here: pictures are held to their sums, the PDF and the tables compared by themselves. */
  private static Map<String, Body> others(BagReader bag, FactsJson read) {
    Map<String, Body> others = new TreeMap<>();
    PackPictures.right(bag, read).forEach((path, png) -> others.put(path, Body.of(png)));
    for (String file : List.of(PackBuilder.REPORT_PDF, FactsTables.FILE)) {
      if (bag.has("data/" + file)) {
        others.put(file, to -> {
          try (InputStream in = bag.open("data/" + file)) {
            in.transferTo(to);
          }
        });
      }
    }
    return others;
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

  /** Called where the page is known to be right. */
  private static Check pdf(BagReader bag, Instant asAt) {
    String name = "Report as PDF";
    if (!bag.has(PDF)) {
      return new Check(name, false, PDF + " is not in the pack");
    }
    String page = bag.text("data/" + PackBuilder.REPORT_PAGE);
    boolean same;
    try {
      same = Arrays.equals(bag.file(PDF), ReportPdf.of(page, asAt));
    } catch (IOException e) {
      return new Check(name, false, "it can't be made again: " + e.getMessage());
    }
    return new Check(
        name,
        same,
        same
            ? "made again from the same page, byte for byte"
            : "report.pdf is not what report.html gives when it is made again");
  }

  private static Check tables(BagReader bag, FactsJson facts) {
    String wrong;
    try {
      wrong = bag.has(TABLES)
          ? FactsTables.difference(() -> bag.open(TABLES), facts)
          : TABLES + " is not in the pack";
    } catch (IOException e) {
      wrong = "the tables can't be compared: " + e.getMessage();
    }
    return new Check(
        "Facts as tables",
        wrong == null,
        wrong == null ? "every row of " + FactsTables.FILE + " follows from facts.json" : wrong);
  }

  /** What was drawn at random is drawn again. */
  private static Check draws(FilesMadeAgain files, FactsJson read) {
    List<String> wrong = new ArrayList<>();
    for (PackHistory.PackDraw draw : read.history().draws()) {
      if (!draw.repeats()) {
        wrong.add("the draw of " + draw.programme() + " at " + draw.due()
            + " drawn again draws other points than its runs have");
      }
    }
    if (!files.same(DrawTables.DRAWS)) {
      wrong.add(DrawTables.DRAWS + " does not follow from facts.json");
    }
    int draws = read.history().draws().size();
    return new Check(
        "Draws",
        wrong.isEmpty(),
        !wrong.isEmpty()
            ? first(wrong)
            : draws == 0
                ? "nothing was drawn at random in the period"
                : Wording.count(draws, "draw", "draws") + " drawn again, to the same points");
  }

  /** A fact of a drill and its log stand and fall together. */
  private static Check logs(BagReader bag, FilesMadeAgain files, FactsJson read) {
    List<String> wrong = new ArrayList<>(read.contradictions());
    List<String> pictures = PackPictures.wrong(bag, read);
    wrong.addAll(pictures);
    String logs = "data/" + PackBuilder.LOGS;
    files.paths().stream()
        .filter(path -> path.startsWith(logs) && !files.same(path))
        .forEach(path -> wrong.add(path.substring(5)
            + (!bag.has(path) ? " is not in the pack" : " does not follow from facts.json")));
    bag.paths().stream()
        .filter(path -> path.startsWith(logs) && !files.paths().contains(path))
        .filter(path -> pictures.stream().noneMatch(p -> p.startsWith(path.substring(5))))
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

  static String first(List<String> wrong) {
    return String.join("; ", wrong.subList(0, Math.min(5, wrong.size())))
        + (wrong.size() > 5 ? "; … (" + wrong.size() + ")" : "");
  }
}
