package hardproof.server.feeds;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.estate.Feed;
import hardproof.server.Estate;
import hardproof.server.feeds.Importer.WithRejections;
import hardproof.server.storage.Database;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Up to when a feed has spoken. Invented data. */
class HorizonTest {
  @TempDir
  Path folder;

  private Estate estate;

  @BeforeEach
  void open() {
    estate = new Estate(folder);
  }

  @AfterEach
  void close() {
    estate.close();
  }

  private Instant horizon() {
    return estate.installation.facts().feeds(estate.clock.instant()).stream()
        .filter(f -> f.key().equals("test"))
        .findFirst()
        .orElseThrow()
        .horizon();
  }

  private List<FileResult> take(Path... files) throws IOException {
    return estate.take("test", WithRejections.TAKE_GOOD_ROWS, files);
  }

  private Path workloads() throws IOException {
    return estate.write("workloads.csv", "key,name\nw,W\n");
  }

  private Path note(String text) throws IOException {
    return estate.write("feed.json", text);
  }

  /** Of each kind of row the instant that it speaks of; those that are planned are none. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "points.csv | key,resource,form,data_time,available,outcome |"
            + " p,r,full,2026-11-24T05:00:00Z,2026-11-24T06:00:00Z,complete",
        "copies.csv | point,store,finished,state,expires |"
            + " p,s,2026-11-24T06:00:00Z,present,2027-01-01T00:00:00Z",
        "jobs.csv | key,type,resource,started,ended,outcome |"
            + " j,backup,r,2026-11-24T05:00:00Z,2026-11-24T06:00:00Z,failed",
        "resources.csv | key,name,kind,last_seen,first_seen |"
            + " r,R,volume,2026-11-24T06:00:00Z,2026-11-01T06:00:00Z"
      })
  void itIsTheNewestInstantThatARowSpeaksOf(String file, String header, String row)
      throws IOException {
    FileResult result = estate.take(file, header + "\n" + row + "\n");
    assertThat(result.toldUntil()).isEqualTo(Instant.parse("2026-11-24T06:00:00Z"));
    assertThat(horizon()).isEqualTo(Instant.parse("2026-11-24T06:00:00Z"));
    estate.take(file, header + "\n" + row + "\n");
    assertThat(horizon())
        .as("the same rows again tell of nothing later")
        .isEqualTo(Instant.parse("2026-11-24T06:00:00Z"));
  }

  @Test
  void aRowThatIsRejectedSpeaksOfNothing() throws IOException {
    estate.take(
        "jobs.csv",
        "key,type,resource,started,ended,outcome\n"
            + "a,backup,r,2026-11-24T01:00:00Z,2026-11-24T02:00:00Z,failed\n"
            + "b,backup,r,2026-11-24T05:00:00Z,2026-11-24T06:00:00Z,so-so\n");
    assertThat(horizon()).isEqualTo(Instant.parse("2026-11-24T02:00:00Z"));
  }

  @Test
  void aFeedWithoutInstantsHasNone() throws IOException {
    take(workloads());
    assertThat(horizon()).isNull();
  }

  @Test
  void aDeliveryMaySayItselfHowFarItHasLooked() throws IOException {
    List<FileResult> results =
        take(workloads(), note("{\"covers_until\": \"2026-11-24T09:00:00Z\"}"));
    assertThat(results).hasSize(1);
    assertThat(horizon()).isEqualTo(Instant.parse("2026-11-24T09:00:00Z"));
    estate.clock.forward(Duration.ofHours(1));
    take(workloads(), note("{\"covers_until\": \"2026-11-24T08:00:00Z\"}"));
    assertThat(horizon())
        .as("what was told stays told")
        .isEqualTo(Instant.parse("2026-11-24T09:00:00Z"));
  }

  @Test
  void whatItsRowsTellItHasTold() throws IOException {
    Path jobs = estate.write(
        "jobs.csv",
        "key,type,resource,started,ended,outcome\n"
            + "a,backup,r,2026-11-24T01:00:00Z,2026-11-24T02:00:00Z,failed\n");
    take(jobs, note("{\"covers_until\": \"2000-01-01T00:00:00Z\"}"));
    assertThat(horizon()).isEqualTo(Instant.parse("2026-11-24T02:00:00Z"));
  }

  @Test
  void inAZipItLiesBesideTheFactsAndOfTwoTheLeastIsMeant() throws IOException {
    Path zip = folder.resolve("delivery.zip");
    try (ZipOutputStream out = new ZipOutputStream(Files.newOutputStream(zip))) {
      out.putNextEntry(new ZipEntry("workloads.csv"));
      out.write("key,name\nw,W\n".getBytes());
      out.putNextEntry(new ZipEntry("feed.json"));
      out.write("{\"covers_until\": \"2026-11-24T07:00:00Z\"}".getBytes());
    }
    take(zip, note("{\"covers_until\": \"2026-11-24T09:00:00Z\"}"));
    assertThat(horizon()).isEqualTo(Instant.parse("2026-11-24T07:00:00Z"));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "nonsense",
        "{}",
        "[]",
        "{\"covers_until\": 5}",
        "{\"covers_until\": \"noon\"}",
        "{\"covers_until\": \"2026-11-24T07:00:00Z\", \"covers_until\": \"2026-11-24T08:00:00Z\"}",
        "{\"covers_until\": \"2026-11-24T07:00:00Z\", \"covered\": true}"
      })
  void aNoteThatCanNotBeReadIsNamedAndTheFactsAreTaken(String text) throws IOException {
    List<FileResult> results = take(workloads(), note(text));
    assertThat(results).hasSize(2);
    assertThat(results.get(0).file()).isEqualTo("feed.json");
    assertThat(results.get(0).fileRejected()).isTrue();
    assertThat(results.get(0).rejections().get(0).reason()).isNotBlank();
    assertThat(results.get(1).taken()).isTrue();
    assertThat(horizon()).isNull();
  }

  /** Nobody has looked at what is to come: it would call all silence a fault. */
  @Test
  void aDeliveryThatSaysItCoversWhatIsToComeIsRefusedWhole() throws IOException {
    Path note = note("{\"covers_until\": \"" + Estate.NOW.plusMillis(1) + "\"}");
    List<FileResult> results = take(workloads(), note);
    assertThat(results).singleElement().satisfies(r -> {
      assertThat(r.taken()).isFalse();
      assertThat(r.rejections().get(0).sentence()).contains("covers_until", "is still to come");
    });
    Bundle bundle = Bundle.of(List.of(workloads(), note), folder.resolve("work"));
    assertThat(estate.installation.importer().preview(bundle, "test", Estate.NOW))
        .singleElement()
        .satisfies(r -> assertThat(r.fileRejected()).isTrue());
    assertThat(estate.installation.facts().feeds(Estate.NOW)).isEmpty();
    take(workloads(), note("{\"covers_until\": \"" + Estate.NOW + "\"}"));
    assertThat(horizon()).isEqualTo(Estate.NOW);
  }

  /** What was known then is what its feed had told by then. */
  @Test
  void theHorizonHasAHistoryToo() throws IOException {
    take(workloads(), note("{\"covers_until\": \"2026-11-24T09:00:00Z\"}"));
    estate.clock.forward(Duration.ofHours(5));
    take(workloads(), note("{\"covers_until\": \"2026-11-24T14:00:00Z\"}"));
    assertThat(estate.installation.facts().feeds(Estate.NOW))
        .extracting(Feed::horizon)
        .containsExactly(Instant.parse("2026-11-24T09:00:00Z"));
  }

  /** A folder of the version before: what its rows speak of. */
  @Test
  void deliveriesOfTheVersionBeforeAreReadFromTheirRows() throws IOException {
    estate.take(
        "jobs.csv",
        "key,type,resource,started,ended,outcome\n"
            + "a,backup,r,2026-11-24T01:00:00Z,2026-11-24T02:00:00Z,failed\n");
    estate.take(
        "points.csv",
        "key,resource,form,data_time,available,outcome\n"
            + "p,r,full,2026-11-24T05:00:00Z,2026-11-24T06:00:00Z,complete\n");
    Database database = estate.installation.database();
    String migration;
    try (var in =
        getClass().getResourceAsStream("/db/migration/V8__how_far_feeds_have_spoken.sql")) {
      migration = new String(in.readAllBytes());
    }
    String update = migration.substring(
        migration.indexOf("UPDATE import_batch"),
        migration.indexOf(';', migration.indexOf("UPDATE import_batch")));
    database.write(() -> {
      database.writes().sql("UPDATE import_batch SET told_until = NULL").update();
      return database.writes().sql(update).update();
    });
    assertThat(horizon()).isEqualTo(Instant.parse("2026-11-24T06:00:00Z"));
  }
}
