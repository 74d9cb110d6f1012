package hardproof.server.reports;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.doNothing;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;

import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import hardproof.core.alerts.AlertKind;
import hardproof.core.estate.Selector;
import hardproof.core.reports.ReportKind;
import hardproof.server.WithEstate;
import hardproof.server.alerts.Alert;
import hardproof.server.alerts.AlertStore;
import hardproof.server.delivery.Outlet;
import hardproof.server.delivery.Parcel;
import hardproof.server.delivery.Tries;
import hardproof.server.evidence.PackStore;
import hardproof.server.evidence.PackVerifier;
import hardproof.server.ledger.TreeHead;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.mockito.ArgumentCaptor;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Reports from being due to being taken. What takes them is mocked. */
class ReportsTest extends WithEstate {
  private static final String DAILY = "FREQ=DAILY;BYHOUR=9;BYMINUTE=0;BYSECOND=0";
  private static final Report.Delivery OPS =
      new Report.Delivery(Report.How.MAIL, "ops@example.org");

  private final Outlet outlet = mock(Outlet.class);
  private ReportStore store;
  private IssuedReports issued;
  private ReportDesk desk;
  private ReportDelivery delivery;

  @BeforeEach
  void parts() {
    store = estate.installation.part(ReportStore.class);
    issued = estate.installation.part(IssuedReports.class);
    desk = estate.installation.part(ReportDesk.class);
    delivery = new ReportDelivery(
        issued,
        estate.installation.part(PackStore.class),
        Map.of(Report.How.MAIL, outlet, Report.How.WEBHOOK, outlet, Report.How.FOLDER, outlet));
    delivery.at("https://proof.example");
  }

  private Instant now() {
    return estate.clock.instant();
  }

  private Report report(ReportKind kind, Selector scope, String rule, String zone) {
    return store.put(
        new Report(
            0,
            "A report",
            kind,
            scope,
            null,
            EnumSet.allOf(Report.Format.class),
            new Report.When(rule, zone, now()),
            List.of(OPS),
            true,
            now()),
        "tester");
  }

  private void change(Report report, Selector scope, boolean active, Instant changedAt) {
    store.put(
        new Report(
            report.id(),
            report.title(),
            report.kind(),
            scope,
            report.period(),
            report.formats(),
            report.when(),
            report.deliveries(),
            active,
            changedAt),
        "tester");
  }

  private Report daily(ReportKind kind) {
    return report(kind, Selector.EVERYTHING, DAILY, "UTC");
  }

  private void run() {
    desk.run(now());
  }

  private String file(IssuedReport report, String ending) throws Exception {
    String name = report.files().stream()
        .map(IssuedReport.IssuedFile::name)
        .filter(n -> n.endsWith(ending))
        .findFirst()
        .orElseThrow();
    return Files.readString(delivery.file(report, name));
  }

  /** The clock says 10:00; the next 09:00 is tomorrow: just before, at, and again after it. */
  @Test
  void itIsIssuedOnceWhenItIsDue() {
    daily(ReportKind.UNPROTECTED);
    estate.clock.forward(Duration.ofHours(23).minusMillis(1));
    run();
    assertThat(issued.newest(10)).isEmpty();
    estate.clock.forward(Duration.ofMillis(1));
    run();
    run();
    estate.clock.forward(Duration.ofHours(1));
    run();
    assertThat(issued.newest(10)).singleElement().satisfies(r -> {
      assertThat(r.dueAt()).isEqualTo("2026-11-25T09:00:00Z");
      assertThat(r.asAt()).isEqualTo("2026-11-25T09:00:00Z");
      assertThat(r.madeBy()).isEqualTo("schedule");
    });
  }

  /** Nobody wants the digests of a week at once. */
  @Test
  void whatWasMissedWhileNobodyWasHereIsIssuedOnceAndTellsOfTheLastTime() throws Exception {
    daily(ReportKind.JOBS);
    estate.clock.forward(Duration.ofDays(7));
    estate.reopen();
    parts();
    run();
    assertThat(issued.newest(10)).singleElement().satisfies(r -> {
      assertThat(r.dueAt()).isEqualTo("2026-12-01T09:00:00Z");
      assertThat(r.from()).isEqualTo("2026-11-30T09:00:00Z");
    });
  }

  /** Europe/Oslo leaves summer time on 25 Oct 2026 and begins it on 28 Mar 2027 (IANA time zone database). */
  @Test
  void aDayOfAReportIsADayOfItsZone() {
    estate.clock.set(Instant.parse("2027-03-26T12:00:00Z"));
    report(ReportKind.JOBS, Selector.EVERYTHING, DAILY, "Europe/Oslo");
    estate.clock.set(Instant.parse("2027-03-28T07:00:00Z"));
    run();
    IssuedReport issuedOne = issued.newest(1).get(0);
    assertThat(issuedOne.dueAt()).isEqualTo("2027-03-28T07:00:00Z");
    assertThat(Duration.between(issuedOne.from(), issuedOne.dueAt()))
        .isEqualTo(Duration.ofHours(23));
  }

  /** The first of a month's report reaches back over a month, though nobody had asked for it then. */
  @Test
  void theFirstOneReachesBackAsFarAsTheNextWill() {
    report(
        ReportKind.JOBS,
        Selector.EVERYTHING,
        "FREQ=MONTHLY;BYMONTHDAY=1;BYHOUR=5;BYMINUTE=0;BYSECOND=0",
        "UTC");
    estate.clock.set(Instant.parse("2026-12-01T05:00:01Z"));
    run();
    assertThat(issued.newest(1).get(0).from()).isEqualTo("2026-11-01T05:00:00Z");
  }

  @Test
  void oneThatIsOffIsNotIssuedAndOneThatIsChangedMakesUpForNothing() {
    Report report = daily(ReportKind.JOBS);
    estate.clock.forward(Duration.ofDays(3));
    change(report, report.scope(), true, now());
    run();
    assertThat(issued.newest(1)).isEmpty();
    estate.clock.forward(Duration.ofDays(1));
    change(report, report.scope(), false, report.changedAt());
    run();
    assertThat(issued.newest(1)).isEmpty();
  }

  /** The same rows on the page, as CSV by another's reader and as JSON. */
  @Test
  void theJobsAreTheSameInEachForm() throws Exception {
    estate.take(
        "jobs.csv",
        "key,type,resource,store,started,ended,outcome,message\n"
            + "j1,backup,share,near,2026-11-24T08:00:00Z,2026-11-24T08:10:00Z,succeeded,\n"
            + "j2,copy,db,near,2026-11-24T08:59:59Z,,running,\"<b>=1+1</b>, \"\"slow\"\"\"\n"
            + "j3,restore,share,near,2026-11-24T09:00:00Z,2026-11-24T09:05:00Z,failed,no space\n"
            + "j4,backup,share,near,2026-11-23T08:59:59Z,2026-11-23T09:05:00Z,failed,too early\n");
    Report report = daily(ReportKind.JOBS);
    desk.ask(report, "Ana");
    run();
    IssuedReport made = issued.newest(1).get(0);
    assertThat(made.madeBy()).isEqualTo("Ana");
    List<CsvRecord> rows;
    try (CsvReader<CsvRecord> csv = CsvReader.builder().ofCsvRecord(file(made, ".csv"))) {
      rows = csv.stream().toList();
    }
    assertThat(rows).extracting(r -> r.getField(1)).containsExactly("job", "j3");
    assertThat(made.from()).isEqualTo("2026-11-24T09:00:00Z");
    JsonNode json = JsonMapper.builder().build().readTree(file(made, ".json"));
    JsonNode job = json.path("tables").path("jobs").get(0);
    assertThat(job.path("job").asString()).isEqualTo("j3");
    assertThat(job.path("took_s").asInt()).isEqualTo(300);
    assertThat(job.path("bytes").isNull()).isTrue();
    assertThat(job.path("message").asString()).isEqualTo("no space");
    assertThat(file(made, ".html")).contains("<td>j3</td>", "no space").doesNotContain("<td>j1");
  }

  @Test
  void whatFeedsSayIsNeverMarkupOnThePage() throws Exception {
    estate.take(
        "jobs.csv",
        "key,type,resource,started,ended,outcome,message\n"
            + "j,backup,share,2026-11-24T09:30:00Z,,running,<script>alert(1)</script>\n");
    desk.ask(daily(ReportKind.JOBS), "Ana");
    run();
    assertThat(file(issued.newest(1).get(0), ".html"))
        .contains("&lt;script&gt;alert(1)&lt;/script&gt;")
        .doesNotContain("<script");
  }

  @Test
  void aScopeThatIsEmptyIsSaidAndRingsUntilOneIsMade() {
    Selector nobody = Selector.allOf(Selector.Condition.is("key", "nobody"));
    Report report = report(ReportKind.JOBS, nobody, DAILY, "UTC");
    estate.clock.forward(Duration.ofHours(23));
    run();
    assertThat(issued.newest(1).get(0)).satisfies(r -> {
      assertThat(r.problem()).contains("Nothing matches this scope");
      assertThat(r.files()).isEmpty();
      assertThat(r.deliveries()).isEmpty();
    });
    look();
    assertThat(open(AlertKind.REPORT_NOT_MADE))
        .singleElement()
        .satisfies(a -> assertThat(a.sentence()).contains("A report", "Widen it"));
    change(report, Selector.EVERYTHING, true, now());
    estate.clock.forward(Duration.ofDays(1));
    run();
    look();
    assertThat(open(AlertKind.REPORT_NOT_MADE)).isEmpty();
  }

  /** A pack about nothing is not issued either; and that it was not is kept where no folder can be made. */
  @Test
  void aPackOfNothingIsSaidEvenWhereNoFileCanBeWritten() throws Exception {
    Files.writeString(estate.installation.folder().reports(), "in the way");
    Selector nobody = Selector.allOf(Selector.Condition.is("key", "nobody"));
    desk.ask(report(ReportKind.PACK, nobody, DAILY, "UTC"), "Ana");
    run();
    assertThat(issued.newest(1).get(0).problem()).contains("a pack about nothing");
    assertThat(estate.installation.part(PackStore.class).all()).isEmpty();
  }

  private void look() {
    estate.installation.logFindings(estate.installation.evaluations().now());
  }

  private List<Alert> open(AlertKind kind) {
    return estate.installation.part(AlertStore.class).open().stream()
        .filter(a -> a.kind() == kind)
        .toList();
  }

  /** A pack that a schedule issued is a pack like any other: it verifies, and a witness's head holds it. */
  @Test
  void aPackAndAHeadForAWitnessHoldTogether() throws Exception {
    desk.ask(daily(ReportKind.HEAD), "Ana");
    run();
    TreeHead head = TreeHead.read(file(issued.newest(1).get(0), ".json"));
    estate.clock.forward(Duration.ofHours(1));
    desk.ask(daily(ReportKind.PACK), "Ana");
    run();
    IssuedReport pack = issued.newest(1).get(0);
    assertThat(pack.problem()).isNull();
    assertThat(pack.pack()).isNotNull();
    Path zip = delivery.file(pack, pack.files().get(0).name());
    assertThat(PackVerifier.verify(zip, head).checks())
        .isNotEmpty()
        .allSatisfy(c -> assertThat(c.passed()).as(c.toString()).isTrue());
    assertThat(estate.installation.part(PackStore.class).all()).hasSize(1);
  }

  @Test
  void everythingThatIsMadeIsTakenWithItsFiles() throws Exception {
    desk.ask(daily(ReportKind.HEAD), "Ana");
    run();
    delivery.run(now());
    delivery.run(now());
    ArgumentCaptor<Parcel> taken = ArgumentCaptor.forClass(Parcel.class);
    verify(outlet, times(1)).deliver(taken.capture(), any());
    Parcel parcel = taken.getValue();
    IssuedReport made = issued.newest(1).get(0);
    assertThat(parcel.recipient()).isEqualTo("ops@example.org");
    assertThat(parcel.subject()).isEqualTo("A report");
    assertThat(parcel.body())
        .contains("root ", "https://proof.example/evidence?tab=reports&issued=" + made.id());
    assertThat(parcel.files())
        .singleElement()
        .satisfies(f -> assertThat(f.file()).hasContent(file(made, ".json")));
    JsonNode event = JsonMapper.builder().build().readTree(parcel.event());
    assertThat(event.path("type").asString()).isEqualTo("hardproof.report.issued");
    assertThat(TreeHead.read(event.path("data").path("head").asString()).root())
        .isEqualTo(TreeHead.read(file(made, ".json")).root());
    assertThat(issued.newest(1).get(0).deliveries().get(0).state())
        .isEqualTo(IssuedReport.State.SENT);
  }

  /** Tried after one, five, thirty minutes, two and six hours; then it is given up, and the bell says so. */
  @Test
  void whatNobodyTakesIsTriedAgainAndThenRings() throws Exception {
    Report report = daily(ReportKind.EXCEPTIONS);
    desk.ask(report, "Ana");
    run();
    doThrow(new Outlet.NotTaken("550 no such mailbox")).when(outlet).deliver(any(), any());
    Instant at = now();
    delivery.run(at);
    for (int i = 0; i < Tries.WAITS.size(); i++) {
      Instant next = at.plus(Tries.WAITS.get(i));
      delivery.run(next.minusMillis(1));
      verify(outlet, times(i + 1)).deliver(any(), any());
      at = next;
      delivery.run(at);
    }
    look();
    assertThat(open(AlertKind.NOT_DELIVERED)).singleElement().satisfies(a -> {
      assertThat(a.sentence()).contains("ops@example.org", "550 no such mailbox");
      assertThat(a.link()).isEqualTo("/evidence?tab=reports");
    });
    doNothing().when(outlet).deliver(any(), any());
    desk.ask(report, "Ana");
    run();
    delivery.run(at);
    look();
    assertThat(open(AlertKind.NOT_DELIVERED)).isEmpty();
  }

  @Test
  void whatWaitsOfAReportThatIsRemovedIsNotTaken() throws Exception {
    Report report = daily(ReportKind.EXCEPTIONS);
    desk.ask(report, "Ana");
    run();
    issued.giveUp(report.id(), now());
    store.remove(report.id());
    delivery.run(now());
    verify(outlet, never()).deliver(any(), any());
    assertThat(issued.newest(1).get(0).deliveries().get(0).problem())
        .isEqualTo("its report was removed");
    assertThat(daily(ReportKind.EXCEPTIONS).id()).isGreaterThan(report.id());
  }

  @Test
  void filesThatWereRemovedAreSaidToBe() throws Exception {
    desk.ask(daily(ReportKind.EXCEPTIONS), "Ana");
    run();
    IssuedReport made = issued.newest(1).get(0);
    for (IssuedReport.IssuedFile f : made.files()) {
      Files.delete(delivery.file(made, f.name()));
    }
    delivery.run(now());
    verify(outlet, never()).deliver(any(), any());
    assertThat(issued.newest(1).get(0).deliveries().get(0).problem())
        .contains("its files can't be read");
  }

  /** A process that was killed between writing files and entering them. */
  @Test
  void filesThatNobodyEnteredAreRemovedAndNothingElse() throws Exception {
    desk.ask(daily(ReportKind.EXCEPTIONS), "Ana");
    run();
    Path root = estate.installation.folder().reports();
    Path half = Files.createDirectories(root.resolve("0b54a1d2-5f3c-4b7e-9a39-000000000000"));
    Files.writeString(half.resolve("jobs.csv"), "half");
    Path theirs = Files.createDirectories(root.resolve("of somebody else"));
    issued.removeHalfMade();
    assertThat(half).doesNotExist();
    assertThat(theirs).exists();
    assertThat(file(issued.newest(1).get(0), ".csv")).startsWith("exception,");
  }

  @Test
  void theDigestSaysWhatHappenedAndWhatLapses() throws Exception {
    look();
    desk.ask(daily(ReportKind.DIGEST), "Ana");
    estate.clock.forward(Duration.ofMinutes(1));
    run();
    IssuedReport made = issued.newest(1).get(0);
    assertThat(made.words())
        .contains(
            "Verdicts that moved: 1",
            "Wages",
            "No drill ended in this time.",
            "Proofs that lapse before");
    assertThat(made.files())
        .extracting(IssuedReport.IssuedFile::name)
        .anyMatch(n -> n.endsWith("-opened.csv"))
        .anyMatch(n -> n.endsWith("-lapsing.csv"));
  }
}
