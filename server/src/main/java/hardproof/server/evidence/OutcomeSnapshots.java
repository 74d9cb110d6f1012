package hardproof.server.evidence;

import hardproof.core.criteria.Outcome;
import hardproof.core.evidence.Tables;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.WorkloadResult;
import hardproof.proving.checksums.Sha256;
import hardproof.server.storage.Database;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.TreeMap;
import tools.jackson.databind.json.JsonMapper;

/**
 * Writes down once a day what all outcomes came to: how many of each, and the SHA-256 of the tables that hold every one
 * of them, so that nobody can say later that they were others. The ledger has an entry of each.
 */
public final class OutcomeSnapshots {
  private static final Duration DAY = Duration.ofDays(1);
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final Database database;

  public OutcomeSnapshots(Database database) {
    this.database = database;
  }

  /** Writes one of an evaluation, when the last was of a day before it or more; whether it did. */
  public boolean takeDaily(Evaluation evaluation) {
    long since = database
        .reads()
        .sql("SELECT coalesce(max(as_at), 0) FROM outcome_snapshot")
        .query(Long.class)
        .single();
    boolean due = !evaluation.asAt().isBefore(Instant.ofEpochMilli(since).plus(DAY));
    if (due) {
      take(evaluation);
    }
    return due;
  }

  private void take(Evaluation evaluation) {
    // Worked out before anybody is kept from writing.
    String workloads = sha256(Tables.workloads(evaluation));
    String findings = sha256(Tables.findings(evaluation));
    Map<String, Integer> verdicts = new TreeMap<>();
    evaluation.counts().forEach((verdict, n) -> verdicts.put(verdict.code(), n));
    Map<String, Map<String, Integer>> outcomes = outcomes(evaluation);
    database.write(() -> database
        .writes()
        .sql("""
            INSERT INTO outcome_snapshot
              (as_at, known_at, standard, verdicts, outcomes, workloads_sha256, findings_sha256)
            VALUES (:as_at, :known_at, :standard, :verdicts, :outcomes, :workloads, :findings)
            """)
        .param("as_at", evaluation.asAt().toEpochMilli())
        .param("known_at", evaluation.knownAt().toEpochMilli())
        .param("standard", evaluation.standard().title())
        .param("verdicts", JSON.writeValueAsString(verdicts))
        .param("outcomes", JSON.writeValueAsString(outcomes))
        .param("workloads", workloads)
        .param("findings", findings)
        .update());
  }

  private static Map<String, Map<String, Integer>> outcomes(Evaluation evaluation) {
    Map<String, Map<String, Integer>> outcomes = new TreeMap<>();
    for (WorkloadResult workload : evaluation.workloads()) {
      for (ResourceResult member : workload.members()) {
        for (Outcome o : member.outcomes()) {
          outcomes
              .computeIfAbsent(o.criterion().code(), c -> new TreeMap<>())
              .merge(o.state().code(), 1, Integer::sum);
        }
      }
    }
    return outcomes;
  }

  private static String sha256(String table) {
    return Sha256.of(table.getBytes(StandardCharsets.UTF_8));
  }
}
