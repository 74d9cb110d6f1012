package hardproof.server.feeds;

import hardproof.core.findings.Pending;
import hardproof.server.storage.Database;
import hardproof.server.storage.Soon;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** What feeds told of that names others nobody has told of yet. */
final class PendingFacts {
  /** Counting over millions of copies takes longer than an answer may. */
  private static final Duration SOON = Duration.ofMillis(400);

  private final Database database;
  private final Soon counting = new Soon("pending-facts", 1);
  private volatile AfterBatch pending;

  /** What was pending after a batch. */
  private record AfterBatch(long batch, Map<String, Pending> byFeed) {}

  PendingFacts(Database database) {
    this.database = database;
  }

  /** By feed, as they stood at an instant. */
  Map<String, Pending> at(Instant asAt) {
    long batch = newestBatch(asAt);
    AfterBatch kept = pending;
    if (kept != null && kept.batch() == batch) {
      return kept.byFeed();
    }
    if (kept != null && kept.batch() < batch && Database.impatient()) {
      return counting.orBefore(() -> counted(batch, asAt), kept, SOON).byFeed();
    }
    return counted(batch, asAt).byFeed();
  }

  private long newestBatch(Instant asAt) {
    return database
        .reads()
        .sql("SELECT coalesce(max(id), 0) FROM import_batch WHERE received_at <= :at")
        .param("at", asAt.toEpochMilli())
        .query(Long.class)
        .single();
  }

  private synchronized AfterBatch counted(long batch, Instant asAt) {
    AfterBatch kept = pending;
    if (kept == null || kept.batch() != batch) {
      kept = new AfterBatch(batch, countPending(asAt));
      pending = kept;
    }
    return kept;
  }

  private Map<String, Pending> countPending(Instant asAt) {
    Map<String, Pending> byFeed = new TreeMap<>();
    database.reads().sql("""
            WITH point AS (SELECT key, resource, feed FROM recovery_point
                            WHERE recorded_at <= :at AND (replaced_at IS NULL OR replaced_at > :at)),
                 owner AS (SELECT key, workload, feed FROM resource
                            WHERE recorded_at <= :at AND (replaced_at IS NULL OR replaced_at > :at))
            SELECT feed, count(*) FROM (
              SELECT feed FROM copy
               WHERE recorded_at <= :at AND (replaced_at IS NULL OR replaced_at > :at)
                 AND (point NOT IN (SELECT key FROM point)
                   OR store NOT IN (SELECT key FROM store
                        WHERE recorded_at <= :at AND (replaced_at IS NULL OR replaced_at > :at)))
              UNION ALL SELECT feed FROM point WHERE resource NOT IN (SELECT key FROM owner)
              UNION ALL SELECT feed FROM owner WHERE workload IS NOT NULL AND workload NOT IN (SELECT key FROM workload
                        WHERE recorded_at <= :at AND (replaced_at IS NULL OR replaced_at > :at)))
             GROUP BY feed
            """).param("at", asAt.toEpochMilli()).query(r -> {
      byFeed.put(r.getString(1), new Pending(r.getLong(2), List.of()));
    });
    Map<String, List<String>> stores = new TreeMap<>();
    database.reads().sql("""
            SELECT DISTINCT feed, store FROM copy
             WHERE recorded_at <= :at AND (replaced_at IS NULL OR replaced_at > :at)
               AND store NOT IN (SELECT key FROM store
                        WHERE recorded_at <= :at AND (replaced_at IS NULL OR replaced_at > :at))
             ORDER BY feed, store
            """).param("at", asAt.toEpochMilli()).query(r -> {
      stores.computeIfAbsent(r.getString(1), f -> new ArrayList<>()).add(r.getString(2));
    });
    stores.forEach((feed, keys) ->
        byFeed.computeIfPresent(feed, (f, p) -> new Pending(p.facts(), List.copyOf(keys))));
    return byFeed;
  }
}
