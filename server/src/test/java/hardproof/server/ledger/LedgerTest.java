package hardproof.server.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.criteria.Standard;
import hardproof.core.estate.Selector;
import hardproof.core.ledger.Digest;
import hardproof.core.ledger.MerkleProofs;
import hardproof.core.proof.Evaluation;
import hardproof.server.Estate;
import hardproof.server.activity.Activity;
import hardproof.server.evidence.OutcomeSnapshots;
import hardproof.server.evidence.PackBuilder;
import java.io.IOException;
import java.security.MessageDigest;
import java.time.Instant;
import java.util.HexFormat;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class LedgerTest extends WithLedger {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  /** MTH of RFC 9162, section 2.1.1, as it stands there. */
  private static byte[] root(List<byte[]> entries) throws Exception {
    MessageDigest sha256 = MessageDigest.getInstance("SHA-256");
    if (entries.isEmpty()) {
      return sha256.digest();
    } else if (entries.size() == 1) {
      sha256.update((byte) 0);
      return sha256.digest(entries.get(0));
    }
    int split = Integer.highestOneBit(entries.size() - 1);
    byte[] left = root(entries.subList(0, split));
    byte[] right = root(entries.subList(split, entries.size()));
    sha256.update((byte) 1);
    sha256.update(left);
    return sha256.digest(right);
  }

  private int sql(String statement) {
    return estate
        .installation
        .database()
        .write(() -> estate.installation.database().writes().sql(statement).update());
  }

  /** One of every kind, each by the way that it comes, or by SQL where that way is long. */
  private void everyKind() throws IOException {
    Standard standard = Standard.shipped();
    Standard saved =
        estate.installation.standards().save(standard, 1, "stricter", "ana", Estate.NOW);
    estate.installation.standards().putInForce(saved, "ana", Estate.NOW);
    estate.take(
        "exceptions.csv",
        "key,scope,criterion,reason,proposed_by\nlate,"
            + "\"{\"\"all\"\":[{\"\"field\"\":\"\"key\"\",\"\"in\"\":[\"\"share\"\"]}]}\",fresh-window,known,ana\n");
    part(OutcomeSnapshots.class)
        .takeDaily(estate.installation.evaluations().now().evaluation());
    sql("INSERT INTO programme_draw VALUES ('weekly', 5, '{}', 'seed', 'digest', x'00', 3)");
    sql("INSERT INTO sweep (id, store, requested_by, reason, planned_at, ended_at, state)"
        + " VALUES (9, 'near', 'ana', '', 5, 6, 'done')");
    sql(
        "INSERT INTO read_back (sweep, resource, point, store, started_at, ended_at, restore, checks, reaches, bytes, sentence)"
            + " VALUES (9, 'share', 'share-1', 'near', 5, 6, 'done', 'passed', 'intact', 7, 'as told')");
    sql(
        "INSERT INTO rehearsal (id, workload, moment, lost, at_once, stay_ms, hold_ms, reason, requested_by, queued_at,"
            + " planned_ms, rto_ms) VALUES ('r', 'w', 5, '{}', 1, 0, 0, '', 'ana', 5, 1, 2)");
    sql(
        "UPDATE rehearsal SET ended_at = 6, outcome = 'interrupted', clock_ms = 0, path = '[]' WHERE id = 'r'");
    sql(
        "INSERT INTO census (id, store, asked_by, started_at, state) VALUES (3, 'near', 'ana', 5, 'running')");
    sql("INSERT INTO census_fact (census, resource, point, store, at, state, sentence)"
        + " VALUES (3, 'share', 'share-1', 'near', 6, 'gone', 'as told')");
    sql("UPDATE census SET ended_at = 6, state = 'done' WHERE id = 3");
    estate
        .installation
        .packs()
        .issue(
            part(PackBuilder.class)
                .contents(estate.installation.evaluations().now(), "T", Selector.EVERYTHING, "ana"),
            Estate.NOW);
  }

  @Test
  void whatCarriesProofIsAnEntryAndTheTreeIsThatOfTheStandard() throws Exception {
    everyKind();
    List<LedgerEntry> all = ledger().from(0, 1000);
    assertThat(all.stream().map(LedgerEntry::kind).collect(Collectors.toSet()))
        .isEqualTo(Set.of(LedgerKind.values()));
    assertThat(all.get(0).kind()).isEqualTo(LedgerKind.KEY);
    for (int size = 1; size <= all.size(); size++) {
      List<byte[]> bodies = all.subList(0, size).stream()
          .map(e -> e.body().getBytes(java.nio.charset.StandardCharsets.UTF_8))
          .toList();
      assertThat(ledger().tree().root(size).toString())
          .isEqualTo(HexFormat.of().formatHex(root(bodies)));
    }
    LedgerDesk.Checked checked = checked();
    assertThat(checked.differences()).isEmpty();
    assertThat(checked.size()).isEqualTo(all.size());
    TreeHead head = part(LedgerHeads.class).newest().orElseThrow();
    assertThat(head.size()).isEqualTo(all.size());
    assertThat(head.verifies()).isTrue();
    for (LedgerEntry entry : all) {
      assertThat(MerkleProofs.included(
              entry.leaf(),
              entry.number(),
              head.size(),
              ledger().tree().inclusion(entry.number(), head.size()),
              head.root()))
          .isTrue();
    }
  }

  @Test
  void theEntryOfADrillHoldsWhatItCameToAndItsSteps() {
    LedgerEntry entry = ledger().of(LedgerKind.DRILL, failed.id()).orElseThrow();
    JsonNode body = JSON.readTree(entry.body());
    assertThat(body.path("at").asString()).isEqualTo(failed.endedAt().toString());
    assertThat(body.path("actor").asString()).isEqualTo("tester");
    assertThat(body.has("recorded")).isFalse();
    JsonNode content = body.path("content");
    assertThat(content.path("resource").asString()).isEqualTo("db");
    assertThat(content.path("restore").asString()).isEqualTo(failed.restore().code());
    assertThat(content.path("checks").asString()).isEqualTo(failed.checks().code());
    assertThat(content.path("sentence").asString()).isEqualTo(failed.sentence());
    assertThat(content.path("steps").size()).isEqualTo(failed.steps().size()).isPositive();
    assertThat(content.path("steps").get(0).path("name").asString())
        .isEqualTo(failed.steps().get(0).name());
  }

  private Evaluation evaluatedAt(Instant instant) {
    return estate.installation.evaluations().at(instant).evaluation();
  }

  /** A day after the last: not a millisecond before. */
  @Test
  void outcomesAreWrittenDownOnceADay() {
    OutcomeSnapshots snapshots = part(OutcomeSnapshots.class);
    Instant first = estate.clock.instant();
    estate.clock.set(first.plusMillis(86_400_000));
    assertThat(snapshots.takeDaily(evaluatedAt(first))).isTrue();
    assertThat(snapshots.takeDaily(evaluatedAt(first.plusMillis(86_399_999)))).isFalse();
    assertThat(snapshots.takeDaily(evaluatedAt(first.plusMillis(86_400_000)))).isTrue();
    assertThat(ledger().all(LedgerKind.OUTCOMES)).hasSize(2);
    JsonNode content =
        JSON.readTree(ledger().all(LedgerKind.OUTCOMES).get(0).body()).path("content");
    assertThat(content.path("verdicts").asString()).contains("\"unproven\":1");
    assertThat(content.path("findings_sha256").asString()).hasSize(64);
  }

  /** One is never there without the other. */
  @Test
  void whatIsTakenBackHasNoEntry() {
    long before = ledger().size();
    assertThatThrownBy(() -> estate.installation.database().write(() -> {
          part(Activity.class).record("ana", "looked", "db", "");
          throw new IllegalStateException("taken back");
        }))
        .hasMessage("taken back");
    assertThat(ledger().size()).isEqualTo(before);
    part(Activity.class).record("ana", "looked", "db", "");
    assertThat(ledger().size()).isEqualTo(before + 1);
    assertThat(sql("UPDATE ledger_due SET key = key")).as("still due").isZero();
  }

  /** REPLACE walks past a trigger on DELETE. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "UPDATE ledger_entry SET body = '{}' WHERE number = 1",
        "DELETE FROM ledger_entry WHERE number = 1",
        "INSERT OR REPLACE INTO ledger_entry VALUES (1, 'activity', '1', '{}')",
        "INSERT OR IGNORE INTO ledger_entry VALUES (1, 'activity', '1', '{}')",
        "UPDATE ledger_node SET position = position + 100",
        "DELETE FROM ledger_node",
        "INSERT OR REPLACE INTO ledger_node SELECT level, position, zeroblob(32) FROM ledger_node",
        "UPDATE ledger_head SET size = 0",
        "DELETE FROM ledger_head",
        "REPLACE INTO ledger_head SELECT id, 0, at, body, signature, public_key FROM ledger_head",
        "REPLACE INTO activity SELECT id, at, by, 'nothing', subject, detail FROM activity",
      })
  void theDatabaseRefusesToChangeIt(String statement) {
    checked();
    List<LedgerEntry> before = ledger().from(0, 1000);
    assertThatThrownBy(() -> sql(statement)).hasMessageContaining("SQLITE_CONSTRAINT");
    assertThat(ledger().from(0, 1000)).isEqualTo(before);
  }

  /** What an earlier version kept has entries of its own time, in the order in which it happened. */
  @Test
  void whatWasThereBeforeTheLedgerIsCarriedOver() throws IOException {
    everyKind();
    forge("DELETE FROM ledger_entry", "DELETE FROM ledger_node", "DELETE FROM ledger_head");
    estate.reopen();
    List<LedgerEntry> all = ledger().from(0, 1000);
    assertThat(all.stream().map(LedgerEntry::kind).collect(Collectors.toSet()))
        .isEqualTo(Set.of(LedgerKind.values()));
    List<JsonNode> bodies =
        all.stream().skip(1).map(e -> JSON.readTree(e.body())).toList();
    assertThat(bodies)
        .allSatisfy(b -> assertThat(b.path("recorded").asString()).isEqualTo("later"));
    assertThat(bodies.stream().map(b -> Instant.parse(b.path("at").asString())).toList())
        .isSorted();
    assertThat(checked().differences()).isEmpty();
    part(Activity.class).record("ana", "looked", "db", "");
    assertThat(ledger().from(all.size(), 1).get(0).body()).doesNotContain("recorded");
  }

  /** RFC 9162, 2.1.4: what was handed out once is proven to be the beginning of what is there now. */
  @Test
  void everyEarlierHeadIsTheBeginningOfALaterOne() {
    TreeHead first = part(LedgerHeads.class).current();
    assertThat(part(LedgerHeads.class).current())
        .as("nothing came since")
        .usingRecursiveComparison()
        .isEqualTo(first);
    for (int i = 0; i < 20; i++) {
      part(Activity.class).record("ana", "looked", "db", "");
    }
    TreeHead later = part(LedgerHeads.class).current();
    List<Digest> path = ledger().tree().consistency(first.size(), later.size());
    assertThat(
            MerkleProofs.consistent(first.size(), first.root(), later.size(), later.root(), path))
        .isTrue();
    assertThat(TreeHead.read(first.file())).usingRecursiveComparison().isEqualTo(first);
    assertThatThrownBy(() -> TreeHead.read("{\"head\":\"{}\"}"))
        .hasMessageStartingWith("no head of a ledger: ");
  }
}
