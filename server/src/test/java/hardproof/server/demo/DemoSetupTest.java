package hardproof.server.demo;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import hardproof.server.HandClock;
import hardproof.server.installation.Installation;
import hardproof.server.proof.AsAt;
import hardproof.server.storage.DataFolder;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The demo estate holds its faults in the data, and the computation finds them. */
class DemoSetupTest {
  private static final Instant NOW = Instant.parse("2026-11-24T10:00:00Z");

  @TempDir
  static Path folder;

  private static Installation installation;
  private static Estate estate;
  private static Facts facts;
  private static Evaluation evaluation;

  @BeforeAll
  static void make() throws IOException {
    DataFolder data = new DataFolder(folder);
    DemoSetup.fillIfEmpty(data, NOW, s -> {});
    installation = Installation.open(data, new HandClock(NOW));
    estate = installation.evaluations().now().estate();
    facts = estate.facts();
    evaluation = installation.evaluations().now().evaluation();
  }

  @AfterAll
  static void close() {
    installation.close();
  }

  private static WorkloadResult workload(String key) {
    return evaluation.workload(key);
  }

  private static Outcome outcome(String workload, String resource, CriterionCode code) {
    ResourceResult member = workload(workload).members().stream()
        .filter(m -> m.resource().key().equals(resource))
        .findFirst()
        .orElseThrow();
    return member.outcomes().stream()
        .filter(o -> o.criterion() == code)
        .findFirst()
        .orElseThrow();
  }

  @Test
  void itIsAsLargeAsPromised() {
    assertThat(facts.workloads()).hasSizeGreaterThanOrEqualTo(12);
    assertThat(facts.resources()).hasSizeGreaterThanOrEqualTo(45);
    assertThat(facts.stores()).hasSize(6);
    List<RecoveryPoint> points = facts.resources().stream()
        .flatMap(r -> estate.pointsOf(r.key()).stream())
        .toList();
    Instant oldest =
        points.stream().map(RecoveryPoint::dataTime).min(Instant::compareTo).orElseThrow();
    assertThat(Duration.between(oldest, NOW).toDays()).isGreaterThanOrEqualTo(45);
    assertThat(points.stream()
            .filter(p -> p.dataTime().isAfter(NOW.minus(Duration.ofDays(2))))
            .filter(p -> estate.copiesOf(p).stream().anyMatch(c -> c.place() != null))
            .map(RecoveryPoint::resource)
            .distinct())
        .hasSizeGreaterThanOrEqualTo(12);
  }

  @Test
  void aMachineThatAppearedNineDaysAgoIsUncovered() {
    assertThat(workload("test-harbour").verdict()).isEqualTo(Verdict.UNCOVERED);
    assertThat(workload("test-harbour").sentence()).startsWith("harbour-sim-4 was first seen 9 d");
    assertThat(workload("test-harbour").members())
        .filteredOn(m -> m.verdict() == Verdict.EXCLUDED)
        .hasSize(5);
  }

  /** Its feeds come once a day: five hours before the next, silence alone had made 21 of 27 exposed. */
  @Test
  void anHourBetweenTwoDeliveriesIsNoExposure() {
    Instant between = NOW.minus(Duration.ofHours(5));
    Evaluation then = installation.evaluations().at(between).evaluation();
    assertThat(then.workloads())
        .filteredOn(w -> w.verdict() == Verdict.EXPOSED)
        .hasSizeLessThan(8)
        .allSatisfy(w -> assertThat(w.members())
            .filteredOn(m -> m.verdict() == Verdict.EXPOSED)
            .allSatisfy(m -> {
              Outcome exposure = m.outcome(CriterionCode.FRESH_EXPOSURE_NOW);
              assertThat(exposure.measured() == null || exposure.margin() > 0)
                  .as("over when its feed last spoke: " + exposure.sentence())
                  .isTrue();
            }));
    assertThat(then.workload("fleet-positions").verdict()).isEqualTo(Verdict.PROVEN);
    assertThat(then.workload("fleet-positions").sentence()).contains("; by facts of ");
    Evaluation hindsight =
        installation.evaluations().at(new AsAt(between, AsAt.NOW)).evaluation();
    assertThat(hindsight.workload("fleet-positions").verdict()).isEqualTo(Verdict.PROVEN);
    assertThat(hindsight.workload("fleet-positions").byFactsOf()).isNull();
  }

  @Test
  void anExclusionThatEndedNoLongerHidesAnything() {
    assertThat(workload("training-bridge").verdict()).isEqualTo(Verdict.UNCOVERED);
    assertThat(workload("training-bridge").sentence()).contains("bridge-sim");
  }

  @Test
  void aDatabaseThatIsCorruptInsideIsDisprovedAlthoughEveryJobSucceeded() {
    WorkloadResult payroll = workload("payroll");
    assertThat(payroll.verdict()).isEqualTo(Verdict.DISPROVEN);
    assertThat(payroll.sentence()).contains("failed its own integrity check");
    assertThat(estate.pointsOf("payroll-db"))
        .isNotEmpty()
        .allSatisfy(p -> assertThat(p.outcome().code()).isEqualTo("complete"));
    // The same resource passed before the corruption began, and never since, also where it was
    // drawn.
    List<Boolean> passed = facts.drills().stream()
        .filter(d -> d.resource().equals("payroll-db"))
        .map(d -> d.passed())
        .toList();
    assertThat(passed).hasSizeGreaterThan(1).startsWith(true);
    assertThat(passed.subList(1, passed.size())).containsOnly(false);
  }

  @Test
  void oneFlippedBitDisprovesACopyAndTheOtherCopyStillHolds() {
    WorkloadResult freight = workload("freight-manifests");
    assertThat(freight.verdict()).isEqualTo(Verdict.DISPROVEN);
    assertThat(freight.sentence()).contains("its SHA-256 is").contains("the copy is damaged");
    assertThat(outcome("freight-manifests", "freight-share", CriterionCode.FRESH_EXPOSURE_NOW)
            .state())
        .isEqualTo(OutcomeState.MET);
  }

  @Test
  void aMissingIncrementalBreaksWhatHangsFromIt() {
    assertThat(workload("quay-cameras").verdict()).isEqualTo(Verdict.EXPOSED);
    assertThat(
            outcome("quay-cameras", "camera-south", CriterionCode.SOUND_CHAIN).sentence())
        .contains("which is missing")
        .contains("3 points hang from broken chains");
  }

  @Test
  void aLateCopyIsFound() {
    Outcome late = outcome("galley-orders", "galley-db", CriterionCode.COPIES_DEADLINE);
    assertThat(late.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(late.sentence()).contains("HOLM DISK");
  }

  @Test
  void copiesOnOneArrayCountOnce() {
    assertThat(outcome("workshop-tickets", "tickets-db", CriterionCode.COPIES_NUMBER)
            .why())
        .contains("SKERRY OBJECT is in the same failure domain as SKERRY DISK");
  }

  @Test
  void aRunOfElevenHoursCanNotKeepADay() {
    assertThat(workload("engine-telemetry").verdict()).isEqualTo(Verdict.EXPOSED);
    // DOMAIN's worked example: 13 of every 24 hours.
    assertThat(outcome("engine-telemetry", "telemetry-lake", CriterionCode.FRESH_ATTAINMENT)
            .measured()
            .value())
        .isBetween(0.52, 0.56);
  }

  @Test
  void aSilentFeedMakesWhatRestsOnItUnknown() {
    assertThat(workload("timetable-site").verdict()).isEqualTo(Verdict.UNKNOWN);
    assertThat(workload("timetable-site").sentence()).contains("feed inlet-journal last came");
  }

  @Test
  void aVolumeIsProtectedThroughItsMachinesImage() {
    assertThat(
            outcome("wifi-portal", "portal-data", CriterionCode.COVER_PROTECTED).sentence())
        .contains("through the image of portal-server");
  }

  @Test
  void credentialsThatChangedAfterTheyWereTestedAreFound() {
    Outcome found = outcome("fuel-ledger", "fuel-db", CriterionCode.COVER_CREDENTIALS);
    assertThat(found.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(found.sentence()).contains("14 d before that: the next backup may not get in");
  }

  /** What an auditor recomputes must stand in the arithmetic, of every outcome there is. */
  @Test
  void theArithmeticHoldsTheFigures() {
    SoftAssertions all = new SoftAssertions();
    evaluation.workloads().stream()
        .flatMap(w -> w.members().stream())
        .flatMap(m -> m.outcomes().stream())
        .filter(o -> o.state() == OutcomeState.MET || o.state() == OutcomeState.NOT_MET)
        .forEach(o -> Stream.of(o.measured(), o.demanded())
            .filter(Objects::nonNull)
            .forEach(figure -> all.assertThat(o.why())
                .as(o.criterion().code() + " of " + o.resource())
                .contains(figure.words())));
    all.assertAll();
  }

  @Test
  void everyVerdictButExcludedOccurs() {
    assertThat(evaluation.counts())
        .containsOnlyKeys(
            Verdict.UNCOVERED,
            Verdict.EXPOSED,
            Verdict.DISPROVEN,
            Verdict.UNKNOWN,
            Verdict.UNPROVEN,
            Verdict.LAPSED,
            Verdict.PROVEN);
  }

  @Test
  void thePastCanBeLookedAt() {
    Evaluation then =
        installation.evaluations().at(NOW.minus(Duration.ofDays(15))).evaluation();
    assertThat(then.workload("payroll").verdict()).isNotEqualTo(Verdict.DISPROVEN);
    assertThat(then.workload("payments-relay").verdict()).isEqualTo(Verdict.PROVEN);
  }

  @Test
  void whatIsThereIsNotMadeAnew() throws IOException {
    long before = Files.getLastModifiedTime(folder.resolve("hard-proof.db")).toMillis();
    DemoSetup.fillIfEmpty(new DataFolder(folder), NOW, s -> {
      throw new AssertionError(s);
    });
    assertThat(Files.getLastModifiedTime(folder.resolve("hard-proof.db")).toMillis())
        .isEqualTo(before);
  }

  @Test
  void aSandboxThatWasMovedAwayIsNotCleanedUp() {
    Outcome outcome = outcome("lost-property", "lost-share", CriterionCode.PROOF_CLEAN_UP);
    assertThat(outcome.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(outcome("lost-property", "lost-db", CriterionCode.PROOF_CLEAN_UP).state())
        .isEqualTo(OutcomeState.MET);
  }
}
