package hardproof.server.findings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.server.RunningServer;
import hardproof.server.RunningServer.Answer;
import hardproof.server.feeds.Bundle;
import hardproof.server.feeds.FeedNames;
import hardproof.server.feeds.Importer.WithRejections;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** One proposes an exception, another decides. */
class ExceptionsTest extends WithFindings {
  private String edited(String exception) {
    return auditor
        .get("/api/exceptions")
        .json()
        .valueStream()
        .filter(e -> e.path("key").asString().equals(exception))
        .map(e -> Instant.parse(e.path("edited").asString()).toEpochMilli())
        .map(ms -> "\"" + ms + "\"")
        .findFirst()
        .orElseThrow();
  }

  @Test
  void whoeverDecidesAboutWhatHasChangedMeanwhileIsTold() {
    String key = auditor
        .post(
            "/api/exceptions",
            "{\"selector\":\"{\\\"all\\\":[{\\\"field\\\":\\\"key\\\",\\\"in\\\":[\\\"bare\\\"]}]}\","
                + "\"reason\":\"for now\",\"until\":\"2026-12-24T00:00:00Z\"}")
        .json()
        .path("key")
        .asString();
    String seen = edited(key);
    pass(Duration.ofMinutes(1));
    String approve = "{\"approve\":true,\"resources\":1}";
    assertThat(approver.post("/api/exceptions/" + key + "/decision", approve).status())
        .as("without saying what was seen")
        .isEqualTo(400);
    assertThat(approver
            .post("/api/exceptions/" + key + "/decision", approve, "yesterday")
            .detail())
        .contains("If-Match is not a state that was read here");
    assertThat(
            approver.post("/api/exceptions/" + key + "/decision", approve, seen).status())
        .isEqualTo(204);
    pass(Duration.ofMinutes(1));
    Answer stale = approver.post("/api/exceptions/" + key + "/end", "", seen);
    assertThat(stale.status()).isEqualTo(409);
    assertThat(operator.post("/api/exceptions/" + key + "/end", "", edited(key)).detail())
        .isEqualTo("An exception is ended by an approver, who may decide it too.");
    assertThat(approver.post("/api/exceptions/" + key + "/end", "", edited(key)).status())
        .isEqualTo(204);
  }

  @Test
  void oneProposesAndAnotherDecides() {
    pass(Duration.ofSeconds(1));
    String proposal =
        "{\"selector\":\"{\\\"all\\\":[{\\\"field\\\":\\\"key\\\",\\\"in\\\":[\\\"bare\\\"]}]}\","
            + "\"reason\":\"made anew from scripts\",\"until\":\"2026-12-24T00:00:00Z\"}";
    JsonNode proposed = auditor.post("/api/exceptions", proposal).json();
    String key = proposed.path("key").asString();
    assertThat(proposed.path("resources").asInt()).isEqualTo(1);
    assertThat(keys(findings(""))).as("a proposal hides nothing").contains("cover-protected:bare");

    String approve = "{\"approve\":true,\"resources\":1}";
    assertThat(operator
            .post("/api/exceptions/" + key + "/decision", approve, edited(key))
            .status())
        .isEqualTo(403);
    assertThat(approver
            .post("/api/exceptions/" + key + "/decision", approve, edited(key))
            .status())
        .isEqualTo(204);
    assertThat(keys(findings("?limit=500"))).doesNotContain("cover-protected:bare");
    assertThat(approver
            .post("/api/exceptions/" + key + "/decision", approve, edited(key))
            .detail())
        .contains("is decided already: it is in force");
    pass(Duration.ofHours(1));
    assertThat(approver.post("/api/exceptions/" + key + "/end", "", edited(key)).status())
        .isEqualTo(204);
    assertThat(keys(findings("?limit=500"))).contains("cover-protected:bare");
    assertThat(keys(findings("?asAt=2026-11-24T10:30:00Z&limit=500")))
        .as("while it held")
        .doesNotContain("cover-protected:bare");
  }

  @Test
  void nobodyDecidesTheirOwnProposal() {
    String proposal =
        "{\"selector\":\"{\\\"all\\\":[{\\\"field\\\":\\\"key\\\",\\\"in\\\":[\\\"bare\\\"]}]}\","
            + "\"criterion\":\"cover-protected\",\"reason\":\"because\",\"until\":\"2026-12-24T00:00:00Z\"}";
    String key = approver.post("/api/exceptions", proposal).json().path("key").asString();
    assertThat(approver
            .post("/api/exceptions/" + key + "/decision", "{\"approve\":true}", edited(key))
            .detail())
        .isEqualTo("You proposed this yourself; another person must decide.");
  }

  @Test
  void proposalsThatCantBeRightAreRefused() {
    String form = "{\"selector\":\"%s\",\"criterion\":\"%s\",\"reason\":\"r\",\"until\":\"%s\"}";
    String bare = "{\\\"all\\\":[{\\\"field\\\":\\\"key\\\",\\\"in\\\":[\\\"bare\\\"]}]}";
    String later = "2026-12-24T00:00:00Z";
    assertThat(auditor
            .post("/api/exceptions", form.formatted("{}", "cover-seen", later))
            .detail())
        .contains("An exception for everything is refused");
    assertThat(
            auditor.post("/api/exceptions", form.formatted(bare, "nice", later)).detail())
        .contains("'nice' is no criterion");
    assertThat(auditor
            .post("/api/exceptions", form.formatted(bare, "cover-seen", "2026-11-24T10:00:00Z"))
            .detail())
        .contains("has been already");
    assertThat(auditor
            .post("/api/exceptions", form.formatted(bare, "cover-seen", "2028-01-01T00:00:00Z"))
            .detail())
        .contains("ends within a year");
    assertThat(auditor
            .post(
                "/api/exceptions",
                form.formatted(bare.replace("bare", "nobody"), "cover-seen", later))
            .detail())
        .isEqualTo("No resource matches: key is nobody.");
    assertThat(auditor
            .post(
                "/api/exceptions",
                form.formatted(
                    "{\\\"all\\\":[{\\\"field\\\":\\\"colour\\\",\\\"in\\\":[\\\"red\\\"]}]}",
                    "",
                    later))
            .detail())
        .contains("'colour' can't be selected by");
  }

  private static final String BARE =
      "{\"\"all\"\":[{\"\"field\"\":\"\"key\"\",\"\"in\"\":[\"\"bare\"\"]}]}";

  private void bring(String by, String row) throws IOException {
    Path file = installation().folder().root().resolve("exceptions.csv");
    Files.writeString(file, "key,scope,criterion,reason,proposed_by,approved_by\n" + row + "\n");
    installation()
        .importer()
        .take(
            Bundle.of(List.of(file), file.getParent()),
            "test",
            installation().clock().instant(),
            by,
            WithRejections.TAKE_NONE);
  }

  private JsonNode exception(String key) {
    return auditor
        .get("/api/exceptions")
        .json()
        .valueStream()
        .filter(e -> e.path("key").asString().equals(key))
        .findFirst()
        .orElseThrow();
  }

  private Answer approve(RunningServer.Client who, String key, String seen) {
    return who.post(
        "/api/exceptions/" + URLEncoder.encode(key, StandardCharsets.UTF_8).replace("+", "%20")
            + "/decision",
        "{\"approve\":true,\"resources\":1}",
        seen);
  }

  /** One row of a feed once left whole resources out of judgement, approved by a name that it made up. */
  @Test
  void whatAFeedSaysOfAnApprovalIsAProposal() throws IOException {
    bring("operator", "x,\"" + BARE + "\",,because,ana,bo");
    assertThat(keys(findings("?limit=500"))).contains("cover-protected:bare");
    assertThat(exception("x").path("state").asString()).isEqualTo("proposed");
    assertThat(exception("x").path("approvedBy").isMissingNode()
            || exception("x").path("approvedBy").isNull())
        .isTrue();
    assertThat(exception("x").path("claimedApprover").asString()).isEqualTo("bo");
    assertThat(approver.post("/api/exceptions/x/end", "", edited("x")).detail())
        .contains("came by a feed and is a proposal");

    pass(Duration.ofMinutes(1));
    assertThat(approve(approver, "x", edited("x")).status()).isEqualTo(204);
    assertThat(keys(findings("?limit=500"))).doesNotContain("cover-protected:bare");
    JsonNode decided = exception("x @ test");
    assertThat(decided.path("proposedBy").asString()).isEqualTo("ana");
    assertThat(decided.path("approvedBy").asString()).isEqualTo("approver");
    assertThat(auditor.get("/api/exceptions").json()).hasSize(1);
    assertThat(approve(approver, "x", edited("x @ test")).detail()).contains("decided already");
  }

  /** What was approved can't be made wider by the next delivery. */
  @Test
  void aLaterDeliveryChangesNothingThatWasDecided() throws IOException {
    bring("operator", "x,\"" + BARE + "\",,because,ana,");
    assertThat(approve(approver, "x", edited("x")).status()).isEqualTo(204);
    pass(Duration.ofMinutes(1));
    String all = BARE.replace("bare", "*");
    bring("operator", "x,\"" + all + "\",,because,ana,bo");
    assertThat(keys(findings("?limit=500")))
        .as("the others are judged as before, and what was decided holds")
        .isNotEmpty()
        .doesNotContain("cover-protected:bare");
    JsonNode wider = exception("x");
    assertThat(wider.path("state").asString()).isEqualTo("proposed");
    assertThat(wider.path("wide").asBoolean()).isTrue();
    assertThat(wider.path("covers").asString()).startsWith("3 of 3 resources (100 %)");
    Answer unseen = approve(approver, "x", edited("x"));
    assertThat(unseen.status()).isEqualTo(409);
    assertThat(unseen.detail()).startsWith("This covers 3 of 3 resources (100 %)");
  }

  @Test
  void whoBroughtItInDoesNotDecideIt() throws IOException {
    bring("approver", "x,\"" + BARE + "\",,because,ana,");
    assertThat(approve(approver, "x", edited("x")).detail())
        .isEqualTo("You brought this in yourself; another person must decide.");
    bring("operator", "y,\"" + BARE + "\",,because,Approver,");
    assertThat(approve(approver, "y", edited("y")).detail())
        .isEqualTo("You proposed this yourself; another person must decide.");
  }

  @Test
  void aProposalIsTakenBackByWhoMadeItAndRefusedByAnApprover() {
    String proposal =
        "{\"selector\":\"{\\\"all\\\":[{\\\"field\\\":\\\"key\\\",\\\"in\\\":[\\\"bare\\\"]}]}\","
            + "\"reason\":\"because\",\"until\":\"2026-12-24T00:00:00Z\"}";
    String key = auditor.post("/api/exceptions", proposal).json().path("key").asString();
    assertThat(operator.post("/api/exceptions/" + key + "/end", "", edited(key)).detail())
        .contains("taken back by who made it");
    assertThat(auditor.post("/api/exceptions/" + key + "/end", "", edited(key)).status())
        .isEqualTo(204);
    assertThat(exception(key).path("state").asString()).isEqualTo("refused");
  }

  /** A feed that bore the name of what is written here could approve for itself. */
  @Test
  void noFeedIsCalledWhatPeopleWriteHereIs() {
    for (String name : List.of(
        "written here",
        "Written Here",
        "written-here",
        "writtenhere",
        "wr1tten h3re",
        " written here",
        "wr\u0456tten here",
        "wri\u0301tten here",
        "facts written here too")) {
      assertThat(FeedNames.refusal(name)).as(name).isNotNull();
    }
    for (String name : List.of("inventory", "nightly.export_2", "Lager Süd", "журнал", "0815")) {
      assertThat(FeedNames.refusal(name)).as(name).isNull();
    }
    assertThatThrownBy(() -> installation()
            .importer()
            .take(
                new Bundle(List.of(), List.of(), null),
                "Written here",
                installation().clock().instant(),
                "x",
                WithRejections.TAKE_NONE))
        .isInstanceOf(Refused.class)
        .hasMessageContaining("give the feed another name");
  }
}
