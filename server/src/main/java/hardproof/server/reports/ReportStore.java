package hardproof.server.reports;

import hardproof.core.reports.ReportKind;
import hardproof.core.wording.Coded;
import hardproof.server.facts.SelectorJson;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import java.util.stream.Collectors;

/** The reports that are to be issued on a schedule. */
public final class ReportStore {
  private final Database database;

  public ReportStore(Database database) {
    this.database = database;
  }

  List<Report> all() {
    return database
        .reads()
        .sql(
            "SELECT id, title, kind, selector, period_ms, formats, rule, zone, starts_at, deliveries,"
                + " active, changed_at FROM report ORDER BY id")
        .query((r, n) -> report(r))
        .list();
  }

  Optional<Report> find(long id) {
    return all().stream().filter(r -> r.id() == id).findFirst();
  }

  private static Report report(ResultSet r) throws SQLException {
    return new Report(
        r.getLong("id"),
        r.getString("title"),
        Coded.of(ReportKind.class, r.getString("kind")),
        SelectorJson.read(r.getString("selector")),
        Columns.duration(r, 5),
        Arrays.stream(r.getString("formats").split(" "))
            .map(f -> Coded.of(Report.Format.class, f))
            .collect(Collectors.toCollection(TreeSet::new)),
        new Report.When(
            r.getString("rule"), r.getString("zone"), Instant.ofEpochMilli(r.getLong("starts_at"))),
        deliveries(r.getString("deliveries")),
        r.getInt("active") == 1,
        Instant.ofEpochMilli(r.getLong("changed_at")));
  }

  /** One a line: how, a blank, to whom. */
  private static List<Report.Delivery> deliveries(String lines) {
    return lines
        .lines()
        .map(line -> line.split(" ", 2))
        .map(parts -> new Report.Delivery(Coded.of(Report.How.class, parts[0]), parts[1]))
        .toList();
  }

  private static String lines(List<Report.Delivery> deliveries) {
    return deliveries.stream()
        .map(d -> d.how().code() + " " + d.recipient())
        .collect(Collectors.joining("\n"));
  }

  /** Adds one, or writes over the one with its number. */
  Report put(Report report, String by) {
    long id = database.write(() -> database
        .writes()
        .sql("""
            INSERT INTO report (id, title, kind, selector, period_ms, formats, rule, zone, starts_at, deliveries,
                                active, changed_by, changed_at)
            VALUES (:id, :title, :kind, :selector, :period, :formats, :rule, :zone, :starts, :deliveries, :active,
                    :by, :now)
            ON CONFLICT (id) DO UPDATE SET title = excluded.title, kind = excluded.kind,
              selector = excluded.selector, period_ms = excluded.period_ms, formats = excluded.formats,
              rule = excluded.rule, zone = excluded.zone, starts_at = excluded.starts_at,
              deliveries = excluded.deliveries, active = excluded.active, changed_by = excluded.changed_by,
              changed_at = excluded.changed_at
            RETURNING id
            """)
        .param("id", report.id() == 0 ? null : report.id())
        .param("title", report.title())
        .param("kind", report.kind().code())
        .param("selector", SelectorJson.write(report.scope()))
        .param("period", report.period() == null ? null : report.period().toMillis())
        .param(
            "formats", report.formats().stream().map(Coded::code).collect(Collectors.joining(" ")))
        .param("rule", report.when().rule())
        .param("zone", report.when().zone())
        .param("starts", report.when().starts().toEpochMilli())
        .param("deliveries", lines(report.deliveries()))
        .param("active", report.active() ? 1 : 0)
        .param("by", by)
        .param("now", report.changedAt().toEpochMilli())
        .query(Long.class)
        .single());
    return find(id).orElseThrow();
  }

  /** Removes one. What it issued stays. */
  void remove(long id) {
    database.write(() -> database
        .writes()
        .sql("DELETE FROM report WHERE id = :id")
        .param("id", id)
        .update());
  }
}
