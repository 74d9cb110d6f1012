package hardproof.server.metrics;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.RunningServer.Client;
import hardproof.server.WithServer;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

class MetricsTest extends WithServer {
  /** The conventions of Prometheus for names, labels and counters, and its text format 0.0.4. */
  @Test
  void everyLineIsOfTheTextFormatAndEveryNameHasItsHelpAndType() {
    var answer = client.get("/api/metrics");
    assertThat(answer.response().headers().firstValue("Content-Type").orElseThrow())
        .startsWith("text/plain");
    List<String> lines = answer.body().lines().toList();
    Set<String> typed = new TreeSet<>();
    for (String line : lines) {
      if (line.startsWith("# TYPE ")) {
        typed.add(line.split(" ")[2]);
      } else if (!line.startsWith("#")) {
        assertThat(line)
            .matches("[a-z_:][a-z0-9_:]*(\\{([a-z_]+=\"([^\"\\\\]|\\\\.)*\",?)*})? -?[0-9.E+-]+");
        assertThat(typed).contains(line.replaceAll("[{ ].*", ""));
      }
    }
    assertThat(typed)
        .allMatch(name -> name.startsWith("hardproof_"))
        .contains(
            "hardproof_workloads",
            "hardproof_outcomes",
            "hardproof_drills_total",
            "hardproof_feed_age_seconds",
            "hardproof_ledger_entries",
            "hardproof_ledger_whole");
  }

  @Test
  void figuresAreThoseOfTheEvaluation() {
    assertThat(client.get("/api/metrics").body())
        .contains(
            "hardproof_workloads{tier=\"3\",verdict=\"unproven\"} 1.0",
            "hardproof_workloads{tier=\"3\",verdict=\"proven\"} 0.0",
            "hardproof_outcomes{criterion=\"cover-owner\",state=\"met\"} 2.0",
            "hardproof_drills_total{result=\"failed\"} 0.0",
            "hardproof_ledger_whole 1.0");
  }

  /** A program that scrapes can't sign in: it has an address of its own, which can be ended. */
  @Test
  void theyAreReadByAnAddressUntilItIsEnded() {
    String path = client.post("/api/own-calendar", "").json().path("path").asString();
    String metrics = path.replace("/calendars/", "/metrics/").replace(".ics", "");
    Client stranger = server.client();
    assertThat(stranger.get("/api/metrics").status()).isEqualTo(401);
    assertThat(stranger.get(metrics).body()).contains("hardproof_workloads");
    assertThat(stranger.get("/metrics/guess").status()).isEqualTo(404);
    assertThat(client.delete("/api/own-calendar").status()).isEqualTo(204);
    assertThat(stranger.get(metrics).status()).isEqualTo(404);
  }
}
