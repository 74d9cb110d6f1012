package hardproof.core.findings;

import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.FactRef;
import hardproof.core.criteria.Measure;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Policy;
import hardproof.core.facts.Estate;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Turns an evaluation into findings. Pure. */
public final class Findings {
  /** An exception that ends within this is told of. */
  public static final Duration ENDS_SOON = Duration.ofDays(14);

  /** An exception that ended is told of for as long as this. */
  public static final Duration ENDED_LATELY = Duration.ofDays(30);

  /** What is wrong with the data itself now, before what is wrong with plans and habits. */
  private static final Set<String> URGENT = Set.of(
      CriterionCode.COVER_PROTECTED.code(),
      CriterionCode.FRESH_EXPOSURE_NOW.code(),
      CriterionCode.COPIES_ZERO_ERRORS.code(),
      CriterionCode.SOUND_COMPLETE.code(),
      CriterionCode.SOUND_CHAIN.code(),
      CriterionCode.PROOF_LAST_DRILL.code(),
      "feed-overdue");

  /**
   * Unprotected first; then by tier, what is wrong with the data now before the rest, by how far over,
   * and by name. What is excepted comes last.
   */
  public static final Comparator<Finding> IN_ORDER = Comparator.comparing(
          (Finding f) -> f.open() ? 0 : 1)
      .thenComparing(f -> f.unprotected() ? 0 : 1)
      .thenComparing(f -> f.tier() == null ? 1 : f.tier())
      .thenComparing(f -> URGENT.contains(f.code()) ? 0 : 1)
      .thenComparing(Finding::over, Comparator.reverseOrder())
      .thenComparing(Finding::name)
      .thenComparing(Finding::key);

  private Findings() {}

  /**
   * Everything that is not met or excepted, of resources that are not left out; feeds that are
   * overdue, do not keep pace or name what is not known; exceptions that end soon or ended lately.
   *
   * @param pending by feed, what names others that are not known
   */
  public static List<Finding> of(
      Evaluation evaluation, Estate estate, Map<String, Pending> pending) {
    List<Finding> findings = new ArrayList<>();
    Map<String, List<Outcome>> outOfPace = new HashMap<>();
    for (WorkloadResult workload : evaluation.workloads()) {
      for (ResourceResult member : workload.members()) {
        if (member.verdict() == Verdict.EXCLUDED) {
          continue;
        }
        List<String> policies = member.policies().stream().map(Policy::name).toList();
        for (Outcome outcome : member.outcomes()) {
          if (outcome.criterion() == CriterionCode.FRESH_PACE
              && outcome.state() == OutcomeState.NOT_MET) {
            // The one thing to change is the feed's rhythm, however many resources it tells of.
            outOfPace
                .computeIfAbsent(outcome.facts().get(0).key(), k -> new ArrayList<>())
                .add(outcome);
          } else if (outcome.state() == OutcomeState.NOT_MET
              || outcome.state() == OutcomeState.EXCEPTED) {
            findings.add(finding(workload, member, policies, outcome));
          }
        }
      }
    }
    estate.facts().feeds().forEach(f -> addFeed(findings, f, estate.asAt(), pending));
    outOfPace.forEach((feed, outcomes) -> findings.add(pace(feed, outcomes)));
    estate.facts().exceptions().forEach(e -> addException(findings, e, estate.asAt()));
    findings.sort(IN_ORDER);
    return findings;
  }

  private static Finding finding(
      WorkloadResult workload, ResourceResult member, List<String> policies, Outcome o) {
    boolean nothing =
        o.criterion() == CriterionCode.COVER_PROTECTED && member.verdict() == Verdict.UNCOVERED;
    return new Finding(
        o.criterion().code(),
        o.criterion().group(),
        o.criterion().title(),
        SubjectType.RESOURCE,
        member.resource().key(),
        member.resource().name(),
        workload.workload().key(),
        workload.unassigned() ? null : workload.workload().name(),
        workload.workload().owner(),
        workload.workload().tier(),
        member.resource().site(),
        policies,
        nothing,
        o.sentence(),
        o.measured() == null ? null : o.measured().words(),
        o.demanded() == null ? null : o.demanded().words(),
        over(o),
        o.facts(),
        o.exception());
  }

  private static double over(Outcome o) {
    Measure measured = o.measured();
    Measure demanded = o.demanded();
    if (demanded == null) {
      return 1;
    } else if (measured == null) {
      return Double.POSITIVE_INFINITY;
    }
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

  /** By the resource that asks for most: of several with the same, the first. */
  private static Finding pace(String feed, List<Outcome> outcomes) {
    Outcome most = outcomes.stream()
        .min(Comparator.comparingDouble(o -> o.demanded().value()))
        .orElseThrow();
    return other(
        "feed-pace",
        "Feed does not keep pace",
        SubjectType.FEED,
        feed,
        most.sentence() + "; feed " + feed + " tells of "
            + Wording.count(outcomes.size(), "resource", "resources")
            + " with an objective or a copy deadline that is shorter than its rhythm",
        most.measured().words(),
        most.demanded().words(),
        over(most),
        new FactRef("feeds", feed));
  }

  private static void addFeed(
      List<Finding> findings, Feed feed, Instant asAt, Map<String, Pending> pending) {
    if (feed.overdueAt(asAt)) {
      Duration silent = Duration.between(feed.lastReceived(), asAt);
      findings.add(other(
          "feed-overdue",
          "Feed overdue",
          SubjectType.FEED,
          feed.key(),
          feed.overdueSentence(asAt) + "; what depends on it can't be judged",
          Wording.duration(silent),
          Wording.duration(feed.expectedEvery()),
          (double) silent.toMillis() / feed.expectedEvery().toMillis(),
          new FactRef("feeds", feed.key())));
    }
    Pending of = pending.getOrDefault(feed.key(), Pending.NOTHING);
    long open = of.facts();
    if (open > 0) {
      findings.add(other(
          "feed-pending",
          "Feed names what is not known",
          SubjectType.FEED,
          feed.key(),
          Wording.count(open, "fact", "facts") + " of feed " + feed.key()
              + (open == 1 ? " names" : " name")
              + " another that is not known; "
              + (open == 1 ? "it is kept and joins" : "they are kept and join")
              + " when the other comes" + unknownStores(of.stores()),
          Long.toString(open),
          "0",
          1 + open,
          new FactRef("feeds", feed.key())));
    }
  }

  private static final int STORES_NAMED = 5;

  private static String unknownStores(List<String> stores) {
    if (stores.isEmpty()) {
      return "";
    }
    int more = stores.size() - STORES_NAMED;
    return "; " + (stores.size() == 1 ? "store " : "stores ")
        + (more > 0
            ? String.join(", ", stores.subList(0, STORES_NAMED)) + " and " + more + " more"
            : Wording.list(stores))
        + (stores.size() == 1 ? " is" : " are") + " not known, so no copy there can be read";
  }

  private static void addException(List<Finding> findings, AcceptedException e, Instant asAt) {
    if (e.until() == null || e.approvedBy() == null || e.refusedBy() != null) {
      return;
    }
    Duration left = Duration.between(asAt, e.until());
    FactRef fact = new FactRef("exceptions", e.key());
    if (!left.isNegative() && !left.isZero() && left.compareTo(ENDS_SOON) <= 0) {
      findings.add(other(
          "exception-ending",
          "Exception ends soon",
          SubjectType.EXCEPTION,
          e.key(),
          "the exception for " + e.scope().words() + " (" + e.reason() + ") ends in "
              + Wording.duration(left) + ", at " + Wording.time(e.until(), asAt),
          Wording.duration(left),
          null,
          1,
          fact));
    } else if ((left.isNegative() || left.isZero())
        && left.negated().compareTo(ENDED_LATELY) <= 0) {
      findings.add(other(
          "exception-ended",
          "Exception ended",
          SubjectType.EXCEPTION,
          e.key(),
          "the exception for " + e.scope().words() + " (" + e.reason() + ") ended "
              + Wording.duration(left.negated()) + " ago, at " + Wording.time(e.until(), asAt)
              + "; what it accepted is judged again",
          Wording.duration(left.negated()),
          null,
          1,
          fact));
    }
  }

  private static Finding other(
      String code,
      String title,
      SubjectType type,
      String subject,
      String sentence,
      String measured,
      String demanded,
      double over,
      FactRef fact) {
    return new Finding(
        code,
        type == SubjectType.FEED ? "Feeds" : "Exceptions",
        title,
        type,
        subject,
        subject,
        null,
        null,
        null,
        null,
        null,
        List.of(),
        false,
        sentence,
        measured,
        demanded,
        over,
        List.of(fact),
        null);
  }
}
