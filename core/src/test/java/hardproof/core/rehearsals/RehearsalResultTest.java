package hardproof.core.rehearsals;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.drills.RehearsalFact.Outcome;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What rehearsals come to, in words. Invented data. */
class RehearsalResultTest {
  private static final Instant BEGIN = Instant.parse("2026-11-24T10:00:00Z");
  private static final Duration RTO = Duration.ofHours(1);

  private static RehearsalResult.Ended ended(
      String name, MemberState state, int begun, int worked, String why, String... needs) {
    Instant end = BEGIN.plus(Duration.ofMinutes(worked));
    return new RehearsalResult.Ended(
        new Progress.Member(name, name, null, List.of(needs), state),
        worked == 0
            ? null
            : new RehearsalClock.Work(BEGIN.plus(Duration.ofMinutes(begun)), end, end),
        true,
        why);
  }

  private static RehearsalResult of(String cut, RehearsalResult.Ended... members) {
    return RehearsalResult.of(BEGIN, List.of(members), cut, null, RTO);
  }

  @Test
  void passedSaysByHowMuchAndWhatSetTheTime() {
    RehearsalResult result = of(
        null,
        ended("Harbour DB", MemberState.UP, 0, 41, null),
        ended("share", MemberState.UP, 0, 5, null),
        ended("app", MemberState.UP, 41, 58, null, "Harbour DB", "share"));
    assertThat(result.outcome()).isEqualTo(Outcome.PASSED);
    assertThat(result.path()).containsExactly("Harbour DB", "app");
    assertThat(result.sentence())
        .isEqualTo(
            "all 3 members were back in their order in 58 m, 2 m inside the RTO of 1 h; Harbour DB set"
                + " the time: 41 m of it");
  }

  @Test
  void aFailureWinsOverWhatWasNotJudgedAndOverACut() {
    RehearsalResult result = of(
        "it was cancelled",
        ended("db", MemberState.FAILED, 0, 10, "checksum differs"),
        ended("app", MemberState.NOT_BEGUN, 0, 0, "db, which it needs, did not come up", "db"),
        ended("gate", MemberState.NOT_JUDGED, 0, 3, "cancelled"));
    assertThat(result.outcome()).isEqualTo(Outcome.FAILED);
    assertThat(result.sentence())
        .isEqualTo(
            "db: checksum differs; 1 member that needs it never began; 0 of 3 members came up; it was"
                + " cancelled");
  }

  @Test
  void whatWasNotJudgedIsNeitherPassedNorFailed() {
    RehearsalResult result = of(
        null,
        ended("db", MemberState.UP, 0, 10, null),
        ended("gate", MemberState.NOT_JUDGED, 0, 3, "not judged: no engine"));
    assertThat(result.outcome()).isEqualTo(Outcome.INTERRUPTED);
    assertThat(result.sentence())
        .isEqualTo(
            "gate: not judged: no engine; 1 of 2 members came up; it says nothing about the data");
  }

  @Test
  void whatNobodyAskedDoesNotCountAsUp() {
    RehearsalResult.Ended unasked = new RehearsalResult.Ended(
        ended("db", MemberState.UP, 0, 10, null).member(),
        ended("db", MemberState.UP, 0, 10, null).work(),
        false,
        null);
    assertThat(of(null, unasked).outcome()).isEqualTo(Outcome.INTERRUPTED);
  }

  @Test
  void oneThatNeverBeganTookNoTime() {
    RehearsalResult result =
        of("cancelled before it began", ended("db", MemberState.NOT_BEGUN, 0, 0, "cancelled"));
    assertThat(result.clock()).isZero();
    assertThat(result.path()).isEmpty();
    assertThat(result.outcome()).isEqualTo(Outcome.INTERRUPTED);
  }

  /** A clock of a few bytes says too little of many. */
  @Test
  void farLessThanThereIsIsSaid() {
    List<RehearsalResult.Ended> one = List.of(ended("db", MemberState.UP, 0, 10, null));
    assertThat(RehearsalResult.of(BEGIN, one, null, Duration.ofMinutes(90), RTO).sentence())
        .isEqualTo("db was back in 10 m, 50 m inside the RTO of 1 h; far less was read than there"
            + " is: for all of it about 1 h 30 m is expected, 30 m over");
    assertThat(RehearsalResult.of(BEGIN, one, null, Duration.ofMinutes(9), RTO).sentence())
        .endsWith("inside the RTO of 1 h");
  }
}
