package hardproof.server.alerts;

import hardproof.core.alerts.AlertKind;
import hardproof.core.wording.Coded;
import hardproof.server.facts.SelectorJson;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** The watches that there are. */
public final class WatchStore {
  private final Database database;

  public WatchStore(Database database) {
    this.database = database;
  }

  public List<Watch> all() {
    return database
        .reads()
        .sql("SELECT id, name, kinds, selector, how, recipient, after_ms, repeat_ms, quiet_from,"
            + " quiet_until, zone, active FROM watch ORDER BY id")
        .query((r, n) -> watch(r))
        .list();
  }

  public Optional<Watch> find(long id) {
    return all().stream().filter(w -> w.id() == id).findFirst();
  }

  private static Watch watch(ResultSet r) throws SQLException {
    return new Watch(
        r.getLong("id"),
        r.getString("name"),
        kinds(r.getString("kinds")),
        SelectorJson.read(r.getString("selector")),
        Coded.of(Watch.How.class, r.getString("how")),
        r.getString("recipient"),
        Duration.ofMillis(r.getLong("after_ms")),
        Columns.duration(r, 8),
        quiet(r.getString("quiet_from"), r.getString("quiet_until"), r.getString("zone")),
        r.getInt("active") == 1);
  }

  private static Set<AlertKind> kinds(String codes) {
    return Arrays.stream(codes.split(" "))
        .filter(c -> !c.isEmpty())
        .map(c -> Coded.of(AlertKind.class, c))
        .collect(Collectors.toCollection(TreeSet::new));
  }

  private static Watch.@Nullable Quiet quiet(
      @Nullable String from, @Nullable String until, String zone) {
    return from == null || until == null
        ? null
        : new Watch.Quiet(LocalTime.parse(from), LocalTime.parse(until), ZoneId.of(zone));
  }

  /** Adds one, or writes over the one with its number. */
  public Watch put(Watch watch, String by, Instant now) {
    long id = database.write(() -> database
        .writes()
        .sql("""
            INSERT INTO watch (id, name, kinds, selector, how, recipient, after_ms, repeat_ms, quiet_from,
                               quiet_until, zone, active, changed_by, changed_at)
            VALUES (:id, :name, :kinds, :selector, :how, :recipient, :after, :repeat, :from, :until, :zone,
                    :active, :by, :now)
            ON CONFLICT (id) DO UPDATE SET name = excluded.name, kinds = excluded.kinds,
              selector = excluded.selector, how = excluded.how, recipient = excluded.recipient,
              after_ms = excluded.after_ms, repeat_ms = excluded.repeat_ms, quiet_from = excluded.quiet_from,
              quiet_until = excluded.quiet_until, zone = excluded.zone, active = excluded.active,
              changed_by = excluded.changed_by, changed_at = excluded.changed_at
            RETURNING id
            """)
        .param("id", watch.id() == 0 ? null : watch.id())
        .param("name", watch.name())
        .param("kinds", watch.kinds().stream().map(Coded::code).collect(Collectors.joining(" ")))
        .param("selector", SelectorJson.write(watch.scope()))
        .param("how", watch.how().code())
        .param("recipient", watch.recipient())
        .param("after", watch.after().toMillis())
        .param("repeat", watch.repeat() == null ? null : watch.repeat().toMillis())
        .param("from", watch.quiet() == null ? null : watch.quiet().from().toString())
        .param("until", watch.quiet() == null ? null : watch.quiet().until().toString())
        .param("zone", watch.quiet() == null ? "UTC" : watch.quiet().zone().getId())
        .param("active", watch.active() ? 1 : 0)
        .param("by", by)
        .param("now", now.toEpochMilli())
        .query(Long.class)
        .single());
    return find(id).orElseThrow();
  }

  /** Removes one. Its messages stay, and those that wait are not sent any more. */
  public void remove(long id, Instant now) {
    database.write(() -> {
      database
          .writes()
          .sql("UPDATE message SET state = 'failed', next_at = NULL, ended_at = :now,"
              + " problem = 'its watch was removed' WHERE watch = :id AND state = 'waiting'")
          .param("now", now.toEpochMilli())
          .param("id", id)
          .update();
      return database
          .writes()
          .sql("DELETE FROM watch WHERE id = :id")
          .param("id", id)
          .update();
    });
  }
}
