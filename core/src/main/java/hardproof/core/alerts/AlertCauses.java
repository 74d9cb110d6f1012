package hardproof.core.alerts;

import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.drills.ChecksState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.estate.Feed;
import hardproof.core.facts.Estate;
import hardproof.core.findings.Finding;
import hardproof.core.findings.SubjectType;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Everything that somebody must know as things stand. Pure. One cause is one alert: what a silent feed explains is counted
 * in the alert of that feed, what is late since a drill failed in the alert of that drill, other points and copies that are late in one
 * alert of their workload, and a verdict that another alert of the same workload explains is told by that.
 */
public final class AlertCauses {
  private static final String ENDING = "exception-ending";
  private static final String OVERDUE = "feed-overdue";

  private final Estate estate;
  private final Set<String> silent;
  private final Map<String, AlertCause> causes = new LinkedHashMap<>();
  private final Map<String, Set<String>> others = new HashMap<>();
  private final Set<String> explained = new HashSet<>();

  private AlertCauses(Estate estate) {
    this.estate = estate;
    this.silent = estate.facts().feeds().stream()
        .filter(f -> f.overdueAt(estate.asAt()))
        .map(Feed::key)
        .collect(Collectors.toSet());
  }

  /**
   * @param findings of the evaluation
   * @param before by workload, the verdict that it got worse from; see {@link VerdictsBefore}
   */
  public static List<AlertCause> of(
      Evaluation evaluation, Estate estate, List<Finding> findings, Map<String, Verdict> before) {
    AlertCauses all = new AlertCauses(estate);
    findings.stream().filter(Finding::open).forEach(all::finding);
    evaluation.workloads().forEach(all::workload);
    evaluation.workloads().forEach(w -> all.verdict(w, before.get(w.workload().key())));
    return all.counted();
  }

  private List<AlertCause> counted() {
    List<AlertCause> counted = new ArrayList<>();
    causes.forEach((key, cause) ->
        counted.add(cause.standingFor(others.getOrDefault(key, Set.of()).size())));
    return counted;
  }

  /** Feeds and exceptions: what is of a resource is told of its outcomes. */
  private void finding(Finding f) {
    if (f.code().equals(OVERDUE)) {
      put(new AlertCause(
          AlertKind.FEED_OVERDUE,
          f.about().subject(),
          f.about().name(),
          null,
          null,
          f.sentence(),
          0));
    } else if (f.code().equals(ENDING) && f.about().type() == SubjectType.EXCEPTION) {
      put(new AlertCause(
          AlertKind.EXCEPTION_ENDING,
          f.about().subject(),
          f.about().name(),
          null,
          null,
          f.sentence(),
          0));
    }
  }

  private void workload(WorkloadResult w) {
    for (ResourceResult m : w.members()) {
      if (m.verdict() != Verdict.EXCLUDED) {
        drill(w, m);
        late(AlertKind.POINT_OVERDUE, CriterionCode.FRESH_EXPOSURE_NOW, w, m);
        late(AlertKind.COPY_LATE, CriterionCode.COPIES_DEADLINE, w, m);
        Outcome cleanUp = m.outcome(CriterionCode.PROOF_CLEAN_UP);
        if (cleanUp.state() == OutcomeState.NOT_MET) {
          put(about(AlertKind.CLEAN_UP_FAILED, w, m, cleanUp.sentence()));
        }
      }
    }
  }

  private void late(AlertKind kind, CriterionCode criterion, WorkloadResult w, ResourceResult m) {
    Outcome outcome = m.outcome(criterion);
    if (outcome.state() != OutcomeState.NOT_MET) {
      return;
    }
    String key = w.workload().key();
    explained.add(key);
    if (silent.contains(m.protector().feed())) {
      countInFeed(m, key);
      return;
    }
    String drill = AlertKind.DRILL_FAILED.code() + ":" + m.resource().key();
    if (causes.containsKey(drill)) {
      // A copy that a drill found damaged takes its points with it.
      others.computeIfAbsent(drill, k -> new HashSet<>()).add(kind.code());
      return;
    }
    AlertCause cause = new AlertCause(
        kind, key, w.workload().name(), key, w.workload().tier(), outcome.sentence(), 0);
    if (causes.putIfAbsent(cause.key(), cause) != null) {
      others.computeIfAbsent(cause.key(), k -> new HashSet<>()).add(m.resource().key());
    }
  }

  private void countInFeed(ResourceResult m, String workload) {
    others
        .computeIfAbsent(
            AlertKind.FEED_OVERDUE.code() + ":" + m.protector().feed(), k -> new HashSet<>())
        .add(workload);
  }

  private void drill(WorkloadResult w, ResourceResult m) {
    if (m.outcome(CriterionCode.PROOF_LAST_DRILL).state() == OutcomeState.EXCEPTED) {
      return;
    }
    List<DrillFact> drills = estate.drillsOf(m.resource().key());
    DrillFact newest = drills.isEmpty() ? null : drills.get(drills.size() - 1);
    // One that was interrupted since says nothing, and takes no failure away.
    DrillFact decided = m.lastDrill();
    if (decided != null && decided.failed()) {
      put(about(AlertKind.DRILL_FAILED, w, m, decided.sentence()));
      explained.add(w.workload().key());
    } else if (newest != null && newest.checks() == ChecksState.TIMED_OUT) {
      put(about(AlertKind.DRILL_FAILED, w, m, newest.sentence()));
      explained.add(w.workload().key());
    } else if (newest != null
        && newest.checks() == ChecksState.WAITING
        && newest.method() == Method.BOOT) {
      put(about(AlertKind.SCREEN_UNKNOWN, w, m, newest.sentence()));
      explained.add(w.workload().key());
    }
  }

  private void verdict(WorkloadResult w, Verdict before) {
    // An earlier word in the order of verdicts is a worse one.
    if (before == null || w.verdict().compareTo(before) >= 0 || w.verdict() == Verdict.EXCLUDED) {
      return;
    }
    List<ResourceResult> unheard =
        w.members().stream().filter(m -> silent.contains(m.protector().feed())).toList();
    // Silence makes a verdict unknown, or exposed by what was told last; a proof lapses without it.
    boolean bySilence = w.verdict() == Verdict.UNKNOWN || w.verdict() == Verdict.EXPOSED;
    if (bySilence && !unheard.isEmpty()) {
      unheard.forEach(m -> countInFeed(m, w.workload().key()));
    } else if (!explained.contains(w.workload().key())) {
      put(new AlertCause(
          AlertKind.VERDICT_WORSE,
          w.workload().key(),
          w.workload().name(),
          w.workload().key(),
          w.workload().tier(),
          "was " + before.code() + " and is " + w.verdict().code() + ": " + w.sentence(),
          0));
    }
  }

  private static AlertCause about(
      AlertKind kind, WorkloadResult w, ResourceResult m, String sentence) {
    return new AlertCause(
        kind,
        m.resource().key(),
        m.resource().name(),
        w.workload().key(),
        w.workload().tier(),
        sentence,
        0);
  }

  private void put(AlertCause cause) {
    causes.put(cause.key(), cause);
  }
}
