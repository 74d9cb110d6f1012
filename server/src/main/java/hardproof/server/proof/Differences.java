package hardproof.server.proof;

import hardproof.core.criteria.FactRef;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.proof.Difference;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Verdict;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What came out otherwise.
 *
 * @param turned how many outcomes turned; {@code turns} lists the first of them, worse ones first
 */
public record Differences(
    Instant from, Instant to, List<VerdictMove> moves, int turned, List<OutcomeTurn> turns) {
  private static final int TURNS_SHOWN = 200;

  public static Differences of(Evaluation before, Evaluation after) {
    List<Difference.Turn> turns = Difference.turns(before, after);
    return new Differences(
        before.asAt(),
        after.asAt(),
        Difference.moves(before, after).stream().map(VerdictMove::of).toList(),
        turns.size(),
        turns.stream().limit(TURNS_SHOWN).map(OutcomeTurn::of).toList());
  }

  /** A workload whose verdict moved; {@code from} or {@code to} absent when it was not there. */
  public record VerdictMove(
      String workload,
      String name,
      @Nullable Integer tier,
      @Nullable Verdict from,
      @Nullable Verdict to,
      boolean worse,
      String because,
      List<FactRef> facts) {
    static VerdictMove of(Difference.Move m) {
      return new VerdictMove(
          m.workload(), m.name(), m.tier(), m.from(), m.to(), m.worse(), m.because(), m.facts());
    }
  }

  /** An outcome whose state turned. */
  public record OutcomeTurn(
      String workload,
      String resource,
      String name,
      String criterion,
      String title,
      OutcomeState from,
      OutcomeState to,
      boolean worse,
      String sentence) {
    static OutcomeTurn of(Difference.Turn t) {
      return new OutcomeTurn(
          t.workload(),
          t.resource(),
          t.name(),
          t.criterion(),
          t.title(),
          t.from(),
          t.to(),
          t.worse(),
          t.sentence());
    }
  }
}
