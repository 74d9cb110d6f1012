package hardproof.server.programmes;

import hardproof.server.storage.Database;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** What was foretold of each night before it began, and what happened in it. */
public final class ForetoldStore {
  private final Database database;

  public ForetoldStore(Database database) {
    this.database = database;
  }

  /**
   * What was foretold of a night.
   *
   * @param resources keys of those of which a programme would begin a drill
   * @param until when the next was to open; null where that was not kept
   */
  public record Foretold(
      Instant opens,
      Instant madeAt,
      Set<String> resources,
      @Nullable Instant until) {}

  /** The newest that was foretold of a night; empty where nothing was. */
  public Optional<Foretold> of(Instant opens) {
    return list(" WHERE opens_at = " + opens.toEpochMilli()).stream().findFirst();
  }

  /** The last nights that opened before {@code now}, newest first. */
  public List<Foretold> last(Instant now, int atMost) {
    return list(
        " WHERE opens_at < " + now.toEpochMilli() + " ORDER BY opens_at DESC LIMIT " + atMost);
  }

  private List<Foretold> list(String which) {
    return database
        .reads()
        .sql("SELECT opens_at, made_at, resources, until_at FROM foretold_night" + which)
        .query((r, n) -> new Foretold(
            Instant.ofEpochMilli(r.getLong(1)),
            Instant.ofEpochMilli(r.getLong(2)),
            new TreeSet<>(r.getString(3).lines().toList()),
            r.getObject(4) == null ? null : Instant.ofEpochMilli(r.getLong(4))))
        .list();
  }

  /** Keeps what is foretold of a night that has not begun, in place of what was before. */
  public void keep(Foretold foretold) {
    database.write(() -> database
        .writes()
        .sql("""
            INSERT INTO foretold_night VALUES (:opens, :made, :resources, :until)
                ON CONFLICT (opens_at) DO UPDATE
               SET made_at = excluded.made_at, resources = excluded.resources, until_at = excluded.until_at
            """)
        .param("opens", foretold.opens().toEpochMilli())
        .param("made", foretold.madeAt().toEpochMilli())
        .param("resources", String.join("\n", foretold.resources()))
        .param("until", foretold.until() == null ? null : foretold.until().toEpochMilli())
        .update());
  }

  /** Keys of the resources of which a programme began a drill in [from, until); a sample of all is not foretold. */
  public Set<String> begun(Instant from, Instant until) {
    return new TreeSet<>(database
        .reads()
        .sql("""
            SELECT DISTINCT resource FROM drill_run
             WHERE programme IS NOT NULL AND started_at >= :from AND started_at < :until
               AND id NOT IN (SELECT run FROM drawn_run JOIN programme_draw USING (programme, due_at)
                               WHERE sample IS NOT NULL)
            """)
        .param("from", from.toEpochMilli())
        .param("until", until.toEpochMilli())
        .query(String.class)
        .list());
  }
}
