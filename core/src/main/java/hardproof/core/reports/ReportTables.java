package hardproof.core.reports;

import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.BiConsumer;
import org.jspecify.annotations.Nullable;

/** The tables that reports are made of. Pure. */
public final class ReportTables {
  private ReportTables() {}

  /** A row, whose cells may be null. */
  static List<Object> row(Object... cells) {
    return Collections.unmodifiableList(Arrays.asList(cells));
  }

  /**
   * What no policy has in scope or no point was made of, by tier; also what is accepted to be so, and says so.
   *
   * @param resources keys of those that are asked about
   */
  public static ReportTable unprotected(Evaluation evaluation, Set<String> resources) {
    List<List<Object>> rows = new ArrayList<>();
    each(evaluation, resources, (workload, member) -> {
      Outcome covered = member.outcome(CriterionCode.COVER_PROTECTED);
      if (covered.state() == OutcomeState.NOT_MET || covered.state() == OutcomeState.EXCEPTED) {
        Resource resource = member.resource();
        rows.add(row(
            resource.key(),
            resource.name(),
            resource.kind().code(),
            workload.unassigned() ? null : workload.workload().name(),
            workload.workload().owner(),
            workload.workload().tier(),
            resource.place().site(),
            resource.seen().firstSeen(),
            state(member, covered),
            covered.sentence()));
      }
    });
    return new ReportTable(
        "unprotected",
        "Resources without protection",
        List.of(
            "resource",
            "name",
            "kind",
            "workload",
            "owner",
            "tier",
            "site",
            "first_seen",
            "state",
            "sentence"),
        rows,
        "Every resource that was asked about is in the scope of a policy and has a recovery point.");
  }

  private static String state(ResourceResult member, Outcome covered) {
    if (covered.state() == OutcomeState.EXCEPTED) {
      return "accepted by " + covered.exception();
    }
    return member.verdict() == Verdict.EXCLUDED ? "left out of judgement" : "open";
  }

  private static void each(
      Evaluation evaluation,
      Set<String> resources,
      BiConsumer<WorkloadResult, ResourceResult> work) {
    evaluation.workloads().stream()
        .sorted(Comparator.comparing(
            w -> w.workload().tier(), Comparator.nullsLast(Comparator.naturalOrder())))
        .forEach(workload -> workload.members().stream()
            .filter(m -> resources.contains(m.resource().key()))
            .forEach(m -> work.accept(workload, m)));
  }

  /**
   * Proofs that lapse before an instant, and those that have: soonest first.
   *
   * @param resources keys of those that are asked about
   * @param notRenewed keys of those that no drill that is planned will renew
   */
  public static ReportTable lapsing(
      Evaluation evaluation, Set<String> resources, Instant until, Set<String> notRenewed) {
    List<List<Object>> rows = new ArrayList<>();
    each(evaluation, resources, (workload, member) -> {
      Instant lapses = member.proof().lapses();
      if (member.verdict() != Verdict.EXCLUDED && lapses != null && !lapses.isAfter(until)) {
        rows.add(row(
            member.resource().key(),
            member.resource().name(),
            workload.unassigned() ? null : workload.workload().name(),
            workload.workload().owner(),
            workload.workload().tier(),
            member.proof().demanded().code(),
            member.proof().reached().run(),
            lapses,
            member.proof().lapsed() ? "lapsed" : "lapses",
            notRenewed.contains(member.resource().key()) ? "no" : "yes",
            member.proofSentence()));
      }
    });
    rows.sort(Comparator.comparing(r -> (Instant) r.get(7)));
    return new ReportTable(
        "lapsing",
        "Proofs that lapse before " + Wording.time(until, evaluation.asAt())
            + " UTC, and that have lapsed",
        List.of(
            "resource",
            "name",
            "workload",
            "owner",
            "tier",
            "demanded",
            "shown_by_run",
            "lapses",
            "state",
            "renewal_planned",
            "sentence"),
        rows,
        "No proof that was given lapses in this time. What was never proven is not in this table.");
  }

  /**
   * Every exception that is for one of the resources, whatever its state: what ends first comes first.
   */
  public static ReportTable exceptions(Estate estate, Set<String> resources) {
    Instant asAt = estate.asAt();
    List<AcceptedException> told = new ArrayList<>(estate.facts().exceptions());
    told.sort(Comparator.comparing(
            AcceptedException::until, Comparator.nullsLast(Comparator.naturalOrder()))
        .thenComparing(AcceptedException::key));
    List<List<Object>> rows = new ArrayList<>();
    for (AcceptedException e : told) {
      Set<String> accepted = new TreeSet<>(estate.matching(e.scope()));
      accepted.retainAll(resources);
      if (!accepted.isEmpty() || resources.size() == estate.facts().resources().size()) {
        rows.add(row(
            e.key(),
            e.criterion(),
            e.scope().words(),
            accepted.size(),
            e.stateAt(asAt).code(),
            e.from(),
            e.until(),
            e.reason(),
            e.proposedBy(),
            e.approvedBy()));
      }
    }
    return new ReportTable(
        "exceptions",
        "Exceptions",
        List.of(
            "exception",
            "criterion",
            "scope",
            "resources",
            "state",
            "from",
            "until",
            "reason",
            "proposed_by",
            "approved_by"),
        rows,
        "Nothing is excepted, proposed to be, or was.");
  }

  /** A period in words of a report's head. */
  public static String words(
      ReportKind.Period period, @Nullable Instant from, Instant asAt, @Nullable Instant until) {
    return switch (period) {
      case NONE -> "as at " + Wording.time(asAt, asAt) + " UTC";
      case BACK ->
        "from " + Wording.time(from == null ? asAt : from, asAt) + " to "
            + Wording.time(asAt, asAt) + " UTC, "
            + Wording.duration(Duration.between(from == null ? asAt : from, asAt));
      case AHEAD ->
        "from " + Wording.time(asAt, asAt) + " to "
            + Wording.time(until == null ? asAt : until, asAt) + " UTC";
    };
  }

  /** The workload that a resource belongs to, by name; null where it belongs to none. */
  static @Nullable String workloadName(Estate estate, @Nullable Resource resource) {
    Workload workload = resource == null || resource.links().workload() == null
        ? null
        : estate.workload(resource.links().workload());
    return workload == null ? null : workload.name();
  }
}
