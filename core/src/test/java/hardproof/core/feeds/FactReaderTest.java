package hardproof.core.feeds;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.copies.Copy;
import hardproof.core.drills.Method;
import hardproof.core.estate.Selector;
import hardproof.core.schedule.Schedule;
import hardproof.core.wording.WrongValue;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FactReaderTest {
  private final Notation notation = new PlainNotation() {
    @Override
    public Selector selector(String json) {
      if (!json.equals("all")) {
        throw new WrongValue("is not a selector");
      }
      return Selector.EVERYTHING;
    }

    @Override
    public Schedule schedule(String text, String zone) {
      if (!text.equals("nightly")) {
        throw new WrongValue("is no schedule");
      }
      return Schedule.of(text, zone, after -> java.util.Optional.empty());
    }
  };
  private final FactReader reader = new FactReader("feed", NOW, notation);

  private static Map<String, String> row(BundleFile file) {
    Map<String, String> row = new HashMap<>();
    switch (file) {
      case POINTS ->
        row.putAll(Map.of(
            "key",
            "p",
            "resource",
            "r",
            "form",
            "full",
            "outcome",
            "complete",
            "data_time",
            "2026-11-24T01:00:00Z",
            "available",
            "2026-11-24T02:00:00Z"));
      case RESOURCES -> row.putAll(Map.of("key", "r", "name", "R", "kind", "database"));
      case STORES -> row.putAll(Map.of("key", "s", "name", "S", "medium", "disk"));
      case COPIES -> row.putAll(Map.of("point", "p", "store", "s", "state", "present"));
      case WORKLOADS -> row.putAll(Map.of("key", "w", "name", "W"));
      case JOBS ->
        row.putAll(Map.of(
            "key", "j", "type", "backup", "outcome", "failed", "started", "2026-11-24T01:00:00Z"));
      case POLICIES -> row.putAll(Map.of("key", "p", "name", "P", "scope", "all"));
      default -> row.putAll(Map.of("key", "x", "scope", "all", "reason", "because"));
    }
    return row;
  }

  /** Every refusal with its field and its reason. */
  @ParameterizedTest
  @CsvSource(delimiter = '|', textBlock = """
      POINTS|key||is required and is empty
      POINTS|form|half|is not one of full, incremental, differential, log, snapshot, replica
      POINTS|data_time|yesterday|is not a time; write it as 2026-11-24T03:10:00Z
      POINTS|data_time|2026-11-24 01:00|is a time without an offset; add Z or an offset such as +01:00
      POINTS|data_time|2026-02-30T00:00:00Z|is not a time; write it as 2026-11-24T03:10:00Z
      POINTS|data_time|2099-01-01T00:00:00Z|lies in the future; it is 2026-11-24T10:00:00Z now
      POINTS|available|2026-11-24T00:59:59Z|is before the data time 2026-11-24T01:00:00Z
      POINTS|size|-5|is negative
      POINTS|size|5 XB|is not a size; write bytes, or 12 GB, or 12 GiB
      POINTS|size|99999999 TiB|is larger than any store: more than 100 PB
      POINTS|based_on|p|names the point itself
      POINTS|encrypted|maybe|is neither yes nor no; use true/false, yes/no or 1/0
      RESOURCES|kind|toaster|is not one of virtual-machine, physical-server, database, file-share, volume, container-application, directory, object-storage, mail-store
      RESOURCES|parent|r|names the resource itself
      RESOURCES|tags|red|is not a list of name=value: 'red'
      RESOURCES|tags|a=1;a=2|has the tag 'a' twice
      STORES|throughput|0|is zero: nothing could ever be restored from it
      COPIES|sha256|abc|is not a SHA-256: 64 hexadecimal digits
      COPIES|place|../../etc/passwd|leaves its store ('..' in the path)
      COPIES|place|/etc/passwd|is an absolute path; give it relative to the store's path
      COPIES|last_read_outcome|fine|is not one of passed, failed
      COPIES|expires|2300-01-01T00:00:00Z|is more than a century ahead
      WORKLOADS|tier|5|is not a whole number from 1 to 4
      WORKLOADS|rpo|soon|is not a duration; write it as PT4H, P14D, 4h or 14d
      WORKLOADS|rpo|-PT4H|is negative
      WORKLOADS|rung|6|rung 6 does not exist: 0 to 5
      WORKLOADS|needs|w|names the workload itself
      POLICIES|scope|some|is not a selector
      POLICIES|schedule|whenever|is no schedule
      POLICIES|schedule|0h|is an interval of nothing
      POLICIES|zone|Narnia|is no time zone; write it as Europe/Oslo or UTC
      POLICIES|start_window|soon|is not a duration; write it as PT4H, P14D, 4h or 14d
      POLICIES|complete_within|0h|is nothing: no job could ever be done in it
      POLICIES|keep_weekly|-1|is not a whole number from 0 to 5000
      POLICIES|consistency|good|is not one of unknown, file, crash, application
      POLICIES|copy_window|at night|is not hours of a day; write 22:00-06:00, or not 08:00-18:00
      POLICIES|copy_window|25:00-26:00|has '25:00', which is no time of day
      POLICIES|copy_window|08:00-08:00|begins and ends at the same time; leave it empty for all day
      STORES|redundancy|double|is not one of none, one-building, several-buildings, several-regions
      STORES|delete_approvals|many|is not a whole number from 0 to 100
      POINTS|pre_step|perhaps|is neither yes nor no; use true/false, yes/no or 1/0
      POINTS|source_role|third|is not one of active, passive
      POINTS|skipped_items|-1|is not a whole number from 0 to 2147483647
      JOBS|type|sweep|is not one of backup, copy, restore
      JOBS|outcome|green|is not one of succeeded, warning, failed, cancelled, running
      JOBS|ended|2026-11-24T00:59:59Z|is before it was started 2026-11-24T01:00:00Z
      JOBS|started||is empty, and so is ended: when it ran can't be known
      POLICIES|copy_to|holm|is not a list of store:deadline, such as holm:24h
      EXCEPTIONS|scope||is empty: an exception for everything is refused
      """)
  void refusesWithFieldAndReason(BundleFile file, String field, String value, String reason) {
    Map<String, String> row = row(file);
    row.put(field, value);
    row.values().removeIf(java.util.Objects::isNull);
    var read = reader.read(file.kind(), "f.csv", new RawRow(7, row));
    assertThat(read.fact()).isNull();
    assertThat(read.rejections())
        .extracting(Rejection::field, Rejection::reason)
        .containsExactly(org.assertj.core.groups.Tuple.tuple(field, reason));
    assertThat(read.rejections().get(0).sentence())
        .startsWith("f.csv, line 7, " + field)
        .endsWith(": " + reason);
  }

  @Test
  void nobodyApprovesTheirOwnException() {
    Map<String, String> row = row(BundleFile.EXCEPTIONS);
    row.put("proposed_by", "ana");
    row.put("approved_by", "Ana");
    assertThat(reader.read(FactKinds.EXCEPTIONS, "f", new RawRow(1, row)).rejections())
        .extracting(Rejection::reason)
        .containsExactly("is the proposer: another person must approve");
  }

  @Test
  void aPointWithoutAnyTimeIsRefusedAndWithOnlyAStartIsDatedByIt() {
    Map<String, String> row = row(BundleFile.POINTS);
    row.remove("data_time");
    assertThat(reader.read(FactKinds.POINTS, "f", new RawRow(1, row)).rejections())
        .extracting(Rejection::field)
        .containsExactly("data_time");
    row.put("started", "2026-11-23T13:00:00Z");
    assertThat(reader.read(FactKinds.POINTS, "f", new RawRow(1, row)).fact().dataTime())
        .isEqualTo("2026-11-23T13:00:00Z");
  }

  @Test
  void everythingWrongWithARowIsSaidAtOnce() {
    Map<String, String> row = row(BundleFile.POINTS);
    row.put("form", "half");
    row.put("size", "x");
    assertThat(reader.read(FactKinds.POINTS, "f", new RawRow(1, row)).rejections())
        .hasSize(2);
  }

  @ParameterizedTest
  @CsvSource({
    "0, 0",
    "12 GB, 12000000000",
    "1.5 kB, 1500",
    "1KiB, 1024",
    "2 TiB, 2199023255552",
    "3M, 3000000"
  })
  void readsSizes(String text, long bytes) {
    assertThat(Values.size(text)).isEqualTo(bytes);
  }

  @ParameterizedTest
  @CsvSource({"PT4H, PT4H", "4h, PT4H", "14d, PT336H", "P14D, PT336H", "30m, PT30M", "2w, PT336H"})
  void readsDurations(String text, String iso) {
    assertThat(Values.duration(text)).isEqualTo(java.time.Duration.parse(iso));
  }

  /** RFC 3339 section 5.8 examples. */
  @ParameterizedTest
  @CsvSource({
    "1985-04-12T23:20:50.52Z, 1985-04-12T23:20:50.520Z",
    "1996-12-19T16:39:57-08:00, 1996-12-20T00:39:57Z"
  })
  void readsRfc3339(String text, String instant) {
    assertThat(Values.time(text)).isEqualTo(instant);
  }

  /** Across the change to winter time the same local hour is two instants. */
  @Test
  void anOffsetTellsTheTwoHoursOfAClockChangeApart() {
    assertThat(Values.time("2026-10-25T02:30:00+02:00").plusSeconds(3600))
        .isEqualTo(Values.time("2026-10-25T02:30:00+01:00"));
  }

  @Test
  void aFactWrittenAndReadIsTheSameFact() {
    Given g = Given.estate().point("a", 5).drill("a", Method.READ_THROUGH, true, 1);
    g.points.forEach(p -> assertThat(reader
            .read(FactKinds.POINTS, "f", new RawRow(1, FactKinds.POINTS.row(p, notation)))
            .fact())
        .isEqualTo(p));
    g.stores.forEach(s -> assertThat(reader
            .read(FactKinds.STORES, "f", new RawRow(1, FactKinds.STORES.row(s, notation)))
            .fact())
        .isEqualTo(s));
    g.resources.forEach(r -> assertThat(reader
            .read(FactKinds.RESOURCES, "f", new RawRow(1, FactKinds.RESOURCES.row(r, notation)))
            .fact())
        .isEqualTo(r));
    g.workloads.forEach(w -> assertThat(reader
            .read(FactKinds.WORKLOADS, "f", new RawRow(1, FactKinds.WORKLOADS.row(w, notation)))
            .fact())
        .isEqualTo(w));
    g.policies.forEach(p -> assertThat(reader
            .read(FactKinds.POLICIES, "f", new RawRow(1, FactKinds.POLICIES.row(p, notation)))
            .fact())
        .isEqualTo(p));
    for (Copy c : g.copies) {
      assertThat(new FactReader("feed", NOW, c.recordedAt(), notation)
              .read(FactKinds.COPIES, "f", new RawRow(1, FactKinds.COPIES.row(c, notation)))
              .fact())
          .isEqualTo(c);
    }
  }

  @ParameterizedTest
  @CsvSource({
    "points.csv, POINTS",
    "in/points-2026-11.csv, POINTS",
    "Copies.jsonl, COPIES",
    "stores.json, STORES"
  })
  void namesTellTheFile(String name, BundleFile file) {
    assertThat(BundleFile.named(name)).contains(file);
    assertThat(BundleFile.named("pointless.csv")).isEmpty();
  }
}
