package hardproof.server.survival;

import hardproof.core.losses.Loss;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.time.Instant;
import java.util.List;

/** Losses that people gave a name, so that the same is asked again. */
public final class KeptLosses {
  private final Database database;

  public KeptLosses(Database database) {
    this.database = database;
  }

  /** One of them. */
  record Kept(String name, Loss loss, String by, Instant at) {}

  /** By their names. */
  List<Kept> all() {
    return database
        .reads()
        .sql("SELECT name, lost, kept_by, kept_at FROM kept_loss ORDER BY name")
        .query((r, n) -> new Kept(
            r.getString(1), LossJson.read(r.getString(2)), r.getString(3), Columns.instant(r, 4)))
        .list();
  }

  /** In place of another of the same name. */
  void keep(Kept kept) {
    database.write(() -> database
        .writes()
        .sql("INSERT OR REPLACE INTO kept_loss VALUES (:name, :lost, :by, :at)")
        .param("name", kept.name())
        .param("lost", LossJson.write(kept.loss()))
        .param("by", kept.by())
        .param("at", kept.at().toEpochMilli())
        .update());
  }

  /** False where there was none. */
  boolean forget(String name) {
    return database.write(() -> database
            .writes()
            .sql("DELETE FROM kept_loss WHERE name = :name")
            .param("name", name)
            .update()
        > 0);
  }
}
