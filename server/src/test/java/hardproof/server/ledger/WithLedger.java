package hardproof.server.ledger;

import hardproof.core.drills.Method;
import hardproof.server.WithEstate;
import hardproof.server.activity.Activity;
import hardproof.server.drills.DrillWith;
import hardproof.server.runs.Run;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;

/** An estate with two drills and some other things in its ledger. */
abstract class WithLedger extends WithEstate {
  protected Run passed;
  protected Run failed;

  @BeforeEach
  void live() {
    DrillWith drills = new DrillWith(estate);
    passed = drills.run("share", Method.READ_THROUGH, Duration.ZERO, List.of());
    failed = drills.run("db", Method.FULL_RESTORE, Duration.ZERO, List.of());
    part(Activity.class).record("tester", "looked", "share", "");
  }

  protected <T> T part(Class<T> type) {
    return estate.installation.part(type);
  }

  protected Ledger ledger() {
    return part(Ledger.class);
  }

  protected LedgerDesk.Checked checked() {
    return part(LedgerDesk.class).check();
  }

  /** As somebody does who holds the file and knows what keeps it from being changed. */
  protected void forge(String... statements) {
    try (Connection c = DriverManager.getConnection(
            "jdbc:sqlite:" + estate.folder.resolve("data").resolve("hard-proof.db"));
        Statement s = c.createStatement()) {
      List<String> triggers = new java.util.ArrayList<>();
      try (var rows =
          s.executeQuery("SELECT name, sql FROM sqlite_schema WHERE type = 'trigger'")) {
        while (rows.next()) {
          triggers.add(rows.getString(1) + "\u0000" + rows.getString(2));
        }
      }
      for (String trigger : triggers) {
        s.execute("DROP TRIGGER " + trigger.substring(0, trigger.indexOf(0)));
      }
      for (String statement : statements) {
        s.execute(statement);
      }
      for (String trigger : triggers) {
        s.execute(trigger.substring(trigger.indexOf(0) + 1));
      }
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }
}
