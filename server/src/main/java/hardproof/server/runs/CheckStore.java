package hardproof.server.runs;

import hardproof.core.wording.Coded;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.server.storage.Database;
import java.util.List;

/** The checks that are kept for each resource's drills. */
public final class CheckStore {
  private final Database database;

  public CheckStore(Database database) {
    this.database = database;
  }

  /** The checks that are asked of what is restored of a resource. */
  public List<Check> of(String resource) {
    return database
        .reads()
        .sql("SELECT type, subject, expected FROM drill_check WHERE resource = :r ORDER BY number")
        .param("r", resource)
        .query((r, n) ->
            new Check(Coded.of(CheckType.class, r.getString(1)), r.getString(2), r.getString(3)))
        .list();
  }

  /** Keeps checks for the next drills of a resource, in place of those it had. */
  public void keep(String resource, List<Check> checks) {
    database.write(() -> {
      database
          .writes()
          .sql("DELETE FROM drill_check WHERE resource = :r")
          .param("r", resource)
          .update();
      insert(resource, checks);
      return null;
    });
  }

  private void insert(String resource, List<Check> checks) {
    for (int i = 0; i < checks.size(); i++) {
      database
          .writes()
          .sql("INSERT INTO drill_check VALUES (:r, :n, :type, :subject, :expected)")
          .param("r", resource)
          .param("n", i)
          .param("type", checks.get(i).type().code())
          .param("subject", checks.get(i).subject())
          .param("expected", checks.get(i).expected())
          .update();
    }
  }
}
