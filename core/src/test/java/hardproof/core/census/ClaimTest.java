package hardproof.core.census;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.census.Claim.Found;
import hardproof.core.census.Claim.Told;
import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.points.Consistency;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a list says of a copy, at the bounds. That clocks may differ by ten minutes is the bound at import. */
class ClaimTest {
  private static final Instant FINISHED = Instant.parse("2026-11-20T03:10:00Z");
  private static final Instant LOCK = Instant.parse("2027-01-20T00:00:00Z");
  private static final Instant AT = Instant.parse("2026-11-29T03:00:00Z");

  private static Copy copy(CopyState state, Instant expires, Instant lockedUntil, String sha256) {
    return new Copy(
        "p",
        "s",
        FINISHED,
        state,
        lockedUntil,
        expires,
        new Copy.Artifact("tar", "a/p.tar", sha256, null),
        new Copy.ReadBack(null, null),
        FINISHED,
        "f");
  }

  private static RecoveryPoint point(Long size) {
    return new RecoveryPoint(
        "p",
        "r",
        null,
        Form.FULL,
        null,
        new RecoveryPoint.Times(FINISHED, null, FINISHED),
        PointOutcome.COMPLETE,
        new RecoveryPoint.Taken(Consistency.UNKNOWN, null, null),
        new RecoveryPoint.Content(size, null, null),
        "f");
  }

  private static Claim claim(Long size, Instant lock, String sha256) {
    return new Claim(point(size), copy(CopyState.PRESENT, null, lock, sha256));
  }

  private static CensusState state(Claim claim, Found found, Told told) {
    return claim.compared(found, null, told, AT).state();
  }

  @Test
  void whatIsNotThereIsGoneAndADeletionIsTold() {
    Claim claim = claim(100L, null, null);
    assertThat(claim.compared(null, null, Told.NOTHING, AT).sentence())
        .isEqualTo("a/p.tar is not on the store");
    assertThat(claim.compared(null, FINISHED, Told.NOTHING, AT))
        .isEqualTo(
            new Claim.Finding(
                CensusState.GONE,
                "a/p.tar is not on the store; it was deleted at 20 Nov 03:10, and older versions are still kept"));
  }

  @ParameterizedTest
  @CsvSource({"99, OTHER_SIZE", "100, THERE", "101, OTHER_SIZE"})
  void theSizeIsTheClaimedOneToTheByte(long size, CensusState expected) {
    assertThat(state(claim(100L, null, null), new Found(size, FINISHED), Told.NOTHING))
        .isEqualTo(expected);
  }

  @Test
  void aSizeThatNobodyClaimedIsNotHeldAgainstIt() {
    assertThat(state(claim(null, null, null), new Found(7, FINISHED), Told.NOTHING))
        .isEqualTo(CensusState.THERE);
  }

  @ParameterizedTest
  @CsvSource({"-3600, THERE", "600, THERE", "601, NEWER"})
  void writtenAgainIsWhatComesMoreThanTenMinutesAfterItWasFinished(
      long seconds, CensusState expected) {
    Found found = new Found(100, FINISHED.plusSeconds(seconds));
    assertThat(state(claim(100L, null, null), found, Told.NOTHING)).isEqualTo(expected);
  }

  @ParameterizedTest
  @CsvSource({"-61, SHORTER_LOCK", "-60, THERE", "0, THERE", "60, THERE", "61, LONGER_LOCK"})
  void aLockHoldsAsLongAsItIsClaimed(long seconds, CensusState expected) {
    Told told = new Told(true, LOCK.plusSeconds(seconds), false, null);
    assertThat(state(claim(100L, LOCK, null), new Found(100, FINISHED), told)).isEqualTo(expected);
  }

  @Test
  void aLockThatNobodyClaimsCountsAllTheSame() {
    Told told = new Told(true, LOCK, false, null);
    Claim.Finding found =
        claim(100L, null, null).compared(new Found(100, FINISHED), null, told, AT);
    assertThat(found)
        .isEqualTo(new Claim.Finding(
            CensusState.LONGER_LOCK,
            LOCK,
            "a/p.tar is locked until 20 Jan 2027 00:00 by the store, no lock claimed"));
    assertThat(found.state().differs()).isFalse();
    assertThat(claim(99L, null, null)
            .compared(new Found(100, FINISHED), null, told, AT)
            .state())
        .as("what is not the same is worse")
        .isEqualTo(CensusState.OTHER_SIZE);
  }

  @Test
  void whatWasSaidOfALockStandsUntilTheClaimIsAnother() {
    CensusFact shorter = told(CensusState.SHORTER_LOCK, LOCK);
    assertThat(claim(1L, LOCK.plusSeconds(61), null).lockStands(shorter)).isTrue();
    assertThat(claim(1L, LOCK.plusSeconds(60), null).lockStands(shorter)).isFalse();
    assertThat(claim(1L, null, null).lockStands(shorter)).isFalse();
    assertThat(claim(1L, LOCK, null).lockStands(told(CensusState.SHORTER_LOCK, null)))
        .isTrue();
    CensusFact longer = told(CensusState.LONGER_LOCK, LOCK);
    assertThat(claim(1L, null, null).lockStands(longer)).isTrue();
    assertThat(claim(1L, LOCK.minusSeconds(61), null).lockStands(longer)).isTrue();
    assertThat(claim(1L, LOCK.minusSeconds(60), null).lockStands(longer)).isFalse();
    assertThat(claim(1L, LOCK, null).lockStands(told(CensusState.GONE, null))).isFalse();
  }

  private static CensusFact told(CensusState state, Instant until) {
    return new CensusFact(1, 1, "r", "p", "s", AT, state, until, "");
  }

  @Test
  void whatAStoreDoesNotTellOfLocksIsNotHeldAgainstIt() {
    Claim claim = claim(100L, LOCK, null);
    Found found = new Found(100, FINISHED);
    assertThat(state(claim, found, Told.NOTHING)).isEqualTo(CensusState.THERE);
    assertThat(state(claim, found, new Told(true, null, true, null))).isEqualTo(CensusState.THERE);
    assertThat(
            claim.compared(found, null, new Told(true, null, false, null), AT).sentence())
        .isEqualTo(
            "a/p.tar is locked until 20 Jan 2027 00:00 as claimed; the store says that it is not locked");
  }

  @Test
  void theStoresOwnChecksumIsHeldAgainstTheClaimedOne() {
    String one = "a".repeat(64);
    String other = "b".repeat(64);
    Found found = new Found(100, FINISHED);
    assertThat(state(claim(100L, null, one), found, new Told(true, null, false, one)))
        .isEqualTo(CensusState.THERE);
    assertThat(state(claim(100L, null, one), found, new Told(true, null, false, other)))
        .isEqualTo(CensusState.OTHER_SUM);
    assertThat(state(claim(100L, null, null), found, new Told(true, null, false, other)))
        .isEqualTo(CensusState.THERE);
  }

  @Test
  void onlyWhatHasToBeThereIsLookedFor() {
    Instant begun = FINISHED.plusSeconds(10);
    assertThat(new Claim(point(1L), copy(CopyState.PRESENT, null, null, null)).due(begun))
        .isTrue();
    assertThat(new Claim(point(1L), copy(CopyState.PRESENT, null, null, null)).due(FINISHED))
        .isTrue();
    assertThat(new Claim(point(1L), copy(CopyState.PRESENT, null, null, null))
            .due(FINISHED.minusMillis(1)))
        .isFalse();
    assertThat(new Claim(point(1L), copy(CopyState.PRESENT, begun, null, null)).due(begun))
        .isFalse();
    assertThat(new Claim(point(1L), copy(CopyState.PRESENT, begun.plusMillis(1), null, null))
            .due(begun))
        .isTrue();
    for (CopyState state :
        new CopyState[] {CopyState.DELETED, CopyState.MISSING, CopyState.DAMAGED}) {
      assertThat(new Claim(point(1L), copy(state, null, null, null)).due(begun)).isFalse();
    }
  }
}
