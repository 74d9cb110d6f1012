package hardproof.core.proof;

import hardproof.core.criteria.FactRef;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** What came out otherwise between two evaluations: of two instants, or of two standards. Pure. */
public final class Difference {
  private Difference() {}

  /**
   * A workload whose verdict moved.
   *
   * @param from null when it was not there before
   * @param to null when it is not there any more
   * @param because the first cause of the later verdict
   * @param facts what that rests on
   */
  public record Move(
      String workload,
      String name,
      Integer tier,
      @Nullable Verdict from,
      @Nullable Verdict to,
      String because,
      List<FactRef> facts) {
    /** Worse than before: an earlier word in the order of verdicts. Appearing is neither. */
    public boolean worse() {
      return from != null && to != null && to.compareTo(from) < 0;
    }
  }

  /** An outcome whose state turned. */
  public record Turn(
      String workload,
      String resource,
      String name,
      String criterion,
      String title,
      OutcomeState from,
      OutcomeState to,
      String sentence) {
    public boolean worse() {
      return to == OutcomeState.NOT_MET;
    }
  }

  /** Workloads whose verdict moved, worst moves first. */
  public static List<Move> moves(Evaluation before, Evaluation after) {
    List<Move> moves = new ArrayList<>();
    Set<String> keys = new LinkedHashSet<>();
    after.workloads().forEach(w -> keys.add(w.workload().key()));
    before.workloads().forEach(w -> keys.add(w.workload().key()));
    for (String key : keys) {
      WorkloadResult a = before.workload(key);
      WorkloadResult b = after.workload(key);
      if (a != null && b != null && a.verdict() == b.verdict()) {
        continue;
      }
      WorkloadResult there = b == null ? a : b;
      moves.add(move(key, a, b, there));
    }
    moves.sort(Comparator.comparing((Move m) -> m.worse() ? 0 : 1)
        .thenComparing(m -> m.to() == null ? Verdict.EXCLUDED : m.to())
        .thenComparing(m -> m.tier() == null ? 1 : m.tier())
        .thenComparing(Move::name)
        .thenComparing(Move::workload));
    return moves;
  }

  private static Difference.Move move(
      String key, WorkloadResult a, WorkloadResult b, WorkloadResult there) {
    return new Move(
        key,
        there.workload().name(),
        there.workload().tier(),
        a == null ? null : a.verdict(),
        b == null ? null : b.verdict(),
        b == null ? "it is not known any more" : b.sentence(),
        b == null ? List.of() : b.causes().get(0).facts());
  }

  /** Outcomes whose state turned, of resources that are in both; those that turned worse first. */
  public static List<Turn> turns(Evaluation before, Evaluation after) {
    List<Turn> turns = new ArrayList<>();
    for (WorkloadResult w : after.workloads()) {
      for (ResourceResult m : w.members()) {
        ResourceResult earlier = before.resource(m.resource().key());
        if (earlier == null || earlier == m) {
          continue;
        }
        addTurns(turns, w, m, earlier);
      }
    }
    turns.sort(Comparator.comparing((Turn t) -> t.worse() ? 0 : 1)
        .thenComparing(t -> t.to() == OutcomeState.MET ? 1 : 0));
    return turns;
  }

  private static void addTurns(
      List<Turn> turns, WorkloadResult w, ResourceResult m, ResourceResult earlier) {
    for (Outcome o : m.outcomes()) {
      OutcomeState from = earlier.outcomes().stream()
          .filter(e -> e.criterion().equals(o.criterion()))
          .map(Outcome::state)
          .findFirst()
          .orElse(OutcomeState.NOT_APPLICABLE);
      if (from != o.state()) {
        turns.add(new Turn(
            w.workload().key(),
            m.resource().key(),
            m.resource().name(),
            o.criterion().code(),
            o.criterion().title(),
            from,
            o.state(),
            o.sentence()));
      }
    }
  }
}
