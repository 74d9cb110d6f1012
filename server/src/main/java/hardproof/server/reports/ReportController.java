package hardproof.server.reports;

import hardproof.core.reports.ReportKind;
import hardproof.core.reports.ReportTable;
import hardproof.core.wording.Title;
import hardproof.core.wording.WrongValue;
import hardproof.server.activity.Activity;
import hardproof.server.facts.SelectorJson;
import hardproof.server.outside.OutsideHosts;
import hardproof.server.people.PeopleStore;
import hardproof.server.people.Person;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluations;
import hardproof.server.web.NotFound;
import io.swagger.v3.oas.annotations.Operation;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.core.io.FileSystemResource;
import org.springframework.core.io.Resource;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Reports on a schedule and by hand: who gets them, reading them, and all that were issued. */
@RestController
@RequestMapping("/api")
class ReportController {
  private static final int SHOWN = 500;

  private final ReportStore reports;
  private final IssuedReports issued;
  private final ReportDesk desk;
  private final ReportDelivery delivery;
  private final ReportBuilder builder;
  private final Evaluations evaluations;
  private final OutsideHosts hosts;
  private final PeopleStore people;
  private final Activity activity;
  private final Clock clock;

  ReportController(
      ReportStore reports,
      IssuedReports issued,
      ReportDesk desk,
      ReportDelivery delivery,
      ReportBuilder builder,
      Evaluations evaluations,
      OutsideHosts hosts,
      PeopleStore people,
      Activity activity,
      Clock clock) {
    this.reports = reports;
    this.issued = issued;
    this.desk = desk;
    this.delivery = delivery;
    this.builder = builder;
    this.evaluations = evaluations;
    this.hosts = hosts;
    this.people = people;
    this.activity = activity;
    this.clock = clock;
  }

  /** A kind of report. */
  record ReportKindView(ReportKind kind, String words, ReportKind.Period period, boolean tables) {}

  @Operation(summary = "Kinds of reports")
  @GetMapping("/report-kinds")
  List<ReportKindView> kinds() {
    return Arrays.stream(ReportKind.values())
        .map(k -> new ReportKindView(k, k.words(), k.period(), k.tables()))
        .toList();
  }

  /**
   * What is to be read at once, and not kept.
   *
   * @param selector which resources, as JSON; null for all
   * @param asAt null for now
   * @param knownAt then, now or an instant; null for what was known then
   * @param from begin of its period; null for a day before
   * @param ahead how far it looks ahead, such as 14d; null for two weeks
   */
  record ReportAsked(
      ReportKind kind,
      @Nullable String title,
      @Nullable String selector,
      @Nullable Instant asAt,
      @Nullable String knownAt,
      @Nullable Instant from,
      @Nullable String ahead) {}

  private ReportContents contents(ReportAsked asked) {
    if (asked.kind() == null) {
      throw new WrongValue("say which kind of report");
    }
    return builder.contents(
        evaluations.at(new AsAt(asked.asAt(), asked.knownAt())),
        new ReportBuilder.Asked(
            asked.title() == null || asked.title().isBlank()
                ? asked.kind().words()
                : Title.of(asked.title()),
            asked.kind(),
            SelectorJson.asked(asked.selector()),
            asked.from(),
            asked.ahead() == null ? null : ReportDraft.duration(asked.ahead())));
  }

  @Operation(summary = "A report as a page, not kept")
  @GetMapping("/report/page")
  ResponseEntity<String> page(@ParameterObject ReportAsked asked) {
    return page(ReportFiles.html(contents(asked)));
  }

  private static ResponseEntity<String> page(String html) {
    return ResponseEntity.ok()
        .header("Content-Security-Policy", PAGE_POLICY)
        .contentType(new MediaType(MediaType.TEXT_HTML, StandardCharsets.UTF_8))
        .body(html);
  }

  private static final String PAGE_POLICY =
      "default-src 'none'; style-src 'unsafe-inline'; img-src data:; frame-ancestors 'none'; sandbox";

  @Operation(summary = "A report as JSON, not kept")
  @GetMapping(path = "/report/json", produces = MediaType.APPLICATION_JSON_VALUE)
  ResponseEntity<byte[]> json(@ParameterObject ReportAsked asked) {
    return ResponseEntity.ok()
        .contentType(MediaType.APPLICATION_JSON)
        .body(ReportFiles.json(contents(asked)));
  }

  @Operation(summary = "A table of a report as CSV, not kept")
  @GetMapping(path = "/report/csv/{table}", produces = "text/csv")
  ResponseEntity<byte[]> csv(@PathVariable String table, @ParameterObject ReportAsked asked) {
    ReportContents contents = contents(asked);
    ReportTable found = contents.tables().stream()
        .filter(t -> t.name().equals(table))
        .findFirst()
        .orElseThrow(() -> new NotFound("This report has no table " + table + "; it has "
            + String.join(
                ", ", contents.tables().stream().map(ReportTable::name).toList()) + "."));
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment().filename(table + ".csv").build().toString())
        .contentType(new MediaType("text", "csv", StandardCharsets.UTF_8))
        .body(ReportFiles.csv(found));
  }

  /**
   * A report with its number.
   *
   * @param scope in words
   * @param next when it is due next; null where it is not
   */
  record ReportView(
      long id, ReportDraft report, String scope, @Nullable Instant next) {}

  private ReportView view(Report r) {
    return new ReportView(
        r.id(),
        ReportDraft.of(r),
        r.scope().words(),
        ReportDesk.next(r, clock.instant()).orElse(null));
  }

  @Operation(summary = "Reports that are issued on a schedule")
  @GetMapping("/reports")
  List<ReportView> all() {
    return reports.all().stream().map(this::view).toList();
  }

  @Operation(summary = "Have a report issued on a schedule")
  @PostMapping("/reports")
  @ResponseStatus(HttpStatus.CREATED)
  ReportView add(@RequestBody ReportDraft draft, Principal person) {
    Report report = reports.put(draft.report(0, hosts, clock.instant()), person.getName());
    activity.record(person.getName(), "added a report", report.title(), report.toString());
    return view(report);
  }

  @Operation(summary = "Change a report")
  @PutMapping("/reports/{id}")
  ReportView change(@PathVariable long id, @RequestBody ReportDraft draft, Principal person) {
    Report before = known(id);
    Report report = reports.put(draft.report(id, hosts, clock.instant()), person.getName());
    activity.record(
        person.getName(), "changed a report", report.title(), before + " became " + report);
    return view(report);
  }

  @Operation(summary = "Remove a report; what it issued stays in the list")
  @DeleteMapping("/reports/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable long id, Principal person) {
    Report report = known(id);
    issued.giveUp(id, clock.instant());
    reports.remove(id);
    activity.record(person.getName(), "removed a report", report.title(), report.toString());
  }

  private Report known(long id) {
    return reports.find(id).orElseThrow(() -> new NotFound("There is no report " + id + "."));
  }

  /** It goes to its recipients as if it were due. */
  @Operation(summary = "Issue a report now")
  @PostMapping("/reports/{id}/issue")
  @ResponseStatus(HttpStatus.ACCEPTED)
  void issue(@PathVariable long id, Principal person) {
    String by = people.find(person.getName()).map(Person::fullName).orElse(person.getName());
    Report report = known(id);
    activity.record(person.getName(), "issued a report", report.title(), report.toString());
    desk.ask(report, by);
  }

  /**
   * All that were issued, the newest first.
   *
   * @param making titles of those that are being made
   */
  record IssuedView(List<String> making, List<IssuedReport> issued) {}

  @Operation(summary = "Reports that were issued, with what became of each delivery")
  @GetMapping("/issued-reports")
  IssuedView issued() {
    return new IssuedView(desk.underWay(), issued.newest(SHOWN));
  }

  @Operation(
      summary = "A file of a report that was issued; its page is shown, the others are downloaded")
  @GetMapping("/issued-reports/{id}/files/{name}")
  ResponseEntity<Resource> file(@PathVariable long id, @PathVariable String name) {
    IssuedReport report = issued.find(id);
    IssuedReport.IssuedFile known = report.files().stream()
        .filter(f -> f.name().equals(name))
        .findFirst()
        .orElseThrow(() -> new NotFound("The report has no file " + name + "."));
    Path file = delivery.file(report, name);
    boolean shown = known.mediaType().startsWith("text/html");
    ResponseEntity.BodyBuilder answer = ResponseEntity.ok()
        .contentType(MediaType.parseMediaType(known.mediaType()))
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            (shown ? ContentDisposition.inline() : ContentDisposition.attachment())
                .filename(name)
                .build()
                .toString());
    return (shown ? answer.header("Content-Security-Policy", PAGE_POLICY) : answer)
        .body(new FileSystemResource(file));
  }
}
