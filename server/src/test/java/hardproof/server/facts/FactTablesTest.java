package hardproof.server.facts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.estate.Selector;
import hardproof.core.estate.Selector.Condition;
import hardproof.core.facts.State;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.FactKind;
import hardproof.core.feeds.FactReader;
import hardproof.core.feeds.Field;
import hardproof.core.feeds.RawRow;
import hardproof.server.storage.Database;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Whatever a feed can bring must come out of the database, and out of a pack, as the same fact. */
class FactTablesTest {
  private static final Instant NOW = Instant.parse("2026-11-24T10:00:00Z");
  private static final long SEED = 42;

  @TempDir
  Path folder;

  private static final Map<String, List<String>> VALUES = Map.ofEntries(
      Map.entry("medium", List.of("disk", "tape", "object")),
      Map.entry("kind", List.of("database", "file-share", "virtual-machine")),
      Map.entry("form", List.of("full", "snapshot", "incremental")),
      Map.entry("outcome", List.of("complete", "partial", "failed")),
      Map.entry("state", List.of("present", "missing", "deleted")),
      Map.entry("consistency", List.of("application", "crash", "file")),
      Map.entry("rung", List.of("intact", "running")),
      Map.entry("tier", List.of("1", "4")),
      Map.entry("online", List.of("yes", "no")),
      Map.entry("can_lock", List.of("true", "0")),
      Map.entry("encrypted", List.of("yes", "no")),
      Map.entry("last_read_outcome", List.of("passed", "failed")),
      Map.entry("throughput", List.of("100 MB", "1 GiB")),
      Map.entry("size", List.of("12 GB", "0", "7")),
      Map.entry("daily_change", List.of("1 TiB", "3 kB")),
      Map.entry("schedule", List.of("24h", "PT90M", "0 22 * * 1-5", "FREQ=WEEKLY;BYDAY=SA")),
      Map.entry("zone", List.of("Europe/Oslo", "UTC")),
      Map.entry("start_window", List.of("0h", "2h")),
      Map.entry("complete_within", List.of("PT6H")),
      Map.entry("keep_weekly", List.of("4", "0")),
      Map.entry("keep_monthly", List.of("12")),
      Map.entry("keep_yearly", List.of("7")),
      Map.entry("read_back", List.of("yes", "no")),
      Map.entry("copy_window", List.of("22:00-06:00", "not 8:00-18:00")),
      Map.entry("exclude", List.of("/tmp/*;*.iso")),
      Map.entry("redundancy", List.of("none", "several-buildings")),
      Map.entry("delete_approvals", List.of("0", "2")),
      Map.entry("pre_step", List.of("yes", "no")),
      Map.entry("source_role", List.of("active", "passive")),
      Map.entry("skipped_items", List.of("0", "17")),
      Map.entry("type", List.of("backup", "copy", "restore")),
      Map.entry("bytes", List.of("12 GB", "0")),
      Map.entry("ended", List.of("2026-11-20T01:00:00Z")),
      Map.entry("keep_last", List.of("0", "14")),
      Map.entry("keep_for", List.of("14d", "2w")),
      Map.entry("copy_to", List.of("holm:24h", "a:PT1H;b:2d")),
      Map.entry("rpo", List.of("4h", "PT15M")),
      Map.entry("rto", List.of("72h")),
      Map.entry(
          "scope",
          List.of(
              "{\"all\":[{\"field\":\"tier\",\"in\":[\"1\",\"2\"]}]}",
              "{\"any\":[{\"field\":\"tag:x\",\"in\":[\"y\"]}],\"none\":[{\"field\":\"name\",\"in\":[\"a*\"]}]}")),
      Map.entry("needs", List.of("a;b", "c")),
      Map.entry("tags", List.of("a=1;b=two words", "x=y")),
      Map.entry("important_paths", List.of("/srv;/var/lib")),
      Map.entry("first_seen", List.of("2026-01-01T00:00:00Z")),
      Map.entry("last_seen", List.of("2026-11-23T01:02:03Z")),
      Map.entry("agent_seen", List.of("2026-11-23T01:02:03+02:00")),
      Map.entry("credentials_changed", List.of("2026-11-02T00:00:00Z")),
      Map.entry("credentials_tested", List.of("2026-11-03T00:00:00Z")),
      Map.entry("key_places", List.of("A;safe at the notary", "near")),
      Map.entry("kit_tried", List.of("2026-10-02T00:00:00Z")),
      Map.entry("runbook_tried", List.of("2026-09-02T00:00:00Z")),
      Map.entry("licence_until", List.of("2027-09-02T00:00:00Z")),
      Map.entry("restorers", List.of("Nils;Petra", "Nils")),
      Map.entry("data_time", List.of("2026-11-20T00:00:00.123Z")),
      Map.entry("started", List.of("2026-11-20T00:00:00Z")),
      Map.entry("available", List.of("2026-11-20T09:00:00Z")),
      Map.entry("finished", List.of("2026-11-20T10:00:00Z")),
      Map.entry("locked_until", List.of("2027-11-20T10:00:00Z")),
      Map.entry("expires", List.of("2028-02-29T10:00:00Z")),
      Map.entry("last_read", List.of("2026-11-21T10:00:00Z")),
      Map.entry("from", List.of("2026-11-01T00:00:00Z")),
      Map.entry("until", List.of("2027-11-01T00:00:00Z")),
      Map.entry("sha256", List.of("ab".repeat(32))),
      Map.entry("manifest", List.of("CD".repeat(32))),
      Map.entry("place", List.of("a/b.tar.gz")));

  private static RawRow row(BundleFile type, Random random, int number) {
    Map<String, String> values = new LinkedHashMap<>();
    for (Field<?, ?> field : type.columns()) {
      List<String> choices = type == BundleFile.JOBS && field.name().equals("outcome")
          ? List.of("succeeded", "warning", "failed")
          : VALUES.getOrDefault(
              field.name(),
              List.of(field.name() + " \"" + number + "\", it's", field.name() + number));
      boolean needed = field.required()
          || field.name().equals("data_time")
          || (type == BundleFile.JOBS && field.name().equals("started"))
          || (type == BundleFile.EXCEPTIONS && field.name().equals("scope"));
      if (needed || random.nextInt(3) > 0) {
        values.put(field.name(), choices.get(random.nextInt(choices.size())));
      }
    }
    return new RawRow(number, values);
  }

  @ParameterizedTest
  @EnumSource(BundleFile.class)
  void whatGoesInComesOutTheSame(BundleFile type) throws IOException, SQLException {
    whatGoesInComesOutTheSame(type, type.kind());
  }

  private <T> void whatGoesInComesOutTheSame(BundleFile type, FactKind<T> kind)
      throws IOException, SQLException {
    FactReader reader = new FactReader("feed", NOW, Notations.KEPT);
    FactTable<T> table = FactTables.of(kind);
    Random random = new Random(SEED + type.ordinal());
    List<T> facts = new ArrayList<>();
    for (int i = 0; i < 60; i++) {
      RawRow raw = row(type, random, i);
      FactReader.Read<T> read = reader.read(kind, "f", raw);
      assertThat(read.rejections()).as(raw.toString()).isEmpty();
      facts.add(read.fact());
    }
    Path file = folder.resolve(type.code() + ".db");
    Database.open(file).close();
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file)) {
      List<String> lastKey = null;
      try (FactTable<T>.Session session = table.session(connection)) {
        for (T fact : facts) {
          boolean known = session.current(table.key(fact)) != null;
          session.put(fact, "feed", NOW, known);
          session.flush();
          lastKey = table.key(fact);
          T stored = session.current(lastKey).fact();
          assertThat(stored).isEqualTo(fact);
          assertThat(table.same(stored, fact)).isTrue();
          // And through the row of a pack.
          Map<String, String> written = new LinkedHashMap<>(kind.row(fact, Notations.KEPT));
          T again = reader.read(kind, "f", new RawRow(1, written)).fact();
          assertThat(again).isEqualTo(fact);
        }
      }
      List<T> now = table.states(connection).stream()
          .filter(st -> st.knownAt(NOW.toEpochMilli()))
          .map(State::fact)
          .toList();
      assertThat(now).hasSize((int) facts.stream().map(table::key).distinct().count());
      assertThat(lastKey).isNotNull();
    }
  }

  /** Some rows fill columns that others leave empty: what is sent together comes out apart. */
  @ParameterizedTest
  @EnumSource(BundleFile.class)
  void rowsOfOneBatchFillDifferentColumns(BundleFile type) throws IOException, SQLException {
    rowsOfOneBatchFillDifferentColumns(type, type.kind());
  }

  private <T> void rowsOfOneBatchFillDifferentColumns(BundleFile type, FactKind<T> kind)
      throws IOException, SQLException {
    FactReader reader = new FactReader("feed", NOW, Notations.KEPT);
    FactTable<T> table = FactTables.of(kind);
    Random random = new Random(SEED);
    Map<List<String>, T> facts = new LinkedHashMap<>();
    for (int i = 0; i < 2300; i++) {
      T fact = reader.read(kind, "f", row(type, random, i)).fact();
      facts.put(table.key(fact), fact);
    }
    Path file = folder.resolve(type.code() + ".db");
    Database.open(file).close();
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file)) {
      connection.setAutoCommit(false);
      try (FactTable<T>.Session session = table.session(connection)) {
        for (T fact : facts.values()) {
          session.put(table.ready(fact), "feed", NOW, false);
        }
        session.flush();
        for (Map.Entry<List<String>, T> fact : facts.entrySet()) {
          assertThat(session.current(fact.getKey()).fact()).isEqualTo(fact.getValue());
        }
      }
      assertThat(table.states(connection)).hasSize(facts.size());
      connection.rollback();
    }
  }

  @Test
  void selectorsReadAndWriteAsJson() {
    Selector selector = new Selector(
        List.of(Condition.is("tier", "1", "2")),
        List.of(),
        List.of(Condition.is("tag:backup", "none")));
    assertThat(SelectorJson.write(selector))
        .isEqualTo(
            "{\"all\":[{\"field\":\"tier\",\"in\":[\"1\",\"2\"]}],\"none\":[{\"field\":\"tag:backup\",\"in\":[\"none\"]}]}");
    assertThat(SelectorJson.read(SelectorJson.write(selector))).isEqualTo(selector);
    assertThat(SelectorJson.read("{}")).isEqualTo(Selector.EVERYTHING);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "",
        "tier 1",
        "[]",
        "{\"all\": [{\"field\": \"tier\"}]}",
        "{\"all\": [{\"in\": [\"1\"]}]}",
        "{\"some\": []}",
        "{\"all\": [{\"field\": \"colour\", \"in\": [\"red\"]}]}",
        "{\"all\": [{\"field\": \"tier\", \"in\": []}]}"
      })
  void whatIsNoSelectorIsRefusedWithAReason(String text) {
    assertThatThrownBy(() -> SelectorJson.read(text))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageMatching(
            "(?s).*(is not a selector|it may have|can't be selected by|names no value).*");
  }
}
