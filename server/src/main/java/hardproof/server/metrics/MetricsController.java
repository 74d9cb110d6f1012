package hardproof.server.metrics;

import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.drills.DrillFact;
import hardproof.core.estate.Feed;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import hardproof.server.alerts.Alert;
import hardproof.server.alerts.AlertStore;
import hardproof.server.calendar.CalendarTokens;
import hardproof.server.ledger.Ledger;
import hardproof.server.ledger.LedgerDesk;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import hardproof.server.web.NotFound;
import io.micrometer.core.instrument.FunctionCounter;
import io.micrometer.core.instrument.Gauge;
import io.micrometer.core.instrument.MeterRegistry;
import io.micrometer.prometheusmetrics.PrometheusConfig;
import io.micrometer.prometheusmetrics.PrometheusMeterRegistry;
import io.swagger.v3.oas.annotations.Operation;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.TreeMap;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** What stands now, as figures. Worked out anew each time: nothing is kept between two questions. */
@RestController
class MetricsController {
  private static final String TYPE = "text/plain;version=0.0.4;charset=utf-8";

  private final Evaluations evaluations;
  private final AlertStore alerts;
  private final Ledger ledger;
  private final LedgerDesk ledgerDesk;
  private final CalendarTokens tokens;

  MetricsController(
      Evaluations evaluations,
      AlertStore alerts,
      Ledger ledger,
      LedgerDesk ledgerDesk,
      CalendarTokens tokens) {
    this.evaluations = evaluations;
    this.alerts = alerts;
    this.ledger = ledger;
    this.ledgerDesk = ledgerDesk;
    this.tokens = tokens;
  }

  @Operation(summary = "Figures in the text format of Prometheus")
  @GetMapping(value = "/api/metrics", produces = TYPE)
  String own() {
    return text();
  }

  /** Read by programs that can't sign in: the token of one's calendar address is the proof. */
  @Operation(summary = "Figures in the text format of Prometheus, by an address of one's own")
  @GetMapping(value = "/metrics/{token}", produces = TYPE)
  String byToken(@PathVariable String token) {
    tokens.whose(token).orElseThrow(() -> new NotFound("There is no such address."));
    return text();
  }

  private String text() {
    PrometheusMeterRegistry registry = new PrometheusMeterRegistry(PrometheusConfig.DEFAULT);
    try {
      Evaluated now = evaluations.now();
      workloads(now, registry);
      outcomes(now, registry);
      drills(now, registry);
      feeds(now, registry);
      alerts(registry);
      gauge(registry, "hardproof.ledger.entries", "Entries of the ledger", ledger.size());
      gauge(
          registry,
          "hardproof.ledger.whole",
          "1 where nothing speaks against the ledger, 0 where something does",
          ledgerDesk.warnings().isEmpty() ? 1 : 0);
      return registry.scrape();
    } finally {
      registry.close();
    }
  }

  private static void workloads(Evaluated now, MeterRegistry registry) {
    Map<String, Map<Verdict, Integer>> counts = new TreeMap<>();
    for (WorkloadResult w : now.evaluation().workloads()) {
      String tier =
          w.workload().tier() == null ? "unknown" : w.workload().tier().toString();
      counts.computeIfAbsent(tier, t -> new TreeMap<>()).merge(w.verdict(), 1, Integer::sum);
    }
    counts.forEach((tier, verdicts) -> {
      for (Verdict verdict : Verdict.values()) {
        gauge(
            registry,
            "hardproof.workloads",
            "Workloads by verdict and tier",
            verdicts.getOrDefault(verdict, 0),
            "verdict",
            verdict.code(),
            "tier",
            tier);
      }
    });
  }

  private static void outcomes(Evaluated now, MeterRegistry registry) {
    Map<String, Map<OutcomeState, Integer>> counts = new TreeMap<>();
    now.evaluation().workloads().stream()
        .flatMap(w -> w.members().stream())
        .filter(m -> m.verdict() != Verdict.EXCLUDED)
        .flatMap(m -> m.outcomes().stream())
        .forEach((Outcome o) -> counts
            .computeIfAbsent(o.criterion().code(), c -> new TreeMap<>())
            .merge(o.state(), 1, Integer::sum));
    counts.forEach((criterion, states) -> states.forEach((state, n) -> gauge(
        registry,
        "hardproof.outcomes",
        "Outcomes by criterion and state",
        n,
        "criterion",
        criterion,
        "state",
        state.code())));
  }

  private static void drills(Evaluated now, MeterRegistry registry) {
    Map<String, Integer> counts = new TreeMap<>(Map.of("passed", 0, "failed", 0, "none", 0));
    for (DrillFact d : now.estate().facts().drills()) {
      counts.merge(d.passed() ? "passed" : d.failed() ? "failed" : "none", 1, Integer::sum);
    }
    counts.forEach(
        (result, n) -> FunctionCounter.builder("hardproof.drills", n, Integer::doubleValue)
            .description("Drills and read-backs that ended, by what came of them")
            .tag("result", result)
            .register(registry));
  }

  private static void feeds(Evaluated now, MeterRegistry registry) {
    Instant asAt = now.estate().asAt();
    for (Feed feed : now.estate().facts().feeds()) {
      if (feed.lastReceived() != null) {
        gauge(
            registry,
            "hardproof.feed.age.seconds",
            "Time since a feed last came",
            Duration.between(feed.lastReceived(), asAt).toSeconds(),
            "feed",
            feed.key());
      }
    }
  }

  private void alerts(MeterRegistry registry) {
    Map<String, Integer> counts = new TreeMap<>();
    alerts
        .open()
        .forEach(a -> counts.merge(
            a.kind().code() + "\t" + (a.state() == Alert.State.ACKNOWLEDGED ? "yes" : "no"),
            1,
            Integer::sum));
    counts.forEach((key, n) -> gauge(
        registry,
        "hardproof.alerts.open",
        "Alerts that are open, by kind",
        n,
        "kind",
        key.substring(0, key.indexOf('\t')),
        "acknowledged",
        key.substring(key.indexOf('\t') + 1)));
  }

  private static void gauge(
      MeterRegistry registry, String name, String description, Number value, String... tags) {
    Gauge.builder(name, value, Number::doubleValue)
        .strongReference(true)
        .description(description)
        .tags(tags)
        .register(registry);
  }
}
