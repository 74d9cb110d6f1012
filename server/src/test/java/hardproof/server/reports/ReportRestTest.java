package hardproof.server.reports;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer.Client;
import hardproof.server.WithServer;
import hardproof.server.people.Role;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class ReportRestTest extends WithServer {
  private static final String RULE = "\"rule\":\"FREQ=DAILY;BYHOUR=7;BYMINUTE=0;BYSECOND=0\"";

  private Client administrator() {
    return server.as(Role.ADMINISTRATOR);
  }

  @Test
  void everyKindThatIsTablesIsReadAsAPageAsCsvAndAsJson() {
    var kinds = client.get("/api/report-kinds").json();
    assertThat(kinds.size()).isEqualTo(hardproof.core.reports.ReportKind.values().length);
    for (var kind : kinds) {
      String code = kind.path("kind").asString();
      var page = client.get("/api/report/page?kind=" + code);
      if (!kind.path("tables").asBoolean()) {
        assertThat(page.status()).isEqualTo(400);
        continue;
      }
      assertThat(page.status()).as(page.body()).isEqualTo(200);
      assertThat(page.body()).contains(kind.path("words").asString(), "all times are UTC");
      var json = client.get("/api/report/json?kind=" + code).json();
      assertThat(json.path("kind").asString()).isEqualTo(code);
      json.path("tables")
          .propertyNames()
          .forEach(table -> assertThat(
                  client.get("/api/report/csv/" + table + "?kind=" + code).status())
              .as(table)
              .isEqualTo(200));
    }
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "kind=jobs&from=2100-01-01T00:00:00Z",
        "kind=jobs&asAt=2100-01-01T00:00:00Z",
        "kind=jobs&from=1969-01-01T00:00:00Z",
        "kind=lapsing&ahead=0d",
        "kind=lapsing&ahead=4000d",
        "kind=lapsing&ahead=soon",
        "kind=jobs&title=a%E2%80%AEb",
        "kind=gossip",
        "title=x",
        "kind=jobs&selector=%7B%22all%22:[%7B%22field%22:%22colour%22,%22in%22:[%22red%22]%7D]%7D"
      })
  void aPeriodOrScopeThatCantBeIsRefused(String asked) {
    assertThat(client.get("/api/report/json?" + asked).status()).isEqualTo(400);
  }

  @Test
  void whatIsNoDurationAndATitleThatIsTooLongAreNamed() {
    assertThat(client.get("/api/report/json?kind=lapsing&ahead=soon").body())
        .contains("'soon' is not a duration; write it as");
    assertThat(
            client.get("/api/report/page?kind=jobs&title=" + "x".repeat(5_000)).body())
        .contains("at most 200 characters");
  }

  @Test
  void aScopeOfNothingIsRefused() {
    var answer = client.get(
        "/api/report/json?kind=jobs&selector=%7B%22all%22:[%7B%22field%22:%22key%22,%22in%22:[%22nobody%22]%7D]%7D");
    assertThat(answer.status()).isEqualTo(422);
    assertThat(answer.body()).contains("Widen it");
  }

  @Test
  void aTableThatThereIsNotIsSaidToBeWithThoseThatThereAre() {
    var answer = client.get("/api/report/csv/gossip?kind=jobs");
    assertThat(answer.status()).isEqualTo(404);
    assertThat(answer.body()).contains("it has jobs");
  }

  @Test
  void aReportIsAddedChangedIssuedAndRemoved() {
    var added = administrator()
        .post(
            "/api/reports",
            "{\"title\":\"Each morning\",\"kind\":\"digest\"," + RULE
                + ",\"zone\":\"Europe/Oslo\",\"period\":\"7d\",\"active\":true,"
                + "\"deliveries\":[{\"how\":\"folder\",\"recipient\":\"witness\"}]}");
    assertThat(added.status()).as(added.body()).isEqualTo(201);
    long id = added.json().path("id").asLong();
    assertThat(added.json().path("next").isString()).isTrue();
    assertThat(added.json().path("report").path("formats").size()).isEqualTo(3);
    var changed = administrator()
        .put(
            "/api/reports/" + id,
            "{\"title\":\"Off\",\"kind\":\"head\"," + RULE + ",\"active\":false}");
    assertThat(changed.json().path("next").isMissingNode()
            || changed.json().path("next").isNull())
        .isTrue();
    assertThat(administrator().post("/api/reports/" + id + "/issue", "").status())
        .isEqualTo(202);
    assertThat(client.get("/api/issued-reports").json().path("making").isArray())
        .isTrue();
    assertThat(administrator().delete("/api/reports/" + id).status()).isEqualTo(204);
    assertThat(administrator().delete("/api/reports/" + id).status()).isEqualTo(404);
    assertThat(administrator().post("/api/reports/" + id + "/issue", "").status())
        .isEqualTo(404);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "{}",
        "{\"title\":\"x\",\"kind\":\"digest\",\"rule\":\"whenever\",\"active\":true}",
        "{\"title\":\"x\",\"kind\":\"digest\",\"rule\":\"FREQ=MINUTELY\",\"active\":true}",
        "{\"title\":\"x\",\"kind\":\"digest\",\"rule\":\"FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30\",\"active\":true}",
        "{\"title\":\"x\",\"kind\":\"digest\",\"rule\":\"FREQ=DAILY\",\"zone\":\"Mars\",\"active\":true}",
        "{\"title\":\"x\",\"kind\":\"digest\",\"rule\":\"FREQ=DAILY\",\"period\":\"0d\",\"active\":true}",
        "{\"title\":\"x\",\"kind\":\"digest\",\"rule\":\"FREQ=DAILY\",\"period\":\"long\",\"active\":true}",
        "{\"title\":\"a\\u202Eb\",\"kind\":\"digest\",\"rule\":\"FREQ=DAILY\",\"active\":true}",
        "{\"title\":\"x\",\"kind\":\"digest\",\"rule\":\"FREQ=DAILY\",\"active\":true,\"deliveries\":[{\"how\":\"mail\",\"recipient\":\"nobody\"}]}",
        "{\"title\":\"x\",\"kind\":\"digest\",\"rule\":\"FREQ=DAILY\",\"active\":true,\"deliveries\":[{\"how\":\"mail\",\"recipient\":\"a@b.example\\nBcc: c@d.example\"}]}",
        "{\"title\":\"x\",\"kind\":\"digest\",\"rule\":\"FREQ=DAILY\",\"active\":true,\"deliveries\":[{\"how\":\"folder\",\"recipient\":\"../../etc\"}]}",
        "{\"title\":\"x\",\"kind\":\"digest\",\"rule\":\"FREQ=DAILY\",\"active\":true,\"deliveries\":[{\"how\":\"webhook\",\"recipient\":\"https://not-allowed.example/\"}]}",
        "{\"title\":\"x\",\"kind\":\"digest\",\"rule\":\"FREQ=DAILY\",\"active\":true,\"deliveries\":[{\"recipient\":\"x\"}]}",
        "{\"title\":\"x\",\"kind\":\"digest\",\"rule\":\"FREQ=DAILY\",\"active\":true,\"deliveries\":[{\"how\":\"folder\",\"recipient\":\"w\"},{\"how\":\"folder\",\"recipient\":\"w\"}]}"
      })
  void whatCantBeIsRefusedAndNothingIsAdded(String draft) {
    int before = administrator().get("/api/reports").json().size();
    var answer = administrator().post("/api/reports", draft);
    assertThat(answer.status()).as(answer.body()).isEqualTo(400);
    assertThat(administrator().get("/api/reports").json().size()).isEqualTo(before);
  }

  @Test
  void onlyAnAdministratorSaysWhatLeavesTheHouse() {
    assertThat(client.get("/api/reports").status()).isEqualTo(200);
    assertThat(client.post("/api/reports", "{}").status()).isEqualTo(403);
    assertThat(client.put("/api/reports/1", "{}").status()).isEqualTo(403);
    assertThat(client.delete("/api/reports/1").status()).isEqualTo(403);
    assertThat(client.post("/api/reports/1/issue", "").status()).isEqualTo(403);
  }

  @ParameterizedTest
  @CsvSource({"/api/issued-reports/4711/files/x.csv", "/api/issued-reports/4711/files/..%2Fx"})
  void aFileThatThereIsNotIsSaidToBe(String address) {
    assertThat(client.get(address).status()).isIn(400, 404);
  }
}
