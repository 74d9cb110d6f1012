package hardproof.server.findings;

import hardproof.core.findings.Finding;
import hardproof.core.insights.Stretch;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import hardproof.core.wording.Coded;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * When each finding opened, changed (it was accepted, or is not any more; its tier moved) and closed,
 * and when each verdict moved. Written by comparing an evaluation with what was written last, so that
 * nothing is lost when the application was down: it is then noticed at its next start.
 */
public final class FindingLog {
  private final Database database;
  private volatile long version;
  private Map<String, Open> open;
  private Map<String, String> verdicts;

  private record Open(boolean excepted, Integer tier) {}

  public FindingLog(Database database) {
    this.database = database;
  }

  /** Grows with everything that this process writes down. */
  long version() {
    return version;
  }

  /** What can happen to a finding. */
  public enum Happened implements Coded {
    OPENED,
    CHANGED,
    CLOSED
  }

  /** One thing that happened to a finding. */
  public record Event(Instant at, Happened event, boolean excepted, String sentence) {}

  /**
   * A verdict from an instant on.
   */
  public record VerdictEvent(String workload, Instant at, Verdict verdict, String sentence) {}

  /** Who looked at a finding, and what they said. */
  public record Look(Instant at, String by, String note) {}

  /** Compares with what was written last and writes the difference, in one transaction. */
  public synchronized void record(Evaluation evaluation, List<Finding> findings) {
    load();
    Instant at = evaluation.asAt();
    Map<String, Open> now = new HashMap<>();
    List<Object[]> events = new ArrayList<>();
    for (Finding f : findings) {
      Open state = new Open(!f.open(), f.about().tier());
      now.put(f.key(), state);
      Open before = open.get(f.key());
      if (!state.equals(before)) {
        events.add(row(f.key(), at, before == null ? Happened.OPENED : Happened.CHANGED, f));
      }
    }
    addClosed(at, now, events);
    List<Object[]> moves = new ArrayList<>();
    Map<String, String> verdictsNow = new HashMap<>();
    for (WorkloadResult w : evaluation.workloads()) {
      String verdict = w.verdict().code();
      verdictsNow.put(w.workload().key(), verdict);
      if (!verdict.equals(verdicts.get(w.workload().key()))) {
        moves.add(new Object[] {w.workload().key(), at.toEpochMilli(), verdict, w.sentence()});
      }
    }
    if (!events.isEmpty() || !moves.isEmpty()) {
      write(events, moves);
    }
    open = now;
    verdicts = verdictsNow;
    version++;
  }

  private void addClosed(Instant at, Map<String, Open> now, List<Object[]> events) {
    Set<String> closed = new HashSet<>(open.keySet());
    closed.removeAll(now.keySet());
    closed.forEach(key -> events.add(new Object[] {
      key,
      at.toEpochMilli(),
      Happened.CLOSED.code(),
      0,
      open.get(key).tier(),
      null,
      "it is met, or no longer asked"
    }));
  }

  private void write(List<Object[]> events, List<Object[]> moves) {
    database.write(() -> database.onWriter(c -> {
      insert(
          c.prepareStatement("INSERT INTO finding_event (finding, at, event, excepted, tier,"
              + " workload, sentence) VALUES (?, ?, ?, ?, ?, ?, ?)"),
          events);
      insert(
          c.prepareStatement("INSERT INTO verdict_event (workload, at, verdict, sentence)"
              + " VALUES (?, ?, ?, ?)"),
          moves);
      return null;
    }));
  }

  private static Object[] row(String key, Instant at, Happened event, Finding f) {
    return new Object[] {
      key,
      at.toEpochMilli(),
      event.code(),
      f.open() ? 0 : 1,
      f.about().tier(),
      f.about().workload(),
      f.sentence()
    };
  }

  private static void insert(PreparedStatement insert, List<Object[]> rows) throws SQLException {
    try (insert) {
      for (Object[] row : rows) {
        for (int i = 0; i < row.length; i++) {
          insert.setObject(i + 1, row[i]);
        }
        insert.addBatch();
      }
      insert.executeBatch();
    }
  }

  private void load() {
    if (open != null) {
      return;
    }
    loadOpen();
    loadVerdicts();
  }

  private void loadOpen() {
    open = new HashMap<>();
    database.reads().sql("""
            SELECT finding, event, excepted, tier FROM finding_event
             WHERE id IN (SELECT max(id) FROM finding_event GROUP BY finding)
            """).query(r -> {
      if (!r.getString(2).equals(Happened.CLOSED.code())) {
        open.put(r.getString(1), new Open(r.getInt(3) == 1, Columns.integer(r, 4)));
      }
    });
  }

  private void loadVerdicts() {
    verdicts = new HashMap<>();
    database
        .reads()
        .sql("SELECT workload, verdict FROM verdict_event"
            + " WHERE id IN (SELECT max(id) FROM verdict_event GROUP BY workload)")
        .query(r -> {
          verdicts.put(r.getString(1), r.getString(2));
        });
  }

  /** By finding, since when it has been open as known at an instant. */
  Map<String, Instant> openedBefore(Instant asAt) {
    Map<String, Instant> opened = new HashMap<>();
    database
        .reads()
        .sql("SELECT finding, max(at) FROM finding_event"
            + " WHERE event = 'opened' AND at <= :at GROUP BY finding")
        .param("at", asAt.toEpochMilli())
        .query(r -> {
          opened.put(r.getString(1), Instant.ofEpochMilli(r.getLong(2)));
        });
    return opened;
  }

  /** Everything that happened to a finding, oldest first. */
  public List<Event> events(String finding) {
    return database
        .reads()
        .sql(
            "SELECT at, event, excepted, sentence FROM finding_event WHERE finding = :f ORDER BY id")
        .param("f", finding)
        .query((r, n) -> new Event(
            Instant.ofEpochMilli(r.getLong(1)),
            Coded.of(Happened.class, r.getString(2)),
            r.getInt(3) == 1,
            r.getString(4)))
        .list();
  }

  /** How verdicts moved, oldest first; {@code workload} null for all. */
  public List<VerdictEvent> verdicts(String workload, Instant from, Instant to) {
    return database
        .reads()
        .sql("""
            SELECT workload, at, verdict, sentence FROM verdict_event
             WHERE at >= :from AND at <= :to AND (:workload IS NULL OR workload = :workload)
             ORDER BY id
            """)
        .param("from", from.toEpochMilli())
        .param("to", to.toEpochMilli())
        .param("workload", workload)
        .query((r, n) -> verdictEvent(r))
        .list();
  }

  private static FindingLog.VerdictEvent verdictEvent(ResultSet r) throws SQLException {
    return new VerdictEvent(
        r.getString(1),
        Instant.ofEpochMilli(r.getLong(2)),
        Coded.of(Verdict.class, r.getString(3)),
        r.getString(4));
  }

  /** When this installation began to write down what it finds; null where it has not. */
  public @Nullable Instant began() {
    Long first = database
        .reads()
        .sql("SELECT min(at) FROM (SELECT min(at) AS at FROM verdict_event"
            + " UNION ALL SELECT min(at) FROM finding_event)")
        .query((r, n) -> r.getObject(1) == null ? null : r.getLong(1))
        .list()
        .get(0);
    return first == null ? null : Instant.ofEpochMilli(first);
  }

  /** Every stretch that touches [from, to], by when it opened. */
  public List<Stretch> stretches(Instant from, Instant to) {
    List<Stretch> stretches = new ArrayList<>();
    Map<String, Instant> since = new HashMap<>();
    Map<String, Integer> tiers = new HashMap<>();
    database
        .reads()
        .sql("SELECT finding, at, event, tier FROM finding_event WHERE at <= :to ORDER BY id")
        .param("to", to.toEpochMilli())
        .query(r -> {
          String finding = r.getString(1);
          Instant at = Instant.ofEpochMilli(r.getLong(2));
          if (r.getString(3).equals(Happened.OPENED.code())) {
            since.put(finding, at);
            tiers.put(finding, Columns.integer(r, 4));
          } else if (r.getString(3).equals(Happened.CLOSED.code())) {
            Instant opened = since.remove(finding);
            if (opened != null && !at.isBefore(from)) {
              stretches.add(new Stretch(finding, tiers.get(finding), opened, at));
            }
          }
        });
    since.forEach((f, at) -> stretches.add(new Stretch(f, tiers.get(f), at, null)));
    stretches.sort(java.util.Comparator.comparing(Stretch::opened).thenComparing(Stretch::finding));
    return stretches;
  }

  /** Marks findings as looked at. */
  public synchronized void look(Collection<String> findings, String note, String by, Instant now) {
    database.write(() -> {
      findings.forEach(f -> database
          .writes()
          .sql("INSERT INTO finding_look VALUES (:f, :at, :by, :note)")
          .param("f", f)
          .param("at", now.toEpochMilli())
          .param("by", by)
          .param("note", note)
          .update());
      return null;
    });
    version++;
  }

  /** By finding, the newest look as known at an instant. */
  Map<String, Look> looksBefore(Instant asAt) {
    Map<String, Look> looks = new HashMap<>();
    database
        .reads()
        .sql("SELECT finding, at, by, note FROM finding_look WHERE at <= :at ORDER BY at")
        .param("at", asAt.toEpochMilli())
        .query(r -> {
          looks.put(
              r.getString(1),
              new Look(Instant.ofEpochMilli(r.getLong(2)), r.getString(3), r.getString(4)));
        });
    return looks;
  }
}
