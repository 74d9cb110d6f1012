package hardproof.server.alerts;

import hardproof.core.wording.Coded;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Every message, with what became of it. */
public final class MessageStore {
  private static final String COLUMNS =
      "SELECT id, watch, alert, what, how, recipient, subject, body, made_at, state, tries, next_at,"
          + " ended_at, problem FROM message";

  private final Database database;

  public MessageStore(Database database) {
    this.database = database;
  }

  /** What became of a message. */
  public enum State implements Coded {
    WAITING,
    SENT,
    FAILED
  }

  /** What a message says of its alert. */
  public enum What implements Coded {
    OPENED,
    AGAIN,
    CLOSED
  }

  /**
   * A message.
   *
   * @param nextAt when it is tried next; null when it is not any more
   * @param problem why the last try failed; null where none did
   */
  public record Message(
      long id,
      long watch,
      long alert,
      What what,
      Watch.How how,
      String recipient,
      String subject,
      String body,
      Instant madeAt,
      State state,
      int tries,
      @Nullable Instant nextAt,
      @Nullable Instant endedAt,
      @Nullable String problem) {}

  /** The newest first. */
  public List<Message> newest(int atMost) {
    return database
        .reads()
        .sql(COLUMNS + " ORDER BY id DESC LIMIT :n")
        .param("n", atMost)
        .query((r, n) -> message(r))
        .list();
  }

  /** Those that are due to be tried, the oldest first. */
  List<Message> due(Instant now) {
    return database
        .reads()
        .sql(
            COLUMNS + " WHERE state = 'waiting' AND next_at <= :now ORDER BY next_at, id LIMIT 100")
        .param("now", now.toEpochMilli())
        .query((r, n) -> message(r))
        .list();
  }

  /** Those that were given up, of watches that are on, where none was delivered since. */
  List<Message> failed() {
    return database
        .reads()
        .sql(COLUMNS
            + " m WHERE state = 'failed' AND watch IN (SELECT id FROM watch WHERE active = 1) AND id = (SELECT max(id) FROM message"
            + " WHERE watch = m.watch AND state <> 'waiting')")
        .query((r, n) -> message(r))
        .list();
  }

  /** The last one that a watch told of an alert. */
  Optional<Message> last(long watch, long alert) {
    return database
        .reads()
        .sql(COLUMNS + " WHERE watch = :w AND alert = :a ORDER BY id DESC LIMIT 1")
        .param("w", watch)
        .param("a", alert)
        .query((r, n) -> message(r))
        .optional();
  }

  void add(
      Watch watch, Alert alert, What what, String recipient, String body, Instant now, Instant at) {
    database.write(() -> database
        .writes()
        .sql("""
            INSERT INTO message (watch, alert, what, how, recipient, subject, body, made_at, state, next_at)
            VALUES (:watch, :alert, :what, :how, :recipient, :subject, :body, :now, 'waiting', :at)
            """)
        .param("watch", watch.id())
        .param("alert", alert.id())
        .param("what", what.code())
        .param("how", watch.how().code())
        .param("recipient", recipient)
        .param("subject", AlertWords.subject(alert, what))
        .param("body", body)
        .param("now", now.toEpochMilli())
        .param("at", at.toEpochMilli())
        .update());
  }

  void ended(Message message, State state, @Nullable String problem, Instant now) {
    database.write(() -> database
        .writes()
        .sql(
            "UPDATE message SET state = :state, tries = tries + 1, next_at = NULL, ended_at = :now,"
                + " problem = :problem WHERE id = :id")
        .param("state", state.code())
        .param("now", now.toEpochMilli())
        .param("problem", problem)
        .param("id", message.id())
        .update());
  }

  void later(Message message, String problem, Instant next) {
    database.write(() -> database
        .writes()
        .sql(
            "UPDATE message SET tries = tries + 1, next_at = :next, problem = :problem WHERE id = :id")
        .param("next", next.toEpochMilli())
        .param("problem", problem)
        .param("id", message.id())
        .update());
  }

  private static Message message(ResultSet r) throws SQLException {
    return new Message(
        r.getLong("id"),
        r.getLong("watch"),
        r.getLong("alert"),
        Coded.of(What.class, r.getString("what")),
        Coded.of(Watch.How.class, r.getString("how")),
        r.getString("recipient"),
        r.getString("subject"),
        r.getString("body"),
        Instant.ofEpochMilli(r.getLong("made_at")),
        Coded.of(State.class, r.getString("state")),
        r.getInt("tries"),
        Columns.instant(r, 12),
        Columns.instant(r, 13),
        r.getString("problem"));
  }
}
