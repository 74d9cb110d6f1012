package hardproof.server.alerts;

import hardproof.core.alerts.AlertCause;
import hardproof.core.alerts.AlertKind;
import hardproof.core.wording.Coded;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Alerts, and what happened to each. */
public final class AlertStore {
  private static final String COLUMNS =
      "SELECT id, kind, subject, name, workload, tier, sentence, counted, opened_at, closed_at,"
          + " acknowledged_at, acknowledged_by, note FROM alert";

  private final Database database;

  public AlertStore(Database database) {
    this.database = database;
  }

  /** One thing that happened to an alert; {@code by} null where nobody did it. */
  public record AlertEvent(
      Instant at, String event, @Nullable String by, String text) {}

  /** Those that are open, the newest first. */
  public List<Alert> open() {
    return database
        .reads()
        .sql(COLUMNS + " WHERE closed_at IS NULL ORDER BY opened_at DESC, id DESC")
        .query((r, n) -> alert(r))
        .list();
  }

  /** Those that are closed, the newest first. */
  public List<Alert> closed(int atMost) {
    return database
        .reads()
        .sql(COLUMNS + " WHERE closed_at IS NOT NULL ORDER BY closed_at DESC, id DESC LIMIT :n")
        .param("n", atMost)
        .query((r, n) -> alert(r))
        .list();
  }

  public Optional<Alert> find(long id) {
    return database
        .reads()
        .sql(COLUMNS + " WHERE id = :id")
        .param("id", id)
        .query((r, n) -> alert(r))
        .optional();
  }

  /** Everything that happened to one, oldest first. */
  public List<AlertEvent> events(long alert) {
    return database
        .reads()
        .sql("SELECT at, event, by, text FROM alert_event WHERE alert = :a ORDER BY id")
        .param("a", alert)
        .query((r, n) -> new AlertEvent(
            Instant.ofEpochMilli(r.getLong(1)), r.getString(2), r.getString(3), r.getString(4)))
        .list();
  }

  void open(AlertCause cause, Instant now) {
    long id = database
        .writes()
        .sql("""
            INSERT INTO alert (kind, subject, name, workload, tier, sentence, counted, opened_at)
            VALUES (:kind, :subject, :name, :workload, :tier, :sentence, :counted, :now) RETURNING id
            """)
        .param("kind", cause.kind().code())
        .param("subject", cause.subject())
        .param("name", cause.name())
        .param("workload", cause.workload())
        .param("tier", cause.tier())
        .param("sentence", cause.sentence())
        .param("counted", cause.counted())
        .param("now", now.toEpochMilli())
        .query(Long.class)
        .single();
    event(id, now, "opened", null, cause.sentence());
  }

  /** The same alert, told in other words or standing for more; that is no event of its own. */
  void change(Alert alert, AlertCause cause) {
    database
        .writes()
        .sql("UPDATE alert SET sentence = :sentence, counted = :counted, name = :name, tier = :tier"
            + " WHERE id = :id")
        .param("sentence", cause.sentence())
        .param("counted", cause.counted())
        .param("name", cause.name())
        .param("tier", cause.tier())
        .param("id", alert.id())
        .update();
  }

  void close(Alert alert, Instant now) {
    database
        .writes()
        .sql("UPDATE alert SET closed_at = :now WHERE id = :id AND closed_at IS NULL")
        .param("now", now.toEpochMilli())
        .param("id", alert.id())
        .update();
    event(alert.id(), now, "closed", null, "its cause is gone");
  }

  void acknowledge(Alert alert, String by, String note, Instant now) {
    database
        .writes()
        .sql("UPDATE alert SET acknowledged_at = :now, acknowledged_by = :by, note = :note"
            + " WHERE id = :id")
        .param("now", now.toEpochMilli())
        .param("by", by)
        .param("note", note)
        .param("id", alert.id())
        .update();
    event(alert.id(), now, "acknowledged", by, note);
  }

  private void event(long alert, Instant at, String event, @Nullable String by, String text) {
    database
        .writes()
        .sql("INSERT INTO alert_event (alert, at, event, by, text) VALUES (:a, :at, :e, :by, :t)")
        .param("a", alert)
        .param("at", at.toEpochMilli())
        .param("e", event)
        .param("by", by)
        .param("t", text)
        .update();
  }

  private static Alert alert(ResultSet r) throws SQLException {
    return new Alert(
        r.getLong("id"),
        Coded.of(AlertKind.class, r.getString("kind")),
        r.getString("subject"),
        r.getString("name"),
        r.getString("workload"),
        Columns.integer(r, 6),
        r.getString("sentence"),
        r.getInt("counted"),
        Instant.ofEpochMilli(r.getLong("opened_at")),
        Columns.instant(r, 10),
        Columns.instant(r, 11),
        r.getString("acknowledged_by"),
        r.getString("note"));
  }
}
