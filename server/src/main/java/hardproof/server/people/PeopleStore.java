package hardproof.server.people;

import hardproof.core.wording.Coded;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/** People in the database; passwords only as hashes. */
public final class PeopleStore {
  private static final String SELECT =
      "SELECT name, full_name, role, password_hash, demo, ended_at FROM person ";

  private final Database database;

  public PeopleStore(Database database) {
    this.database = database;
  }

  public Optional<Person> find(String name) {
    return database
        .reads()
        .sql(SELECT + "WHERE name = :name")
        .param("name", name)
        .query((r, n) -> person(r))
        .optional();
  }

  /** Everybody, by name. */
  public List<Person> all() {
    return database
        .reads()
        .sql(SELECT + "ORDER BY name")
        .query((r, n) -> person(r))
        .list();
  }

  private static Person person(ResultSet r) throws SQLException {
    return new Person(
        r.getString(1),
        r.getString(2),
        Coded.of(Role.class, r.getString(3)),
        r.getString(4),
        r.getInt(5) == 1,
        Columns.instant(r, 6));
  }

  /**
   * Adds somebody.
   *
   * @throws org.springframework.dao.DuplicateKeyException when the name is taken
   */
  public void add(Person p) {
    database.write(() -> insert(p));
  }

  /**
   * Adds the first person, if there is nobody yet; decided in one transaction.
   *
   * @return false when there is somebody already
   */
  public boolean addFirst(Person p) {
    return database.write(() -> {
      boolean empty =
          database.writes().sql("SELECT count(*) FROM person").query(Long.class).single() == 0;
      return empty && insert(p) == 1;
    });
  }

  private int insert(Person p) {
    return database
        .writes()
        .sql("INSERT INTO person (name, full_name, role, password_hash, demo)"
            + " VALUES (:name, :full_name, :role, :hash, :demo)")
        .param("name", p.name())
        .param("full_name", p.fullName())
        .param("role", p.role().code())
        .param("hash", p.passwordHash())
        .param("demo", p.demo() ? 1 : 0)
        .update();
  }

  /** Inside one transaction, for what is decided by what is there. */
  <T> T decide(Supplier<T> work) {
    return database.write(work);
  }

  /** As it is in the transaction that is open. */
  Optional<Person> locked(String name) {
    return database
        .writes()
        .sql(SELECT + "WHERE name = :name")
        .param("name", name)
        .query((r, n) -> person(r))
        .optional();
  }

  /** Administrators who can sign in, but for one; in the transaction that is open. */
  long otherAdministrators(String name) {
    return database
        .writes()
        .sql("SELECT count(*) FROM person WHERE role = 'administrator' AND ended_at IS NULL"
            + " AND password_hash <> :none AND name <> :name")
        .param("none", Person.NO_PASSWORD)
        .param("name", name)
        .query(Long.class)
        .single();
  }

  void role(String name, Role role) {
    database
        .writes()
        .sql("UPDATE person SET role = :role WHERE name = :name")
        .param("role", role.code())
        .param("name", name)
        .update();
  }

  void end(String name, Instant now) {
    database
        .writes()
        .sql("UPDATE person SET ended_at = :now, password_hash = :none WHERE name = :name")
        .param("now", now.toEpochMilli())
        .param("none", Person.NO_PASSWORD)
        .param("name", name)
        .update();
    dropLinks(name);
  }

  void password(String name, String hash) {
    database
        .writes()
        .sql("UPDATE person SET password_hash = :hash WHERE name = :name AND ended_at IS NULL")
        .param("hash", hash)
        .param("name", name)
        .update();
  }

  private void dropLinks(String name) {
    database
        .writes()
        .sql("DELETE FROM password_link WHERE person = :name AND used_at IS NULL")
        .param("name", name)
        .update();
  }

  /** Keeps a link that sets somebody's password; those made before do not work any more. */
  void link(String tokenSha256, String name, String by, Instant now, Instant until) {
    dropLinks(name);
    database
        .writes()
        .sql("INSERT INTO password_link (token_sha256, person, made_by, made_at, until)"
            + " VALUES (:token, :name, :by, :now, :until)")
        .param("token", tokenSha256)
        .param("name", name)
        .param("by", by)
        .param("now", now.toEpochMilli())
        .param("until", until.toEpochMilli())
        .update();
  }

  /** Whose password a link sets; empty when it is not known, used, or too old. */
  Optional<String> linked(String tokenSha256, Instant now) {
    return database
        .reads()
        .sql("SELECT person FROM password_link"
            + " WHERE token_sha256 = :token AND used_at IS NULL AND until > :now")
        .param("token", tokenSha256)
        .param("now", now.toEpochMilli())
        .query(String.class)
        .optional();
  }

  /** Uses a link up. False when somebody was faster. */
  boolean use(String tokenSha256, Instant now) {
    return database
            .writes()
            .sql("UPDATE password_link SET used_at = :now"
                + " WHERE token_sha256 = :token AND used_at IS NULL AND until > :now")
            .param("token", tokenSha256)
            .param("now", now.toEpochMilli())
            .update()
        == 1;
  }
}
