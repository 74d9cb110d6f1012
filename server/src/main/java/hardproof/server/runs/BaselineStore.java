package hardproof.server.runs;

import hardproof.proving.checksums.BlockManifest;
import hardproof.proving.drills.Baseline;
import hardproof.server.storage.Database;
import java.time.Instant;
import java.util.List;

/** What artifacts without a checksum were when they were first read. */
public final class BaselineStore {
  private final Database database;

  public BaselineStore(Database database) {
    this.database = database;
  }

  /** What was first read of a copy; null when it never was, or lies elsewhere by now. */
  public Baseline of(String point, String store, String place) {
    return database
        .reads()
        .sql(
            "SELECT seen_at, blocks FROM baseline WHERE point = :p AND store = :s AND place = :place")
        .param("p", point)
        .param("s", store)
        .param("place", place)
        .query((r, n) -> new Baseline(
            point, place, Instant.ofEpochMilli(r.getLong(1)), BlockManifest.parse(r.getString(2))))
        .optional()
        .orElse(null);
  }

  /** Keeps first readings; an earlier one of the same artifact stays. */
  public void keep(List<Baseline> baselines, String store, String run, Instant now) {
    for (Baseline baseline : baselines) {
      database.write(() -> database
          .writes()
          .sql("""
              INSERT INTO baseline (point, store, place, seen_at, run, blocks)
              VALUES (:point, :store, :place, :seen, :run, :blocks)
              ON CONFLICT (point, store, place) DO NOTHING
              """)
          .param("point", baseline.point())
          .param("store", store)
          .param("place", baseline.place())
          .param("seen", now.toEpochMilli())
          .param("run", run)
          .param("blocks", baseline.blocks().format())
          .update());
    }
  }
}
