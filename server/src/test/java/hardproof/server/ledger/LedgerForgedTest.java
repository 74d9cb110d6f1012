package hardproof.server.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.server.activity.Activity;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Somebody holds the server and its file, and rewrites what has happened. */
class LedgerForgedTest extends WithLedger {
  private String difference() {
    LedgerDesk.Checked checked = checked();
    assertThat(checked.found()).isPositive();
    return String.join("\n", checked.differences());
  }

  private void is(String run, String set) {
    forge("UPDATE drill_run SET " + set + " WHERE id = '" + run + "'");
  }

  @Test
  void aFailureTurnedIntoAPassIsNamedWithBoth() {
    checked();
    assertThat(failed.checks().code()).isNotEqualTo("running");
    is(passed.id(), "checks = 'failed'");
    assertThat(difference())
        .contains("drill " + passed.id())
        .contains("checks was 'passed' when it was recorded and is 'failed' now");
    assertThat(part(LedgerDesk.class).warnings()).hasSize(1);
    assertThatThrownBy(() -> part(LedgerDesk.class).requireWhole())
        .isInstanceOf(Refused.class)
        .hasMessageContaining("No pack is issued until it is cleared up");
    is(passed.id(), "checks = 'passed'");
    assertThat(checked().differences()).isEmpty();
    part(LedgerDesk.class).requireWhole();
  }

  @Test
  void aStepAnotherTimeAndARunTakenAwayAreFound() {
    forge("UPDATE drill_step SET message = 'all is well' WHERE run = '" + failed.id() + "'");
    assertThat(difference()).contains("steps was");
    forge(
        "DELETE FROM drill_step WHERE run = '" + failed.id() + "'",
        "DELETE FROM cleanup_change WHERE run = '" + failed.id() + "'",
        "DELETE FROM drill_run WHERE id = '" + failed.id() + "'");
    assertThat(difference()).contains("drill " + failed.id() + ": it is not there any more");
  }

  @Test
  void aDrillThatNeverWasIsFound() {
    forge(
        "INSERT INTO drill_run (id, resource, point, store, method, checks_asked, requested_by, reason, queued_at,"
            + " started_at, ended_at, restore, checks, cleanup, hold_ms, reaches, sentence)"
            + " SELECT 'forged', resource, point, store, method, checks_asked, requested_by, reason, queued_at,"
            + " started_at, ended_at, restore, checks, cleanup, hold_ms, reaches, sentence FROM drill_run LIMIT 1");
    assertThat(difference()).contains("drill forged has no entry");
  }

  /** Whoever also rewrites the entry, and all hashes, is betrayed by a head that was signed before. */
  @Test
  void anEntryRewrittenWithItsHashesIsBetrayedByAHead() {
    checked();
    LedgerEntry entry = ledger().of(LedgerKind.DRILL, passed.id()).orElseThrow();
    is(passed.id(), "sentence = 'another'");
    forge("UPDATE ledger_entry SET body = replace(body, '" + passed.sentence().replace("'", "''")
        + "', 'another') WHERE number = " + entry.number());
    assertThat(difference())
        .contains("entry " + entry.number() + " was changed after it was recorded");
    List<LedgerEntry> all = ledger().from(0, 1000);
    forge("DELETE FROM ledger_node");
    forge(rehashed(all));
    assertThat(difference())
        .contains("what it stood for was rewritten")
        .doesNotContain("was changed after");
  }

  /** All nodes of the tree, worked out anew from the entries. */
  private static String[] rehashed(List<LedgerEntry> all) {
    List<String> statements = new java.util.ArrayList<>();
    List<hardproof.core.ledger.Digest> level =
        all.stream().map(LedgerEntry::leaf).toList();
    for (int l = 0; !level.isEmpty(); l++) {
      for (int i = 0; i < level.size(); i++) {
        statements.add(
            "INSERT INTO ledger_node VALUES (" + l + ", " + i + ", x'" + level.get(i) + "')");
      }
      List<hardproof.core.ledger.Digest> next = new java.util.ArrayList<>();
      for (int i = 0; i + 1 < level.size(); i += 2) {
        next.add(hardproof.core.ledger.Digest.node(level.get(i), level.get(i + 1)));
      }
      level = next;
    }
    return statements.toArray(String[]::new);
  }

  @Test
  void whatIsMissingIsNamedAndWhatComesAfterIsStillRecorded() {
    checked();
    long size = ledger().size();
    forge("DELETE FROM ledger_entry WHERE number = 2");
    assertThat(difference()).contains("entries 2 to 2 are missing");
    forge("DELETE FROM ledger_entry WHERE number >= " + (size - 2));
    assertThat(difference())
        .contains("the last 3 entries are missing", "put back to an older state");
    forge("DELETE FROM ledger_node WHERE level = 0 AND position = " + (size - 1));
    part(Activity.class).record("ana", "looked", "db", "");
    assertThat(ledger().size()).isEqualTo(size);
  }

  /** What can't be checked must not go by what an earlier check came to. */
  @Test
  void aLedgerThatCanNotBeCheckedIsNotWhole() {
    assertThat(checked().found()).isZero();
    forge("ALTER TABLE pack RENAME COLUMN made_at TO elsewhere");
    assertThat(difference()).startsWith("it could not be checked: ");
    assertThatThrownBy(() -> part(LedgerDesk.class).requireWhole()).isInstanceOf(Refused.class);
    forge("ALTER TABLE pack RENAME COLUMN elsewhere TO made_at");
    assertThat(checked().found()).isZero();
  }

  /** A head that somebody kept is longer than the ledger that was put back, and no longer its end. */
  @Test
  void anOlderFileIsFoundByAHeadOfToday() throws IOException {
    Path file = estate.installation.folder().database();
    estate
        .installation
        .database()
        .writes()
        .sql("PRAGMA wal_checkpoint(TRUNCATE)")
        .query()
        .listOfRows();
    Path old = Files.copy(file, file.resolveSibling("old"));
    part(Activity.class).record("ana", "looked", "db", "");
    TreeHead kept = part(LedgerHeads.class).current();
    estate.installation.close();
    Files.copy(old, file, StandardCopyOption.REPLACE_EXISTING);
    estate.open();
    assertThat(checked().differences()).as("nothing in the file itself tells").isEmpty();
    assertThat(kept.size()).isGreaterThan(ledger().size());
  }

  @Test
  void aHeadOfAnotherKeyOrSizeOrRootIsFound() {
    TreeHead head = part(LedgerHeads.class).current();
    forge("UPDATE ledger_head SET body = replace(body, '\"size\":" + head.size()
        + "', '\"size\":1')");
    assertThat(difference()).contains("has a signature that is not of it");
    forge("UPDATE ledger_head SET body = replace(body, '\"size\":1,', '\"size\":" + head.size()
        + ",')");
    forge("UPDATE ledger_head SET body = replace(body, '\"size\":1}', '\"size\":" + head.size()
        + "}')");
    assertThat(checked().differences()).isEmpty();
    forge("UPDATE ledger_head SET public_key = zeroblob(44)");
    assertThat(difference()).contains("has a signature that is not of it", "signed by another key");
  }

  /** 500 single bytes of entries, hashes, heads and signatures, each put back afterwards. */
  @Test
  void everyChangedByteIsFound() {
    checked();
    Random random = new Random(14);
    String[] columns = {
      "ledger_entry.body",
      "ledger_entry.key",
      "ledger_entry.kind",
      "ledger_node.hash",
      "ledger_head.body",
      "ledger_head.signature",
      "ledger_head.public_key"
    };
    for (int i = 0; i < 500; i++) {
      String[] column = columns[i % columns.length].split("\\.");
      String change = change(random, column[0], column[1]);
      assertThat(outcome()).as(change).isPositive();
      forge(
          "UPDATE " + column[0] + " SET " + column[1] + " = (SELECT was FROM kept) WHERE " + which,
          "DROP TABLE kept");
    }
    assertThat(outcome()).isZero();
  }

  private String which;

  private String change(Random random, String table, String column) {
    List<String> keys = estate
        .installation
        .database()
        .reads()
        .sql(
            switch (table) {
              case "ledger_entry" -> "SELECT 'number = ' || number FROM ledger_entry";
              case "ledger_node" ->
                "SELECT 'level = ' || level || ' AND position = ' || position FROM ledger_node";
              default -> "SELECT 'id = ' || id FROM ledger_head";
            })
        .query(String.class)
        .list();
    which = keys.get(random.nextInt(keys.size()));
    byte[] was = estate
        .installation
        .database()
        .reads()
        .sql("SELECT CAST(" + column + " AS BLOB) FROM " + table + " WHERE " + which)
        .query((r, n) -> r.getBytes(1))
        .single();
    byte[] other = was.clone();
    int at = random.nextInt(other.length);
    // Letters stay letters: what is no text any more is found by whoever reads it.
    other[at] ^= (byte) (1 << random.nextInt(4));
    String hex = java.util.HexFormat.of().formatHex(other);
    boolean text = column.equals("body") || column.equals("key") || column.equals("kind");
    forge(
        "CREATE TABLE kept AS SELECT " + column + " AS was FROM " + table + " WHERE " + which,
        "UPDATE " + table + " SET " + column + " = "
            + (text ? "CAST(x'" + hex + "' AS TEXT)" : "x'" + hex + "'") + " WHERE " + which);
    return table + "." + column + " " + which + " byte " + at;
  }

  private long outcome() {
    return part(LedgerDesk.class).check().found();
  }
}
