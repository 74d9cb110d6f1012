package hardproof.server.evidence;

import hardproof.core.estate.Selector;
import hardproof.core.evidence.Tables;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import hardproof.core.feeds.FactKinds;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import hardproof.proving.bags.BagWriter;
import hardproof.server.facts.Notations;
import hardproof.server.proof.Evaluated;
import hardproof.server.runs.RunStore;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Puts a pack together. The same facts and instant always give the same bytes. */
public final class PackBuilder {
  static final String FACTS = "facts.json";
  static final String FINDINGS = "findings.csv";
  static final String WORKLOADS = "workloads.csv";
  static final String DRILLS = "drills.csv";

  static final String REPORT_PAGE = "report.html";
  static final String LOGS = "drills/";

  /** Of the instant that it speaks of, so that it does not matter when it is made. */
  static final DateTimeFormatter FOLDER =
      DateTimeFormatter.ofPattern("'hard-proof-'yyyyMMdd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);

  private static final ReportPage REPORT = new ReportPage();

  private final RunStore runs;
  private final PackLedger ledger;

  public PackBuilder(RunStore runs, PackLedger ledger) {
    this.runs = runs;
    this.ledger = ledger;
  }

  /**
   * What a pack holds, before it is packed.
   *
   * @param madeBy who asked for it; stands in the list of packs, not in the pack, which is the same
   *     whoever makes it
   */
  public record Contents(String madeBy, FactsJson facts, Evaluation evaluation) {
    public String title() {
      return facts.title();
    }

    public Selector scope() {
      return facts.scope();
    }
  }

  /** Evaluates the scope by itself, as whoever checks the pack will. */
  public Contents contents(Evaluated evaluated, String title, Selector scope, String madeBy) {
    Facts facts = PackScope.of(evaluated.estate(), scope);
    List<RunDetail> details = details(facts);
    FactsJson json = new FactsJson(
        evaluated.evaluation().asAt(),
        evaluated.evaluation().knownAt(),
        evaluated.evaluation().standard(),
        title,
        scope,
        facts,
        details);
    return new Contents(madeBy, json, evaluate(json));
  }

  private List<RunDetail> details(Facts facts) {
    return facts.drills().stream()
        .filter(d -> !FactsJson.isReadBack(d))
        .map(d -> runs.find(d.run()).orElseThrow())
        .map(RunDetail::of)
        .toList();
  }

  static Evaluation evaluate(FactsJson facts) {
    return Evaluator.evaluate(
        new Estate(facts.asAt(), facts.knownAt(), facts.facts()), facts.standard());
  }

  /** The report as it stands in the pack: one page, no script, nothing from outside. */
  public String reportHtml(Contents contents) {
    return REPORT.render(contents);
  }

  /**
   * Writes the pack as a zipped bag.
   *
   * @throws hardproof.server.ledger.LedgerKeys.NoKey when there is no key to sign with
   */
  public void write(Contents contents, OutputStream out) throws IOException {
    bag(contents.facts(), contents.evaluation(), ledger.of(contents.facts())).write(out);
  }

  /**
   * Everything that a pack holds follows from its facts, so that whoever has them can make it again; but for the proofs
   * of the ledger.
   *
   * @param proofs null where they can't be read
   */
  static BagWriter bag(FactsJson facts, Evaluation evaluation, @Nullable PackProofs proofs)
      throws IOException {
    BagWriter bag = new BagWriter(FOLDER.format(facts.asAt()));
    bag.payload(REPORT_PAGE, REPORT.render(new Contents("", facts, evaluation)));
    bag.payload(FINDINGS, Tables.findings(evaluation));
    bag.payload(WORKLOADS, Tables.workloads(evaluation));
    bag.payload(DRILLS, Tables.drills(facts.facts().drills()));
    addFacts(facts.facts(), bag);
    bag.payload(FACTS, facts.write());
    addLogs(facts, bag);
    bag.tag("VERIFY.txt", text("/evidence/VERIFY.txt"));
    if (proofs != null) {
      proofs.files().forEach(bag::tag);
    }
    Map<String, String> info = info(facts);
    bag.info(info);
    return bag;
  }

  /** For whoever reads tables and not JSON. */
  private static void addFacts(Facts facts, BagWriter bag) {
    bag.payload("copies.csv", Tables.facts(FactKinds.COPIES, facts.copies(), Notations.KEPT));
    bag.payload("jobs.csv", Tables.facts(FactKinds.JOBS, facts.jobs(), Notations.KEPT));
    bag.payload(
        "exceptions.csv", Tables.facts(FactKinds.EXCEPTIONS, facts.exceptions(), Notations.KEPT));
  }

  private static void addLogs(FactsJson facts, BagWriter bag) {
    facts
        .told()
        .forEach(t ->
            bag.payload(LOGS + t.fact().run() + "/log.txt", DrillLog.of(t.fact(), t.detail())));
  }

  private static Map<String, String> info(FactsJson facts) {
    Map<String, String> info = new LinkedHashMap<>();
    info.put("External-Description", facts.title());
    info.put("Bagging-Date", facts.asAt().toString().substring(0, 10));
    info.put("Bag-Software-Agent", "Hard Proof");
    info.put("Hard-Proof-As-At", facts.asAt().toString());
    info.put("Hard-Proof-Known-At", facts.knownAt().toString());
    info.put("Hard-Proof-Standard", facts.standard().title());
    info.put("Hard-Proof-Scope", facts.scope().words());
    return info;
  }

  static String text(String resource) throws IOException {
    try (InputStream in = PackBuilder.class.getResourceAsStream(resource)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }
}
