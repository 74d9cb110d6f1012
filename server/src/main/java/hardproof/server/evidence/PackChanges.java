package hardproof.server.evidence;

import hardproof.core.estate.AcceptedException;
import hardproof.core.facts.Estate;
import hardproof.core.insights.Insights;
import hardproof.core.insights.ProofChange;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.WorkloadResult;
import hardproof.core.wording.Wording;
import hardproof.server.evidence.PackHistory.PackBefore;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What changed since the pack before of the same scope.
 *
 * @param moves verdicts that moved, worse ones first
 * @param sentences the rest, in words
 */
record PackChanges(PackBefore before, List<Move> moves, List<String> sentences) {
  /** A verdict that moved; {@code from} or {@code to} in words where the workload was not there, or is not any more. */
  record Move(String name, String from, String to, String because) {}

  /** So many fit on the first page. */
  private static final int SHOWN = 15;

  public List<Move> shown() {
    return moves.subList(0, Math.min(SHOWN, moves.size()));
  }

  /** Those that are not shown. */
  public int others() {
    return moves.size() - shown().size();
  }

  /** Of the pack before. */
  public String time() {
    return ReportPage.TIME.format(before.asAt());
  }

  /** Null where no pack was issued before. */
  static @Nullable PackChanges of(FactsJson facts, Evaluation evaluation) {
    PackBefore before = facts.history().before();
    return before == null
        ? null
        : new PackChanges(before, moves(before, evaluation), sentences(before, facts));
  }

  private static List<Move> moves(PackBefore before, Evaluation evaluation) {
    List<Move> moves = new ArrayList<>();
    evaluation.workloads().stream()
        .sorted(Comparator.comparing(WorkloadResult::verdict)
            .thenComparing(w -> w.workload().key()))
        .filter(
            w -> !w.verdict().code().equals(before.verdicts().get(w.workload().key())))
        .forEach(w -> moves.add(new Move(
            w.workload().name(),
            Objects.requireNonNullElse(before.verdicts().get(w.workload().key()), "not there"),
            w.verdict().code(),
            w.sentence())));
    for (Map.Entry<String, String> was : before.verdicts().entrySet()) {
      if (evaluation.workload(was.getKey()) == null) {
        moves.add(
            new Move(was.getKey(), was.getValue(), "not there", "no feed tells of it any more"));
      }
    }
    return moves;
  }

  private static List<String> sentences(PackBefore before, FactsJson facts) {
    Insights since = Insights.of(
        new Estate(facts.asAt(), facts.knownAt(), facts.facts()),
        facts.standard(),
        before.asAt(),
        // Of the period there may be more.
        facts.history().watched().stretches().stream()
            .filter(s -> s.closed() == null || s.closed().isAfter(before.asAt()))
            .toList(),
        key -> true);
    List<String> sentences = new ArrayList<>();
    sentences.add("Proofs gained: " + names(since.gained()) + ". Lapsed: " + names(since.lapsed()));
    sentences.add("Findings opened: " + since.open().opened() + ", closed: "
        + since.open().closed() + ", open now: " + since.open().atEnd());
    Predicate<AcceptedException> then = e -> e.validAt(before.asAt());
    Predicate<AcceptedException> now = e -> e.validAt(facts.asAt());
    sentences.add("Exceptions new: " + reasons(facts, now.and(then.negate())) + ". Ended: "
        + reasons(facts, then.and(now.negate())));
    String standard = facts.standard().title();
    sentences.add(
        standard.equals(before.standard())
            ? "The standard is the same: " + standard
            : "The standard was " + before.standard() + " and is " + standard);
    return sentences;
  }

  private static String names(List<ProofChange> changes) {
    return listed(changes.stream().map(ProofChange::name));
  }

  private static String reasons(FactsJson facts, Predicate<AcceptedException> which) {
    return listed(facts.facts().exceptions().stream()
        .filter(which)
        .map(e -> e.scope().words() + " (" + e.reason() + ")"));
  }

  private static String listed(Stream<String> names) {
    List<String> sorted = names.distinct().sorted().toList();
    return sorted.isEmpty() ? "none" : Wording.list(sorted);
  }
}
