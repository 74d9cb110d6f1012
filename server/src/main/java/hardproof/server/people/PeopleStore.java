package hardproof.server.people;

import hardproof.core.wording.Coded;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;

/** People in the database; passwords only as hashes. */
public final class PeopleStore {
  private static final String SELECT =
      "SELECT name, full_name, role, password_hash, demo FROM person ";

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
        r.getInt(5) == 1);
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
}
