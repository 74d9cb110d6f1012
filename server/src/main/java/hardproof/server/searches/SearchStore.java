package hardproof.server.searches;

import hardproof.core.drills.Method;
import hardproof.core.wording.Coded;
import hardproof.server.runs.CheckJson;
import hardproof.server.runs.RunOrder;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Searches for the last good point, and what each has tried, in the database. */
final class SearchStore {
  private final Database database;

  SearchStore(Database database) {
    this.database = database;
  }

  /** Writes a search down that has tried nothing yet. */
  long begin(
      String resource,
      @Nullable String store,
      RunOrder first,
      PointSearch.Order order,
      Instant now) {
    return database.write(() -> database
        .writes()
        .sql("""
            INSERT INTO point_search (resource, store, method, checks_asked, requested_by, reason, started_at)
            VALUES (:resource, :store, :method, :checks, :by, :reason, :now) RETURNING id
            """)
        .param("resource", resource)
        .param("store", store)
        .param("method", first.method().code())
        .param("checks", CheckJson.write(first.checks()))
        .param("by", order.requestedBy())
        .param("reason", order.reason())
        .param("now", now.toEpochMilli())
        .query(Long.class)
        .single());
  }

  /** The search that waits for a run. */
  Optional<Long> waitingFor(String run) {
    return database
        .reads()
        .sql("SELECT id FROM point_search WHERE run = :run AND ended_at IS NULL")
        .param("run", run)
        .query(Long.class)
        .optional();
  }

  /** A run is the next step of a search, and waited for. */
  void tries(PointSearch search, String point, String run) {
    database.write(() -> {
      addStep(search, point, run);
      return database
          .writes()
          .sql("UPDATE point_search SET run = :run WHERE id = :id")
          .param("run", run)
          .param("id", search.id())
          .update();
    });
  }

  private void addStep(PointSearch search, String point, String run) {
    database
        .writes()
        .sql("INSERT INTO point_search_step VALUES (:id, :n, :point, :run, NULL)")
        .param("id", search.id())
        .param("n", search.tried().size())
        .param("point", point)
        .param("run", run)
        .update();
  }

  /**
   * Writes down what a run showed, and that the search waits for it no more.
   *
   * @param passed null where it showed nothing
   * @return false when the search did not wait for it
   */
  boolean letGo(long id, String run, @Nullable Boolean passed) {
    return database.write(() -> {
      answerStep(id, run, passed);
      return database
              .writes()
              .sql("UPDATE point_search SET run = NULL WHERE id = :id AND run = :run")
              .param("id", id)
              .param("run", run)
              .update()
          == 1;
    });
  }

  private void answerStep(long id, String run, @Nullable Boolean passed) {
    database
        .writes()
        .sql("UPDATE point_search_step SET passed = :passed WHERE search = :id AND run = :run")
        .param("passed", passed == null ? null : passed ? 1 : 0)
        .param("id", id)
        .param("run", run)
        .update();
  }

  void askToCancel(long id) {
    database.write(() -> database
        .writes()
        .sql("UPDATE point_search SET cancel_asked = 1 WHERE id = :id")
        .param("id", id)
        .update());
  }

  void end(long id, @Nullable String good, String sentence, Instant now) {
    database.write(() -> database
        .writes()
        .sql("""
            UPDATE point_search SET ended_at = :now, run = NULL, good_point = :good, sentence = :sentence
             WHERE id = :id AND ended_at IS NULL
            """)
        .param("now", now.toEpochMilli())
        .param("good", good)
        .param("sentence", sentence)
        .param("id", id)
        .update());
  }

  Optional<PointSearch> find(long id) {
    // One transaction, and so one connection, for the search and its steps.
    return database.read(() -> database
        .reads()
        .sql("SELECT * FROM point_search WHERE id = :id")
        .param("id", id)
        .query((r, n) -> search(r))
        .optional());
  }

  /** The searches, newest first. */
  List<PointSearch> all(int atMost) {
    return database.read(() -> database
        .reads()
        .sql("SELECT * FROM point_search ORDER BY id DESC LIMIT :n")
        .param("n", atMost)
        .query((r, n) -> search(r))
        .list());
  }

  private PointSearch search(ResultSet r) throws SQLException {
    long id = r.getLong("id");
    return new PointSearch(
        id,
        r.getString("resource"),
        r.getString("store"),
        Coded.of(Method.class, r.getString("method")),
        CheckJson.read(r.getString("checks_asked")),
        new PointSearch.Order(r.getString("requested_by"), r.getString("reason")),
        Instant.ofEpochMilli(r.getLong("started_at")),
        Columns.instant(r, "ended_at"),
        new PointSearch.Going(r.getInt("cancel_asked") == 1, r.getString("run")),
        r.getString("good_point"),
        r.getString("sentence"),
        tried(id));
  }

  List<PointSearch.Tried> tried(long id) {
    return database
        .reads()
        .sql("SELECT point, run, passed FROM point_search_step WHERE search = :id ORDER BY number")
        .param("id", id)
        .query((r, n) -> new PointSearch.Tried(r.getString(1), r.getString(2), Columns.yesNo(r, 3)))
        .list();
  }
}
