package hardproof.server.stores;

import hardproof.core.census.CensusFact;
import hardproof.core.census.CensusState;
import hardproof.core.census.StoreListing;
import hardproof.core.wording.Coded;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;

/** Censuses in the database, and what they found. */
public final class CensusStore {
  private final Database database;

  public CensusStore(Database database) {
    this.database = database;
  }

  /** What a census found of a copy, before it has a number. */
  record Found(
      String resource,
      String point,
      CensusState state,
      @Nullable Instant lockedUntil,
      String sentence) {
    Found(String resource, String point, CensusState state, String sentence) {
      this(resource, point, state, null, sentence);
    }
  }

  /** Something on a store that no feed tells of. */
  public record Untold(String place, long sizeBytes, Instant modifiedAt) {}

  /** How it ended. */
  record End(
      Census.State state,
      Census.Listed listed,
      Census.Compared compared,
      @Nullable Long clockAheadMs,
      String sentence,
      List<Found> found,
      List<Untold> untold) {
    static End without(Census.State state, String sentence) {
      return new End(
          state,
          Census.Listed.NOTHING,
          Census.Compared.NOTHING,
          null,
          sentence,
          List.of(),
          List.of());
    }
  }

  /** Begins one; empty while another of the same store goes on. */
  Optional<Census> begin(String store, String by, Instant now) {
    return database.write(() -> {
      int made = database
          .writes()
          .sql("""
              INSERT INTO census (store, asked_by, started_at, state)
              SELECT :store, :by, :now, 'running'
               WHERE NOT EXISTS (SELECT 1 FROM census WHERE store = :store AND state = 'running')
              """)
          .param("store", store)
          .param("by", by)
          .param("now", now.toEpochMilli())
          .update();
      return made == 0
          ? Optional.empty()
          : database
              .writes()
              .sql("SELECT * FROM census WHERE id = last_insert_rowid()")
              .query((r, n) -> census(r))
              .optional();
    });
  }

  void progress(long id, long things, long bytes) {
    database.write(() -> database
        .writes()
        .sql("UPDATE census SET listed = :things, listed_bytes = :bytes WHERE id = :id")
        .param("things", things)
        .param("bytes", bytes)
        .param("id", id)
        .update());
  }

  /** Ends it, with all that it found, in one transaction: an evaluation sees all of it or nothing. */
  void end(Census census, End end, Instant now) {
    database.change(() -> {
      for (Found found : end.found()) {
        insert(census, found, now);
      }
      if (end.state() == Census.State.DONE) {
        replaceUntold(census.store(), end.untold());
      }
      return update(census.id(), end, now);
    });
  }

  private void insert(Census census, Found found, Instant now) {
    database
        .writes()
        .sql("""
            INSERT INTO census_fact (census, resource, point, store, at, state, locked_until, sentence)
            VALUES (:census, :resource, :point, :store, :at, :state, :locked_until, :sentence)
            """)
        .param("census", census.id())
        .param("resource", found.resource())
        .param("point", found.point())
        .param("store", census.store())
        .param("at", now.toEpochMilli())
        .param("state", found.state().code())
        .param("locked_until", Columns.millis(found.lockedUntil()))
        .param("sentence", found.sentence())
        .update();
  }

  private void replaceUntold(String store, List<Untold> untold) {
    database
        .writes()
        .sql("DELETE FROM census_untold WHERE store = :store")
        .param("store", store)
        .update();
    int number = 0;
    for (Untold one : untold) {
      database
          .writes()
          .sql("INSERT INTO census_untold VALUES (:store, :number, :place, :size, :modified)")
          .param("store", store)
          .param("number", number++)
          .param("place", one.place())
          .param("size", one.sizeBytes())
          .param("modified", one.modifiedAt().toEpochMilli())
          .update();
    }
  }

  private int update(long id, End end, Instant now) {
    Census.Compared c = end.compared();
    return database
        .writes()
        .sql("""
            UPDATE census SET ended_at = :now, state = :state, sentence = :sentence, clock_ahead_ms = :ahead,
                   listed = max(listed, :things), listed_bytes = max(listed_bytes, :bytes), older_bytes = :older,
                   untold = :untold, untold_bytes = :untold_bytes, claimed = :claimed, there = :there, gone = :gone,
                   other_size = :other_size, other_sum = :other_sum, newer = :newer, shorter_lock = :shorter_lock,
                   no_place = :no_place, locks_asked = :locks_asked, locks_known = :locks_known
             WHERE id = :id AND state = 'running'
            """)
        .param("now", now.toEpochMilli())
        .param("state", end.state().code())
        .param("sentence", end.sentence())
        .param("ahead", end.clockAheadMs())
        .param("things", end.listed().things())
        .param("bytes", end.listed().bytes())
        .param("older", end.listed().olderBytes())
        .param("untold", end.listed().untold())
        .param("untold_bytes", end.listed().untoldBytes())
        .param("claimed", c.claimed())
        .param("there", c.there())
        .param("gone", c.gone())
        .param("other_size", c.otherSize())
        .param("other_sum", c.otherSum())
        .param("newer", c.newer())
        .param("shorter_lock", c.shorterLock())
        .param("no_place", c.noPlace())
        .param("locks_asked", c.locksAsked())
        .param("locks_known", c.locksKnown())
        .param("id", id)
        .update();
  }

  /** Those of a process that is gone. */
  void interruptOrphans(Instant now) {
    for (Census orphan : list(" WHERE state = 'running'", Map.of())) {
      end(
          orphan,
          End.without(
              Census.State.INTERRUPTED,
              "interrupted: Hard Proof was stopped; nothing was concluded from it"),
          now);
    }
  }

  Optional<Census> find(long id) {
    return list(" WHERE id = :id", Map.of("id", id)).stream().findFirst();
  }

  /** Of one store, newest first. */
  List<Census> of(String store, int most) {
    return list(
        " WHERE store = :store ORDER BY id DESC LIMIT :most", Map.of("store", store, "most", most));
  }

  /** The newest of each store, by its key; and the newest that came to its end. */
  Map<String, Census> newest(boolean done) {
    Map<String, Census> newest = new HashMap<>();
    String which = done ? " WHERE state = 'done'" : "";
    list(" WHERE id IN (SELECT max(id) FROM census" + which + " GROUP BY store)", Map.of())
        .forEach(c -> newest.put(c.store(), c));
    return newest;
  }

  private List<Census> list(String which, Map<String, Object> values) {
    return database
        .reads()
        .sql("SELECT * FROM census" + which)
        .params(values)
        .query((r, n) -> census(r))
        .list();
  }

  private static Census census(ResultSet r) throws SQLException {
    long ahead = r.getLong("clock_ahead_ms");
    Long clock = r.wasNull() ? null : (Long) ahead;
    return new Census(
        r.getLong("id"),
        r.getString("store"),
        r.getString("asked_by"),
        Columns.instant(r, "started_at"),
        Columns.instant(r, "ended_at"),
        Coded.of(Census.State.class, r.getString("state")),
        new Census.Listed(
            r.getLong("listed"),
            r.getLong("listed_bytes"),
            r.getLong("older_bytes"),
            r.getLong("untold"),
            r.getLong("untold_bytes")),
        new Census.Compared(
            r.getLong("claimed"),
            r.getLong("there"),
            r.getLong("gone"),
            r.getLong("other_size"),
            r.getLong("other_sum"),
            r.getLong("newer"),
            r.getLong("shorter_lock"),
            r.getLong("no_place"),
            r.getLong("locks_asked"),
            r.getLong("locks_known")),
        clock,
        r.getString("sentence"));
  }

  List<Untold> untold(String store) {
    return database
        .reads()
        .sql(
            "SELECT place, size, modified_at FROM census_untold WHERE store = :store ORDER BY number")
        .param("store", store)
        .query((r, n) -> new Untold(r.getString(1), r.getLong(2), Columns.instant(r, 3)))
        .list();
  }

  /** Copies of a store of which something is told beside their claim, with what was found, by their points. */
  Map<String, CensusFact> noted(String store) {
    Map<String, CensusFact> open = new HashMap<>();
    facts("""
        SELECT * FROM census_fact WHERE id IN
          (SELECT max(id) FROM census_fact WHERE state <> 'held' AND store = :store GROUP BY point)
           AND state <> 'there'
        """, Map.of("store", store), fact -> open.put(fact.point(), fact));
    return open;
  }

  /**
   * What censuses had found by an instant: of each copy that is not as claimed the newest, and what the newest census
   * of each store found to be held.
   */
  public List<CensusFact> facts(Instant asAt) {
    List<CensusFact> all = new java.util.ArrayList<>();
    facts("""
        SELECT * FROM census_fact WHERE state <> 'there' AND id IN
          (SELECT max(id) FROM census_fact WHERE state <> 'held' AND at <= :at GROUP BY store, point)
        UNION ALL
        SELECT * FROM census_fact WHERE state = 'held' AND census IN
          (SELECT max(id) FROM census WHERE state = 'done' AND ended_at <= :at GROUP BY store)
        """, Map.of("at", asAt.toEpochMilli()), all::add);
    all.sort(java.util.Comparator.comparing(CensusFact::at).thenComparing(CensusFact::id));
    return all;
  }

  private void facts(
      String sql, Map<String, Object> values, java.util.function.Consumer<CensusFact> each) {
    database.reads().sql(sql).params(values).query((RowCallbackHandler)
        r -> each.accept(new CensusFact(
            r.getLong("id"),
            r.getLong("census"),
            r.getString("resource"),
            r.getString("point"),
            r.getString("store"),
            Columns.instant(r, "at"),
            Coded.of(CensusState.class, r.getString("state")),
            Columns.instant(r, "locked_until"),
            r.getString("sentence"))));
  }

  /** How lists had ended by an instant: of each store the newest that was whole or failed, and the newest whole one. */
  public List<StoreListing> listings(Instant asAt) {
    return database
        .reads()
        .sql("""
            SELECT * FROM census WHERE id IN
              (SELECT max(id) FROM census WHERE state IN ('done', 'failed') AND ended_at <= :at GROUP BY store
               UNION SELECT max(id) FROM census WHERE state = 'done' AND ended_at <= :at GROUP BY store)
            ORDER BY id
            """)
        .param("at", asAt.toEpochMilli())
        .query((r, n) -> new StoreListing(
            r.getLong("id"),
            r.getString("store"),
            Columns.instant(r, "ended_at"),
            r.getString("state").equals(Census.State.DONE.code()),
            r.getLong("listed"),
            r.getLong("listed_bytes"),
            r.getLong("untold"),
            r.getLong("untold_bytes"),
            r.getString("sentence")))
        .list();
  }
}
