package hardproof.server.calendar;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer;
import hardproof.server.RunningServer.Answer;
import hardproof.server.RunningServer.Client;
import hardproof.server.people.Role;
import java.io.IOException;
import java.io.StringReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import net.fortuna.ical4j.data.CalendarBuilder;
import net.fortuna.ical4j.data.ParserException;
import net.fortuna.ical4j.model.Calendar;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A calendar address: made, read without signing in, ended; and the file as RFC 5545 wants it. */
class CalendarTest {
  private static final Instant MADE = Instant.parse("2026-11-24T10:00:00Z");

  @TempDir
  static Path folder;

  private static RunningServer server;
  private static Client client;

  @BeforeAll
  static void start() throws IOException {
    server = new RunningServer(folder).with(Role.OPERATOR, Role.AUDITOR);
    client = server.as(Role.OPERATOR);
  }

  @AfterAll
  static void stop() {
    server.close();
  }

  private static Calendar read(String text) {
    try {
      return new CalendarBuilder().build(new StringReader(text));
    } catch (IOException | ParserException e) {
      throw new AssertionError(text, e);
    }
  }

  @Test
  void anAddressIsReadWithoutSigningInUntilItIsEnded() {
    Client auditor = server.as(Role.AUDITOR);
    assertThat(auditor.get("/api/own-calendar").json().path("madeAt").isMissingNode())
        .isTrue();
    String first = auditor.post("/api/own-calendar", "{}").json().path("path").asString();
    client.post(
        "/api/programmes",
        "{\"name\": \"Weekly\", \"when\": {\"rule\": \"FREQ=WEEKLY;BYDAY=SA;BYHOUR=2;BYMINUTE=0;BYSECOND=0\", \"zone\": \"Europe/Oslo\"}}");
    client.post("/api/programmes", "{\"name\": \"Needed\"}");
    Answer answer = server.client().get(first);
    assertThat(answer.status()).isEqualTo(200);
    assertThat(answer.response().headers().firstValue("content-type").orElse(""))
        .startsWith("text/calendar");
    // The rule stands as it was written, from the first time it comes, in its own zone.
    assertThat(answer.body())
        .contains("RRULE:FREQ=WEEKLY;BYDAY=SA;BYHOUR=2;BYMINUTE=0;BYSECOND=0")
        .contains("DTSTART;TZID=Europe/Oslo:20261128T020000")
        .contains("BEGIN:VTIMEZONE", "SUMMARY:Needed: 2 drills");
    assertThat(read(answer.body()).getComponents("VEVENT")).hasSizeGreaterThanOrEqualTo(2);
    assertThat(auditor.get("/api/own-calendar").json().path("path").isMissingNode())
        .isTrue();

    String second = auditor.post("/api/own-calendar", "{}").json().path("path").asString();
    assertThat(server.client().get(first).status()).as("the one before").isEqualTo(404);
    assertThat(server.client().get(second).status()).isEqualTo(200);
    assertThat(auditor.delete("/api/own-calendar").status()).isEqualTo(204);
    assertThat(server.client().get(second).detail()).isEqualTo("There is no such calendar.");
    assertThat(auditor.delete("/api/own-calendar").status()).isEqualTo(404);
  }

  @Test
  void whoHasLeftHasNoCalendarAndStrangersMakeNone() {
    assertThat(server.client().post("/api/own-calendar", "{}").status()).isEqualTo(403);
    assertThat(server.client().get("/calendars/x.ics").status()).isEqualTo(404);
    CalendarTokens tokens = server.estate.installation.part(CalendarTokens.class);
    String token = tokens.make("operator", MADE);
    assertThat(tokens.whose(token)).isPresent();
    assertThat(tokens.whose(token + "x")).isEmpty();
    assertThat(tokens.make("nobody", MADE)).isNotEqualTo(token);
    assertThat(tokens.whose(tokens.make("nobody", MADE))).isEmpty();
  }

  /** RFC 5545 section 3.1: no line is longer than 75 octets, whatever script it is in; text is escaped. */
  @Test
  void linesAreFoldedByOctets() {
    CalendarFile file = new CalendarFile("Ä, ö; ü", MADE);
    String polish = "Zażółć gęślą jaźń; źrebię, ".repeat(12);
    file.event("a b/ć", polish, "one\ntwo", MADE, Duration.ofHours(2));
    file.todo("t", "😀".repeat(60), "x");
    String text = file.text();
    for (String line : text.split("\r\n")) {
      assertThat(line.getBytes(StandardCharsets.UTF_8).length).isLessThanOrEqualTo(75);
    }
    Calendar read = read(text);
    assertThat(
            read.getComponents("VEVENT").get(0).getRequiredProperty("SUMMARY").getValue())
        .isEqualTo(polish.strip());
    assertThat(read.getComponents("VTODO").get(0).getRequiredProperty("SUMMARY").getValue())
        .isEqualTo("😀".repeat(60));
    assertThat(text)
        .contains("DESCRIPTION:one\\ntwo", "DTSTART:20261124T100000Z", "UID:a-b-@hard-proof");
    assertThat(file.text()).isEqualTo(text);
  }

  @Test
  void aRuleInUtcNeedsNoZone() {
    CalendarFile file = new CalendarFile("x", MADE);
    file.recurring("p", "P", "t", MADE, ZoneOffset.UTC, "FREQ=DAILY");
    file.recurring("q", "Q", "t", MADE, ZoneId.of("UTC"), "FREQ=DAILY");
    file.recurring("r", "R", "t", MADE, ZoneId.of("Europe/Oslo"), "FREQ=DAILY");
    file.recurring("s", "S", "t", MADE, ZoneId.of("Europe/Oslo"), "FREQ=DAILY");
    assertThat(file.text().split("BEGIN:VTIMEZONE", -1)).hasSize(2);
    assertThat(read(file.text()).getComponents("VEVENT")).hasSize(4);
  }
}
