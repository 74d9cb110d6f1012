package hardproof.server.evidence;

import hardproof.core.estate.Selector;
import hardproof.core.evidence.Tables;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import hardproof.proving.bags.BagWriter;
import hardproof.server.drills.Run;
import hardproof.server.drills.RunStore;
import hardproof.server.proof.Evaluated;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Puts a pack together. The same facts and instant always give the same bytes. */
public final class PackBuilder {
  static final String FACTS = "facts.json";
  static final String FINDINGS = "findings.csv";
  static final String WORKLOADS = "workloads.csv";
  static final String DRILLS = "drills.csv";

  private final RunStore runs;
  private final ReportPage report = new ReportPage();

  public PackBuilder(RunStore runs) {
    this.runs = runs;
  }

  /** What a pack holds, before it is packed. */
  public record Contents(
      String title, Selector scope, String madeBy, FactsJson facts, Evaluation evaluation) {}

  /** Evaluates the scope by itself, as whoever checks the pack will. */
  public Contents contents(Evaluated evaluated, String title, Selector scope, String madeBy) {
    Facts facts = PackScope.of(evaluated.estate(), scope);
    FactsJson json =
        new FactsJson(evaluated.evaluation().asAt(), evaluated.evaluation().standard(), facts);
    return new Contents(title, scope, madeBy, json, evaluate(json));
  }

  static Evaluation evaluate(FactsJson facts) {
    return Evaluator.evaluate(new Estate(facts.asAt(), facts.facts()), facts.standard());
  }

  /** The report as it stands in the pack: one page, no script, nothing from outside. */
  public String reportHtml(Contents contents) {
    return report.render(contents, drills(contents));
  }

  private List<Run> drills(Contents contents) {
    return contents.facts().facts().drills().stream()
        .map(d -> runs.find(d.run()))
        .flatMap(java.util.Optional::stream)
        .toList();
  }

  /** Writes the pack as a zipped bag whose one folder is {@code name}. */
  public void write(Contents contents, String name, OutputStream out) throws IOException {
    BagWriter bag = new BagWriter(name);
    List<Run> drills = drills(contents);
    bag.payload("report.html", report.render(contents, drills));
    bag.payload(FINDINGS, Tables.findings(contents.evaluation()));
    bag.payload(WORKLOADS, Tables.workloads(contents.evaluation()));
    bag.payload(DRILLS, Tables.drills(contents.facts().facts().drills()));
    bag.payload(FACTS, contents.facts().write());
    drills.forEach(d -> bag.payload("drills/" + d.id() + "/log.txt", DrillLog.of(d)));
    bag.tag("VERIFY.txt", text("/evidence/VERIFY.txt"));
    Map<String, String> info = new LinkedHashMap<>();
    info.put("External-Description", contents.title());
    info.put("Bagging-Date", contents.facts().asAt().toString().substring(0, 10));
    info.put("Bag-Software-Agent", "Hard Proof");
    info.put("Hard-Proof-As-At", contents.facts().asAt().toString());
    info.put("Hard-Proof-Standard", contents.facts().standard().title());
    info.put("Hard-Proof-Scope", contents.scope().words());
    info.put("Contact-Name", contents.madeBy());
    bag.write(out, info);
  }

  static String text(String resource) throws IOException {
    try (InputStream in = PackBuilder.class.getResourceAsStream(resource)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }
}
