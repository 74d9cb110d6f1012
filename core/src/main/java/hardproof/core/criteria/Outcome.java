package hardproof.core.criteria;

import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What a criterion came to for one resource. There is none without a sentence.
 *
 * @param measured null where nothing could be measured
 * @param demanded null where nothing is demanded in a number
 * @param why the formula with its values filled in
 * @param exception key of the exception that accepts it, null otherwise
 */
public record Outcome(
    Criterion criterion,
    String resource,
    OutcomeState state,
    @Nullable Measure measured,
    @Nullable Measure demanded,
    String sentence,
    String why,
    List<FactRef> facts,
    @Nullable String exception) {
  public Outcome {
    Objects.requireNonNull(criterion);
    Objects.requireNonNull(state);
    if (sentence == null || sentence.isBlank()) {
      throw new IllegalArgumentException(criterion + " came to " + state + " without a sentence");
    }
    facts = List.copyOf(facts);
  }

  static Outcome of(Criterion criterion, Subject s, Judgement j) {
    return new Outcome(
        criterion,
        s.resource().key(),
        j.state(),
        j.measured(),
        j.demanded(),
        j.sentence(),
        j.why(),
        j.facts(),
        null);
  }

  Outcome excepted(String exceptionKey) {
    return new Outcome(
        criterion,
        resource,
        OutcomeState.EXCEPTED,
        measured,
        demanded,
        sentence,
        why,
        facts,
        exceptionKey);
  }

  Outcome overdue(String feedSentence) {
    return new Outcome(
        criterion,
        resource,
        OutcomeState.NOT_ENOUGH_DATA,
        measured,
        demanded,
        feedSentence,
        "would be: " + sentence,
        facts,
        null);
  }

  /** Measured beyond demanded, in the same unit; null where either is missing. */
  public Double margin() {
    return measured == null || demanded == null || measured.unit() != demanded.unit()
        ? null
        : measured.value() - demanded.value();
  }
}
