package hardproof.core.findings;

import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.Measure;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.estate.Feed;
import hardproof.core.facts.Estate;
import hardproof.core.forecast.Forecast;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Turns an evaluation into findings. Pure. */
public final class Findings {
  /** An exception that ends within this is told of. */
  public static final Duration ENDS_SOON = Duration.ofDays(14);

  /** An exception that ended is told of for as long as this. */
  public static final Duration ENDED_LATELY = Duration.ofDays(30);

  /**
   * Unprotected first; then by tier, what is wrong with the data now before the rest, by how far over,
   * and by name. What is excepted comes last.
   */
  public static final Comparator<Finding> IN_ORDER = Comparator.comparing(
          (Finding f) -> f.open() ? 0 : 1)
      .thenComparing(f -> f.unprotected() ? 0 : 1)
      .thenComparing(f -> f.about().tier() == null ? 1 : f.about().tier())
      .thenComparing(f -> f.concern().urgent() ? 0 : 1)
      .thenComparing(Finding::over, Comparator.reverseOrder())
      .thenComparing(f -> f.about().name())
      .thenComparing(Finding::key);

  private Findings() {}

  /**
   * Everything that is not met or excepted, of resources that are not left out; feeds that are
   * overdue, do not keep pace or name what is not known; exceptions that end soon or ended lately; stores
   * that could not be listed, or on which something lies that no feed tells of.
   *
   * @param pending by feed, what names others that are not known
   */
  public static List<Finding> of(
      Evaluation evaluation, Estate estate, Map<String, Pending> pending) {
    return of(evaluation, estate, pending, List.of());
  }

  /**
   * The same with the proofs that nothing renews.
   *
   * @param notRenewed those of a forecast from this evaluation that stay missing to its end
   */
  public static List<Finding> of(
      Evaluation evaluation,
      Estate estate,
      Map<String, Pending> pending,
      List<Forecast.Gap> notRenewed) {
    List<Finding> findings = new ArrayList<>();
    Map<String, List<Outcome>> outOfPace = addMembers(evaluation, findings);
    estate.facts().feeds().forEach(feed -> addFeed(estate, pending, findings, feed));
    outOfPace.forEach((feed, outcomes) -> findings.add(FeedFindings.pace(feed, outcomes)));
    estate.facts().exceptions().stream()
        .flatMap(e -> ExceptionFindings.of(e, estate.asAt()).stream())
        .forEach(findings::add);
    findings.addAll(StoreFindings.of(estate));
    notRenewed.stream()
        .filter(gap -> evaluation.resource(gap.resource()) != null)
        .forEach(gap -> findings.add(RenewalFindings.of(gap, evaluation)));
    findings.sort(IN_ORDER);
    return findings;
  }

  private static Map<String, List<Outcome>> addMembers(
      Evaluation evaluation, List<Finding> findings) {
    Map<String, List<Outcome>> outOfPace = new HashMap<>();
    for (WorkloadResult workload : evaluation.workloads()) {
      for (ResourceResult member : workload.members()) {
        if (member.verdict() != Verdict.EXCLUDED) {
          addMember(findings, outOfPace, workload, member);
        }
      }
    }
    return outOfPace;
  }

  private static void addFeed(
      Estate estate, Map<String, Pending> pending, List<Finding> findings, Feed feed) {
    FeedFindings.overdue(feed, estate.asAt()).ifPresent(findings::add);
    FeedFindings.pending(feed, pending.getOrDefault(feed.key(), Pending.NOTHING))
        .ifPresent(findings::add);
  }

  /**
   * @param outOfPace takes what a feed's rhythm is the reason of, by feed: the one thing to change is that rhythm,
   *     however many resources it tells of
   */
  private static void addMember(
      List<Finding> findings,
      Map<String, List<Outcome>> outOfPace,
      WorkloadResult workload,
      ResourceResult member) {
    About about = About.of(workload, member);
    for (Outcome outcome : member.outcomes()) {
      boolean fails = outcome.state() == OutcomeState.NOT_MET;
      if (fails && outcome.criterion() == CriterionCode.FRESH_PACE) {
        outOfPace
            .computeIfAbsent(outcome.facts().get(0).key(), k -> new ArrayList<>())
            .add(outcome);
      } else if (fails || outcome.state() == OutcomeState.EXCEPTED) {
        findings.add(finding(about, member, outcome));
      }
    }
  }

  private static Finding finding(About about, ResourceResult member, Outcome o) {
    boolean nothing =
        o.criterion() == CriterionCode.COVER_PROTECTED && member.verdict() == Verdict.UNCOVERED;
    return new Finding(
        o.criterion(),
        about,
        nothing,
        o.sentence(),
        o.measured() == null ? null : o.measured().words(),
        o.demanded() == null ? null : o.demanded().words(),
        over(o),
        o.facts(),
        o.exception());
  }

  static double over(Outcome o) {
    Measure measured = o.measured();
    Measure demanded = o.demanded();
    if (demanded == null) {
      return 1;
    } else if (measured == null) {
      return Double.POSITIVE_INFINITY;
    }
    return factor(measured, demanded);
  }

  private static double factor(Measure measured, Measure demanded) {
    double larger = Math.max(measured.value(), demanded.value());
    double smaller = Math.min(measured.value(), demanded.value());
    if (smaller > 0) {
      return larger / smaller;
    }
    // Of what may not be there at all, each one more is worse.
    return larger > 0 && measured.value() > demanded.value()
        ? 1 + larger
        : Double.POSITIVE_INFINITY;
  }
}
