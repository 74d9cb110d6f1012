package hardproof.server.evidence;

import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.drills.DrillFact;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.IntStream;
import org.thymeleaf.TemplateEngine;
import org.thymeleaf.context.Context;
import org.thymeleaf.templatemode.TemplateMode;
import org.thymeleaf.templateresolver.ClassLoaderTemplateResolver;

/** The report of a pack: one HTML page that needs nothing else. Everything in it is escaped. */
final class ReportPage {
  private static final int WORST_SHOWN = 10;
  private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern(
          "d MMM yyyy HH:mm 'UTC'", Locale.ENGLISH)
      .withZone(ZoneOffset.UTC);

  private final TemplateEngine engine = new TemplateEngine();

  ReportPage() {
    ClassLoaderTemplateResolver templates = new ClassLoaderTemplateResolver();
    templates.setPrefix("evidence/");
    templates.setSuffix(".html");
    templates.setTemplateMode(TemplateMode.HTML);
    templates.setCharacterEncoding("UTF-8");
    engine.setTemplateResolver(templates);
  }

  String render(PackBuilder.Contents contents) {
    Evaluation evaluation = contents.evaluation();
    Context context = new Context(Locale.ENGLISH);
    setSummary(contents, evaluation, context);
    context.setVariable("worst", worst(evaluation));
    context.setVariable("workloads", workloads(evaluation));
    context.setVariable("drills", drills(contents));
    context.setVariable("notTested", notTested(contents));
    context.setVariable("exceptions", exceptions(contents));
    return engine.process("report", context);
  }

  private static void setSummary(
      PackBuilder.Contents contents, Evaluation evaluation, Context context) {
    context.setVariable("title", contents.title());
    context.setVariable("scope", contents.scope().words());
    context.setVariable("asAt", TIME.format(evaluation.asAt()));
    context.setVariable("known", known(evaluation));
    context.setVariable("standard", evaluation.standard().title());
    context.setVariable("summary", summary(evaluation));
    context.setVariable("waterline", WaterlineSvg.of(evaluation));
    context.setVariable("verdicts", verdictsByTier(evaluation));
  }

  private static List<Map<String, Object>> worst(Evaluation evaluation) {
    return workloads(evaluation).stream()
        .filter(w -> !w.get("verdict").equals("proven") && !w.get("verdict").equals("excluded"))
        .limit(WORST_SHOWN)
        .toList();
  }

  private static List<Map<String, Object>> drills(PackBuilder.Contents contents) {
    return contents.facts().told().stream()
        .map(t -> drill(contents, t.fact(), t.detail()))
        .toList();
  }

  private static String known(Evaluation evaluation) {
    return evaluation.knownAt().isAfter(evaluation.asAt())
        ? "in hindsight, by facts recorded until " + TIME.format(evaluation.knownAt())
        : "by what was known then";
  }

  private static String summary(Evaluation evaluation) {
    int proven = evaluation.counts().getOrDefault(Verdict.PROVEN, 0);
    List<String> others = new ArrayList<>();
    for (Verdict verdict : Verdict.values()) {
      Integer count = evaluation.counts().get(verdict);
      if (count != null && verdict != Verdict.PROVEN) {
        others.add(count + " " + verdict.code());
      }
    }
    int all = evaluation.workloads().size();
    String first = proven + " of " + Wording.count(all, "workload is", "workloads are") + " proven";
    return first + (others.isEmpty() ? "." : "; " + Wording.list(others) + ".");
  }

  private static List<Map<String, Object>> verdictsByTier(Evaluation evaluation) {
    List<Map<String, Object>> rows = new ArrayList<>();
    for (Verdict verdict : Verdict.values()) {
      List<Long> counts = countsByTier(evaluation, verdict);
      Map<String, Object> row = new LinkedHashMap<>();
      row.put("verdict", verdict.code());
      row.put("counts", counts);
      row.put("total", counts.stream().mapToLong(Long::longValue).sum());
      rows.add(row);
    }
    return rows;
  }

  private static List<Long> countsByTier(Evaluation evaluation, Verdict verdict) {
    return IntStream.rangeClosed(0, 4)
        .mapToObj(tier -> evaluation.workloads().stream()
            .filter(w -> w.verdict() == verdict)
            .filter(w -> tier == (w.workload().tier() == null ? 0 : w.workload().tier()))
            .count())
        .toList();
  }

  private static List<Map<String, Object>> workloads(Evaluation evaluation) {
    return evaluation.workloads().stream().map(ReportPage::workload).toList();
  }

  private static Map<String, Object> workload(WorkloadResult w) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("name", w.workload().name());
    row.put(
        "owner", w.workload().owner() == null ? "owner not known" : w.workload().owner());
    row.put(
        "tier",
        w.workload().tier() == null ? "tier not known" : "tier " + w.workload().tier());
    putProof(w, row);
    List<Map<String, Object>> members = members(w);
    row.put("members", members);
    return row;
  }

  private static List<Map<String, Object>> members(WorkloadResult w) {
    List<Map<String, Object>> members = new ArrayList<>();
    w.members().forEach(m -> {
      Map<String, Object> member = new LinkedHashMap<>();
      member.put("name", m.resource().name());
      member.put("kind", m.resource().kind().words());
      member.put("loss", m.lossSentence());
      member.put("outcomes", m.outcomes().stream().map(ReportPage::outcome).toList());
      members.add(member);
    });
    return members;
  }

  private static void putProof(WorkloadResult w, Map<String, Object> row) {
    row.put("verdict", w.verdict().code());
    row.put("sentence", w.sentence());
    row.put(
        "others", w.causes().stream().skip(1).map(c -> c.sentence()).distinct().toList());
    row.put("rung", w.rung() == null ? "nothing" : w.rung().code());
    row.put("demanded", w.demanded().code());
    row.put("actions", w.actions().stream().map(a -> a.sentence()).toList());
  }

  private static Map<String, Object> outcome(Outcome o) {
    Map<String, Object> row = new LinkedHashMap<>();
    row.put("title", o.criterion().title());
    row.put("state", o.state().code().replace('-', ' '));
    row.put("met", o.state() == OutcomeState.MET);
    row.put("measured", o.measured() == null ? "–" : o.measured().words());
    row.put("demanded", o.demanded() == null ? "–" : o.demanded().words());
    row.put("sentence", o.sentence());
    row.put("why", o.why());
    row.put("controls", String.join(", ", o.criterion().references()));
    return row;
  }

  private static Map<String, Object> drill(
      PackBuilder.Contents contents, DrillFact d, RunDetail detail) {
    Map<String, Object> row = new LinkedHashMap<>();
    var resource = contents.facts().facts().resources().stream()
        .filter(r -> r.key().equals(d.resource()))
        .findFirst();
    row.put("resource", resource.map(r -> r.name()).orElse(d.resource()));
    putFact(d, row);
    row.put("asked", detail.requestedBy() + ": " + detail.reason());
    row.put("steps", steps(detail));
    return row;
  }

  private static void putFact(DrillFact d, Map<String, Object> row) {
    row.put("method", d.method().words());
    row.put("point", d.point());
    row.put("store", d.store());
    row.put("ended", TIME.format(d.ended()));
    row.put("took", Wording.duration(Duration.between(d.started(), d.ended())));
    row.put("restore", d.restore().code());
    row.put("checks", d.checks().code());
    row.put("cleanup", d.cleanup().code());
    row.put("passed", d.passed());
    row.put("sentence", d.sentence());
  }

  private static List<String> steps(RunDetail detail) {
    return detail.steps().stream()
        .map(s ->
            s.name() + " — " + s.state().code() + (s.message().isEmpty() ? "" : ": " + s.message()))
        .toList();
  }

  private static List<String> notTested(PackBuilder.Contents contents) {
    List<String> drilled = contents.facts().facts().drills().stream()
        .filter(d -> d.passed() || d.failed())
        .map(d -> d.resource())
        .toList();
    return contents.facts().facts().resources().stream()
        .filter(r -> !drilled.contains(r.key()))
        .map(r -> r.name())
        .sorted()
        .toList();
  }

  private static List<String> exceptions(PackBuilder.Contents contents) {
    Instant asAt = contents.facts().asAt();
    return contents.facts().facts().exceptions().stream()
        .filter(e -> e.validAt(asAt))
        .map(e -> e.scope().words() + (e.criterion() == null ? ", left out" : ", " + e.criterion())
            + (e.until() == null ? ", without an end" : ", until " + TIME.format(e.until())) + ": "
            + e.reason() + " (proposed by " + e.proposedBy() + ", approved by " + e.approvedBy()
            + ")")
        .toList();
  }
}
