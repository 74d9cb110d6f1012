package hardproof.core.criteria;

import hardproof.core.wording.Wording;
import java.time.Instant;
import java.util.function.Function;

/**
 * Silence between two deliveries is neither a pass nor a failure. What is met now is met, whatever nobody has
 * told yet; what was not met already when its feed last spoke is not met; what was kept then, and by the
 * same facts is not any more, has been turned by time alone, and nobody can say.
 */
final class Silence {
  private Silence() {}

  /**
   * @param now the outcome at the as-at instant
   * @param horizon up to when the facts have been told that it rests on
   * @param judge gives the same outcome for another instant
   */
  static Outcome of(Subject s, Outcome now, Instant horizon, Function<Subject, Outcome> judge) {
    if (!fails(now) || !horizon.isBefore(s.asAt())) {
      return now;
    }
    Outcome then = judge.apply(s.countedTo(horizon));
    if (!fails(then)) {
      return silent(s, then, now, horizon);
    }
    return isExposure(then) ? over(then) : now;
  }

  private static boolean fails(Outcome outcome) {
    return outcome.state() == OutcomeState.NOT_MET;
  }

  private static boolean isExposure(Outcome outcome) {
    return outcome.criterion() == CriterionCode.FRESH_EXPOSURE_NOW && outcome.measured() != null;
  }

  /** What would be lost is told of up to then: later it may be less, and it was over the objective already. */
  private static Outcome over(Outcome then) {
    return new Outcome(
        then.criterion(),
        then.resource(),
        then.state(),
        then.measured(),
        then.demanded(),
        then.sentence() + "; nobody has told since",
        then.why(),
        then.facts(),
        null);
  }

  private static Outcome silent(Subject s, Outcome then, Outcome now, Instant horizon) {
    String at = Wording.time(horizon, s.asAt());
    String sentence = sentence(then, now, at);
    return new Outcome(
        now.criterion(),
        now.resource(),
        OutcomeState.NOT_ENOUGH_DATA,
        then.measured(),
        then.demanded(),
        sentence,
        "at " + at + ": " + then.why() + "; by the same facts at "
            + Wording.time(s.asAt(), s.asAt()) + " it would not hold: " + now.why(),
        now.facts(),
        null);
  }

  private static String sentence(Outcome then, Outcome now, String at) {
    return isExposure(then)
        ? "kept when its feed last spoke (" + at + ": " + then.measured().words()
            + "); nobody has told since; at most " + now.measured().words() + " now"
        : "when its feed last spoke (" + at + "): " + then.sentence()
            + "; nobody has told since, and by time alone it would not be so any more";
  }
}
