package hardproof.server.reports;

import hardproof.core.alerts.AlertCause;
import hardproof.core.alerts.AlertKind;
import hardproof.core.reports.ReportKind;
import hardproof.core.reports.ReportTable;
import hardproof.core.wording.Wording;
import hardproof.core.wording.WrongValue;
import hardproof.server.evidence.PackBuilder;
import hardproof.server.evidence.PackStore;
import hardproof.server.ledger.LedgerDesk;
import hardproof.server.ledger.LedgerHeads;
import hardproof.server.ledger.LedgerKeys;
import hardproof.server.ledger.TreeHead;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import hardproof.server.reports.IssuedReports.Made;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentLinkedQueue;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Issues reports as they are due or asked for. */
public final class ReportDesk {
  private static final Logger LOG = LoggerFactory.getLogger(ReportDesk.class);
  private static final String BY_SCHEDULE = "schedule";
  private static final DateTimeFormatter NAME =
      DateTimeFormatter.ofPattern("yyyyMMdd-HHmm", Locale.ROOT).withZone(ZoneOffset.UTC);

  private final ReportStore reports;
  private final IssuedReports issued;
  private final ReportBuilder builder;
  private final Evaluations evaluations;
  private final PackStore packs;
  private final PackBuilder packBuilder;
  private final LedgerDesk ledger;
  private final LedgerHeads heads;
  private final ConcurrentLinkedQueue<Wanted> wanted = new ConcurrentLinkedQueue<>();
  private volatile @Nullable String making;

  private record Wanted(Report report, String by) {}

  public ReportDesk(
      ReportStore reports,
      IssuedReports issued,
      ReportBuilder builder,
      Evaluations evaluations,
      PackStore packs,
      PackBuilder packBuilder,
      LedgerDesk ledger,
      LedgerHeads heads) {
    this.reports = reports;
    this.issued = issued;
    this.builder = builder;
    this.evaluations = evaluations;
    this.packs = packs;
    this.packBuilder = packBuilder;
    this.ledger = ledger;
    this.heads = heads;
  }

  /** Issues one as soon as it comes to its turn, whatever its schedule says. */
  void ask(Report report, String by) {
    wanted.add(new Wanted(report, by));
  }

  /** Titles of those that are being made, or wait to be. */
  List<String> underWay() {
    List<String> titles = new ArrayList<>();
    String now = making;
    if (now != null) {
      titles.add(now);
    }
    wanted.forEach(w -> titles.add(w.report().title()));
    return titles;
  }

  /** Issues what was asked for, and what is due by now: once, however long nobody was here to do it. */
  public synchronized void run(Instant now) {
    for (Wanted asked = wanted.poll(); asked != null; asked = wanted.poll()) {
      issue(asked.report(), null, asked.by(), now);
    }
    for (Report report : reports.all()) {
      if (report.active()) {
        Instant after = issued
            .lastDue(report.id())
            .filter(last -> last.isAfter(report.changedAt()))
            .orElse(report.changedAt());
        report.due(after, now).ifPresent(due -> issue(report, due, BY_SCHEDULE, now));
      }
    }
  }

  private void issue(Report report, @Nullable Instant due, String by, Instant now) {
    making = report.title();
    try {
      issued.keep(made(report, due, by, now));
    } catch (IOException e) {
      LOG.error("a report could not be kept; it is tried again", e);
    } finally {
      making = null;
    }
  }

  private Made made(Report report, @Nullable Instant due, String by, Instant now) {
    try {
      return switch (report.kind()) {
        case PACK -> pack(report, due, by, now);
        case HEAD -> head(report, due, by, now);
        default -> tables(report, due, by, now);
      };
    } catch (Refused | WrongValue | LedgerKeys.NoKey e) {
      return notMade(report, due, by, now, String.valueOf(e.getMessage()));
    } catch (IOException e) {
      LOG.error("a report could not be made", e);
      return notMade(report, due, by, now, "it could not be written: " + e.getMessage());
    } catch (RuntimeException e) {
      // One that can't be made holds up no other, and is not tried for ever.
      LOG.error("a report could not be made", e);
      return notMade(report, due, by, now, "an error that nobody expected: " + e.getMessage());
    }
  }

  private static Made notMade(
      Report report, @Nullable Instant due, String by, Instant now, String problem) {
    return new Made(
        entry(report, due, by, now, now, null, null, "", null, problem), Map.of(), List.of());
  }

  private static IssuedReport entry(
      Report report,
      @Nullable Instant due,
      String by,
      Instant now,
      Instant asAt,
      @Nullable Instant from,
      @Nullable Instant until,
      String words,
      @Nullable Long pack,
      @Nullable String problem) {
    return new IssuedReport(
        0,
        report.id() == 0 ? null : report.id(),
        report.title(),
        report.kind(),
        report.scope().words(),
        from,
        asAt,
        until,
        due,
        now,
        by,
        words,
        pack,
        problem,
        List.of(),
        List.of());
  }

  /** What is due tells up to when it was due, as far as that is past: the next one goes on from there. */
  private Evaluated evaluated(@Nullable Instant due) {
    return due == null ? evaluations.now() : evaluations.at(due);
  }

  private Made tables(Report report, @Nullable Instant due, String by, Instant now) {
    Evaluated evaluated = evaluated(due);
    Instant asAt = evaluated.evaluation().asAt();
    boolean back = report.kind().period() == ReportKind.Period.BACK;
    Duration ahead = report.kind().period() == ReportKind.Period.AHEAD ? report.period() : null;
    ReportContents contents = builder.contents(
        evaluated,
        new ReportBuilder.Asked(
            report.title(), report.kind(), report.scope(), back ? report.from(asAt) : null, ahead));
    // Two of a kind that are due at once may go into one folder.
    String name = report.kind().code() + "-" + report.id() + "-" + NAME.format(asAt);
    Map<String, Made.Content> files = new LinkedHashMap<>();
    if (report.formats().contains(Report.Format.HTML)) {
      put(
          files,
          name + ".html",
          "text/html; charset=utf-8",
          ReportFiles.html(contents).getBytes(StandardCharsets.UTF_8));
    }
    if (report.formats().contains(Report.Format.CSV)) {
      for (ReportTable table : contents.tables()) {
        String part = contents.tables().size() == 1 ? "" : "-" + table.name();
        put(files, name + part + ".csv", "text/csv; charset=utf-8", ReportFiles.csv(table));
      }
    }
    if (report.formats().contains(Report.Format.JSON)) {
      put(files, name + ".json", "application/json", ReportFiles.json(contents));
    }
    IssuedReport entry = entry(
        report,
        due,
        by,
        now,
        asAt,
        contents.from(),
        contents.until(),
        ReportFiles.words(contents),
        null,
        null);
    return new Made(entry, files, report.deliveries());
  }

  private static void put(
      Map<String, Made.Content> files, String name, String mediaType, byte[] bytes) {
    files.put(name, new Made.Content(mediaType, bytes, null));
  }

  private Made pack(Report report, @Nullable Instant due, String by, Instant now)
      throws IOException {
    ledger.check();
    ledger.requireWhole();
    Evaluated evaluated = evaluated(due);
    Instant asAt = evaluated.evaluation().asAt();
    Instant from = report.from(asAt);
    PackBuilder.Contents contents =
        packBuilder.contents(evaluated, report.title(), report.scope(), by, from);
    contents.requireSomething();
    PackStore.Issued pack = packs.issue(contents, now);
    String words = "An evidence pack: " + pack.proven() + " of "
        + Wording.count(pack.workloads(), "workload", "workloads") + " proven, as at " + asAt
        + ", of the time since " + from + ".\nScope: " + pack.scope() + ".\nSHA-256 of the zip: "
        + pack.sha256() + "\nCheck it anywhere with: hard-proof verify " + pack.name() + ".zip\n";
    return new Made(
        entry(report, due, by, now, asAt, from, null, words, pack.id(), null),
        Map.of(pack.name() + ".zip", new Made.Content("application/zip", null, packs.file(pack))),
        report.deliveries());
  }

  /** For a witness: whoever keeps it can hold any later ledger or pack to it. */
  private Made head(Report report, @Nullable Instant due, String by, Instant now) {
    ledger.check();
    ledger.requireWhole();
    TreeHead head = heads.current();
    String words =
        "The head of the ledger, to be kept. Any later ledger or pack of this installation can be held to"
            + " it: hard-proof verify PACK.zip --head ledger-head-" + head.size() + ".json\n\n"
            + head.size() + " entries, " + head.at() + "\nroot " + head.root() + "\n";
    Map<String, Made.Content> files = new LinkedHashMap<>();
    put(
        files,
        "ledger-head-" + head.size() + ".json",
        "application/json",
        head.file().getBytes(StandardCharsets.UTF_8));
    return new Made(
        entry(report, due, by, now, head.at(), null, null, words, null, null),
        files,
        report.deliveries());
  }

  /** What could not be made or delivered, for the bell. */
  public List<AlertCause> causes() {
    List<AlertCause> causes = new ArrayList<>();
    for (IssuedReport r : issued.notMade()) {
      causes.add(new AlertCause(
          AlertKind.REPORT_NOT_MADE,
          "report-" + r.report(),
          r.title(),
          null,
          null,
          "\"" + r.title() + "\" could not be made: " + r.problem(),
          0));
    }
    issued
        .givenUp()
        .forEach((sent, r) -> causes.add(new AlertCause(
            AlertKind.NOT_DELIVERED,
            "report-" + r.report() + "-" + sent.how().code() + "-" + sent.recipient(),
            sent.recipient(),
            null,
            null,
            "\"" + r.title() + "\" could not be delivered to " + sent.recipient() + ": "
                + sent.problem(),
            0)));
    return causes;
  }

  /** When a report is due next; empty where it never is again, or is off. */
  static Optional<Instant> next(Report report, Instant now) {
    return report.active() ? report.when().recurrence().nextAfter(now) : Optional.empty();
  }
}
