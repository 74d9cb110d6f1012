package hardproof.server.drills;

import hardproof.core.wording.Coded;
import hardproof.proving.drills.SqlCheck;
import hardproof.server.storage.Database;
import java.util.List;

/** The queries that are kept for each resource's drills. */
public final class SqlCheckStore {
  private final Database database;

  public SqlCheckStore(Database database) {
    this.database = database;
  }

  /** The queries that are asked of a resource's restored database. */
  public List<SqlCheck> of(String resource) {
    return database
        .reads()
        .sql("SELECT query, operator, expected FROM sql_check WHERE resource = :r ORDER BY number")
        .param("r", resource)
        .query((r, n) -> new SqlCheck(
            r.getString(1), Coded.of(SqlCheck.Operator.class, r.getString(2)), r.getString(3)))
        .list();
  }

  /** Keeps the queries for the next drills of a resource, in place of those it had. */
  public void keep(String resource, List<SqlCheck> checks) {
    database.write(() -> {
      database
          .writes()
          .sql("DELETE FROM sql_check WHERE resource = :r")
          .param("r", resource)
          .update();
      for (int i = 0; i < checks.size(); i++) {
        database
            .writes()
            .sql("INSERT INTO sql_check VALUES (:r, :n, :query, :operator, :expected)")
            .param("r", resource)
            .param("n", i)
            .param("query", checks.get(i).query())
            .param("operator", checks.get(i).operator().code())
            .param("expected", checks.get(i).expected())
            .update();
      }
      return null;
    });
  }
}
