package hardproof.server.integrity;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.ladder.Rung;
import hardproof.core.wording.Coded;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** What came of every artifact that a sweep read. */
public final class ReadBackStore {
  /** Before the number of a read-back where a drill run has its id. */
  public static final String RUN = "read-back-";

  private final Database database;

  public ReadBackStore(Database database) {
    this.database = database;
  }

  /**
   * The read-backs that say something by an instant, as the evaluation sees them: of each copy the newest,
   * and every one that failed.
   */
  public List<DrillFact> facts(Instant asAt) {
    return database
        .reads()
        .sql("""
            SELECT id, resource, point, store, started_at, ended_at, restore, checks, reaches, bytes, sentence
              FROM read_back
             WHERE ended_at <= :as_at
               AND (restore = 'failed' OR checks = 'failed'
                    OR id IN (SELECT max(id) FROM read_back WHERE ended_at <= :as_at GROUP BY store, point))
             ORDER BY ended_at, id
            """)
        .param("as_at", asAt.toEpochMilli())
        .query((r, n) -> fact(r))
        .list();
  }

  private static DrillFact fact(ResultSet r) throws SQLException {
    RestoreState restore = Coded.of(RestoreState.class, r.getString("restore"));
    ChecksState checks = Coded.of(ChecksState.class, r.getString("checks"));
    boolean failed = restore == RestoreState.FAILED || checks == ChecksState.FAILED;
    Instant ended = Instant.ofEpochMilli(r.getLong("ended_at"));
    return new DrillFact(
        RUN + r.getLong("id"),
        new DrillFact.Of(r.getString("resource"), r.getString("point"), r.getString("store")),
        Method.READ_BACK,
        Coded.of(Rung.class, r.getString("reaches")),
        new DrillFact.Answers(restore, checks, CleanupState.NOT_DUE),
        new DrillFact.Times(Instant.ofEpochMilli(r.getLong("started_at")), ended, ended),
        r.getLong("bytes"),
        new DrillFact.Blame(
            failed ? r.getString("point") : null, failed ? r.getString("store") : null),
        r.getString("sentence"));
  }

  /** Writes what came of one artifact, and that its sweep is done with it, together. */
  void add(long sweep, int number, DrillFact fact) {
    database.change(() -> {
      insert(sweep, fact);
      return database
          .writes()
          .sql("UPDATE sweep_item SET state = :state WHERE sweep = :sweep AND number = :number")
          .param("state", fact.failed() ? "failed" : "done")
          .param("sweep", sweep)
          .param("number", number)
          .update();
    });
  }

  private void insert(long sweep, DrillFact fact) {
    database
        .writes()
        .sql("""
              INSERT INTO read_back (sweep, resource, point, store, started_at, ended_at, restore, checks,
                                     reaches, bytes, sentence)
              VALUES (:sweep, :resource, :point, :store, :started, :ended, :restore, :checks, :reaches,
                      :bytes, :sentence)
              """)
        .param("sweep", sweep)
        .param("resource", fact.resource())
        .param("point", fact.point())
        .param("store", fact.store())
        .param("started", fact.started().toEpochMilli())
        .param("ended", fact.ended().toEpochMilli())
        .param("restore", fact.restore().code())
        .param("checks", fact.checks().code())
        .param("reaches", fact.reaches().code())
        .param("bytes", fact.bytes())
        .param("sentence", fact.sentence())
        .update();
  }

  /**
   * Drills with what read-backs had shown by an instant among them, in the order they ended.
   *
   * @param drilled in that order
   */
  public List<DrillFact> among(List<DrillFact> drilled, Instant asAt) {
    List<DrillFact> read = facts(asAt);
    if (read.isEmpty()) {
      return drilled;
    }
    List<DrillFact> all = new ArrayList<>(drilled);
    all.addAll(read);
    all.sort(Comparator.comparing(DrillFact::ended));
    return all;
  }
}
