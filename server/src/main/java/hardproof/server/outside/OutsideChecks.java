package hardproof.server.outside;

import hardproof.proving.checks.Check;
import hardproof.proving.checksums.Sha256;
import hardproof.server.runs.Run;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;

/**
 * Asks somebody outside about a run: its description goes to a webhook as a signed CloudEvent, and the
 * answer comes back on a token that works once, until its time-out.
 */
public final class OutsideChecks implements AutoCloseable {
  private final Database database;
  private final OutsideDelivery delivery;
  private final Clock clock;
  private final SecureRandom random = new SecureRandom();
  private volatile String address = "http://localhost:8080";

  public OutsideChecks(Database database, OutsideHosts hosts, EventSigner signer, Clock clock) {
    this.database = database;
    this.delivery = new OutsideDelivery(hosts, signer);
    this.clock = clock;
  }

  /** Where answers are to be sent to: our own address as others see it. */
  public void answersTo(String ownAddress) {
    this.address = ownAddress;
  }

  /** The longest time-out of some checks. */
  public static Duration longest(List<Check> checks) {
    return checks.stream().map(Check::duration).max(Duration::compareTo).orElse(Duration.ZERO);
  }

  /** A question to one address, with the token that its answer needs. */
  private record Question(int number, String address, String token, Instant until) {}

  private String newToken() {
    byte[] secret = new byte[32];
    random.nextBytes(secret);
    return HexFormat.of().formatHex(secret);
  }

  /**
   * Asks every check of a run; all are written down before any is sent, so that a crash can't make one of
   * them look like all. What can't be delivered is left to time out, and says so.
   */
  public void ask(Run run, List<Check> checks, Instant now) {
    List<Question> questions = new ArrayList<>();
    for (Check check : checks) {
      questions.add(
          new Question(questions.size(), check.subject(), newToken(), now.plus(check.duration())));
    }
    database.change(() -> {
      for (Question q : questions) {
        write(run, now, q);
      }
      return null;
    });
    questions.forEach(q -> send(run, q, now));
  }

  private void write(Run run, Instant now, Question q) {
    database
        .writes()
        .sql("""
                INSERT INTO outside_check (token_sha256, run, number, address, asked_at, until)
                VALUES (:token, :run, :number, :address, :now, :until)
                """)
        .param("token", hash(q.token()))
        .param("run", run.id())
        .param("number", q.number())
        .param("address", q.address())
        .param("now", now.toEpochMilli())
        .param("until", q.until().toEpochMilli())
        .update();
  }

  /**
   * Asks again what a process that ended had not delivered yet. Of a token only its checksum is kept, so
   * each gets a new one; the time-outs stay.
   */
  public void askAgain(Run run, Instant now) {
    List<Question> questions = notDelivered(run, now);
    for (Question q : questions) {
      int changed = renewToken(run, q);
      if (changed == 1) {
        send(run, q, now);
      }
    }
  }

  private List<Question> notDelivered(Run run, Instant now) {
    return database
        .reads()
        .sql("""
            SELECT number, address, until FROM outside_check
             WHERE run = :run AND delivered IS NULL AND answered_at IS NULL AND until > :now
            """)
        .param("run", run.id())
        .param("now", now.toEpochMilli())
        .query((r, n) -> new Question(
            r.getInt(1), r.getString(2), newToken(), Instant.ofEpochMilli(r.getLong(3))))
        .list();
  }

  private int renewToken(Run run, Question q) {
    return database.write(() -> database
        .writes()
        .sql("""
              UPDATE outside_check SET token_sha256 = :token
               WHERE run = :run AND number = :number AND answered_at IS NULL
              """)
        .param("token", hash(q.token()))
        .param("run", run.id())
        .param("number", q.number())
        .update());
  }

  private void send(Run run, Question q, Instant now) {
    // Each question is an event of its own, also where one address is asked twice.
    String hash = hash(q.token());
    String event = CloudEvent.drillRestored(
        hash.substring(0, 32), run, address + "/api/outside-checks/" + q.token(), q.until(), now);
    delivery.send(q.address(), event, (done, said) -> delivered(hash, done, said));
  }

  private static String hash(String token) {
    return Sha256.of(token.getBytes(StandardCharsets.US_ASCII));
  }

  private void delivered(String tokenHash, boolean done, String message) {
    database.write(() -> database
        .writes()
        .sql("""
            UPDATE outside_check SET delivered = :done, message = :message
             WHERE token_sha256 = :token AND answered_at IS NULL
            """)
        .param("done", done ? 1 : 0)
        .param("message", message)
        .param("token", tokenHash)
        .update());
  }

  /** Whether all checks of a run are answered, or one has failed, and what was said. */
  public record Answered(boolean all, boolean passed, String sentence) {}

  /**
   * Takes an answer.
   *
   * @return the run it is about; empty when the token is unknown, used or too late
   */
  public Optional<String> take(String token, boolean passed, String message) {
    Instant now = clock.instant();
    String said = message.length() > 500 ? message.substring(0, 500) : message;
    int taken = putAnswer(token, passed, now, said);
    return taken == 0
        ? Optional.empty()
        : database
            .reads()
            .sql("SELECT run FROM outside_check WHERE token_sha256 = :token")
            .param("token", hash(token))
            .query(String.class)
            .optional();
  }

  private int putAnswer(String token, boolean passed, Instant now, String said) {
    return database.write(() -> database
        .writes()
        .sql("""
            UPDATE outside_check SET answered_at = :now, passed = :passed, message = :message
             WHERE token_sha256 = :token AND answered_at IS NULL AND until >= :now
            """)
        .param("now", now.toEpochMilli())
        .param("passed", passed ? 1 : 0)
        .param("message", said)
        .param("token", hash(token))
        .update());
  }

  private record Asked(String address, Boolean passed, Boolean delivered, String message) {}

  private List<Asked> questions(String run) {
    return database
        .reads()
        .sql("""
            SELECT address, passed, delivered, message FROM outside_check WHERE run = :run ORDER BY number
            """)
        .param("run", run)
        .query((r, n) -> {
          return new Asked(
              r.getString(1), Columns.yesNo(r, 2), Columns.yesNo(r, 3), r.getString(4));
        })
        .list();
  }

  /** Whether anybody was asked about a run. */
  public boolean asked(String run) {
    return !questions(run).isEmpty();
  }

  public Answered state(String run) {
    List<Asked> all = questions(run);
    boolean failed = all.stream().anyMatch(a -> Boolean.FALSE.equals(a.passed()));
    boolean whole = failed || !all.isEmpty() && all.stream().allMatch(a -> a.passed() != null);
    List<String> said = new ArrayList<>();
    for (Asked a : all) {
      if (a.passed() != null) {
        said.add(URI.create(a.address()).getHost() + " answered "
            + (a.passed() ? "that it passes" : "that it fails")
            + (a.message().isBlank() ? "" : " (" + a.message() + ")"));
      }
    }
    return new Answered(whole, whole && !failed, String.join("; ", said));
  }

  /** Why no answer came, for people. */
  public String unanswered(String run) {
    List<String> said = new ArrayList<>();
    for (Asked a : questions(run)) {
      if (a.passed() == null) {
        said.add(URI.create(a.address()).getHost() + " did not answer in time"
            + (a.delivered() == null
                ? ": whether it was reached is not known"
                : a.delivered() ? "" : ": " + a.message()));
      }
    }
    return String.join("; ", said);
  }

  @Override
  public void close() {
    delivery.close();
  }
}
