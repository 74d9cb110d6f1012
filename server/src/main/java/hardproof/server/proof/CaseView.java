package hardproof.server.proof;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import hardproof.core.board.CopyFigure;
import hardproof.core.criteria.FactRef;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.drills.Method;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Resource;
import hardproof.core.proof.Action;
import hardproof.core.proof.Cause;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import hardproof.core.recovery.RestoreEstimate;
import hardproof.core.recovery.TimeEstimates;
import hardproof.core.wording.Coded;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The case file of one workload. */
public record CaseView(
    Instant asAt,
    String standard,
    BoardView.BoardRow workload,
    @Nullable String description,
    List<Reason> causes,
    List<ActionStep> actions,
    List<Member> members) {
  /** Why the verdict is what it is; the first decides. */
  public record Reason(Verdict verdict, @Nullable String resource, String sentence) {}

  /** Something that would move it towards proven. */
  public record ActionStep(
      Action.Type type,
      String resource,
      @Nullable String point,
      @Nullable Method method,
      String sentence) {}

  /**
   * Which member.
   *
   * @param protector the resource whose points protect it
   */
  public record MemberOf(
      String key, String name, Kind kind, @Nullable String site, String protector) {}

  /** In milliseconds. */
  public record Objectives(long rpoMs, long rtoMs) {}

  /**
   * What is known of a member, in words.
   *
   * @param loss what would be lost, as claimed and by proof
   * @param recovery how long it would take to have it back; absent where there is nothing to restore
   */
  public record Said(
      String sentence, String proof, String loss, @Nullable String recovery) {}

  /** A member of the workload. Durations in milliseconds. */
  public record Member(
      @JsonUnwrapped MemberOf of,
      Verdict verdict,
      @JsonUnwrapped Said said,
      int rung,
      int demanded,
      @JsonUnwrapped Objectives objectives,
      List<String> policies,
      List<CopyFigure> copies,
      List<CriterionOutcome> outcomes,
      List<Exclusion> exceptions) {}

  /** An outcome with its arithmetic. */
  public record CriterionOutcome(
      String criterion,
      String group,
      String title,
      String demand,
      List<String> references,
      OutcomeState state,
      @Nullable String measured,
      @Nullable String demanded,
      String sentence,
      String why,
      List<FactRef> facts,
      @Nullable String exception) {}

  /** A valid exception on a member. */
  public record Exclusion(
      String key,
      @Nullable String criterion,
      String reason,
      String approvedBy,
      @Nullable Instant until) {}

  static CaseView of(Evaluated evaluated, WorkloadResult w) {
    return new CaseView(
        evaluated.evaluation().asAt(),
        evaluated.evaluation().standard().title(),
        BoardView.BoardRow.of(w),
        w.workload().description(),
        w.causes().stream().map(CaseView::reason).toList(),
        w.actions().stream().map(CaseView::step).toList(),
        members(evaluated, w));
  }

  private static List<Member> members(Evaluated evaluated, WorkloadResult w) {
    TimeEstimates estimates = new TimeEstimates(evaluated.estate());
    return w.members().stream().map(m -> member(evaluated, estimates, m)).toList();
  }

  private static Reason reason(Cause c) {
    return new Reason(c.verdict(), c.resource(), c.sentence());
  }

  private static ActionStep step(Action a) {
    return new ActionStep(a.type(), a.resource(), a.point(), a.method(), a.sentence());
  }

  private static String code(Coded coded) {
    return coded == null ? null : coded.code();
  }

  private static Member member(Evaluated evaluated, TimeEstimates estimates, ResourceResult m) {
    var resource = m.resource();
    return new Member(
        of(m, resource),
        m.verdict(),
        new Said(
            m.causes().get(0).sentence(),
            m.proofSentence(),
            m.lossSentence(),
            RestoreEstimate.of(
                    evaluated.estate(), estimates, m.protector(), m.proof().demanded())
                .map(e -> e.words(m.demand().rto()))
                .orElse(null)),
        m.proof().rung() == null ? -1 : m.proof().rung().number(),
        m.proof().demanded().number(),
        new Objectives(m.demand().rpo().toMillis(), m.demand().rto().toMillis()),
        m.policies().stream().map(p -> p.name()).toList(),
        CopyFigure.of(m),
        m.outcomes().stream().map(CaseView::outcome).toList(),
        exclusions(evaluated, resource));
  }

  private static CaseView.MemberOf of(ResourceResult m, Resource resource) {
    return new MemberOf(
        resource.key(),
        resource.name(),
        resource.kind(),
        resource.site(),
        m.protector().key());
  }

  private static List<CaseView.Exclusion> exclusions(Evaluated evaluated, Resource resource) {
    return evaluated.estate().exceptionsOf(resource).stream()
        .map(CaseView::exclusion)
        .toList();
  }

  private static CriterionOutcome outcome(Outcome o) {
    return new CriterionOutcome(
        o.criterion().code(),
        o.criterion().group(),
        o.criterion().title(),
        o.criterion().demand(),
        o.criterion().references(),
        o.state(),
        o.measured() == null ? null : o.measured().words(),
        o.demanded() == null ? null : o.demanded().words(),
        o.sentence(),
        o.why(),
        o.facts(),
        o.exception());
  }

  private static Exclusion exclusion(AcceptedException e) {
    return new Exclusion(e.key(), e.criterion(), e.reason(), e.approvedBy(), e.until());
  }
}
