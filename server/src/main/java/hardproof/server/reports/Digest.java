package hardproof.server.reports;

import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Selector;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.reports.ReportTable;
import hardproof.core.wording.Wording;
import hardproof.server.alerts.Alert;
import hardproof.server.alerts.AlertDelivery;
import hardproof.server.alerts.AlertStore;
import hardproof.server.findings.FindingLog;
import hardproof.server.proof.Evaluated;
import hardproof.server.runs.ScreenStore;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** What happened in a time: alerts, verdicts that moved, drills and what machines showed. */
public final class Digest {
  private static final int CLOSED_LOOKED_AT = 10_000;
  private static final int PICTURES = 12;

  private final AlertStore alerts;
  private final FindingLog log;
  private final ScreenStore screens;

  public Digest(AlertStore alerts, FindingLog log, ScreenStore screens) {
    this.alerts = alerts;
    this.log = log;
    this.screens = screens;
  }

  private static List<Object> row(Object... cells) {
    return Arrays.asList(cells);
  }

  List<ReportTable> tables(
      Evaluated evaluated, Selector scope, Set<String> resources, Instant from, Instant to) {
    Estate estate = evaluated.estate();
    List<Alert> known = Stream.concat(
            alerts.open().stream(), alerts.closed(CLOSED_LOOKED_AT).stream())
        .filter(a -> AlertDelivery.about(a, scope, estate))
        .toList();
    return List.of(
        table(
            "opened",
            "What opened",
            known,
            Alert::openedAt,
            from,
            to,
            "No alert opened in this time."),
        table(
            "closed",
            "What closed",
            known,
            Alert::closedAt,
            from,
            to,
            "No alert closed in this time."),
        verdicts(estate, resources, from, to),
        drills(estate, resources, from, to));
  }

  private static ReportTable table(
      String name,
      String title,
      List<Alert> alerts,
      Function<Alert, @Nullable Instant> at,
      Instant from,
      Instant to,
      String none) {
    List<List<Object>> rows = alerts.stream()
        .filter(a -> within(at.apply(a), from, to))
        .sorted(Comparator.comparing(at).thenComparing(Alert::id))
        .map(a -> row(
            at.apply(a),
            a.kind().words(),
            a.name(),
            a.tier(),
            a.state().code(),
            a.whole(),
            a.note()))
        .toList();
    return new ReportTable(
        name,
        title,
        List.of("at", "alert", "name", "tier", "state", "sentence", "note"),
        rows,
        none);
  }

  private static boolean within(@Nullable Instant at, Instant from, Instant to) {
    return at != null && !at.isBefore(from) && at.isBefore(to);
  }

  private ReportTable verdicts(Estate estate, Set<String> resources, Instant from, Instant to) {
    List<List<Object>> rows = new ArrayList<>();
    for (FindingLog.VerdictEvent e : log.verdicts(null, from, to)) {
      Workload workload = estate.workload(e.workload());
      boolean asked =
          estate.membersOf(e.workload()).stream().map(Resource::key).anyMatch(resources::contains);
      if (asked && e.at().isBefore(to)) {
        rows.add(row(
            e.at(),
            e.workload(),
            workload == null ? null : workload.name(),
            workload == null ? null : workload.tier(),
            e.verdict().code(),
            e.sentence()));
      }
    }
    return new ReportTable(
        "verdicts",
        "Verdicts that moved",
        List.of("at", "workload", "name", "tier", "verdict", "sentence"),
        rows,
        "No verdict moved in this time.");
  }

  private static Stream<DrillFact> ended(
      Estate estate, Set<String> resources, Instant from, Instant to) {
    return estate.facts().drills().stream()
        .filter(d -> d.method() != Method.READ_BACK)
        .filter(d -> resources.contains(d.resource()) && within(d.ended(), from, to))
        .sorted(Comparator.comparing(DrillFact::ended).thenComparing(DrillFact::run));
  }

  private static ReportTable drills(
      Estate estate, Set<String> resources, Instant from, Instant to) {
    List<List<Object>> rows = ended(estate, resources, from, to)
        .sorted(Comparator.comparing(DrillFact::failed).reversed())
        .map(d -> row(
            d.ended(),
            d.run(),
            d.resource(),
            name(estate, d),
            d.method().words(),
            d.passed() ? "passed" : d.failed() ? "failed" : "says nothing",
            Wording.duration(d.took()),
            d.sentence()))
        .toList();
    return new ReportTable(
        "drills",
        "Drills that ended, what failed first",
        List.of("ended", "run", "resource", "name", "method", "outcome", "took", "sentence"),
        rows,
        "No drill ended in this time.");
  }

  private static String name(Estate estate, DrillFact drill) {
    Resource resource = estate.resource(drill.resource());
    return resource == null ? drill.resource() : resource.name();
  }

  /** The last screens of machines that started. */
  List<ReportContents.Picture> pictures(
      Estate estate, Set<String> resources, Instant from, Instant to) {
    List<ReportContents.Picture> pictures = new ArrayList<>();
    ended(estate, resources, from, to)
        .filter(d -> d.method() == Method.BOOT && d.passed())
        .limit(PICTURES)
        .forEach(d -> screens.of(d.run()).stream()
            .reduce((a, b) -> b)
            .ifPresent(screen -> pictures.add(new ReportContents.Picture(
                name(estate, d) + ", " + Wording.time(d.ended(), to) + " UTC", screen.png()))));
    return pictures;
  }
}
