package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.census.CensusState;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;

/** The Safeguards group, held to the strict standard's tier 1. */
class SafeguardsTest extends HeldToStrict {
  /** @param life how long after it was finished it expires; blank when not known */
  private void locked(String point, String store, Duration lock, Duration life) {
    Instant finished = NOW.minus(Duration.ofHours(1));
    g.copy(point, store)
        .theCopy(
            point,
            store,
            "finished",
            finished.toString(),
            "locked_until",
            finished.plus(lock).toString(),
            "expires",
            life == null ? "" : finished.plus(life).toString());
  }

  @Test
  void everyFreshPointIsEncrypted() {
    assertThat(outcome(CriterionCode.SAFE_ENCRYPTED).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    point("a", 2, "encrypted", "true");
    assertThat(outcome(CriterionCode.SAFE_ENCRYPTED).state()).isEqualTo(OutcomeState.MET);
    point("b", 1);
    assertThat(outcome(CriterionCode.SAFE_ENCRYPTED).state())
        .as("not known is never a pass")
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    point("c", 1, "encrypted", "false");
    assertThat(outcome(CriterionCode.SAFE_ENCRYPTED).sentence())
        .isEqualTo("1 of 3 points of the last 3 d is not encrypted");
    g.points.clear();
    point("old", 73, "encrypted", "false");
    assertThat(outcome(CriterionCode.SAFE_ENCRYPTED).state())
        .as("older than what counts")
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
  }

  @Test
  void theNewestLockIsLongEnough() {
    sized("a", 2, 1000);
    assertThat(outcome(CriterionCode.SAFE_LOCKED).sentence())
        .isEqualTo("no copy of the last 3 d is locked; 30 d is demanded");
    locked("a", "vault", Duration.ofDays(30), null);
    assertThat(outcome(CriterionCode.SAFE_LOCKED).state())
        .as("exactly the minimum")
        .isEqualTo(OutcomeState.MET);
    g.copies.remove(2);
    locked("a", "vault", Duration.ofDays(30).minusMillis(1), null);
    assertThat(outcome(CriterionCode.SAFE_LOCKED).state()).isEqualTo(OutcomeState.NOT_MET);
  }

  /** In place of what is claimed, shorter or longer. */
  @Test
  void aLockIsAsLongAsItsStoreSays() {
    sized("a", 2, 1000);
    locked("a", "vault", Duration.ofDays(30), null);
    g.locked("a", "vault", CensusState.SHORTER_LOCK, NOW.plus(Duration.ofDays(20)));
    assertThat(outcome(CriterionCode.SAFE_LOCKED).state()).isEqualTo(OutcomeState.NOT_MET);
    g.censuses.clear();
    g.copies.remove(2);
    locked("a", "vault", Duration.ofDays(1), null);
    assertThat(outcome(CriterionCode.SAFE_LOCKED).state()).isEqualTo(OutcomeState.NOT_MET);
    g.locked("a", "vault", CensusState.LONGER_LOCK, NOW.plus(Duration.ofDays(30)));
    assertThat(outcome(CriterionCode.SAFE_LOCKED).state()).isEqualTo(OutcomeState.MET);
    assertThat(outcome(CriterionCode.COPIES_AS_LISTED).state()).isEqualTo(OutcomeState.MET);
  }

  @Test
  void aLockThatEndsBeforeTheCopyExpiresIsFound() {
    sized("a", 2, 1000);
    assertThat(outcome(CriterionCode.SAFE_LOCK_RETENTION).state())
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
    locked("a", "vault", Duration.ofDays(30), null);
    assertThat(outcome(CriterionCode.SAFE_LOCK_RETENTION).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    locked("a", "vault", Duration.ofDays(30), Duration.ofDays(30));
    assertThat(outcome(CriterionCode.SAFE_LOCK_RETENTION).state()).isEqualTo(OutcomeState.MET);
    locked("a", "vault", Duration.ofDays(30), Duration.ofDays(45));
    assertThat(outcome(CriterionCode.SAFE_LOCK_RETENTION).sentence())
        .contains("15 d before it expires: it could be deleted in between");
  }

  @Test
  void ofSeveralLockedCopiesAllAreCounted() {
    sized("a", 2, 1000);
    locked("a", "vault", Duration.ofDays(30), Duration.ofDays(30));
    locked("a", "cellar", Duration.ofDays(31), Duration.ofDays(31));
    assertThat(outcome(CriterionCode.SAFE_LOCK_RETENTION).sentence())
        .isEqualTo("each of the 2 locked copies of the last 3 d is locked until it expires");
    g.copies.clear();
    assertThat(outcome(CriterionCode.SAFE_LOCKED).state()).isEqualTo(OutcomeState.NOT_MET);
  }
}
