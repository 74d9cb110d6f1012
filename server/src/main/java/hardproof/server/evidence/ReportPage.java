package hardproof.server.evidence;

import hardproof.core.controls.ControlResult;
import hardproof.core.controls.ControlState;
import hardproof.core.controls.Controls;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.estate.AcceptedException;
import hardproof.core.facts.Estate;
import hardproof.core.findings.Findings;
import hardproof.core.programmes.Draw;
import hardproof.core.programmes.DrawnDrills;
import hardproof.core.programmes.DrawnFrom;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Verdict;
import hardproof.core.wording.Wording;
import hardproof.server.ledger.TreeHead;
import hardproof.server.signing.SigningKey;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.thymeleaf.TemplateEngine;
import org.thymeleaf.context.Context;
import org.thymeleaf.templatemode.TemplateMode;
import org.thymeleaf.templateresolver.ClassLoaderTemplateResolver;

/** The report of a pack: one HTML page that needs nothing else. Everything in it is escaped. */
final class ReportPage {
  private static final int WORST_SHOWN = 10;
  private static final int DRILLS_SHOWN = 200;
  private static final int NAMES_SHOWN = 300;
  static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern(
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

  /**
   * @param head of the ledger that the pack rests on; null where it is not issued yet
   */
  String render(PackBuilder.Contents contents, @Nullable TreeHead head) {
    Evaluation evaluation = contents.evaluation();
    Context context = new Context(Locale.ENGLISH);
    setSummary(contents, evaluation, context);
    context.setVariable("worst", worst(evaluation));
    ReportDetail detail = ReportDetail.of(evaluation);
    context.setVariable("workloads", detail.rows());
    context.setVariable("detail", detail);
    setTested(contents, context);
    context.setVariable("exceptions", exceptions(contents));
    context.setVariable("changes", PackChanges.of(contents.facts(), evaluation));
    context.setVariable("controls", controls(contents));
    context.setVariable("endingSoon", endingSoon(contents));
    setHead(head, context);
    context.setVariable("sampling", sampling(contents));
    return engine.process("report", context);
  }

  private static void setSummary(
      PackBuilder.Contents contents, Evaluation evaluation, Context context) {
    context.setVariable("title", contents.title());
    context.setVariable("scope", contents.scope().words());
    context.setVariable("from", TIME.format(contents.facts().history().watched().from()));
    context.setVariable("asAt", TIME.format(evaluation.asAt()));
    context.setVariable("known", known(evaluation));
    context.setVariable("standard", evaluation.standard().title());
    String zone = evaluation.standard().zone().getId();
    context.setVariable("zone", zone.equals("Z") ? "UTC" : zone);
    context.setVariable("summary", summary(evaluation));
    context.setVariable("waterline", WaterlineSvg.of(evaluation));
    context.setVariable("verdicts", verdictsByTier(evaluation));
  }

  private static List<Map<String, Object>> worst(Evaluation evaluation) {
    return evaluation.workloads().stream()
        .filter(w -> w.verdict() != Verdict.PROVEN && w.verdict() != Verdict.EXCLUDED)
        .limit(WORST_SHOWN)
        .map(ReportDetail::head)
        .toList();
  }

  private static List<Map<String, Object>> drills(PackBuilder.Contents contents) {
    return contents.facts().told().stream()
        .sorted(Comparator.comparing((FactsJson.Told t) -> t.fact().ended()).reversed())
        .limit(DRILLS_SHOWN)
        .map(t -> drill(contents, t.fact(), t.detail()))
        .toList();
  }

  private static void setHead(@Nullable TreeHead head, Context context) {
    context.setVariable("head", head);
    if (head != null) {
      context.setVariable("fingerprint", SigningKey.fingerprint(head.publicKey()));
      context.setVariable(
          "qr",
          QrSvg.of(head.body(), "The head of the ledger as a QR code: size, root, time, key"));
    }
  }

  private static List<Map<String, Object>> controls(PackBuilder.Contents contents) {
    List<Map<String, Object>> rows = new ArrayList<>();
    for (ControlResult c :
        Controls.of(contents.evaluation(), contents.facts().history().watched())) {
      Map<String, Object> row = new LinkedHashMap<>();
      row.put("reference", c.control().reference());
      row.put("title", c.control().title());
      row.put("state", c.state().words());
      row.put("good", c.state() == ControlState.SATISFIED);
      row.put("tally", AssessmentResults.tally(c));
      row.put("notLookedAt", c.control().notLookedAt());
      rows.add(row);
    }
    return rows;
  }

  /** How drills of the period were chosen, and what those that were drawn at random show. */
  private static List<String> sampling(PackBuilder.Contents contents) {
    FactsJson facts = contents.facts();
    Instant from = facts.history().watched().from();
    Set<String> told = new HashSet<>();
    facts.told().forEach(t -> told.add(t.fact().run()));
    List<DrawnFrom> draws = facts.history().draws().stream()
        .filter(PackHistory.PackDraw::repeats)
        .map(d -> new DrawnFrom(
            Set.copyOf(Draw.read(d.candidates())), d.runs().keySet(), d.sample() != null, (int)
                d.runs().keySet().stream().filter(r -> !says(facts, r)).count()))
        .toList();
    List<DrillFact> drills = facts.facts().drills().stream()
        .filter(d -> told.contains(d.run()) && !d.ended().isBefore(from))
        .toList();
    Estate estate = new Estate(facts.asAt(), facts.knownAt(), facts.facts());
    return DrawnDrills.of(estate, facts.standard(), drills, draws).sentences();
  }

  private static boolean says(FactsJson facts, String run) {
    return facts.facts().drills().stream().anyMatch(d -> d.run().equals(run) && DrawnFrom.says(d));
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
      long total = counts.stream().mapToLong(Long::longValue).sum();
      row.put("total", total);
      if (total > 0) {
        rows.add(row);
      }
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
    Set<String> drilled = contents.facts().facts().drills().stream()
        .filter(d -> d.passed() || d.failed())
        .map(DrillFact::resource)
        .collect(Collectors.toSet());
    return contents.facts().facts().resources().stream()
        .filter(r -> !drilled.contains(r.key()))
        .map(r -> r.name())
        .sorted()
        .toList();
  }

  private static void setTested(PackBuilder.Contents contents, Context context) {
    List<String> notTested = notTested(contents);
    context.setVariable("notTested", notTested.size());
    context.setVariable(
        "notTestedNames",
        String.join(", ", notTested.subList(0, Math.min(NAMES_SHOWN, notTested.size())))
            + (notTested.size() > NAMES_SHOWN
                ? ", … and " + (notTested.size() - NAMES_SHOWN) + " more"
                : ""));
    context.setVariable("drills", drills(contents));
    context.setVariable("rehearsals", rehearsals(contents));
    int others = contents.facts().told().size() - DRILLS_SHOWN;
    context.setVariable("otherDrills", Math.max(0, others));
  }

  /** A line for each rehearsal, the newest first. */
  private static List<String> rehearsals(PackBuilder.Contents contents) {
    Estate estate = contents.facts().estate();
    return contents.facts().facts().rehearsals().stream()
        .sorted(Comparator.comparing(RehearsalFact::ended).reversed())
        .map(r -> TIME.format(r.started()) + ", "
            + (estate.workload(r.workload()) == null
                ? r.workload()
                : estate.workload(r.workload()).name())
            + (r.loss() == null ? "" : ", from what the loss of " + r.loss() + " leaves") + ": "
            + r.outcome().code() + ", " + r.sentence())
        .toList();
  }

  private static List<String> exceptions(PackBuilder.Contents contents) {
    Instant asAt = contents.facts().asAt();
    return exceptions(contents, e -> e.validAt(asAt));
  }

  private static List<String> endingSoon(PackBuilder.Contents contents) {
    Instant asAt = contents.facts().asAt();
    Instant soon = asAt.plus(Findings.ENDS_SOON);
    return exceptions(
        contents, e -> e.validAt(asAt) && e.until() != null && !e.until().isAfter(soon));
  }

  private static List<String> exceptions(
      PackBuilder.Contents contents, Predicate<AcceptedException> which) {
    return contents.facts().facts().exceptions().stream()
        .filter(which)
        .map(e -> e.scope().words() + (e.criterion() == null ? ", left out" : ", " + e.criterion())
            + (e.until() == null ? ", without an end" : ", until " + TIME.format(e.until())) + ": "
            + e.reason() + " (proposed by " + e.proposedBy() + ", approved by " + e.approvedBy()
            + ")")
        .toList();
  }
}
