package hardproof.server.findings;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer.Answer;
import java.time.Duration;
import java.time.Instant;
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
    String approve = "{\"approve\":true}";
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
    Answer stale = operator.post("/api/exceptions/" + key + "/end", "", seen);
    assertThat(stale.status()).isEqualTo(409);
    assertThat(operator.post("/api/exceptions/" + key + "/end", "", edited(key)).status())
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

    String approve = "{\"approve\":true}";
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
    assertThat(operator.post("/api/exceptions/" + key + "/end", "", edited(key)).status())
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
}
