package hardproof.core.alerts;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.proof.Verdict;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class VerdictsBeforeTest {
  private static @Nullable Verdict after(Verdict... verdicts) {
    VerdictsBefore before = new VerdictsBefore();
    for (Verdict verdict : verdicts) {
      before.now("w", verdict);
    }
    return before.byWorkload().get("w");
  }

  /** Better than the worst of it is not yet as good as it was. */
  @Test
  void itStaysWorseUntilItIsAsGoodAgain() {
    assertThat(after(Verdict.PROVEN)).isEqualTo(Verdict.PROVEN);
    assertThat(after(Verdict.PROVEN, Verdict.EXPOSED)).isEqualTo(Verdict.PROVEN);
    assertThat(after(Verdict.PROVEN, Verdict.EXPOSED, Verdict.LAPSED)).isEqualTo(Verdict.PROVEN);
    assertThat(after(Verdict.UNPROVEN, Verdict.EXPOSED, Verdict.PROVEN, Verdict.LAPSED))
        .isEqualTo(Verdict.PROVEN);
    assertThat(after(Verdict.UNCOVERED, Verdict.UNPROVEN)).isEqualTo(Verdict.UNPROVEN);
  }

  @Test
  void whatWasLeftOutInBetweenBeginsAnew() {
    assertThat(after(Verdict.PROVEN, Verdict.EXCLUDED)).isNull();
    assertThat(after(Verdict.PROVEN, Verdict.EXCLUDED, Verdict.UNPROVEN))
        .isEqualTo(Verdict.UNPROVEN);
  }
}
