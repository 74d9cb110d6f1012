package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.drills.Method;
import hardproof.core.drills.RehearsalFact;
import java.time.Duration;
import org.junit.jupiter.api.Test;

/** A rehearsal of an invented workload of tier 3, whose members may come back 24 h apart. */
class ProofOneMomentTest {
  private static final Duration ALLOWED = Duration.ofHours(24);

  private static Outcome outcome(Given g) {
    return g.outcome(CriterionCode.PROOF_ONE_MOMENT);
  }

  private static Given apart(Duration apart, RehearsalFact.Outcome outcome) {
    Given g = Given.estate().point("new", 5).point("old", 40);
    String data = NOW.minus(Duration.ofHours(5)).minus(apart).toString();
    g.thePoint("old", "data_time", data, "available", data);
    return g.drill("new", Method.FULL_RESTORE, true, 0.1)
        .drill("old", Method.FULL_RESTORE, true, 0.1)
        .rehearsed(outcome, Duration.ofMinutes(10));
  }

  private static OutcomeState state(Duration apart) {
    return outcome(apart(apart, RehearsalFact.Outcome.PASSED)).state();
  }

  @Test
  void atTheLimitIsWithinIt() {
    assertThat(state(ALLOWED.minusMillis(1))).isEqualTo(OutcomeState.MET);
    assertThat(state(ALLOWED)).isEqualTo(OutcomeState.MET);
    assertThat(state(ALLOWED.plusMillis(1))).isEqualTo(OutcomeState.NOT_MET);
  }

  @Test
  void onlyARehearsalThatPassedSays() {
    Duration far = Duration.ofHours(48);
    assertThat(outcome(apart(far, RehearsalFact.Outcome.FAILED)).state())
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
    assertThat(outcome(apart(far, RehearsalFact.Outcome.INTERRUPTED)).state())
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
    assertThat(outcome(Given.estate().point("a", 5)).state())
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
    Given lapsed = Given.estate()
        .point("new", 24 * 181)
        .drill("new", Method.FULL_RESTORE, true, 181)
        .rehearsed(RehearsalFact.Outcome.PASSED, Duration.ofMinutes(10));
    assertThat(outcome(lapsed).state()).isEqualTo(OutcomeState.NOT_APPLICABLE);
  }

  /** Points that are gone could have lain further apart, never closer together. */
  @Test
  void whatIsGoneLeavesItOpenUnlessTheOthersSayEnough() {
    Given g = apart(Duration.ofHours(1), RehearsalFact.Outcome.PASSED);
    g.points.removeIf(p -> p.key().equals("old"));
    assertThat(outcome(g).state()).isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(outcome(g).sentence()).endsWith("is not known: 1 of its points is gone");
    Given far = apart(Duration.ofHours(48), RehearsalFact.Outcome.PASSED);
    far.point("third", 6);
    far.rehearsals.clear();
    far.drill("third", Method.FULL_RESTORE, true, 0.1)
        .rehearsed(RehearsalFact.Outcome.PASSED, Duration.ofMinutes(10));
    far.points.removeIf(p -> p.key().equals("third"));
    assertThat(outcome(far).state()).isEqualTo(OutcomeState.NOT_MET);
  }
}
