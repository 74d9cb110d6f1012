package hardproof.server.feeds;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.criteria.Standard;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Facts;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.FactReader;
import hardproof.core.feeds.Field;
import hardproof.core.feeds.RawRow;
import hardproof.core.findings.Findings;
import hardproof.core.policies.NextToGo;
import hardproof.core.policies.Promises;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import hardproof.core.proof.Exposure;
import hardproof.server.facts.Notations;
import hardproof.server.schedule.Schedules;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * One row of a feed must not stop all: every field at its bounds and beyond them, in any combination. What
 * is read is judged, within a moment, and nothing throws.
 */
class RowsAtTheirBoundsTest {
  private static final Instant NOW = Instant.parse("2026-11-27T12:00:00Z");
  private static final long SEED = 11;
  private static final int ESTATES = 150;

  private static final List<String> TIMES = List.of(
      "1970-01-01T00:00:00Z",
      "1969-12-31T23:59:59Z",
      "-1000000000-01-01T00:00:00Z",
      "+999999999-12-31T23:59:59Z",
      "2026-11-27T12:09:59Z",
      "2126-11-01T00:00:00Z",
      "2126-12-30T00:00:00Z",
      "2026-03-29T02:30:00+01:00",
      "2026-11-27T11:59:59.999999999Z",
      "2026-10-01T00:00:00Z",
      "2026-11-26T00:00:00Z");
  private static final List<String> DURATIONS = List.of(
      "0s",
      "PT0.001S",
      "PT0.000000001S",
      "1m",
      "24h",
      "P36525D",
      "P36526D",
      "P106751991167D",
      "PT2562047788015215H30M7S",
      "999999999w",
      "-PT1H");
  private static final List<String> NUMBERS = List.of(
      "0", "1", "-1", "100", "1000000", "1000001", "2147483647", "99999999999999999999", "1e9");
  private static final List<String> SIZES = List.of(
      "0",
      "1",
      "100000000000000000",
      "100000000000000001",
      "9223372036854775807",
      "9".repeat(400),
      "99999 TiB",
      "0.000001 kB");
  private static final List<String> SCHEDULES = List.of(
      "24h",
      "PT0.001S",
      "P106751991167D",
      "FREQ=SECONDLY;COUNT=2000000000",
      "FREQ=SECONDLY",
      "FREQ=MINUTELY",
      "FREQ=MINUTELY;INTERVAL=1000",
      "FREQ=DAILY;COUNT=1000",
      "FREQ=DAILY;COUNT=1001",
      "FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30",
      "FREQ=YEARLY;BYDAY=MO,TU,WE,TH,FR,SA,SU;BYHOUR=" + upTo(23) + ";BYMINUTE=" + upTo(59),
      "FREQ=DAILY;BYHOUR=" + upTo(23) + ";BYMINUTE=" + upTo(59) + ";BYSECOND=0",
      "FREQ=DAILY;BYHOUR=" + upTo(23) + ";BYMINUTE=" + upTo(59) + ";BYSECOND=" + upTo(59),
      "FREQ=DAILY;UNTIL=20200107T000000Z",
      "FREQ=MONTHLY;BYDAY=-5MO;INTERVAL=1000",
      "* * * * *",
      "0 0 31 2 *",
      "0 3 * * *");
  private static final String SIX_STARS = "*a*a*a*a*a*a*b";
  private static final List<String> SCOPES = List.of(
      "{}",
      "{\"all\":[{\"field\":\"name\",\"in\":[\"" + SIX_STARS + "\"]}]}",
      "{\"none\":[{\"field\":\"key\",\"in\":[\"" + "*a".repeat(2000) + "\"]}]}",
      "{\"any\":[{\"field\":\"tag:x\",\"in\":[\"1\"]}],\"also\":[\"a\",\"b\"]}",
      "[".repeat(5000));
  private static final List<String> TEXTS = List.of(
      "a", "b", "c", "a".repeat(60), "a".repeat(500), "a".repeat(501), "x\ny", "\u202Etxt", "=1+1");

  private static String upTo(int most) {
    StringBuilder all = new StringBuilder("0");
    for (int i = 1; i <= most; i++) {
      all.append(',').append(i);
    }
    return all.toString();
  }

  private static List<String> values(BundleFile type, String field) {
    return switch (field) {
      case "data_time",
          "started",
          "available",
          "finished",
          "locked_until",
          "expires",
          "last_read",
          "ended",
          "from",
          "until",
          "first_seen",
          "last_seen",
          "agent_seen",
          "credentials_changed",
          "credentials_tested",
          "kit_tried",
          "runbook_tried",
          "licence_until" -> TIMES;
      case "start_window", "complete_within", "keep_for", "rpo", "rto" -> DURATIONS;
      case "keep_last",
          "keep_weekly",
          "keep_monthly",
          "keep_yearly",
          "skipped_items",
          "delete_approvals" -> NUMBERS;
      case "size", "daily_change", "throughput", "bytes" -> SIZES;
      case "schedule" -> SCHEDULES;
      case "scope" -> SCOPES;
      case "zone" -> List.of("UTC", "Europe/Oslo", "Pacific/Apia", "+18:00", "nowhere");
      case "tier" -> List.of("1", "2", "3", "4", "5");
      case "rung" -> List.of("0", "5", "restored");
      case "kind" -> List.of("database", "virtual-machine", "file-share", "volume");
      case "medium" -> List.of("disk", "tape");
      case "form" -> List.of("full", "incremental", "log");
      case "outcome" ->
        type == BundleFile.JOBS
            ? List.of("succeeded", "failed", "running")
            : List.of("complete", "partial", "failed");
      case "state" -> List.of("present", "missing", "damaged", "deleted");
      case "type" -> List.of("backup", "copy", "restore");
      case "consistency" -> List.of("unknown", "application");
      case "redundancy" -> List.of("none", "several-regions");
      case "source_role" -> List.of("active", "passive");
      case "online", "can_lock", "encrypted", "read_back", "pre_step" -> List.of("yes", "no");
      case "last_read_outcome" -> List.of("passed", "failed");
      case "copy_to" -> List.of("a:24h", "b:P36525D;a:0s", "c:P106751991167D");
      case "copy_window" -> List.of("22:00-06:00", "not 00:00-23:59", "00:00-00:00");
      case "tags" -> List.of("failure_domain=a", "x=1;y=" + "z".repeat(100));
      case "exclude", "important_paths" -> List.of(SIX_STARS, "/a;/b/*", "*".repeat(10_000), "\\");
      case "path" -> List.of("/a", "\u0000", "x".repeat(20_001));
      case "place" -> List.of("a", "../a", "a/..");
      case "sha256", "manifest" -> List.of("0".repeat(64));
      case "format" -> List.of("tar", "?");
      case "needs",
          "parent",
          "workload",
          "resource",
          "point",
          "store",
          "policy",
          "based_on",
          "key" -> List.of("a", "b", "c", "a".repeat(60));
      default -> TEXTS;
    };
  }

  private final Random random = new Random(SEED);

  private List<?> rows(BundleFile type, int most) {
    FactReader reader = new FactReader("f", NOW, Notations.KEPT);
    Map<Object, Object> read = new LinkedHashMap<>();
    for (int i = 0; i < most; i++) {
      Map<String, String> row = new LinkedHashMap<>();
      for (Field<?, ?> field : type.columns()) {
        List<String> values = values(type, field.name());
        if (field.required() || random.nextInt(3) > 0) {
          row.put(field.name(), values.get(random.nextInt(values.size())));
        }
      }
      // What is refused by itself is tried by itself below; here much must get through.
      FactReader.Read<?> one = reader.read(type.kind(), "x", new RawRow(i, row));
      for (int again = 0; one.fact() == null && again < 40; again++) {
        one.rejections().forEach(r -> {
          List<String> values = values(type, r.field());
          row.put(r.field(), values.get(random.nextInt(values.size())));
        });
        one = reader.read(type.kind(), "x", new RawRow(i, row));
      }
      if (one.fact() != null) {
        read.putIfAbsent(
            type == BundleFile.COPIES ? row.get("point") + "/" + row.get("store") : row.get("key"),
            one.fact());
      }
    }
    return new ArrayList<>(read.values());
  }

  @SuppressWarnings("unchecked")
  private <T> List<T> of(Map<BundleFile, List<?>> all, BundleFile type) {
    return (List<T>) all.get(type);
  }

  @Test
  void whatIsReadIsJudgedAndNothingThrows() {
    int judged = 0;
    for (int i = 0; i < ESTATES; i++) {
      Map<BundleFile, List<?>> all = new EnumMap<>(BundleFile.class);
      for (BundleFile type : BundleFile.values()) {
        all.put(type, rows(type, type == BundleFile.POINTS ? 8 : 4));
      }
      Facts facts = new Facts(
          List.of(),
          of(all, BundleFile.WORKLOADS),
          of(all, BundleFile.RESOURCES),
          of(all, BundleFile.STORES),
          of(all, BundleFile.POLICIES),
          of(all, BundleFile.POINTS),
          of(all, BundleFile.COPIES),
          of(all, BundleFile.JOBS),
          of(all, BundleFile.EXCEPTIONS),
          List.of());
      String which = "estate " + i + " of seed " + SEED;
      judged += Assertions.assertTimeoutPreemptively(
          Duration.ofSeconds(20), () -> judge(facts, which), which);
    }
    assertThat(judged).as("resources that were judged").isGreaterThan(ESTATES);
  }

  private static int judge(Facts facts, String which) {
    Estate estate = new Estate(NOW, facts);
    Standard standard = Standard.shipped();
    Evaluation evaluation = Evaluator.evaluate(estate, standard);
    assertThat(evaluation.workloads().stream()
            .flatMap(w -> w.members().stream())
            .map(m -> m.causes().get(0).sentence())
            .filter(sentence -> sentence.contains("a fault of ours")))
        .as(which)
        .isEmpty();
    Findings.of(evaluation, estate, Map.of());
    facts.policies().forEach(p -> {
      Promises.of(p, estate);
      facts.resources().forEach(r -> Promises.firstPoint(p, r, estate));
    });
    facts.resources().forEach(r -> NextToGo.of(r, estate));
    assertThat(Exposure.of(estate, standard)).hasSameSizeAs(facts.resources());
    return facts.resources().size();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "FREQ=SECONDLY;COUNT=2000000000",
        "FREQ=SECONDLY;INTERVAL=30",
        "FREQ=DAILY;COUNT=1001",
        "FREQ=DAILY;INTERVAL=1001",
        "FREQ=YEARLY;BYDAY=MO,TU;BYHOUR=1,2,3,4,5",
        "P106751991167D",
        "PT0.0001S"
      })
  void aScheduleBeyondCountingIsRefusedWhenItIsRead(String text) {
    Assertions.assertTimeoutPreemptively(
        Duration.ofSeconds(5),
        () -> Assertions.assertThrows(
            IllegalArgumentException.class, () -> Schedules.read(text, null)));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "FREQ=MINUTELY;INTERVAL=15",
        "FREQ=HOURLY;INTERVAL=4",
        "FREQ=MINUTELY",
        "FREQ=MINUTELY;INTERVAL=7",
        "FREQ=YEARLY;BYMONTH=1;BYMONTHDAY=1;BYHOUR=2;BYMINUTE=0;BYSECOND=0",
        "FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR,SA,SU;BYHOUR=0,4,8,12,16,20;BYMINUTE=0",
        "*/5 * * * *",
        "15m"
      })
  void oneThatIsUsedIsNot(String text) {
    assertThat(Schedules.read(text, "Europe/Oslo").longestGap(NOW)).isPresent();
  }
}
