package hardproof.server.programmes;

import hardproof.server.storage.Database;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;

/** What each programme could not drill when it tried last, and why. */
public final class RefusedStore {
  private final Database database;

  public RefusedStore(Database database) {
    this.database = database;
  }

  /**
   * In place of what the start before could not drill; in the transaction of the start.
   *
   * @param refused why, by the key of a resource
   */
  void keep(String programme, Instant due, Map<String, String> refused) {
    database
        .writes()
        .sql("DELETE FROM refused_drill WHERE programme = :p")
        .param("p", programme)
        .update();
    refused.forEach((resource, reason) -> database
        .writes()
        .sql("INSERT INTO refused_drill VALUES (:p, :resource, :due, :reason)")
        .param("p", programme)
        .param("resource", resource)
        .param("due", due.toEpochMilli())
        .param("reason", reason)
        .update());
  }

  /** Why, by the key of a programme and of a resource, of the starts that were due by an instant. */
  public Map<String, Map<String, String>> by(Instant instant) {
    Map<String, Map<String, String>> refused = new HashMap<>();
    database
        .reads()
        .sql("SELECT programme, resource, reason FROM refused_drill WHERE due_at <= :by")
        .param("by", instant.toEpochMilli())
        .query(r -> {
          refused
              .computeIfAbsent(r.getString(1), p -> new HashMap<>())
              .put(r.getString(2), r.getString(3));
        });
    return refused;
  }
}
