package hardproof.server.insights;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import hardproof.core.estate.Selector;
import hardproof.core.facts.Estate;
import hardproof.core.insights.FailureCause;
import hardproof.core.insights.Insights;
import hardproof.core.insights.JobCounts;
import hardproof.core.insights.ProofChange;
import hardproof.core.insights.Stretch;
import hardproof.core.insights.TierAttainment;
import hardproof.core.ladder.Rung;
import hardproof.core.proof.Evaluation;
import hardproof.core.wording.Wording;
import hardproof.core.wording.WrongValue;
import hardproof.server.facts.SelectorJson;
import hardproof.server.findings.FindingLog;
import hardproof.server.programmes.DrawStore;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Differences;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import io.swagger.v3.oas.annotations.Operation;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What a period amounts to, and how the jobs of the last days went. */
@RestController
@RequestMapping("/api")
class InsightController {
  private static final Duration DAY = Duration.ofHours(24);
  private static final Duration TWO_WEEKS = Duration.ofDays(14);
  private static final int CAUSES_SHOWN = 30;

  private final Evaluations evaluations;
  private final FindingLog log;
  private final Drawn drawn;

  InsightController(Evaluations evaluations, FindingLog log, DrawStore draws) {
    this.evaluations = evaluations;
    this.log = log;
    this.drawn = new Drawn(draws);
  }

  /** Findings over the period. */
  record OpenFindings(
      int openAtStart,
      int opened,
      int closed,
      int openAtEnd,
      @Nullable Long meanToFixMs) {
    static OpenFindings of(hardproof.core.insights.OpenFindings open) {
      return new OpenFindings(
          open.atStart(),
          open.opened(),
          open.closed(),
          open.atEnd(),
          open.meanToFix() == null ? null : open.meanToFix().toMillis());
    }
  }

  /**
   * A period in figures and sentences.
   *
   * @param scope the selector in words; absent when everything is looked at
   */
  record InsightView(
      Instant from,
      Instant to,
      @Nullable String scope,
      List<String> sentences,
      List<TierShare> attainment,
      List<ProofMove> gained,
      List<ProofMove> lapsed,
      List<FailureView> failures,
      @JsonUnwrapped OpenFindings open,
      List<TrendView> trend,
      SureView sure,
      Differences differences) {}

  /**
   * How the RPO was kept in a tier.
   *
   * @param course mean share in equal parts of the period; −1 where nothing was counted
   */
  record TierShare(
      int tier,
      int resources,
      double mean,
      double worst,
      String worstName,
      int kept,
      List<Double> course) {
    static TierShare of(TierAttainment t) {
      return new TierShare(
          t.tier(),
          t.resources(),
          t.mean(),
          t.worst(),
          t.worstName(),
          t.kept(),
          t.course().stream().map(c -> c == null ? -1 : c).toList());
    }
  }

  record ProofMove(String resource, String name, @Nullable Integer tier, Rung rung, Instant at) {}

  record FailureView(
      String kind, String cause, int times, int resources, Instant first, Instant last) {
    static FailureView of(FailureCause f) {
      return new FailureView(f.kind(), f.cause(), f.times(), f.resources(), f.first(), f.last());
    }
  }

  record TrendView(
      Instant at, long points, long bytes, @Nullable Long medianReachMs) {
    static TrendView of(hardproof.core.insights.TrendPoint t) {
      return new TrendView(
          t.at(),
          t.points(),
          t.bytes(),
          t.medianReach() == null ? null : t.medianReach().toMillis());
    }
  }

  @Operation(summary = "Attainment, proof and failures over a period")
  @GetMapping("/insights")
  InsightView insights(
      @RequestParam Instant from,
      @RequestParam(required = false) Instant to,
      @RequestParam(required = false) String knownAt,
      @RequestParam(required = false) String selector) {
    AsAt when = new AsAt(to, knownAt).usuallyHindsight();
    Evaluated end = evaluations.at(when);
    Instant until = end.estate().asAt();
    if (!from.isBefore(until)) {
      throw new WrongValue("the period ends before it begins: choose from before to");
    }
    Selector which = SelectorJson.asked(selector);
    boolean all = which.equals(Selector.EVERYTHING);
    Set<String> chosen = end.estate().matching(which);
    Evaluation before = evaluations.at(when.at(from)).evaluation();
    List<Stretch> stretches = log.stretches(from, until).stream()
        .filter(s -> all || chosen.contains(s.subject()))
        .toList();
    Insights i = Insights.of(
        end.estate(),
        end.evaluation().standard(),
        from,
        stretches,
        all ? key -> true : chosen::contains);
    return new InsightView(
        from,
        until,
        all ? null : which.words(),
        i.sentences(),
        i.attainment().stream().map(TierShare::of).toList(),
        i.gained().stream().map(InsightController::move).toList(),
        i.lapsed().stream().map(InsightController::move).toList(),
        i.failures().stream().limit(CAUSES_SHOWN).map(FailureView::of).toList(),
        OpenFindings.of(i.open()),
        i.trend().stream().map(TrendView::of).toList(),
        SureView.of(
            drawn.in(
                end.estate(),
                end.evaluation().standard(),
                from,
                all ? key -> true : chosen::contains),
            end.estate()),
        all
            ? Differences.of(before, end.evaluation())
            : Differences.of(before.about(chosen), end.evaluation().about(chosen)));
  }

  private static ProofMove move(ProofChange c) {
    return new ProofMove(c.resource(), c.name(), c.tier(), c.rung(), c.at());
  }

  /**
   * How jobs went.
   *
   * @param repeated causes that came more than once in the two weeks
   */
  record JobSummary(
      Instant asAt,
      List<JobCounts> lastDay,
      List<JobCounts> twoWeeks,
      List<FailureView> repeated,
      List<String> sentences) {}

  @Operation(summary = "Jobs of the last day, by type and outcome")
  @GetMapping("/job-summary")
  JobSummary jobs(@ParameterObject AsAt asAt) {
    Estate estate = evaluations.at(asAt).estate();
    Instant now = estate.asAt();
    List<FailureView> repeated = repeated(estate, now);
    return new JobSummary(
        now,
        JobCounts.since(estate, now.minus(DAY)),
        JobCounts.since(estate, now.minus(TWO_WEEKS)),
        repeated,
        repeated.stream().map(f -> sentence(f)).toList());
  }

  private static List<FailureView> repeated(Estate estate, Instant now) {
    return FailureCause.between(estate, now.minus(TWO_WEEKS), now, key -> true).stream()
        .filter(f -> f.times() > 1)
        .limit(CAUSES_SHOWN)
        .map(FailureView::of)
        .toList();
  }

  private static String sentence(InsightController.FailureView f) {
    return f.kind() + " failed " + f.times() + " times on "
        + Wording.count(f.resources(), "resource", "resources") + ", each time: "
        + f.cause();
  }
}
