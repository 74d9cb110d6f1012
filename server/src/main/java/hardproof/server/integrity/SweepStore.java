package hardproof.server.integrity;

import hardproof.core.wording.Coded;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** Sweeps and their artifacts in the database, so that they go on after a restart. */
public final class SweepStore {
  private static final String SELECT = """
      SELECT s.id, s.store, s.state, s.requested_by, s.reason, s.bytes_per_second, s.planned_at, s.ended_at,
             s.worked_ms, s.sentence, count(i.number) items, sum(i.state <> 'waiting') done,
             sum(i.state = 'failed') failed, coalesce(sum(i.size_bytes), 0) bytes,
             coalesce(sum(CASE WHEN i.state <> 'waiting' THEN i.size_bytes END), 0) done_bytes
        FROM sweep s LEFT JOIN sweep_item i ON i.sweep = s.id
      """;

  private final Database database;

  public SweepStore(Database database) {
    this.database = database;
  }

  /**
   * Writes a plan and begins it.
   *
   * @return its number; empty when a sweep of that store has not ended
   */
  Optional<Long> plan(
      String store,
      Long bytesPerSecond,
      String by,
      String reason,
      List<Sweep.Item> items,
      Instant now) {
    return database.write(() -> {
      int open = openSweeps(store);
      if (open > 0) {
        return Optional.<Long>empty();
      }
      long id = insert(store, bytesPerSecond, by, reason, now);
      addItems(items, id);
      return Optional.of(id);
    });
  }

  private int openSweeps(String store) {
    return database
        .writes()
        .sql("SELECT count(*) FROM sweep WHERE store = :store AND ended_at IS NULL")
        .param("store", store)
        .query(Integer.class)
        .single();
  }

  private long insert(String store, Long bytesPerSecond, String by, String reason, Instant now) {
    return database
        .writes()
        .sql("""
              INSERT INTO sweep (store, state, requested_by, reason, bytes_per_second, planned_at)
              VALUES (:store, 'running', :by, :reason, :rate, :now) RETURNING id
              """)
        .param("store", store)
        .param("by", by)
        .param("reason", reason)
        .param("rate", bytesPerSecond)
        .param("now", now.toEpochMilli())
        .query(Long.class)
        .single();
  }

  private void addItems(List<Sweep.Item> items, long id) {
    for (Sweep.Item item : items) {
      database
          .writes()
          .sql(
              "INSERT INTO sweep_item VALUES (:sweep, :number, :resource, :point, :size, 'waiting')")
          .param("sweep", id)
          .param("number", item.number())
          .param("resource", item.resource())
          .param("point", item.point())
          .param("size", item.sizeBytes())
          .update();
    }
  }

  /** The sweeps, newest first. */
  public List<Sweep> all(int atMost) {
    return database
        .reads()
        .sql(SELECT + " GROUP BY s.id ORDER BY s.id DESC LIMIT :n")
        .param("n", atMost)
        .query((r, n) -> sweep(r))
        .list();
  }

  public Optional<Sweep> find(long id) {
    return database
        .reads()
        .sql(SELECT + " WHERE s.id = :id GROUP BY s.id")
        .param("id", id)
        .query((r, n) -> sweep(r))
        .optional();
  }

  private static Sweep sweep(ResultSet r) throws SQLException {
    return new Sweep(
        r.getLong("id"),
        r.getString("store"),
        Coded.of(Sweep.State.class, r.getString("state")),
        new Sweep.Order(
            r.getString("requested_by"),
            r.getString("reason"),
            Columns.number(r, "bytes_per_second")),
        Instant.ofEpochMilli(r.getLong("planned_at")),
        Columns.instant(r, "ended_at"),
        Duration.ofMillis(r.getLong("worked_ms")),
        r.getString("sentence"),
        amount(r));
  }

  private static Sweep.Amount amount(ResultSet r) throws SQLException {
    return new Sweep.Amount(
        r.getInt("items"),
        r.getInt("done"),
        r.getInt("failed"),
        r.getLong("bytes"),
        r.getLong("done_bytes"));
  }

  /** The next artifact of the oldest sweep that runs. */
  Optional<Sweep.Item> next() {
    return database
        .reads()
        .sql("""
            SELECT i.sweep, i.number, i.resource, i.point, i.size_bytes FROM sweep s
              JOIN sweep_item i ON i.sweep = s.id AND i.state = 'waiting'
             WHERE s.state = 'running' ORDER BY s.id, i.number LIMIT 1
            """)
        .query((r, n) ->
            new Sweep.Item(r.getLong(1), r.getInt(2), r.getString(3), r.getString(4), r.getLong(5)))
        .optional();
  }

  /** Running sweeps with nothing left to read. */
  List<Long> finished() {
    return database.reads().sql("""
            SELECT id FROM sweep s WHERE state = 'running'
               AND NOT EXISTS (SELECT 1 FROM sweep_item i WHERE i.sweep = s.id AND i.state = 'waiting')
            """).query(Long.class).list();
  }

  /** What can't be read in a way that says something is passed over. */
  void passOver(Sweep.Item item) {
    database.write(() -> database
        .writes()
        .sql("UPDATE sweep_item SET state = 'skipped' WHERE sweep = :s AND number = :n")
        .param("s", item.sweep())
        .param("n", item.number())
        .update());
  }

  void worked(long id, Duration more) {
    database.write(() -> database
        .writes()
        .sql("UPDATE sweep SET worked_ms = worked_ms + :more WHERE id = :id")
        .param("more", more.toMillis())
        .param("id", id)
        .update());
  }

  /**
   * Changes the state of a sweep.
   *
   * @return false when it is not in one of the states that allow it
   */
  boolean change(long id, Sweep.State to, String sentence, Instant now) {
    boolean ends = to == Sweep.State.DONE || to == Sweep.State.CANCELLED;
    return database.write(() -> database
            .writes()
            .sql("""
                UPDATE sweep SET state = :to, sentence = :sentence, ended_at = :ended
                 WHERE id = :id AND ended_at IS NULL AND state <> :to
                """)
            .param("to", to.name().toLowerCase(Locale.ROOT))
            .param("sentence", sentence)
            .param("ended", ends ? now.toEpochMilli() : null)
            .param("id", id)
            .update())
        == 1;
  }

  /** Sets how fast a sweep may read from now on; null for as fast as it can. */
  boolean limit(long id, Long bytesPerSecond) {
    return database.write(() -> database
            .writes()
            .sql("UPDATE sweep SET bytes_per_second = :rate WHERE id = :id AND ended_at IS NULL")
            .param("rate", bytesPerSecond)
            .param("id", id)
            .update())
        == 1;
  }
}
