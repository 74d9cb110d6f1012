package hardproof.server.runs;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.RestoreState;
import hardproof.core.drills.Transitions;
import hardproof.core.wording.Coded;
import hardproof.server.storage.Database;
import java.time.Instant;
import java.util.function.Consumer;

/** A run's three answers, each moved on only as the table of transitions allows. */
final class RunAnswers {
  private final Database database;

  RunAnswers(Database database) {
    this.database = database;
  }

  void restore(String id, RestoreState to) {
    change(id, "restore", to, from -> Transitions.check(Coded.of(RestoreState.class, from), to));
  }

  void checks(String id, ChecksState to) {
    change(id, "checks", to, from -> Transitions.check(Coded.of(ChecksState.class, from), to));
  }

  void cleanup(String id, CleanupState to, Instant now) {
    database.write(() -> {
      change(id, "cleanup", to, from -> Transitions.check(Coded.of(CleanupState.class, from), to));
      return database
          .writes()
          .sql("INSERT INTO cleanup_change (run, at, state) VALUES (:run, :at, :state)")
          .param("run", id)
          .param("at", now.toEpochMilli())
          .param("state", to.code())
          .update();
    });
  }

  private void change(String id, String column, Coded to, Consumer<String> check) {
    database.change(() -> {
      String from = database
          .writes()
          .sql("SELECT " + column + " FROM drill_run WHERE id = :id")
          .param("id", id)
          .query(String.class)
          .single();
      check.accept(from);
      return database
          .writes()
          .sql(
              "UPDATE drill_run SET " + column + " = :to WHERE id = :id AND " + column + " = :from")
          .param("to", to.code())
          .param("id", id)
          .param("from", from)
          .update();
    });
  }
}
