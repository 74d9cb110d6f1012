package hardproof.server.feeds;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.feeds.BundleFile;
import hardproof.core.recipes.Layout;
import hardproof.core.recipes.Recipe;
import hardproof.core.recipes.RecipeGuess;
import hardproof.proving.formats.ArtifactFormat;
import hardproof.server.Estate;
import hardproof.server.feeds.Importer.WithRejections;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * Reports that other programs wrote, brought in as they are: a table out of a database by the sqlite3 command with
 * {@code -csv -header}, workbooks by openpyxl 3.1 for Python (titles, two sheets, cells merged, days as numbers, a
 * formula that nobody worked out), and lists of files by GNU find with {@code -printf}, {@code -ls} and alone. What they
 * tell of is made up.
 */
class ForeignReportsTest {
  private static final Path REPORTS = Path.of("src/test/resources/reports");
  private static final Instant NOW = Instant.parse("2026-11-30T12:00:00Z");

  @TempDir
  Path folder;

  private static RecipeGuess.Guess guess(Path path, String name) throws IOException {
    return RecipeGuess.of(
        name,
        ReportSampler.sample(path, path.getFileName().toString()),
        ZoneId.of("Europe/Oslo"),
        Set.copyOf(ArtifactFormat.codes()),
        NOW);
  }

  private static Map<String, RecipeTrial.OutputTrial> tried(Path path, Recipe recipe)
      throws IOException {
    return RecipeTrial.of(path, path.getFileName().toString(), recipe, NOW).stream()
        .collect(Collectors.toMap(RecipeTrial.OutputTrial::file, t -> t, (a, b) -> a));
  }

  private static Map<String, RecipeTrial.OutputTrial> tried(String file) throws IOException {
    Path path = REPORTS.resolve(file);
    return tried(path, guess(path, "theirs").recipe());
  }

  private Path laidDown(String name, String text) throws IOException {
    return Files.writeString(folder.resolve(name), text);
  }

  @Test
  void aTableOfRunsGivesFiveKindsOfRows() throws IOException {
    Map<String, RecipeTrial.OutputTrial> tried = tried("jobs.csv");
    assertThat(tried.values()).allSatisfy(t -> assertThat(t.rejections()).isEmpty());
    assertThat(tried.get("points").good()).as("of 57 one is a restore").isEqualTo(56);
    assertThat(tried.get("points").rows().get(0))
        .containsEntry("key", "70001")
        .containsEntry("resource", "harbour-sql")
        .containsEntry("started", "2026-11-01T21:03:00Z")
        .containsEntry("available", "2026-11-01T21:34:00Z")
        .containsEntry("size", "1523915 kB")
        .doesNotContainKeys("data_time", "policy");
    assertThat(tried.get("resources").rows())
        .extracting(r -> r.get("key"))
        .containsExactly("harbour-sql", "harbour-web", "harbour-files", "ledger,old");
    assertThat(tried.get("copies").good()).as("a failed run left none").isEqualTo(49);
    assertThat(tried.get("copies").rows().get(0)).doesNotContainKeys("locked_until", "expires");
    assertThat(tried.get("jobs").good()).isEqualTo(57);
    assertThat(tried.get("stores").good()).isEqualTo(1);
    assertThat(guess(REPORTS.resolve("jobs.csv"), "theirs").notes())
        .contains(
            "Times say no zone: they are read as Europe/Oslo.",
            "A warning is read as partial, which is never enough to be usable.",
            "Nothing says which point an increment is based on: whether it can be restored is not"
                + " known.",
            "Not used: notes.");
  }

  @Test
  void aWorkbookWithTitlesMergedCellsTotalsAndTwoSheets() throws IOException {
    Recipe recipe = guess(REPORTS.resolve("summary.xlsx"), "theirs").recipe();
    assertThat(recipe.layout().header()).isEqualTo(4);
    assertThat(recipe.layout().footers()).isEqualTo(1);
    assertThat(recipe.layout().sheets()).containsExactly("October", "November");
    assertThat(recipe.layout().filledDown()).containsExactly("server");
    Map<String, RecipeTrial.OutputTrial> tried = tried("summary.xlsx");
    assertThat(tried.values()).allSatisfy(t -> assertThat(t.rejections()).isEmpty());
    assertThat(tried.get("points").good()).isEqualTo(16);
    assertThat(tried.get("points").rows().get(1))
        .containsEntry("resource", "quay-db")
        .containsEntry("started", "2026-10-10T23:15:00Z")
        .containsEntry("size", "13.5 GB")
        .containsEntry("form", "Incremental");
    assertThat(tried.get("resources").rows())
        .as("a total is no resource")
        .extracting(r -> r.get("key"))
        .containsExactly("quay-db", "quay-files", "mail-1");
    assertThat(tried.get("stores").rows())
        .extracting(r -> r.get("medium"))
        .containsExactly("disk", "tape");
  }

  /** In that one, days are counted from 1904: the same number is another day, four years and one day later. */
  @Test
  void aWorkbookWhoseDaysAreCountedFrom1904() throws IOException {
    assertThat(tried("since-1904.xlsx").get("points").rows())
        .extracting(r -> r.get("data_time"))
        .containsExactly("2026-11-20T21:05:00Z", "2026-11-21T21:05:00Z");
  }

  @ParameterizedTest
  @CsvSource({
    "listing.tsv, 2026-11-01T01:41:07Z, 3001",
    "listing-ls.txt, 2026-11-01T01:30:00Z, 3001",
    "names.txt, ,"
  })
  void aListOfFilesIsReadByTheirNames(String file, String available, String size)
      throws IOException {
    Map<String, RecipeTrial.OutputTrial> tried = tried(file);
    assertThat(tried.values()).allSatisfy(t -> assertThat(t.rejections()).isEmpty());
    assertThat(tried.get("points").good()).isEqualTo(18);
    assertThat(tried.get("points").leftOut()).as("a README is no backup").isEqualTo(1);
    assertThat(tried.get("resources").good()).isEqualTo(3);
    Map<String, String> first = tried.get("points").rows().stream()
        .filter(r -> available == null
            || r.get("key").equals("srv/dumps/billing/billing-20261101-0230.sql.gz"))
        .findFirst()
        .orElseThrow();
    assertThat(first.get("data_time")).as("half past two in Oslo").endsWith("T01:30:00Z");
    if (available != null) {
      assertThat(first)
          .containsEntry("available", available)
          .containsEntry("size", size)
          .containsEntry("resource", "billing/billing");
    }
    assertThat(tried.get("copies").rows().get(0))
        .containsEntry("format", "sql.gz")
        .containsEntry("store", "theirs");
  }

  /** From a report to facts, without a word of ours in between. */
  @Test
  void whatWasGuessedIsTaken() throws IOException {
    Estate estate = new Estate(folder);
    try (estate) {
      Path path = REPORTS.resolve("jobs.csv");
      Recipe recipe = guess(path, "runs").recipe();
      Bundle bundle = Bundle.of(List.of(path), folder.resolve("w"), recipe);
      assertThat(bundle.files())
          .as("it has the name of a file of the bundle, and other columns")
          .allSatisfy(f -> assertThat(f.by()).isNotNull());
      List<FileResult> taken =
          estate.installation.importer().take(bundle, "runs", NOW, "ana", WithRejections.TAKE_NONE);
      assertThat(taken).allSatisfy(r -> {
        assertThat(r.taken()).isTrue();
        assertThat(r.rejected()).isZero();
        assertThat(r.read() + r.passedOver()).as("every row is in a count").isEqualTo(57);
      });
      assertThat(taken)
          .extracting(FileResult::type)
          .containsExactly(
              BundleFile.STORES,
              BundleFile.RESOURCES,
              BundleFile.POINTS,
              BundleFile.COPIES,
              BundleFile.JOBS);
      assertThat(estate
              .installation
              .importer()
              .take(bundle, "runs", NOW, "ana", WithRejections.TAKE_NONE))
          .as("once more, nothing is new")
          .allSatisfy(r -> assertThat(r.unchanged()).isEqualTo(r.read()));
    }
  }

  @Test
  void jsonWithItsRowsDeepInside() throws IOException {
    Path path = laidDown("answer.json", """
        {"meta":{"page":1,"links":[{"rel":"next"}]},"data":{"jobs":[
         {"id":"a1","client":{"name":"till-1"},"start":1793000000,"end":1793000900,"status":"success","level":"full"},
         {"id":"a2","client":{"name":"till-2"},"start":1793086400,"end":1793087000,"status":"error","level":"full"}]},
         "rest":[]}""");
    RecipeGuess.Guess guess = guess(path, "api");
    assertThat(guess.recipe().layout().path()).isEqualTo("data.jobs");
    Map<String, RecipeTrial.OutputTrial> tried = tried(path, guess.recipe());
    assertThat(tried.get("points").rows().get(0))
        .containsEntry("resource", "till-1")
        .containsEntry("started", "2026-10-26T07:33:20Z");
    assertThat(tried.get("points").rows().get(1)).containsEntry("outcome", "failed");
  }

  @Test
  void aTableWithTitlesAFooterAndItsDaysBeforeItsMonths() throws IOException {
    Path path = laidDown(
        "abend.csv",
        "Report of the night\nprinted by nobody\n\nHost;Start;End;Status;Pool;Bytes\n"
            + "a;03.04.2026 01:00;03.04.2026 02:00;OK;LTO 1;1 234 567\n"
            + "b;04.04.2026 01:00;04.04.2026 02:00;Fehler;LTO 1;2 234 567\n"
            + "c;05.04.2026 01:00;05.04.2026 02:00;OK;LTO 1;2 234 567\n"
            + "(3 rows)\n");
    RecipeGuess.Guess guess = guess(path, "abend");
    assertThat(guess.recipe().layout().header()).isEqualTo(4);
    assertThat(guess.recipe().layout().footers()).isEqualTo(1);
    Map<String, RecipeTrial.OutputTrial> tried = tried(path, guess.recipe());
    assertThat(tried.get("points").rows().get(0)).containsEntry("started", "2026-04-02T23:00:00Z");
    assertThat(tried.get("points").rejections())
        .as("a word that nobody knows is neither good nor bad")
        .anySatisfy(r -> assertThat(r.sentence()).contains("outcome \"Fehler\""));
    assertThat(tried.get("stores").rows().get(0)).containsEntry("medium", "tape");
  }

  /** Voll and Zuwachs are full and increment; whoever called both full would call restorable what is not. */
  @Test
  void wordsOfNoKnownLanguageAreNotPassedOver() throws IOException {
    Path path = laidDown(
        "fremd.csv",
        "Client,Start,Level,Status\na,2026-11-01 01:00,Voll,Gut\na,2026-11-02 01:00,Zuwachs,Gut\n");
    RecipeTrial.OutputTrial points = tried(path, guess(path, "fremd").recipe()).get("points");
    assertThat(points.good()).isZero();
    assertThat(points.wrong()).containsOnlyKeys("form", "outcome");
  }

  /** 04/03 may be April or March: the reading that lies together is taken, and the other is named. */
  @Test
  void daysAndMonthsThatCantBeToldApartAreSaid() throws IOException {
    Path path = laidDown(
        "us.csv",
        "Client,Start,Status\na,04/03/2026 01:00,ok\nb,04/04/2026 01:00,ok\nc,04/05/2026 01:00,ok\n");
    RecipeGuess.Guess guess = guess(path, "us");
    assertThat(guess.recipe().times().pattern()).isEqualTo("M/d/yyyy H:mm[:ss]");
    assertThat(guess.notes())
        .contains(
            "Times are read as M/d/yyyy H:mm[:ss]; they could be d/M/yyyy H:mm[:ss] as well.");
  }

  @Test
  void noTimeIsTakenForOneThatNothingCallsSo() throws IOException {
    Path path = laidDown(
        "odd.csv",
        "client,start,checked,status\na,2026-11-01T01:00:00Z,2026-11-29T01:00:00Z,ok\n"
            + "b,2026-11-02T01:00:00Z,2026-11-29T01:00:00Z,ok\n");
    Map<String, RecipeTrial.OutputTrial> tried = tried(path, guess(path, "odd").recipe());
    assertThat(tried.get("points").rows().get(0))
        .containsEntry("started", "2026-11-01T01:00:00Z")
        .doesNotContainValue("2026-11-29T01:00:00Z");
  }

  /** A copy is a job of its own, and says not of which point; a level that is empty is no full. */
  @Test
  void whatARowDoesNotSayIsNotMadeUp() throws IOException {
    Path path = laidDown(
        "mixed.csv",
        "Job ID,Client,Operation,Level,Start,Status,Target\n"
            + "1,a,Backup,Full,2026-11-01 01:00,OK,Disk 1\n"
            + "2,a,Backup,,2026-11-02 01:00,OK,Disk 1\n"
            + "3,a,Backup_Copy,Full,2026-11-02 05:00,OK,LTO 2\n"
            + "4,a,Backup,Full,2026-11-03T01:00:00Z,In_Progress,Disk 1\n"
            + "5,b,Backup,Full,2026-11-03 01:00,OK,Disk 1\n");
    RecipeGuess.Guess guess = guess(path, "mixed");
    Map<String, RecipeTrial.OutputTrial> tried = tried(path, guess.recipe());
    assertThat(tried.get("points").rows()).extracting(r -> r.get("key")).containsExactly("1", "5");
    assertThat(tried.get("points").wrong()).containsOnlyKeys("form");
    assertThat(tried.get("copies").rows())
        .extracting(r -> r.get("point"))
        .containsExactly("1", "2", "5");
    assertThat(tried.get("jobs").good()).isEqualTo(5);
    assertThat(tried.get("jobs").rows().get(3))
        .as("a time that says its zone, among some that don't")
        .containsEntry("started", "2026-11-03T01:00:00Z");
    assertThat(guess.notes())
        .contains(
            "Rows of copying don't say which point they copied: they are told of as jobs.",
            "Times say no zone: they are read as Europe/Oslo.");
  }

  @Test
  void rowsThatAreCalledTheSameAreSaid() throws IOException {
    Path path = laidDown(
        "same.csv",
        "Client,Start,Status,Target\na,2026-11-01 01:00,Failed,Disk 1\n"
            + "a,2026-11-01 01:00,OK,Disk 2\nb,2026-11-01 01:00,OK,Disk 2\n");
    RecipeGuess.Guess guess = guess(path, "same");
    assertThat(guess.notes())
        .contains("Several rows are called the same: the first of them counts.");
    assertThat(tried(path, guess.recipe()).get("points").good()).isEqualTo(2);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{\"data\":{\"rows\":[{\"a\":1}]}} | data.jobs | has nothing there",
        "{\"data\":{\"jobs\":{\"a\":1}}} | data.jobs | is no list",
        "[1] | '' | is not an array of objects",
        "{ | '' | can't be read as JSON"
      })
  void jsonWithoutRowsWhereTheyShouldBeIsRefused(String text, String where, String why)
      throws IOException {
    Path path = laidDown("x.json", text);
    Layout layout = new Layout(1, 0, "", List.of(), where, List.of());
    assertThatThrownBy(() -> {
          try (Rows rows = Rows.report(path, "x.json", layout, ImportProgress.UNWATCHED)) {
            rows.next();
          }
        })
        .isInstanceOf(UnreadableFile.class)
        .hasMessageContaining(why);
  }

  @Test
  void anEmptyReportIsRefused() throws IOException {
    Path path = laidDown("x.csv", "");
    assertThatThrownBy(() -> ReportSampler.sample(path, "x.csv")).hasMessage("is empty");
  }

  @Test
  void aListOfMachinesIsOneOfResources() throws IOException {
    Path path = laidDown(
        "cmdb.csv",
        "Name,Type,Location,Used GB\nweb-1,VM,Oslo,120\ndb-1,SQL,Oslo,900\nfs-1,NAS,Moss,4000\n");
    Map<String, RecipeTrial.OutputTrial> tried = tried(path, guess(path, "cmdb").recipe());
    assertThat(tried.keySet()).containsExactly("resources");
    assertThat(tried.get("resources").rows())
        .extracting(r -> r.get("kind"))
        .containsExactly("virtual-machine", "database", "file-share");
    assertThat(tried.get("resources").rows().get(0)).containsEntry("size", "120 GB");
  }

  @Test
  void whatTellsOfNoBackupsIsNotGuessed() throws IOException {
    assertThat(guess(laidDown("c.csv", "colour,taste\nred,sweet\nblue,sour\n"), "c"))
        .isNull();
    assertThat(guess(laidDown("d.json", "{\"a\":1}"), "d")).isNull();
  }

  @Test
  void badNamesAreReadAsTheyStand() throws IOException {
    Path path = laidDown(
        "twice.csv",
        "client,,client,start,if,status\n\"a\nb\",x,other,2026-11-01T01:00:00Z,1,ok,\n");
    Map<String, RecipeTrial.OutputTrial> tried =
        tried(path, guess(path, "twice").recipe());
    assertThat(tried.get("points").rejections().get(0).sentence())
        .contains("holds a control character");
    assertThat(new String(Files.readAllBytes(path), StandardCharsets.UTF_8)).contains("a\nb");
  }
}
