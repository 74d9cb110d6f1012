package hardproof.server.feeds;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.estate.Workload;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Rejection;
import hardproof.core.findings.Pending;
import hardproof.server.Estate;
import hardproof.server.feeds.Importer.WithRejections;
import hardproof.server.storage.NoSpaceLeft;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ImporterTest {
  private static final String POINTS = "key,resource,form,based_on,data_time,available,outcome\n";

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

  private List<Workload> workloads() {
    return estate.installation.facts().estate(estate.clock.instant()).facts().workloads();
  }

  private static String point(String key, String base) {
    return key + ",r," + (base.isEmpty() ? "full" : "incremental") + "," + base
        + ",2026-11-24T01:00:00Z,2026-11-24T02:00:00Z,complete\n";
  }

  @Test
  void rowsReadAreTakenUnchangedOrRejected() throws IOException {
    FileResult first = estate.take("workloads.csv", "key,name,tier\na,A,1\nb,B,2\n");
    assertThat(first.added()).isEqualTo(2);
    FileResult second = estate.take("workloads.csv", "key,name,tier\na,A,1\nb,B,3\nc,C,9\nd,D,4\n");
    assertThat(second.read()).isEqualTo(4);
    assertThat(second.added()).isEqualTo(1);
    assertThat(second.changed()).isEqualTo(1);
    assertThat(second.unchanged()).isEqualTo(1);
    assertThat(second.rejected()).isEqualTo(1);
    assertThat(second.rejections().get(0).sentence())
        .isEqualTo("workloads.csv, line 4, tier \"9\": is not a whole number from 1 to 4");
    assertThat(workloads()).extracting(Workload::tier).containsExactlyInAnyOrder(1, 3, 4);
  }

  @Test
  void previewStoresNothing() throws IOException {
    Path file = estate.write("workloads.csv", "key,name\na,A\n");
    List<FileResult> seen = estate
        .installation
        .importer()
        .preview(Bundle.of(List.of(file), folder.resolve("work")), "test", Estate.NOW);
    assertThat(seen.get(0).added()).isEqualTo(1);
    assertThat(seen.get(0).taken()).isFalse();
    assertThat(workloads()).isEmpty();
    assertThat(estate.installation.facts().feeds(Estate.NOW)).isEmpty();
  }

  @Test
  void noneIsTakenOfAFileWithARejectedRowWhenThatWasChosen() throws IOException {
    FileResult result = estate
        .take(
            "test",
            WithRejections.TAKE_NONE,
            estate.write("workloads.csv", "key,name,tier\na,A,1\nb,B,x\n"))
        .get(0);
    assertThat(result.taken()).isFalse();
    assertThat(result.added()).isEqualTo(1);
    assertThat(workloads()).isEmpty();
  }

  @Test
  void everyPastInstantCanBeReadAgain() throws IOException {
    estate.take("workloads.csv", "key,name,tier\na,A,1\n");
    estate.clock.forward(Duration.ofDays(1));
    estate.take("workloads.csv", "key,name,tier\na,A,2\n");
    assertThat(workloads()).extracting(Workload::tier).containsExactly(2);
    assertThat(estate.installation.facts().estate(Estate.NOW).facts().workloads())
        .extracting(Workload::tier)
        .containsExactly(1);
    assertThat(estate
            .installation
            .facts()
            .estate(Estate.NOW.minusMillis(1))
            .facts()
            .workloads())
        .isEmpty();
  }

  @ParameterizedTest
  @CsvSource({"';'", "'\t'", "','"})
  void separatorsMarksAndLineEndsAreFoundByThemselves(String separator) throws IOException {
    String text = "\uFEFF" + "key,name,owner\r\na,\"A name\nin two lines\",\"said \"\"me\"\"\"\r\n";
    FileResult result = estate.take("workloads.csv", text.replace(",", separator));
    assertThat(result.rejections()).isEmpty();
    assertThat(workloads()).singleElement().satisfies(w -> {
      assertThat(w.name()).isEqualTo("A name\nin two lines");
      assertThat(w.owner()).isEqualTo("said \"me\"");
    });
  }

  @Test
  void jsonComesAsAnArrayOrOneObjectALine() throws IOException {
    estate.take(
        "workloads.json",
        "[{\"key\": \"a\", \"name\": \"A\", \"tier\": 1, \"needs\": [\"b\", \"c\"]}]");
    estate.take(
        "workloads-more.jsonl",
        "{\"key\":\"b\",\"name\":\"B\"}\n{\"key\":\"c\",\"name\":\"C\",\"owner\":null}\n");
    assertThat(workloads()).extracting(Workload::key).containsExactly("a", "b", "c");
    assertThat(workloads().get(0).needs()).containsExactly("b", "c");
  }

  @Test
  void jsonThatBreaksOffIsRefusedWhole() throws IOException {
    FileResult result = estate.take("workloads.json", "[{\"key\":\"a\",\"name\":\"A\"},{\"key\":");
    assertThat(result.fileRejected()).isTrue();
    assertThat(result.rejections().get(0).reason()).contains("can't be read as JSON");
    assertThat(workloads()).isEmpty();
  }

  @Test
  void aFieldThatIsThereTwiceIsNotGuessedAt() throws IOException {
    FileResult result =
        estate.take("workloads.json", "[{\"key\":\"a\",\"name\":\"A\",\"name\":\"B\"}]");
    assertThat(result.fileRejected()).isTrue();
    assertThat(result.rejections().get(0).reason()).contains("Duplicate");
  }

  @Test
  void anUnknownFieldOfJsonRejectsItsRow() throws IOException {
    FileResult result = estate.take(
        "workloads.json",
        "[{\"key\":\"a\",\"name\":\"A\",\"colour\":\"red\"},{\"key\":\"b\",\"name\":\"B\"}]");
    assertThat(result.rejected()).isEqualTo(1);
    assertThat(result.rejections().get(0).sentence())
        .startsWith("workloads.json, line 1, colour: is no field of workloads");
    assertThat(workloads()).extracting(Workload::key).containsExactly("b");
  }

  private void refused(String name, String content, String reason) throws IOException {
    FileResult result = estate.take(name, content);
    assertThat(result.fileRejected()).as(name).isTrue();
    assertThat(result.taken()).isFalse();
    assertThat(result.rejections().get(0).sentence()).contains(reason);
    assertThat(estate.installation.facts().counts().values()).allMatch(n -> n == 0);
  }

  @Test
  void filesThatCanNotBeUnderstoodAreRefusedWithWhatToDo() throws IOException {
    refused("points.csv", "", "is empty");
    refused("points.csv", "key,resource,form\n", "lacks the column outcome");
    refused(
        "workloads.csv",
        "key,name,colour\na,A,red\n",
        "line 1 \"colour\": is no column of workloads; its columns are key, name, owner");
    refused("workloads.csv", "key,name,key\na,A,b\n", "is there twice");
    refused("workloads.csv", "key,name\na,\"A\nb,B\n", "a quote is opened and not closed");
    refused("notes.txt", "hello", "is no file of a bundle");
  }

  @Test
  void otherEncodingsAreRefused() throws IOException {
    Path latin = folder.resolve("workloads.csv");
    Files.write(latin, "key,name\na,Caf\u00e9\n".getBytes(StandardCharsets.ISO_8859_1));
    assertThat(estate
            .take("test", WithRejections.TAKE_GOOD_ROWS, latin)
            .get(0)
            .rejections()
            .get(0)
            .reason())
        .contains("is not UTF-8");
    Files.write(latin, "\uFEFFkey,name\na,A\n".getBytes(StandardCharsets.UTF_16LE));
    assertThat(estate
            .take("test", WithRejections.TAKE_GOOD_ROWS, latin)
            .get(0)
            .rejections()
            .get(0)
            .reason())
        .contains("is UTF-16");
  }

  @Test
  void rowsOfAnotherLengthTwiceTheSameKeyAndAnotherFeedsKeyAreRejected() throws IOException {
    estate.take(
        "other", WithRejections.TAKE_GOOD_ROWS, estate.write("workloads.csv", "key,name\nx,X\n"));
    FileResult result =
        estate.take("workloads.csv", "key,name\na,A,extra\nb\nc,C\nc,C again\nx,Mine now\n");
    assertThat(result.rejections())
        .extracting(Rejection::reason)
        .satisfiesExactly(
            r -> assertThat(r).isEqualTo("has 3 fields where the header has 2"),
            r -> assertThat(r).isEqualTo("has 1 fields where the header has 2"),
            r -> assertThat(r).startsWith("is in this file twice"),
            r -> assertThat(r).startsWith("belongs to feed 'other' already"));
    assertThat(workloads()).extracting(Workload::name).containsExactlyInAnyOrder("X", "C");
  }

  @Test
  void chainsThatCircleAreRejectedAlsoThroughWhatIsStored() throws IOException {
    FileResult inFile =
        estate.take("points.csv", POINTS + point("a", "b") + point("b", "a") + point("c", ""));
    assertThat(inFile.rejected()).isEqualTo(2);
    assertThat(inFile.added()).isEqualTo(1);
    estate.take("points.csv", POINTS + point("d", "c") + point("e", "d"));
    FileResult closing = estate.take("points.csv", POINTS + point("c", "e"));
    assertThat(closing.rejections().get(0).reason())
        .isEqualTo("is based on a chain that leads back to itself");
  }

  @Test
  void whatNamesUnknownFactsIsKeptAndCountedUntilTheyCome() throws IOException {
    estate.take("copies.csv", "point,store,state\np,s,present\n");
    FeedStore feeds = estate.installation.feeds();
    assertThat(feeds.pending(estate.clock.instant()))
        .containsEntry("test", new Pending(1, List.of("s")));
    estate.take("stores.csv", "key,name,medium\ns,S,disk\n");
    estate.take("points.csv", POINTS + point("p", ""));
    // The point's resource.
    assertThat(feeds.pending(estate.clock.instant()))
        .containsEntry("test", new Pending(1, List.of()));
    estate.take("resources.csv", "key,name,kind\nr,R,volume\n");
    assertThat(feeds.pending(estate.clock.instant())).isEmpty();
  }

  private Path zip(String name, String... namesAndContents) throws IOException {
    Path file = folder.resolve(name);
    try (OutputStream out = Files.newOutputStream(file);
        ZipOutputStream zip = new ZipOutputStream(out)) {
      for (int i = 0; i < namesAndContents.length; i += 2) {
        zip.putNextEntry(new ZipEntry(namesAndContents[i]));
        zip.write(namesAndContents[i + 1].getBytes(StandardCharsets.UTF_8));
        zip.closeEntry();
      }
    }
    return file;
  }

  /** What it says of itself is added up before a byte of it is unpacked (APPNOTE.TXT, 4.3.12). */
  @Test
  void aZipThatUnpacksToMoreThanThereIsRoomForIsNotUnpacked() throws IOException {
    Path zip = zip("big.zip", "stores.csv", "key,name,medium\ns,S,disk\n", "other.csv", "key\n");
    ByteBuffer bytes = ByteBuffer.wrap(Files.readAllBytes(zip)).order(ByteOrder.LITTLE_ENDIAN);
    for (int at = 0; at + 28 < bytes.limit(); at++) {
      if (bytes.getInt(at) == 0x02014b50) {
        bytes.putInt(at + 24, 0xfffffff0);
      }
    }
    Files.write(zip, bytes.array());
    FileResult result = estate.take("test", WithRejections.TAKE_GOOD_ROWS, zip).get(0);
    assertThat(result.fileRejected()).isTrue();
    assertThat(result.rejections().get(0).reason()).startsWith("unpacks to more than 4.29 GB");
  }

  @Test
  void aZipIsTakenInTheOrderThatFactsNeed() throws IOException {
    Path zip = zip(
        "bundle.zip",
        "export/resources.csv",
        "key,name,kind,workload\nr,R,volume,w\n",
        "export/workloads.csv",
        "key,name\nw,W\n",
        "export/readme.md",
        "hello");
    List<FileResult> results = estate.take("test", WithRejections.TAKE_GOOD_ROWS, zip);
    assertThat(results)
        .extracting(FileResult::file)
        .containsExactly(
            "bundle.zip/export/readme.md",
            "bundle.zip/export/workloads.csv",
            "bundle.zip/export/resources.csv");
    assertThat(estate.installation.facts().counts()).containsEntry(BundleFile.RESOURCES, 1L);
  }

  @ParameterizedTest
  @CsvSource({
    "../workloads.csv",
    "a/../../workloads.csv",
    "/etc/workloads.csv",
    "C:\\workloads.csv",
    "..\\workloads.csv"
  })
  void aZipWithANameThatLeavesItIsRefusedWhole(String name) throws IOException {
    Path zip =
        zip("bundle.zip", "resources.csv", "key,name,kind\nr,R,volume\n", name, "key,name\nw,W\n");
    List<FileResult> results = estate.take("test", WithRejections.TAKE_GOOD_ROWS, zip);
    assertThat(results).singleElement().satisfies(r -> {
      assertThat(r.fileRejected()).isTrue();
      assertThat(r.rejections().get(0).reason()).contains("the whole zip is refused");
    });
    assertThat(estate.installation.facts().counts().values()).allMatch(n -> n == 0);
    assertThat(folder.resolveSibling("workloads.csv")).doesNotExist();
  }

  @Test
  void whatIsNoZipIsSaidToBeNone() throws IOException {
    Path file = folder.resolve("bundle.zip");
    Files.writeString(file, "this is no zip");
    assertThat(estate
            .take("test", WithRejections.TAKE_GOOD_ROWS, file)
            .get(0)
            .rejections()
            .get(0)
            .reason())
        .contains("is not a zip");
  }

  /** SQLite's own limit on pages stands for a disk that is full. */
  @Test
  void aDiskThatFillsUpHalfWayLeavesWhatWasThereAndSaysWhatToDo() throws IOException {
    estate.take("workloads.csv", "key,name\na,A\n");
    estate
        .installation
        .database()
        .writes()
        .sql("PRAGMA max_page_count = 60")
        .query(Long.class)
        .single();
    StringBuilder rows = new StringBuilder("key,name\n");
    for (int i = 0; i < 5000; i++) {
      rows.append("w").append(i).append(",A rather long name to fill the pages with\n");
    }
    Path file = estate.write("workloads.csv", rows.toString());
    assertThatThrownBy(() -> estate.take("test", WithRejections.TAKE_GOOD_ROWS, file))
        .isInstanceOf(NoSpaceLeft.class)
        .hasMessageContaining("Nothing of this change was kept");
    assertThat(workloads()).extracting(Workload::key).containsExactly("a");
    assertThat(estate.installation.feeds().batches(10)).hasSize(1);
  }

  @Test
  void whatCameInIsListedWithItsRejections() throws IOException {
    estate.take("workloads.csv", "key,name,tier\na,A,1\nb,B,7\n");
    FeedStore feeds = estate.installation.feeds();
    assertThat(feeds.batches(10)).singleElement().satisfies(b -> {
      assertThat(b.read()).isEqualTo(2);
      assertThat(b.taken()).isEqualTo(1);
      assertThat(b.rejected()).isEqualTo(1);
      assertThat(b.receivedBy()).isEqualTo("tester");
      assertThat(feeds.rejections(b.id())).extracting(Rejection::value).containsExactly("7");
    });
  }

  @Test
  void aFeedThatIsExpectedAndSilentIsOverdueOnlyAfterItsRhythm() throws IOException {
    estate.take("workloads.csv", "key,name\na,A\n");
    assertThat(estate.expect("test", Duration.ofHours(24))).isTrue();
    assertThat(estate.expect("nobody", Duration.ofHours(24))).isFalse();
    var feed =
        estate.installation.facts().feeds(Estate.NOW.plus(Duration.ofDays(3))).get(0);
    assertThat(feed.overdueAt(Estate.NOW.plus(Duration.ofHours(24)))).isFalse();
    assertThat(feed.overdueAt(Estate.NOW.plus(Duration.ofHours(24)).plusMillis(1)))
        .isTrue();
  }

  @Test
  void tenThousandRowsGoThrough() throws IOException {
    StringBuilder rows = new StringBuilder(POINTS);
    for (int i = 0; i < 10_000; i++) {
      rows.append(point("p" + i, i % 7 == 0 ? "" : "p" + (i - 1)));
    }
    assertThat(estate.take("points.csv", rows.toString()).added()).isEqualTo(10_000);
    assertThat(estate.take("points.csv", rows.toString()).unchanged()).isEqualTo(10_000);
  }
}
