package hardproof.server.proof;

import hardproof.core.copies.CopyCount;
import hardproof.core.copies.CopyRule;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.Outcome;
import hardproof.core.ladder.Rung;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
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
  /**
   * One workload. Durations in milliseconds.
   *
   * @param exposureMs of the worst member, as far as its feed has spoken; null when a member has no usable
   *     point
   * @param byFactsOf the instant its verdict rests on, where nobody has told of it since; else null
   * @param rpoMs of that member
   * @param copies the five figures of the copy rule of the weakest member; null without members
   */
  public record BoardRow(
      String key,
      String name,
      @Nullable String owner,
      @Nullable Integer tier,
      Verdict verdict,
      String sentence,
      LadderStrip ladder,
      @Nullable Long exposureMs,
      @Nullable Long rpoMs,
      @Nullable List<CopyFigure> copies,
      @Nullable Instant byFactsOf,
      List<String> sites,
      List<String> environments,
      int members,
      boolean unassigned) {}

  /** One figure of the copy rule. */
  public record CopyFigure(int have, int want, boolean met) {}

  /**
   * The ladder strip.
   *
   * @param rung reached now, 0 to 5; -1 when there is nothing at all
   * @param lapsed the rung that was reached once and is over its proof period; null when none
   * @param failed the rung that the newest drill failed to show; null when it passed
   * @param words the same for people and screen readers
   */
  public record LadderStrip(
      int rung,
      int demanded,
      @Nullable Integer lapsed,
      @Nullable Integer failed,
      String words) {}

  static BoardView of(Evaluation evaluation) {
    Map<String, Integer> counts = new LinkedHashMap<>();
    for (Verdict verdict : Verdict.values()) {
      Integer count = evaluation.counts().get(verdict);
      if (count != null) {
        counts.put(verdict.code(), count);
      }
    }
    Instant soon = evaluation.asAt().plus(Duration.ofDays(7));
    long lapsing = evaluation.workloads().stream()
        .filter(w -> w.verdict() == Verdict.PROVEN)
        .filter(w -> w.members().stream()
            .map(m -> m.proof().lapses())
            .filter(Objects::nonNull)
            .anyMatch(l -> l.isBefore(soon)))
        .count();
    return new BoardView(
        evaluation.asAt(),
        evaluation.knownAt(),
        evaluation.horizon(),
        evaluation.standard().title(),
        counts,
        (int) lapsing,
        evaluation.workloads().stream().map(BoardView::row).toList());
  }

  static BoardRow row(WorkloadResult w) {
    List<ResourceResult> members = judged(w);
    ResourceResult mostExposed =
        members.stream().max(Comparator.comparingDouble(BoardView::overRpo)).orElse(null);
    Outcome exposure =
        mostExposed == null ? null : outcome(mostExposed, CriterionCode.FRESH_EXPOSURE_NOW);
    return new BoardRow(
        w.workload().key(),
        w.workload().name(),
        w.workload().owner(),
        w.workload().tier(),
        w.verdict(),
        w.sentence(),
        ladder(w),
        exposure == null || exposure.measured() == null
            ? null
            : (long) exposure.measured().value(),
        exposure == null ? null : (long) exposure.demanded().value(),
        members.stream()
            .min(Comparator.comparingLong((ResourceResult m) ->
                    figures(m).stream().filter(CopyFigure::met).count())
                .thenComparingInt(m -> m.copies().copies()))
            .map(BoardView::figures)
            .orElse(null),
        w.byFactsOf(),
        distinct(members.stream().map(m -> m.resource().site())),
        distinct(members.stream().map(m -> m.resource().environment())),
        w.members().size(),
        w.unassigned());
  }

  private static List<ResourceResult> judged(WorkloadResult w) {
    List<ResourceResult> counting =
        w.members().stream().filter(m -> m.verdict() != Verdict.EXCLUDED).toList();
    return counting.isEmpty() ? w.members() : counting;
  }

  private static List<String> distinct(Stream<String> values) {
    return values.filter(Objects::nonNull).distinct().sorted().toList();
  }

  static Outcome outcome(ResourceResult m, CriterionCode code) {
    return m.outcomes().stream().filter(o -> o.criterion() == code).findFirst().orElseThrow();
  }

  /** Exposure ÷ RPO: having nothing is worse than any number. */
  private static double overRpo(ResourceResult m) {
    Outcome o = outcome(m, CriterionCode.FRESH_EXPOSURE_NOW);
    return o.measured() == null
        ? Double.MAX_VALUE
        : o.measured().value() / Math.max(1, o.demanded().value());
  }

  static List<CopyFigure> figures(ResourceResult m) {
    CopyCount c = m.copies();
    CopyRule r = m.demand().copyRule();
    return List.of(
        new CopyFigure(c.copies(), r.copies(), c.copies() >= r.copies()),
        new CopyFigure(c.media(), r.media(), c.media() >= r.media()),
        new CopyFigure(c.offSite(), r.offSite(), c.offSite() >= r.offSite()),
        new CopyFigure(
            c.offlineOrLocked(), r.offlineOrLocked(), c.offlineOrLocked() >= r.offlineOrLocked()),
        new CopyFigure(c.errors(), r.errorsAllowed(), c.errors() <= r.errorsAllowed()));
  }

  private static LadderStrip ladder(WorkloadResult w) {
    Rung standing = w.standing();
    List<ResourceResult> members = judged(w);
    Integer lapsed = members.stream()
        .filter(m -> m.proof().lapsed())
        .map(m -> m.proof().reached().rung().number())
        .max(Comparator.naturalOrder())
        .orElse(null);
    Rung failed = w.failed();
    String words = (standing == null ? "nothing shown" : standing.code())
        + "; " + w.demanded().code() + " demanded"
        + (lapsed == null ? "" : "; " + Rung.numbered(lapsed).code() + " lapsed")
        + (failed == null ? "" : "; the newest drill failed to show " + failed.code());
    return new LadderStrip(
        standing == null ? -1 : standing.number(),
        w.demanded().number(),
        lapsed,
        failed == null ? null : failed.number(),
        words);
  }
}
