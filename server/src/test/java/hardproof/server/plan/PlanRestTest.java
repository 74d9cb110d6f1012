package hardproof.server.plan;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.WithServer;
import java.time.Duration;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** The plan over REST: worked out behind the page, told whole, saved as a table and as a calendar. */
class PlanRestTest extends WithServer {
  private JsonNode plan() {
    return Awaitility.await()
        .atMost(Duration.ofSeconds(20))
        .until(() -> client.get("/api/plan").json(), p -> p.path("complete").asBoolean());
  }

  @Test
  void causesStandInOrderWithWhatMendingThemComesTo() {
    JsonNode plan = plan();
    assertThat(plan.path("steps").size()).isEqualTo(plan.path("causes").asInt());
    int behind = plan.path("steps")
        .valueStream()
        .mapToInt(s -> s.path("findings").asInt())
        .sum();
    assertThat(behind).isEqualTo(plan.path("findings").asInt());
    JsonNode renew = plan.path("steps")
        .valueStream()
        .filter(s -> s.path("remedy").asString().equals("programme"))
        .findFirst()
        .orElseThrow();
    assertThat(renew.path("todo").asString())
        .isEqualTo("open a programme that drills DB and SHARE");
    assertThat(renew.path("effect").asString()).startsWith("1 workload becomes proven");
    assertThat(renew.path("resources").size()).isEqualTo(2);
    assertThat(
            renew.path("behind").valueStream().anyMatch(b -> b.path("follows").asBoolean()))
        .isTrue();
    // The sentence on top of Findings counts the same.
    JsonNode findings = client.get("/api/findings").json();
    assertThat(findings.path("causes").asInt()).isEqualTo(plan.path("causes").asInt());
    assertThat(findings.path("open").asInt()).isEqualTo(plan.path("findings").asInt());
  }

  @Test
  void itIsHandedOverAsATableAndAsACalendar() {
    plan();
    String table = client.get("/api/plan/table").body();
    assertThat(table).startsWith("place,todo,why,effect,night,tier,findings,resources\r\n1,");
    assertThat(table).contains("open a programme that drills DB and SHARE");
    String calendar = client.get("/api/plan/calendar").body();
    assertThat(calendar).startsWith("BEGIN:VCALENDAR\r\n").endsWith("END:VCALENDAR\r\n");
    assertThat(calendar)
        .contains("BEGIN:VEVENT", "SUMMARY:open a programme that drills DB and SHARE");
  }

  @Test
  void aPlanThatIsCompleteStaysWhenItIsStopped() {
    JsonNode before = plan();
    assertThat(client.delete("/api/plan").status()).isEqualTo(204);
    assertThat(client.get("/api/plan").json().path("complete").asBoolean()).isTrue();
    assertThat(plan().path("causes").asInt()).isEqualTo(before.path("causes").asInt());
  }

  @Test
  void asAtAnInstantItIsThatOfThen() {
    JsonNode then = Awaitility.await()
        .atMost(Duration.ofSeconds(20))
        .until(
            () -> client.get("/api/plan?asAt=2026-11-24T10:00:00Z").json(),
            p -> p.path("complete").asBoolean());
    assertThat(then.path("asAt").asString()).isEqualTo("2026-11-24T10:00:00Z");
  }
}
