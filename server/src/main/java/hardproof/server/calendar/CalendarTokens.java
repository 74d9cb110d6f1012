package hardproof.server.calendar;

import hardproof.proving.checksums.Sha256;
import hardproof.server.people.PeopleStore;
import hardproof.server.people.Person;
import hardproof.server.storage.Database;
import java.nio.charset.StandardCharsets;
import java.security.SecureRandom;
import java.time.Instant;
import java.util.Base64;
import java.util.Optional;

/** Addresses of people's calendars: whoever has one reads it without signing in, until it is ended. */
public final class CalendarTokens {
  private static final int BYTES = 24;

  private final Database database;
  private final PeopleStore people;
  private final SecureRandom random = new SecureRandom();

  public CalendarTokens(Database database, PeopleStore people) {
    this.database = database;
    this.people = people;
  }

  /**
   * Makes a person's address, in place of the one before.
   *
   * @return the token, which is kept nowhere and shown once
   */
  public String make(String person, Instant now) {
    byte[] bytes = new byte[BYTES];
    random.nextBytes(bytes);
    String token = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    database.write(() -> {
      end(person);
      return database
          .writes()
          .sql("INSERT INTO calendar_token VALUES (:token, :person, :now)")
          .param("token", sha256(token))
          .param("person", person)
          .param("now", now.toEpochMilli())
          .update();
    });
    return token;
  }

  /**
   * Ends a person's address.
   *
   * @return false when there is none
   */
  public boolean end(String person) {
    return database.write(() -> database
            .writes()
            .sql("DELETE FROM calendar_token WHERE person = :person")
            .param("person", person)
            .update())
        == 1;
  }

  /** When a person's address was made; empty when there is none. */
  public Optional<Instant> madeAt(String person) {
    return database
        .reads()
        .sql("SELECT made_at FROM calendar_token WHERE person = :person")
        .param("person", person)
        .query(Long.class)
        .optional()
        .map(Instant::ofEpochMilli);
  }

  /** Whose address it is; empty when it is nobody's, or theirs who has left. */
  public Optional<Person> whose(String token) {
    return database
        .reads()
        .sql("SELECT person FROM calendar_token WHERE token_sha256 = :token")
        .param("token", sha256(token))
        .query(String.class)
        .optional()
        .flatMap(people::find)
        .filter(Person::active);
  }

  private static String sha256(String token) {
    return Sha256.of(token.getBytes(StandardCharsets.UTF_8));
  }
}
