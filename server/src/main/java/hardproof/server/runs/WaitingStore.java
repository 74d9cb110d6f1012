package hardproof.server.runs;

import hardproof.core.programmes.Admission;
import hardproof.core.programmes.QueuedDrill;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** The runs that wait for their turn, and what those that began have taken. */
public final class WaitingStore implements Admission.Spent {
  private static final String SELECT = """
      SELECT id, programme, queued_at, needed_by, store, takes_ms, read_bytes, space_bytes, cost FROM drill_run
      """;

  private final Database database;

  public WaitingStore(Database database) {
    this.database = database;
  }

  /** Those that have not begun, in their turn. */
  public List<QueuedDrill> inTurn() {
    return list(" WHERE ended_at IS NULL AND started_at IS NULL AND restore = 'waiting'"
            + " AND rehearsal IS NULL")
        .stream()
        .sorted(Admission.IN_TURN)
        .toList();
  }

  /** Those that are at work; one that only waits for somebody's word takes nothing. */
  public List<QueuedDrill> underWay() {
    return list(" WHERE ended_at IS NULL AND started_at IS NOT NULL AND awaits IS NULL");
  }

  /** The member of a rehearsal that has waited longest to begin. */
  public Optional<String> memberInTurn() {
    return database
        .reads()
        .sql(
            "SELECT id FROM drill_run WHERE ended_at IS NULL AND started_at IS NULL AND restore = 'waiting'"
                + " AND rehearsal IS NOT NULL ORDER BY queued_at, rowid LIMIT 1")
        .query(String.class)
        .optional();
  }

  /** How many members of rehearsals are at work. */
  public int membersAtWork() {
    return database
        .reads()
        .sql(
            "SELECT count(*) FROM drill_run WHERE ended_at IS NULL AND started_at IS NOT NULL AND awaits IS NULL"
                + " AND rehearsal IS NOT NULL")
        .query(Integer.class)
        .single();
  }

  private List<QueuedDrill> list(String which) {
    return database.reads().sql(SELECT + which).query((r, n) -> drill(r)).list();
  }

  private static QueuedDrill drill(ResultSet r) throws SQLException {
    return new QueuedDrill(
        r.getString(1),
        r.getString(2),
        Instant.ofEpochMilli(r.getLong(3)),
        Columns.instant(r, "needed_by"),
        r.getString(5),
        Columns.duration(r, "takes_ms"),
        r.getLong(7),
        r.getLong(8),
        r.getDouble(9));
  }

  /** Keys of the resources of which a drill waits for a person's word on a screen. */
  public Set<String> screens() {
    return Set.copyOf(database
        .reads()
        .sql("SELECT DISTINCT resource FROM drill_run WHERE ended_at IS NULL AND awaits = 'person'")
        .query(String.class)
        .list());
  }

  /** Those that have not begun although they should have by then, the first first. */
  public List<String> missedBy(Instant now) {
    return database
        .reads()
        .sql("""
            SELECT id FROM drill_run
             WHERE ended_at IS NULL AND started_at IS NULL AND not_after < :now ORDER BY queued_at, rowid
            """)
        .param("now", now.toEpochMilli())
        .query(String.class)
        .list();
  }

  @Override
  public long bytesSince(String programme, Instant since) {
    return sum("read_bytes", programme, since).longValue();
  }

  @Override
  public double costSince(String programme, Instant since) {
    return sum("cost", programme, since).doubleValue();
  }

  private Number sum(String column, String programme, Instant since) {
    return database
        .reads()
        .sql("SELECT total(" + column
            + ") FROM drill_run WHERE programme = :p AND started_at >= :since")
        .param("p", programme)
        .param("since", since.toEpochMilli())
        .query(Double.class)
        .single();
  }

  /** What a run was queued with. */
  public Optional<RunNeeds> needs(String run) {
    return database
        .reads()
        .sql("""
            SELECT needed_by, not_after, takes_ms, read_bytes, space_bytes, cost, attempt FROM drill_run
             WHERE id = :id
            """)
        .param("id", run)
        .query((r, n) -> new RunNeeds(
            Columns.instant(r, "needed_by"),
            Columns.instant(r, "not_after"),
            Columns.duration(r, "takes_ms"),
            r.getLong(4),
            r.getLong(5),
            r.getDouble(6),
            r.getInt(7)))
        .optional();
  }

  /**
   * Runs of programmes that said nothing about the data and may be tried again: interrupted or refused, not by a
   * person, and not tried again already.
   */
  public List<String> toTryAgain(Instant since) {
    return database
        .reads()
        .sql("""
            SELECT id FROM drill_run r
             WHERE programme IS NOT NULL AND ended_at >= :since AND restore IN ('interrupted', 'refused')
               AND cancel_asked = 0 AND started_at IS NOT NULL AND rehearsal IS NULL
               AND NOT EXISTS (SELECT 1 FROM drill_run a
                                WHERE a.resource = r.resource AND a.programme = r.programme
                                  AND a.rowid > r.rowid AND a.queued_at >= r.ended_at)
             ORDER BY ended_at
            """)
        .param("since", since.toEpochMilli())
        .query(String.class)
        .list();
  }
}
