package hardproof.core.criteria;

import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a criterion came to.
 *
 * @param measured null where nothing could be measured
 * @param demanded null where nothing is demanded in a number
 * @param why the formula with its values filled in
 */
public record Judgement(
    OutcomeState state,
    @Nullable Measure measured,
    @Nullable Measure demanded,
    String sentence,
    String why,
    List<FactRef> facts) {

  static Judgement of(
      OutcomeState state,
      Measure measured,
      Measure demanded,
      String sentence,
      String why,
      List<FactRef> facts) {
    return new Judgement(state, measured, demanded, sentence, why, facts);
  }

  /** Without numbers or facts of its own. */
  public static Judgement of(OutcomeState state, String sentence, String why) {
    return new Judgement(state, null, null, sentence, why, List.of());
  }

  /** There is too little to tell. */
  static Judgement unknown(String sentence, String why) {
    return new Judgement(OutcomeState.NOT_ENOUGH_DATA, null, null, sentence, why, List.of());
  }

  /** Nothing is asked here, and why. */
  static Judgement notAsked(String sentence) {
    return new Judgement(OutcomeState.NOT_APPLICABLE, null, null, sentence, "not asked", List.of());
  }

  static Judgement notDemanded() {
    return notAsked("not demanded of this tier");
  }

  static Judgement noPoint(Subject s) {
    return unknown(s.resource().name() + " has no recovery point", "points = 0");
  }

  /** Something is at most so old. */
  static Judgement within(
      Subject s, Instant last, Duration allowed, String what, String term, FactRef fact) {
    Duration age = Duration.between(last, s.asAt());
    boolean met = age.compareTo(allowed) <= 0;
    return new Judgement(
        OutcomeState.metIf(met),
        Measure.of(age),
        Measure.of(allowed),
        what + " " + Wording.duration(age) + " ago, "
            + Wording.duration(age.minus(allowed).abs())
            + (met ? " inside the " : " over the ") + Wording.duration(allowed) + " allowed",
        "as at − " + term + " " + Wording.time(last, s.asAt()) + " = " + Wording.duration(age)
            + ShippedCriterion.atMost(met) + Wording.duration(allowed),
        List.of(fact));
  }
}
