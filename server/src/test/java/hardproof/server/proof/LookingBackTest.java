package hardproof.server.proof;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.estate.Selector;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Verdict;
import hardproof.server.Estate;
import hardproof.server.RunningServer;
import hardproof.server.RunningServer.Client;
import hardproof.server.evidence.FactsJson;
import hardproof.server.evidence.PackBuilder;
import hardproof.server.evidence.PackStore;
import hardproof.server.evidence.PackVerifier;
import hardproof.server.people.Role;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/**
 * A feed that comes once a day: what was known at noon, and what is known now of noon. The estate's points
 * are of the morning of the 24th; those of the night are told of a day later. Invented data.
 */
class LookingBackTest {
  private static final Instant NOON = Instant.parse("2026-11-25T12:00:00Z");

  @TempDir
  Path folder;

  private RunningServer server;
  private Estate estate;
  private Client auditor;

  @BeforeEach
  void fill() throws IOException {
    server = new RunningServer(folder).with(Role.AUDITOR);
    estate = server.estate;
    auditor = server.as(Role.AUDITOR);
    estate.expect("test", Duration.ofHours(40));
    estate.clock.forward(Duration.ofHours(30));
    String header = "key,resource,form,data_time,available,outcome\n";
    estate.take(
        "points.csv",
        header
            + "share-9,share,full,2026-11-25T03:00:00Z,2026-11-25T04:00:00Z,complete\n"
            + "db-9,db,full,2026-11-25T03:00:00Z,2026-11-25T13:00:00Z,complete\n");
    estate.take(
        "copies.csv",
        "point,store,finished,state\n"
            + "share-9,near,2026-11-25T04:00:00Z,present\n"
            + "db-9,near,2026-11-25T13:00:00Z,present\n");
  }

  @AfterEach
  void stop() {
    server.close();
  }

  private Evaluation evaluation(String knownAt) {
    return estate.installation.evaluations().at(new AsAt(NOON, knownAt)).evaluation();
  }

  private static OutcomeState exposure(Evaluation evaluation, String resource) {
    return evaluation
        .resource(resource)
        .outcome(CriterionCode.FRESH_EXPOSURE_NOW)
        .state();
  }

  @Test
  void knownThenItIsSilenceAndInHindsightItIsWhatWasTrue() {
    Evaluation then = evaluation("then");
    assertThat(exposure(then, "share")).isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(exposure(then, "db")).isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(then.knownAt()).isEqualTo(NOON);
    assertThat(then.workload("w").verdict()).isEqualTo(Verdict.UNPROVEN);
    assertThat(then.workload("w").sentence()).contains("; by facts of 24 Nov ");
    Evaluation hindsight = evaluation("now");
    assertThat(exposure(hindsight, "share")).isEqualTo(OutcomeState.MET);
    assertThat(exposure(hindsight, "db"))
        .as("its point was still being made at noon")
        .isEqualTo(OutcomeState.NOT_MET);
    assertThat(hindsight.workload("w").verdict()).isEqualTo(Verdict.EXPOSED);
    assertThat(hindsight.knownAt()).isEqualTo(estate.clock.instant());
  }

  @Test
  void whatIsKnownByAnInstantInBetweenCanBeAsked() {
    Instant before = estate.clock.instant().minusMillis(1);
    assertThat(exposure(evaluation(before.toString()), "share"))
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(exposure(evaluation(estate.clock.instant().toString()), "share"))
        .isEqualTo(OutcomeState.MET);
  }

  /** Nothing that becomes known later changes what was known then, nor what was asked by an instant. */
  @Test
  void whatBecomesKnownLaterChangesHindsightOnly() throws IOException {
    Evaluations all = estate.installation.evaluations();
    Evaluated by = all.at(new AsAt(NOON, estate.clock.instant().toString()));
    String then = verdicts(evaluation("then"));
    String known = verdicts(by.evaluation());
    estate.clock.forward(Duration.ofHours(1));
    estate.take(
        "points.csv",
        "key,resource,form,data_time,available,outcome\n"
            + "db-8,db,full,2026-11-25T01:00:00Z,2026-11-25T02:00:00Z,complete\n");
    estate.take(
        "copies.csv", "point,store,finished,state\ndb-8,near,2026-11-25T02:00:00Z,present\n");
    assertThat(verdicts(evaluation("then"))).isEqualTo(then);
    assertThat(verdicts(
            all.at(new AsAt(NOON, by.evaluation().knownAt().toString())).evaluation()))
        .isEqualTo(known);
    assertThat(exposure(evaluation("now"), "db")).isEqualTo(OutcomeState.MET);
  }

  private static String verdicts(Evaluation evaluation) {
    return hardproof.core.evidence.Tables.workloads(evaluation)
        + hardproof.core.evidence.Tables.findings(evaluation);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "2026-11-25T12:00:00Z | yesterday | says not by what was known when; give then, now or an instant",
        "2026-11-25T12:00:00Z | 2026-11-25T11:59:59Z | which is later",
        "2026-11-25T12:00:00Z | 2026-11-25T16:00:01Z | it is still to come",
        "'' | 2026-11-25T12:00:00Z | is asked of an instant that has been: say as at which"
      })
  void whatCanNotBeAskedIsRefused(String asAt, String knownAt, String why) {
    AsAt when = new AsAt(asAt.isEmpty() ? null : Instant.parse(asAt), knownAt);
    assertThatThrownBy(() -> estate.installation.evaluations().at(when))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining(why);
    assertThat(auditor.get("/api/board?asAt=" + asAt + "&knownAt=" + knownAt).detail())
        .contains(why);
  }

  @Test
  void everyAnswerSaysByWhatWasKnownWhen() {
    JsonNode then = auditor.get("/api/board?asAt=" + NOON).json();
    assertThat(then.path("knownAt").asString()).isEqualTo(NOON.toString());
    assertThat(then.path("horizon").asString()).isLessThan("2026-11-24T10:00:01Z");
    assertThat(then.path("workloads").path(0).path("byFactsOf").asString())
        .startsWith("2026-11-24");
    JsonNode now = auditor.get("/api/board?asAt=" + NOON + "&knownAt=now").json();
    assertThat(now.path("knownAt").asString()).isEqualTo("2026-11-25T16:00:00Z");
    assertThat(now.path("horizon").asString()).isEqualTo(NOON.toString());
    assertThat(now.path("workloads").path(0).has("byFactsOf")).isFalse();
    String curve = "/api/resources/share/exposure?asAt=" + NOON;
    long told = auditor.get(curve).json().path("horizon").asLong();
    assertThat(told).isLessThan(NOON.minus(Duration.ofDays(1)).toEpochMilli());
    assertThat(auditor.get(curve).json().path("sentence").asString())
        .contains("told of until 24 Nov");
    assertThat(auditor.get(curve + "&knownAt=now").json().path("horizon").asLong())
        .isEqualTo(NOON.toEpochMilli());
  }

  /** Over a period hindsight is usual, as at an instant what was known then. */
  @Test
  void aPeriodIsLookedAtInHindsightUnlessSomethingElseIsAsked() {
    String period = "/api/insights?from=2026-11-24T11:00:00Z&to=" + NOON;
    double usual = attainment(period);
    assertThat(attainment(period + "&knownAt=now")).isEqualTo(usual).isBetween(0.5, 0.99);
    assertThat(auditor.get(period + "&knownAt=then").json().path("attainment").size())
        .as("nobody had told of anything in it")
        .isZero();
    String moves = "/api/differences?from=2026-11-24T11:00:00Z&to=" + NOON;
    assertThat(auditor.get(moves).json().path("moves").path(0).path("to").asString())
        .isEqualTo("exposed");
    assertThat(auditor.get(moves + "&knownAt=then").json().path("moves").size()).isZero();
  }

  private double attainment(String path) {
    return auditor.get(path).json().path("attainment").path(0).path("mean").asDouble();
  }

  @Test
  void aPackInHindsightSaysSoAndIsVerified() throws IOException {
    PackBuilder.Contents contents = estate
        .installation
        .part(PackBuilder.class)
        .contents(
            estate.installation.evaluations().at(new AsAt(NOON, "now")),
            "T",
            Selector.EVERYTHING,
            "A");
    PackStore.Issued issued = estate.installation.packs().issue(contents, estate.clock.instant());
    assertThat(issued.knownAt()).isEqualTo(estate.clock.instant());
    assertThat(PackVerifier.verify(estate.installation.packs().file(issued)).passed())
        .isTrue();
    assertThat(estate.installation.part(PackBuilder.class).reportHtml(contents))
        .contains("in hindsight, by facts recorded until");
    String json = new String(contents.facts().write(), StandardCharsets.UTF_8);
    FactsJson read = FactsJson.read(json.getBytes(StandardCharsets.UTF_8));
    assertThat(read.write()).isEqualTo(contents.facts().write());
    String swapped = json.replace(
        "\"known_at\" : \"2026-11-25T16:00:00Z\"", "\"known_at\" : \"2026-11-25T11:00:00Z\"");
    assertThatThrownBy(() -> FactsJson.read(swapped.getBytes(StandardCharsets.UTF_8)))
        .isInstanceOf(IOException.class)
        .hasMessageContaining("before the instant that it tells of");
  }
}
