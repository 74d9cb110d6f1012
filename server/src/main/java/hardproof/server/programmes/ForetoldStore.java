package hardproof.server.programmes;

import hardproof.server.storage.Database;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** What was foretold of each night before it began, and what happened in it. */
public final class ForetoldStore {
  private final Database database;

  public ForetoldStore(Database database) {
    this.database = database;
  }

  /** What was foretold of a night: keys of the resources of which a programme would begin a drill. */
  public record Foretold(Instant opens, Instant madeAt, Set<String> resources) {}

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
        .sql("SELECT opens_at, made_at, resources FROM foretold_night" + which)
        .query((r, n) -> new Foretold(
            Instant.ofEpochMilli(r.getLong(1)),
            Instant.ofEpochMilli(r.getLong(2)),
            new TreeSet<>(r.getString(3).lines().toList())))
        .list();
  }

  /** Keeps what is foretold of a night that has not begun, in place of what was before. */
  public void keep(Foretold foretold) {
    database.write(() -> database
        .writes()
        .sql("""
            INSERT INTO foretold_night VALUES (:opens, :made, :resources)
                ON CONFLICT (opens_at) DO UPDATE SET made_at = excluded.made_at, resources = excluded.resources
            """)
        .param("opens", foretold.opens().toEpochMilli())
        .param("made", foretold.madeAt().toEpochMilli())
        .param("resources", String.join("\n", foretold.resources()))
        .update());
  }

  /** Keys of the resources of which a programme began a drill in [from, until). */
  public Set<String> begun(Instant from, Instant until) {
    return new TreeSet<>(database
        .reads()
        .sql("""
            SELECT DISTINCT resource FROM drill_run
             WHERE programme IS NOT NULL AND started_at >= :from AND started_at < :until
            """)
        .param("from", from.toEpochMilli())
        .param("until", until.toEpochMilli())
        .query(String.class)
        .list());
  }
}
