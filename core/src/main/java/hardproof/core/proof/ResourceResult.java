package hardproof.core.proof;

import hardproof.core.copies.CopyCount;
import hardproof.core.criteria.Criterion;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.Measure;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.Proof;
import hardproof.core.criteria.TierDemand;
import hardproof.core.drills.DrillFact;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What came out for one resource. It holds no points, so that an estate of any size can be kept.
 *
 * @param protector the resource whose points protect this one; itself unless a parent's image does
 * @param proofSentence the proof in words
 * @param lastDrill the newest drill that says something about the data; null when there is none
 * @param causes everything that speaks about it, worst first; never empty
 */
public record ResourceResult(
    Resource resource,
    Resource protector,
    TierDemand demand,
    List<Policy> policies,
    CopyCount copies,
    List<Outcome> outcomes,
    Proof proof,
    String proofSentence,
    @Nullable DrillFact lastDrill,
    Told told,
    List<Cause> causes,
    List<Action> actions) {
  /**
   * How far it has been told of.
   *
   * @param horizon up to when its points have been told of; never after the as-at instant
   * @param byFactsOf the same where its verdict is what it was then, because nobody has told since; else null
   */
  public record Told(Instant horizon, @Nullable Instant byFactsOf) {}

  public Verdict verdict() {
    return causes.get(0).verdict();
  }

  /** What would be lost, as claimed and by proof, in words. */
  public String lossSentence() {
    Measure claimed = outcome(CriterionCode.FRESH_EXPOSURE_NOW).measured();
    return proof.loss().beside(claimed == null ? null : Duration.ofMillis((long) claimed.value()));
  }

  /** Every criterion that ships has one. */
  public Outcome outcome(Criterion criterion) {
    return outcomes.stream()
        .filter(o -> o.criterion().equals(criterion))
        .findFirst()
        .orElseThrow();
  }

  public Instant horizon() {
    return told.horizon();
  }

  public Instant byFactsOf() {
    return told.byFactsOf();
  }
}
