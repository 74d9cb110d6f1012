package hardproof.server.moves;

import hardproof.server.storage.Database;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;

/** Of which resources people said that they belong where they are. */
public final class SettledStore {
  private final Database database;

  public SettledStore(Database database) {
    this.database = database;
  }

  /** When that was last said by an instant, by the key of the resource. */
  Map<String, Instant> at(Instant instant) {
    Map<String, Instant> settled = new HashMap<>();
    database.reads().sql("""
            SELECT resource, max(settled_at) FROM settled_move WHERE settled_at <= :at GROUP BY resource
            """).param("at", instant.toEpochMilli()).query(r -> {
      settled.put(r.getString(1), Instant.ofEpochMilli(r.getLong(2)));
    });
    return settled;
  }

  void add(String resource, String by, String reason, Instant now) {
    database.write(() -> database
        .writes()
        .sql("INSERT OR IGNORE INTO settled_move VALUES (:resource, :at, :by, :reason)")
        .param("resource", resource)
        .param("at", now.toEpochMilli())
        .param("by", by)
        .param("reason", reason)
        .update());
  }
}
