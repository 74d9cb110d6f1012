package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.estate.Medium;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Redundancy;
import hardproof.core.estate.Selector;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.points.Consistency;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.points.SourceRole;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Safeguards, Soundness, and the Copies criteria about places; held to the strict standard's tier 1. */
class SafeguardsAndSoundnessTest {
  private final Given g = Given.estate();
  private Standard standard = ShippedStandards.strict();

  SafeguardsAndSoundnessTest() {
    g.workloads.set(0, Given.workload("w", 1));
  }

  private Outcome outcome(CriterionCode code) {
    Subject subject = new Subject(g.at(NOW), standard, g.resources.get(0));
    return Criteria.evaluate(subject).stream()
        .filter(o -> o.criterion() == code)
        .findFirst()
        .orElseThrow();
  }

  /** A point an hour old with what only some of them have. */
  private void point(
      String key,
      double hoursAgo,
      Consistency consistency,
      Boolean preStep,
      SourceRole role,
      Long size,
      Boolean encrypted,
      Long skipped) {
    Instant data = NOW.minusSeconds((long) (hoursAgo * 3600));
    g.points.add(new RecoveryPoint(
        key,
        "r",
        "p",
        Form.FULL,
        null,
        new RecoveryPoint.Times(data, data, data.plusSeconds(60)),
        PointOutcome.COMPLETE,
        new RecoveryPoint.Taken(consistency, preStep, role),
        new RecoveryPoint.Content(size, encrypted, skipped),
        "feed"));
    g.copy(key, "near").copy(key, "far");
  }

  private void sized(String key, double hoursAgo, long size) {
    point(key, hoursAgo, Consistency.APPLICATION, true, null, size, true, 0L);
  }

  private void locked(String point, String store, Duration lock, Duration life) {
    Instant finished = NOW.minus(Duration.ofHours(1));
    g.copies.add(new Copy(
        point,
        store,
        finished,
        CopyState.PRESENT,
        lock == null ? null : finished.plus(lock),
        life == null ? null : finished.plus(life),
        new Copy.Artifact(null, null, null, null),
        new Copy.ReadBack(null, null),
        NOW,
        "feed"));
  }

  @Test
  void everyFreshPointIsEncrypted() {
    assertThat(outcome(CriterionCode.SAFE_ENCRYPTED).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    point("a", 2, Consistency.APPLICATION, null, null, null, true, null);
    assertThat(outcome(CriterionCode.SAFE_ENCRYPTED).state()).isEqualTo(OutcomeState.MET);
    point("b", 1, Consistency.APPLICATION, null, null, null, null, null);
    assertThat(outcome(CriterionCode.SAFE_ENCRYPTED).state())
        .as("not known is never a pass")
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    point("c", 1, Consistency.APPLICATION, null, null, null, false, null);
    assertThat(outcome(CriterionCode.SAFE_ENCRYPTED).sentence())
        .isEqualTo("1 of 3 points of the last 3 d are not encrypted");
    g.points.clear();
    point("old", 73, Consistency.APPLICATION, null, null, null, false, null);
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

  private static Store store(String key, Redundancy redundancy, String region, Integer approvals) {
    return new Store(
        key, key, "B", region, Medium.OBJECT, key, true, true, redundancy, null, null, approvals);
  }

  @Test
  void whatAStoreSurvivesAndWhoMayDeleteIsDeclared() {
    sized("a", 2, 1000);
    assertThat(outcome(CriterionCode.COPIES_REDUNDANCY).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(outcome(CriterionCode.SAFE_DELETION).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    g.stores.clear();
    g.stores.add(store("near", Redundancy.NONE, "nordal", 1));
    g.stores.add(store("far", Redundancy.ONE_BUILDING, "nordal", 1));
    assertThat(outcome(CriterionCode.COPIES_REDUNDANCY).state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(outcome(CriterionCode.SAFE_DELETION).state()).isEqualTo(OutcomeState.NOT_MET);
    g.stores.set(1, store("far", Redundancy.SEVERAL_BUILDINGS, "nordal", 2));
    assertThat(outcome(CriterionCode.COPIES_REDUNDANCY).sentence())
        .isEqualTo("far keeps its copy across buildings; across buildings is demanded");
    assertThat(outcome(CriterionCode.COPIES_REDUNDANCY).state()).isEqualTo(OutcomeState.MET);
    assertThat(outcome(CriterionCode.SAFE_DELETION).state()).isEqualTo(OutcomeState.MET);
  }

  @Test
  void copiesLieWhereTheirDataClassMay() {
    sized("a", 2, 1000);
    assertThat(outcome(CriterionCode.COPIES_RESIDENCY).state())
        .as("no data class")
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
    g.workloads.set(
        0, new Workload("w", "W", "O", 1, List.of(), null, null, null, "personal", null));
    assertThat(outcome(CriterionCode.COPIES_RESIDENCY).state())
        .as("no regions set")
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
    standard = new Standard(
        "S",
        1,
        Duration.ofDays(30),
        java.time.ZoneOffset.UTC,
        standard.tiers(),
        Map.of("personal", List.of("Nordal")),
        List.of());
    assertThat(outcome(CriterionCode.COPIES_RESIDENCY).sentence())
        .isEqualTo("personal data may lie in Nordal, and every copy does");
    g.stores.set(1, store("far", null, null, null));
    assertThat(outcome(CriterionCode.COPIES_RESIDENCY).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    g.stores.set(1, store("far", null, "vestmark", null));
    assertThat(outcome(CriterionCode.COPIES_RESIDENCY).sentence())
        .isEqualTo("personal data may lie in Nordal; there are copies on far (vestmark)");
  }

  @Test
  void twoStoresOnOneArrayAreNotIndependent() {
    assertThat(outcome(CriterionCode.COPIES_INDEPENDENT).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    sized("a", 2, 1000);
    assertThat(outcome(CriterionCode.COPIES_INDEPENDENT).state()).isEqualTo(OutcomeState.MET);
    g.stores.set(1, Given.store("far", "A", Medium.OBJECT, "array", true));
    assertThat(outcome(CriterionCode.COPIES_INDEPENDENT).sentence())
        .isEqualTo("1 copy does not stand by itself: NEAR is in the same failure domain as FAR");
  }

  @Test
  void theNewestPointIsAsConsistentAsTierAndPolicyAsk() {
    point("a", 1, Consistency.CRASH, null, null, null, null, null);
    assertThat(outcome(CriterionCode.SOUND_CONSISTENCY).sentence())
        .isEqualTo("the newest point, of 24 Nov 09:00, is of consistency crash; its tier asks for"
            + " application");
    standard = Standard.shipped();
    assertThat(outcome(CriterionCode.SOUND_CONSISTENCY).state()).isEqualTo(OutcomeState.MET);
    Policy p = g.policies.get(0);
    g.policies.set(
        0,
        new Policy(
            "p",
            "Nightly",
            Selector.EVERYTHING,
            p.schedule(),
            new Policy.JobWindow(null, null),
            p.retention(),
            Consistency.APPLICATION,
            null,
            null,
            List.of(),
            null,
            List.of()));
    assertThat(outcome(CriterionCode.SOUND_CONSISTENCY).sentence())
        .endsWith("Nightly asks for application");
  }

  @Test
  void aPreStepThatNeverRanIsFound() {
    point("a", 3, Consistency.APPLICATION, null, null, null, null, null);
    assertThat(outcome(CriterionCode.SOUND_PRE_STEP).state())
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
    g.points.clear();
    point("b", 3, Consistency.APPLICATION, false, null, null, null, null);
    point("c", 2, Consistency.APPLICATION, false, null, null, null, null);
    assertThat(outcome(CriterionCode.SOUND_PRE_STEP).sentence())
        .isEqualTo("the step before it has never run, for any of its 2 points");
    point("d", 1.5, Consistency.APPLICATION, true, null, null, null, null);
    assertThat(outcome(CriterionCode.SOUND_PRE_STEP).state()).isEqualTo(OutcomeState.MET);
    point("e", 1, Consistency.APPLICATION, false, null, null, null, null);
    assertThat(outcome(CriterionCode.SOUND_PRE_STEP).sentence())
        .isEqualTo("the step before it did not run for the last 1 point");
  }

  @Test
  void fallingBackToTheActiveMemberIsFound() {
    point("a", 25, Consistency.APPLICATION, null, SourceRole.PASSIVE, null, null, null);
    assertThat(outcome(CriterionCode.SOUND_SOURCE_ROLE).state()).isEqualTo(OutcomeState.MET);
    point("b", 1, Consistency.APPLICATION, null, SourceRole.ACTIVE, null, null, null);
    assertThat(outcome(CriterionCode.SOUND_SOURCE_ROLE).sentence())
        .isEqualTo("the newest point, of 24 Nov 09:00, was taken from the active member, which"
            + " carries the load; the last from the passive one is of 23 Nov 09:00");
  }

  @Test
  void skippedItemsAreCounted() {
    point("a", 1, Consistency.APPLICATION, null, null, null, null, 0L);
    assertThat(outcome(CriterionCode.SOUND_SKIPPED).state()).isEqualTo(OutcomeState.MET);
    point("b", 0.5, Consistency.APPLICATION, null, null, null, null, 1L);
    assertThat(outcome(CriterionCode.SOUND_SKIPPED).sentence())
        .isEqualTo("the newest point, of 24 Nov 09:30, leaves out 1 item, and says complete");
  }

  @Test
  void aBackupThatShrankIsNotBelieved() {
    for (int day = 6; day >= 2; day--) {
      sized("p" + day, day * 24, 1_000_000 + day * 1000);
    }
    assertThat(outcome(CriterionCode.SOUND_SIZE).state())
        .as("five are too few")
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    sized("p1", 24, 1_002_000);
    assertThat(outcome(CriterionCode.SOUND_SIZE).state()).isEqualTo(OutcomeState.MET);
    sized("p0", 1, 400_000);
    Outcome o = outcome(CriterionCode.SOUND_SIZE);
    assertThat(o.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(o.sentence())
        .isEqualTo("the newest point, of 24 Nov 09:00, is 400 kB, 39.86 % of the usual 1.00 MB, and"
            + " says complete");
  }

  @Test
  void aSmallChangeOfASteadySizeIsNoOutlier() {
    for (int day = 9; day >= 1; day--) {
      sized("p" + day, day * 24, 1_000_000);
    }
    sized("p0", 1, 1_090_000);
    assertThat(outcome(CriterionCode.SOUND_SIZE).state()).isEqualTo(OutcomeState.MET);
  }

  @Test
  void chainsAreNotTooLongAndTheirFullsNotTooOld() {
    Given g2 = Given.estate().point("f", 24 * 30);
    String base = "f";
    for (int i = 1; i < 30; i++) {
      g2.point("i" + i, "r", Form.INCREMENTAL, base, 24 * 30 - i, PointOutcome.COMPLETE);
      base = "i" + i;
    }
    assertThat(g2.outcome(CriterionCode.SOUND_CHAIN_LENGTH).state()).isEqualTo(OutcomeState.MET);
    assertThat(g2.outcome(CriterionCode.SOUND_FULL_AGE).state())
        .as("exactly 30 d")
        .isEqualTo(OutcomeState.MET);
    g2.point("last", "r", Form.INCREMENTAL, base, 1, PointOutcome.COMPLETE);
    assertThat(g2.outcome(CriterionCode.SOUND_CHAIN_LENGTH).sentence())
        .isEqualTo("to restore the newest point 31 points are needed; 30 at most are allowed");
    g2.points.remove(0);
    assertThat(g2.outcome(CriterionCode.SOUND_FULL_AGE).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
  }
}
