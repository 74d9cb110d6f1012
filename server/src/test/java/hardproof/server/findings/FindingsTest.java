package hardproof.server.findings;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer.Answer;
import jakarta.mail.MessagingException;
import jakarta.mail.Multipart;
import jakarta.mail.Part;
import jakarta.mail.Session;
import jakarta.mail.internet.MimeMessage;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Properties;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Find, act, and see the finding close: through the REST interface of the real application. */
class FindingsTest extends WithFindings {
  @Test
  void theUnprotectedComesFirstAndClosesWhenAPointIsMadeUnderAPolicy() throws IOException {
    pass(Duration.ofSeconds(1));
    JsonNode first = findings("").path("rows").path(0);
    assertThat(first.path("key").asString()).isEqualTo("cover-protected:bare");
    assertThat(first.path("unprotected").asBoolean()).isTrue();
    assertThat(first.path("opened").asString()).isEqualTo("2026-11-24T10:00:01Z");

    JsonNode trial = operator
        .post("/api/policy-trials", "{\"policy\":\"daily\",\"resources\":[\"bare\"]}")
        .json();
    assertThat(trial.path("firstPoints").path(0).asString())
        .startsWith("BARE: the first point by 25 Nov");
    assertThat(findings("").path("rows").path(0).path("key").asString())
        .as("trying changes nothing")
        .isEqualTo("cover-protected:bare");

    Answer added = operator.post(
        "/api/policy-additions",
        "{\"policy\":\"daily\",\"resources\":[\"bare\"],\"reason\":\"it was forgotten\"}");
    assertThat(added.status()).isEqualTo(204);
    assertThat(findings("").path("rows").path(0).path("sentence").asString())
        .contains("BARE is in the scope of Daily but no recovery point has been made of it");

    pass(Duration.ofHours(2));
    server.estate.take(
        "points.csv",
        "key,resource,form,data_time,available,outcome\n"
            + "bare-1,bare,full,2026-11-24T10:30:00Z,2026-11-24T11:00:00Z,complete\n");
    pass(Duration.ofSeconds(30));
    assertThat(keys(findings("?limit=500"))).doesNotContain("cover-protected:bare");
    assertThat(auditor
            .get("/api/finding-events?finding=cover-protected:bare")
            .json()
            .valueStream()
            .map(e -> e.path("event").asString())
            .toList())
        .containsExactly("opened", "closed");
    assertThat(keys(findings("?asAt=2026-11-24T10:00:02Z")).get(0))
        .as("then it was open")
        .isEqualTo("cover-protected:bare");
  }

  @Test
  void aFindingThatComesBackOpensAgainAndIsNewToWhoLooked() throws IOException {
    pass(Duration.ofSeconds(1));
    findings("");
    server.estate.clock.forward(Duration.ofSeconds(2));
    assertThat(operator
            .post(
                "/api/findings/looks",
                "{\"findings\":[\"cover-owner:bare\",\"cover-protected:bare\"],\"note\":\"asked Nils\"}")
            .status())
        .isEqualTo(204);
    assertThat(keys(findings("?state=looked"))).contains("cover-protected:bare");
    assertThat(keys(findings("?state=new&limit=500"))).doesNotContain("cover-protected:bare");
    operator.post(
        "/api/policy-additions",
        "{\"policy\":\"daily\",\"resources\":[\"bare\"],\"reason\":\"now\"}");
    server.estate.take(
        "points.csv",
        "key,resource,form,data_time,available,outcome\n"
            + "bare-1,bare,full,2026-11-24T08:30:00Z,2026-11-24T09:00:00Z,complete\n");
    pass(Duration.ofMinutes(1));
    assertThat(operator.delete("/api/policy-additions/daily/bare").status()).isEqualTo(204);
    pass(Duration.ofMinutes(1));
    assertThat(auditor
            .get("/api/finding-events?finding=cover-protected:bare")
            .json()
            .valueStream()
            .map(e -> e.path("event").asString())
            .toList())
        .containsExactly("opened", "closed", "opened");
    assertThat(keys(findings("?state=new&limit=500"))).contains("cover-protected:bare");
  }

  @Test
  void groupsPagesAndSearch() {
    JsonNode all = findings("?limit=500");
    int total = all.path("total").asInt();
    assertThat(total).isGreaterThan(10);
    JsonNode grouped = findings("?group=resource&limit=1");
    assertThat(grouped
            .path("groups")
            .valueStream()
            .mapToInt(g -> g.path("count").asInt())
            .sum())
        .isEqualTo(total);
    List<String> paged = new java.util.ArrayList<>();
    String after = "";
    do {
      JsonNode page = findings("?limit=3" + (after.isEmpty() ? "" : "&after=" + after));
      if (page.path("rows").isEmpty()) {
        break;
      }
      paged.addAll(keys(page));
      after = paged.get(paged.size() - 1);
    } while (paged.size() < total);
    assertThat(paged).isEqualTo(keys(all));
    assertThat(keys(findings("?search=bare&limit=500"))).allMatch(k -> k.endsWith(":bare"));
    assertThat(findings("?group=resource&in=bare").path("total").asInt())
        .isEqualTo(keys(findings("?search=bare&limit=500")).size());
    assertThat(auditor.get("/api/findings?group=colour").detail()).contains("not by 'colour'");
    assertThat(auditor.get("/api/findings?state=odd").detail())
        .contains("open, new, looked or excepted, not 'odd'");
    Answer lost = auditor.get("/api/findings?after=cover-protected:gone");
    assertThat(lost.status()).isEqualTo(409);
    assertThat(lost.detail()).contains("Read them again from there");
  }

  @Test
  void oneFindingIsAnsweredForWhereverItStands() {
    pass(Duration.ofSeconds(1));
    JsonNode bare = auditor.get("/api/finding?key=cover-protected:bare").json();
    assertThat(bare.path("name").asString()).isEqualTo("BARE");
    assertThat(bare.path("opened").asString()).isEqualTo("2026-11-24T10:00:01Z");
    assertThat(auditor
            .get("/api/finding?key=cover-protected:bare&asAt=2026-11-23T00:00:00Z")
            .detail())
        .contains("There is no such finding as at this instant");
    Answer gone = auditor.get("/api/finding?key=cover-protected:gone");
    assertThat(gone.status()).isEqualTo(404);
    assertThat(gone.detail()).contains("There is no such finding any more");
  }

  @Test
  void findingsGoToWhoeverCanActAsTableAndAsMail() throws IOException, MessagingException {
    Answer table = auditor.post("/api/findings/table", "{\"findings\":[\"cover-protected:bare\"]}");
    assertThat(table.body())
        .startsWith("workload,tier,owner,resource,criterion")
        .contains("Wages,3,Somebody,BARE,cover-protected,Covered,");
    Answer mail = auditor.post(
        "/api/findings/hand-overs",
        "{\"findings\":[\"cover-protected:bare\"],\"to\":\"nils@tarnwick.example\",\"note\":\"Bitte prüfen\"}");
    assertThat(mail.status()).isEqualTo(201);
    Path file =
        installation().folder().mailDrop().resolve(mail.json().path("file").asString());
    try (InputStream in = Files.newInputStream(file)) {
      MimeMessage message = new MimeMessage(Session.getInstance(new Properties()), in);
      assertThat(message.getAllRecipients())
          .extracting(Object::toString)
          .containsExactly("nils@tarnwick.example");
      assertThat(message.getSubject()).isEqualTo("1 finding for you");
      Multipart parts = (Multipart) message.getContent();
      assertThat(text(parts.getBodyPart(0)))
          .contains("Bitte prüfen")
          .contains("BARE, Covered: BARE was first seen");
      assertThat(parts.getBodyPart(1).getFileName()).isEqualTo("findings.csv");
      assertThat(text(parts.getBodyPart(1))).isEqualTo(table.body());
    }
    assertThat(auditor
            .post(
                "/api/findings/hand-overs",
                "{\"findings\":[\"cover-protected:bare\"],\"to\":\"nils\\r\\nBcc: all@x\",\"note\":\"\"}")
            .detail())
        .contains("is not one mail address; write it as name@example.org");
    assertThat(
            auditor.post("/api/findings/table", "{\"findings\":[\"gone:x\"]}").detail())
        .contains("None of these findings is there any more");
  }

  /** The text of a part, however deep its first text lies. */
  private static String text(Part part) throws IOException, MessagingException {
    Object content = part.getContent();
    if (content instanceof Multipart parts) {
      return text(parts.getBodyPart(0));
    }
    return content instanceof InputStream in
        ? new String(in.readAllBytes(), StandardCharsets.UTF_8)
        : content.toString();
  }

  @Test
  void aDifferenceNamesWhatMovedAndInsightsSumItUp() throws IOException {
    pass(Duration.ofSeconds(1));
    Instant before = server.estate.clock.instant();
    server.estate.clock.forward(Duration.ofHours(30));
    server.estate.take(
        "jobs.csv",
        "key,type,resource,started,ended,outcome\nlate,copy,share,2026-11-25T15:00:00Z,2026-11-25T15:30:00Z,failed\n");
    pass(Duration.ofSeconds(1));
    JsonNode difference = auditor.get("/api/differences?from=" + before).json();
    assertThat(difference.path("turned").asInt())
        .isEqualTo(difference.path("turns").size());
    JsonNode turn = difference
        .path("turns")
        .valueStream()
        .filter(t -> t.path("criterion").asString().equals("fresh-exposure-now"))
        .findFirst()
        .orElseThrow();
    assertThat(turn.path("from").asString()).isEqualTo("met");
    assertThat(turn.path("to").asString()).isEqualTo("not-met");
    JsonNode insight = auditor.get("/api/insights?from=" + before).json();
    assertThat(insight.path("opened").asInt()).isGreaterThan(0);
    assertThat(insight.path("sentences").path(0).asString())
        .startsWith("Tier 3: the promised limit");
    assertThat(auditor.get("/api/insights?from=2026-11-26T00:00:00Z").status()).isEqualTo(400);
    assertThat(auditor
            .get("/api/differences?from=2026-11-25T00:00:00Z&to=2026-11-24T00:00:00Z")
            .detail())
        .contains("The period ends before it begins");
  }

  /** Also findings of what has no tier, as of a resource that belongs to no workload. */
  @Test
  void theLogOutlivesTheApplication() throws IOException {
    server.estate.take(
        "resources.csv", "key,name,kind,first_seen\nloose,LOOSE,volume,2026-10-01T00:00:00Z\n");
    pass(Duration.ofSeconds(1));
    FindingLog again = new FindingLog(installation().database());
    long events = events();
    assertThat(installation()
            .database()
            .reads()
            .sql("SELECT count(*) FROM finding_event WHERE tier IS NULL")
            .query(Long.class)
            .single())
        .isPositive();
    var now = installation().evaluations().now();
    again.record(
        now.evaluation(),
        hardproof.core.findings.Findings.of(
            now.evaluation(),
            now.estate(),
            java.util.Map.of(),
            installation().part(NeverRenewed.class).in(now)));
    assertThat(events()).isEqualTo(events);
  }

  private long events() {
    return installation()
        .database()
        .reads()
        .sql("SELECT count(*) FROM finding_event")
        .query(Long.class)
        .single();
  }
}
