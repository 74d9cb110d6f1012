package hardproof.core.board;

import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.Outcome;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * One workload on the Board: a workload stands as its weakest member does. Members that are left out do not count,
 * unless all of them are.
 *
 * @param exposureMs of the worst member, as far as its feed has spoken; null when a member has no usable
 *     point
 * @param rpoMs of that member
 * @param over whether more would be lost than that member's objective allows
 * @param byProof of the member that would lose most if only what drills have shown counted
 * @param copies the figures of the weakest member; null without members
 */
public record BoardLine(
    WorkloadResult workload,
    LadderStrip ladder,
    @Nullable Long exposureMs,
    @Nullable Long rpoMs,
    boolean over,
    ByProof byProof,
    @Nullable List<CopyFigure> copies,
    List<String> sites,
    List<String> environments) {

  /**
   * What would be lost if only what drills have shown counted.
   *
   * @param lossMs null when of a member nothing was shown
   * @param suspect points of all members whose content may be as wrong as that of one that was drilled
   */
  public record ByProof(@Nullable Long lossMs, int suspect) {
    static ByProof of(List<ResourceResult> members) {
      int suspect =
          members.stream().mapToInt(m -> m.proof().loss().suspect().size()).sum();
      boolean none = members.stream().anyMatch(m -> m.proof().loss().loss() == null);
      return new ByProof(
          none || members.isEmpty()
              ? null
              : members.stream()
                  .map(m -> m.proof().loss().loss().toMillis())
                  .max(Comparator.naturalOrder())
                  .orElseThrow(),
          suspect);
    }
  }

  public static BoardLine of(WorkloadResult w) {
    List<ResourceResult> members = judged(w);
    Outcome exposure = worstExposure(members);
    Long measured = measured(exposure);
    Long demanded = exposure == null ? null : (Long) (long) exposure.demanded().value();
    return new BoardLine(
        w,
        LadderStrip.of(w, members),
        measured,
        demanded,
        measured == null || measured > demanded,
        ByProof.of(members),
        weakestCopies(members),
        distinct(members, m -> m.resource().site()),
        distinct(members, m -> m.resource().environment()));
  }

  private static Outcome worstExposure(List<ResourceResult> members) {
    return members.stream()
        .map(BoardLine::exposure)
        .max(Comparator.comparingDouble(BoardLine::overRpo))
        .orElse(null);
  }

  private static Long measured(Outcome exposure) {
    return exposure == null || exposure.measured() == null
        ? null
        : (Long) (long) exposure.measured().value();
  }

  private static List<CopyFigure> weakestCopies(List<ResourceResult> members) {
    return members.stream()
        .min(Comparator.comparingLong((ResourceResult m) -> CopyFigure.met(m))
            .thenComparingInt(m -> m.copies().copies()))
        .map(CopyFigure::of)
        .orElse(null);
  }

  /** How many proven workloads have a proof that lapses within a time. */
  public static int lapsingWithin(Evaluation evaluation, Duration time) {
    Instant soon = evaluation.asAt().plus(time);
    return (int) evaluation.workloads().stream()
        .filter(w -> w.verdict() == Verdict.PROVEN)
        .filter(w -> w.members().stream()
            .map(m -> m.proof().lapses())
            .filter(Objects::nonNull)
            .anyMatch(l -> l.isBefore(soon)))
        .count();
  }

  private static List<ResourceResult> judged(WorkloadResult w) {
    List<ResourceResult> counting =
        w.members().stream().filter(m -> m.verdict() != Verdict.EXCLUDED).toList();
    return counting.isEmpty() ? w.members() : counting;
  }

  private static List<String> distinct(
      List<ResourceResult> members, Function<ResourceResult, @Nullable String> of) {
    return members.stream().map(of).filter(Objects::nonNull).distinct().sorted().toList();
  }

  private static Outcome exposure(ResourceResult m) {
    return m.outcomes().stream()
        .filter(o -> o.criterion() == CriterionCode.FRESH_EXPOSURE_NOW)
        .findFirst()
        .orElseThrow();
  }

  /** Exposure ÷ RPO: having nothing is worse than any number. */
  private static double overRpo(Outcome exposure) {
    return exposure.measured() == null
        ? Double.MAX_VALUE
        : exposure.measured().value() / Math.max(1, exposure.demanded().value());
  }
}
