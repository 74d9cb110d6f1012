package hardproof.server.proof;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import hardproof.core.board.BoardLine;
import hardproof.core.board.CopyFigure;
import hardproof.core.board.LadderStrip;
import hardproof.core.estate.Workload;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * The Board.
 *
 * @param knownAt the instant by which its facts were recorded; later than {@code asAt} in hindsight
 * @param horizon the oldest instant up to which any of the points it rests on have been told of
 * @param counts workloads by verdict, those that occur, worst first
 * @param lapsingWithinWeek proven workloads whose proof lapses in the next seven days
 */
public record BoardView(
    Instant asAt,
    Instant knownAt,
    Instant horizon,
    String standard,
    Map<String, Integer> counts,
    int lapsingWithinWeek,
    List<BoardRow> workloads) {
  private static final Duration WEEK = Duration.ofDays(7);

  /** One workload. */
  public record BoardRow(
      @JsonUnwrapped WorkloadName workload,
      Verdict verdict,
      String sentence,
      LadderStrip ladder,
      @JsonUnwrapped LossNow loss,
      @Nullable List<CopyFigure> copies,
      List<String> sites,
      List<String> environments,
      int members) {
    static BoardRow of(WorkloadResult w) {
      BoardLine line = BoardLine.of(w);
      return new BoardRow(
          WorkloadName.of(w),
          w.verdict(),
          w.sentence(),
          line.ladder(),
          new LossNow(
              line.exposureMs(),
              line.rpoMs(),
              line.over(),
              w.byFactsOf(),
              line.byProof().lossMs(),
              line.byProof().suspect()),
          line.copies(),
          line.sites(),
          line.environments(),
          w.members().size());
    }
  }

  /**
   * Which workload.
   *
   * @param heldTo the tier whose demands hold for it, also where {@code tier} is not known
   */
  public record WorkloadName(
      String key,
      String name,
      @Nullable String owner,
      @Nullable Integer tier,
      int heldTo,
      boolean unassigned) {
    static WorkloadName of(WorkloadResult result) {
      Workload w = result.workload();
      return new WorkloadName(
          w.key(), w.name(), w.owner(), w.tier(), w.heldTo(), result.unassigned());
    }
  }

  /**
   * What would be lost. Durations in milliseconds.
   *
   * @param exposureMs of the worst member, as far as its feed has spoken; absent when a member has no usable
   *     point
   * @param rpoMs of that member
   * @param over whether that is more than may be
   * @param byFactsOf the instant its verdict rests on, where nobody has told of it since
   * @param byProofMs if only what drills have shown counted, of the member that would lose most; absent when of
   *     a member nothing was shown
   * @param suspect points whose content may be as wrong as that of one that was drilled
   */
  public record LossNow(
      @Nullable Long exposureMs,
      @Nullable Long rpoMs,
      boolean over,
      @Nullable Instant byFactsOf,
      @Nullable Long byProofMs,
      int suspect) {}

  static BoardView of(Evaluation evaluation) {
    Map<String, Integer> counts = counts(evaluation);
    return new BoardView(
        evaluation.asAt(),
        evaluation.knownAt(),
        evaluation.horizon(),
        evaluation.standard().title(),
        counts,
        BoardLine.lapsingWithin(evaluation, WEEK),
        evaluation.workloads().stream().map(BoardRow::of).toList());
  }

  private static Map<String, Integer> counts(Evaluation evaluation) {
    Map<String, Integer> counts = new LinkedHashMap<>();
    for (Verdict verdict : Verdict.values()) {
      Integer count = evaluation.counts().get(verdict);
      if (count != null) {
        counts.put(verdict.code(), count);
      }
    }
    return counts;
  }
}
