package hardproof.server.evidence;

import hardproof.core.controls.ControlResult;
import hardproof.core.controls.Controls;
import hardproof.core.estate.Selector;
import hardproof.core.evidence.SurvivalTable;
import hardproof.core.evidence.Tables;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import hardproof.core.feeds.FactKinds;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import hardproof.core.survival.Survival;
import hardproof.core.wording.Title;
import hardproof.core.wording.WrongValue;
import hardproof.proving.bags.BagWriter;
import hardproof.proving.bags.BagWriter.Body;
import hardproof.server.facts.Notations;
import hardproof.server.proof.Evaluated;
import hardproof.server.runs.RunStore;
import hardproof.server.runs.ScreenStore;
import hardproof.server.web.Refused;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/** Puts a pack together. The same facts and instant always give the same bytes. */
public final class PackBuilder {
  static final String RECOMPUTE = "proof/recompute.sql";
  static final String FACTS = "facts.json";
  static final String FINDINGS = "findings.csv";
  static final String WORKLOADS = "workloads.csv";
  static final String DRILLS = "drills.csv";
  static final String REHEARSALS = "rehearsals.csv";
  static final String SURVIVAL = "survival.csv";

  static final String CONTROLS = "controls.csv";
  static final String RESULTS = "assessment-results.json";
  static final String STANDARD = "Hard-Proof-Standard";

  /** What a pack tells of where nobody says from when on: a quarter of a year. */
  public static final Duration USUAL_PERIOD = Duration.ofDays(90);

  static final String REPORT_PDF = "report.pdf";
  static final String REPORT_PAGE = "report.html";
  static final String LOGS = "drills/";

  /** Of the instant that it speaks of, so that it does not matter when it is made. */
  static final DateTimeFormatter FOLDER =
      DateTimeFormatter.ofPattern("'hard-proof-'yyyyMMdd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);

  private static final ReportPage REPORT = new ReportPage();

  private final RunStore runs;
  private final ScreenStore screens;
  private final PackHistories histories;
  private final PackLedger ledger;

  public PackBuilder(
      RunStore runs, ScreenStore screens, PackHistories histories, PackLedger ledger) {
    this.runs = runs;
    this.screens = screens;
    this.histories = histories;
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

    /**
     * @throws Refused where nothing is in scope
     */
    public void requireSomething() {
      if (facts.facts().resources().isEmpty()) {
        throw new Refused(
            "Nothing matches this scope: a pack about nothing would prove nothing. Widen it.");
      }
    }
  }

  /** Of the usual period. */
  public Contents contents(Evaluated evaluated, String title, Selector scope, String madeBy) {
    return contents(evaluated, title, scope, madeBy, null);
  }

  /**
   * Evaluates the scope by itself, as whoever checks the pack will.
   *
   * @param from begin of the period that it tells of; null for the usual
   * @throws WrongValue when the period begins after the instant that is judged
   */
  public Contents contents(
      Evaluated evaluated, String title, Selector scope, String madeBy, @Nullable Instant from) {
    Instant asAt = evaluated.evaluation().asAt();
    Instant begin = begin(from, asAt);
    Estate facts = PackScope.of(evaluated.estate(), scope);
    FactsJson json = new FactsJson(
        facts,
        evaluated.evaluation().standard(),
        Title.of(title),
        scope,
        details(facts.facts()),
        PackHistory.from(begin));
    FactsJson whole = json.with(histories.of(json, json.history().watched().from()));
    return new Contents(madeBy, whole, evaluate(whole));
  }

  /**
   * Begin of the period before an instant; the usual one where nobody says.
   *
   * @throws WrongValue when it begins after the instant, or when nothing can be known of it
   */
  static Instant begin(@Nullable Instant from, Instant asAt) {
    if (from == null) {
      return asAt.minus(USUAL_PERIOD);
    }
    if (!from.isBefore(asAt) || from.isBefore(Instant.EPOCH)) {
      throw new WrongValue(
          "a period begins before the instant it is as at, and not before 1970: from " + from
              + " can't be, as at " + asAt);
    }
    return from;
  }

  private List<RunDetail> details(Facts facts) {
    return facts.drills().stream()
        .filter(d -> !FactsJson.isReadBack(d))
        .map(d -> runs.find(d.run()).orElseThrow())
        .map(run -> RunDetail.of(run, screens.of(run.id())))
        .toList();
  }

  static Evaluation evaluate(FactsJson facts) {
    return Evaluator.evaluate(facts.estate(), facts.standard());
  }

  /**
   * The report as it will stand in the pack, but for the head of the ledger: one page, no script, nothing from outside.
   */
  public String reportHtml(Contents contents) {
    return REPORT.render(contents, null);
  }

  /**
   * Writes the pack as a zipped bag.
   *
   * @throws hardproof.server.ledger.LedgerKeys.NoKey when there is no key to sign with
   */
  public void write(Contents contents, OutputStream out) throws IOException {
    write(contents, out, new PackProgress());
  }

  void write(Contents contents, OutputStream out, PackProgress progress) throws IOException {
    progress.next("gathering the proofs of the ledger");
    PackProofs proofs = ledger.of(contents.facts());
    progress.next("writing the report");
    Map<String, Body> files = new TreeMap<>();
    pictures(contents.facts()).forEach((path, png) -> files.put(path, Body.of(png)));
    String report = report(contents.facts(), contents.evaluation(), proofs);
    progress.next("packing");
    try (MadeBeside beside = new MadeBeside(contents.facts(), report)) {
      files.put(FactsTables.FILE, beside.tables());
      files.put(REPORT_PDF, beside.pdf());
      bag(contents.facts(), contents.evaluation(), proofs, files).write(progress.watched(out));
    }
    progress.next("entering it into the list");
  }

  static String report(FactsJson facts, Evaluation evaluation, @Nullable PackProofs proofs) {
    return REPORT.render(
        new Contents("", facts, evaluation), proofs == null ? null : proofs.head());
  }

  /** What machines showed, by the path in the pack. */
  private Map<String, byte[]> pictures(FactsJson facts) {
    Map<String, byte[]> pictures = new TreeMap<>();
    facts
        .told()
        .forEach(t -> screens.of(t.fact().run()).stream()
            .filter(s -> s.number() != ScreenStore.LIVE)
            .forEach(s -> pictures.put(picture(t.fact().run(), s.number()), s.png())));
    return pictures;
  }

  static String picture(String run, int number) {
    return LOGS + run + "/screen-" + (number + 1) + ".png";
  }

  /**
   * Everything that a pack holds follows from its facts, so that whoever has them can make it again; but for the proofs
   * of the ledger, and for pictures, whose SHA-256 is among the facts. The PDF follows from the page, and takes longer
   * than all the rest.
   *
   * @param proofs null where they can't be read
   * @param others pictures, the PDF and the facts as tables, by their paths
   */
  static BagWriter bag(
      FactsJson facts, Evaluation evaluation, @Nullable PackProofs proofs, Map<String, Body> others)
      throws IOException {
    BagWriter bag = new BagWriter(FOLDER.format(facts.asAt()));
    List<ControlResult> controls = Controls.of(evaluation, facts.history().watched());
    bag.payload(REPORT_PAGE, report(facts, evaluation, proofs));
    bag.payload(CONTROLS, Tables.controls(controls));
    bag.payload(RESULTS, AssessmentResults.of(facts, controls));
    others.forEach(bag::payload);
    DrawTables.add(facts.history().draws(), bag);
    bag.payload(FINDINGS, rows(csv -> Tables.findings(evaluation, csv)));
    bag.payload(WORKLOADS, Tables.workloads(evaluation));
    bag.payload(DRILLS, Tables.drills(facts.facts().drills()));
    bag.payload(REHEARSALS, Tables.rehearsals(facts.facts().rehearsals()));
    bag.payload(
        SURVIVAL, SurvivalTable.of(Survival.of(facts.estate(), evaluation).singles()));
    addFacts(facts.estate(), bag);
    bag.payload(FACTS, facts::write);
    addLogs(facts, bag);
    bag.tag("VERIFY.txt", text("/evidence/VERIFY.txt"));
    bag.tag(RECOMPUTE, text("/evidence/recompute.sql"));
    if (proofs != null) {
      proofs.files().forEach(bag::tag);
    }
    Map<String, String> info = info(facts);
    bag.info(info);
    return bag;
  }

  /** Rows of a table as they are made. */
  private static Body rows(Consumer<Consumer<String>> table) {
    return out -> {
      Writer writer = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
      try {
        table.accept(row -> {
          try {
            writer.write(row);
          } catch (IOException e) {
            throw new UncheckedIOException(e);
          }
        });
      } catch (UncheckedIOException e) {
        throw e.getCause();
      }
      writer.flush();
    };
  }

  /** For whoever reads tables and not JSON. */
  private static void addFacts(Estate estate, BagWriter bag) {
    Facts facts = estate.facts();
    bag.payload(
        "copies.csv",
        rows(
            csv -> Tables.facts(FactKinds.COPIES, estate.copies()::iterator, Notations.KEPT, csv)));
    bag.payload(
        "jobs.csv", rows(csv -> Tables.facts(FactKinds.JOBS, facts.jobs(), Notations.KEPT, csv)));
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
    info.put("Hard-Proof-From", facts.history().watched().from().toString());
    info.put("Hard-Proof-As-At", facts.asAt().toString());
    info.put("Hard-Proof-Known-At", facts.knownAt().toString());
    info.put(STANDARD, facts.standard().title());
    info.put("Hard-Proof-Scope", facts.scope().words());
    return info;
  }

  static String text(String resource) throws IOException {
    try (InputStream in = PackBuilder.class.getResourceAsStream(resource)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }
}
