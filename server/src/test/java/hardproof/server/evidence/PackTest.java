package hardproof.server.evidence;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import gov.loc.repository.bagit.domain.Bag;
import gov.loc.repository.bagit.verify.BagVerifier;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.estate.Selector;
import hardproof.core.estate.Selector.Condition;
import hardproof.proving.bags.BagReader;
import hardproof.server.Estate;
import hardproof.server.Shell;
import hardproof.server.evidence.PackVerifier.Check;
import hardproof.server.evidence.PackVerifier.Verification;
import hardproof.server.runs.RunNeeds;
import hardproof.server.runs.RunOrder;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileSystem;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class PackTest {
  @TempDir
  Path folder;

  /** Of the instant that the packs of these tests speak of. */
  private static final String FOLDER = "hard-proof-20261124T100100Z";

  private Estate estate;

  @BeforeEach
  void drillOne() throws IOException {
    estate = new Estate(folder).filled();
    var facts = estate.installation.evaluations().now().estate();
    RunOrder order = estate
        .installation
        .orders()
        .complete(
            facts,
            new RunOrder("share", null, null, null, null, "<b>quarterly</b>", Duration.ZERO));
    estate
        .installation
        .runs()
        .queue(
            order,
            estate.installation.orders().plan(facts, order).reaches(),
            RunNeeds.of(0, 0),
            null,
            "tester",
            Estate.NOW);
    estate.installation.queue().runOne();
    estate.clock.forward(Duration.ofMinutes(1));
  }

  @AfterEach
  void close() {
    estate.close();
  }

  private PackBuilder.Contents contents(Selector scope) {
    return estate
        .installation
        .part(PackBuilder.class)
        .contents(estate.installation.evaluations().now(), "Recoverability", scope, "A. Tester");
  }

  private Path pack() throws IOException {
    PackStore.Issued issued =
        estate.installation.packs().issue(contents(Selector.EVERYTHING), estate.clock.instant());
    return estate.installation.packs().file(issued);
  }

  @Test
  void aPackVerifiesAndItsVerdictsFollowFromItsFacts() throws IOException {
    Verification verification = PackVerifier.verify(pack());
    assertThat(verification.checks()).extracting(Check::passed).containsOnly(true);
    assertThat(verification.checks())
        .extracting(Check::name)
        .containsExactly(
            "Bag (RFC 8493)",
            "Facts",
            "Verdicts",
            "Outcomes",
            "Controls",
            "Draws",
            "Drills",
            "Rehearsals",
            "Survival",
            "Report",
            "Drill logs",
            "Facts as tables",
            "Ledger head",
            "Ledger entries",
            "Facts in the ledger",
            "Earlier heads",
            "Everything else",
            "Report as PDF");
    assertThat(verification.checks().get(3).sentence())
        .isEqualTo(2 * CriterionCode.values().length
            + " outcomes computed again from facts.json agree with findings.csv");
  }

  /** An implementation of RFC 8493 that is not ours: the Library of Congress's. */
  @Test
  void anIndependentBagItImplementationFindsItCompleteAndValid() throws Exception {
    Path pack = pack();
    try (FileSystem zip = FileSystems.newFileSystem(pack)) {
      String name = FOLDER;
      Bag bag = new gov.loc.repository.bagit.reader.BagReader().read(zip.getPath("/" + name));
      try (BagVerifier verifier = new BagVerifier()) {
        verifier.isComplete(bag, false);
        verifier.isValid(bag, false);
      }
      assertThat(bag.getPayLoadManifests()).isNotEmpty();
    }
  }

  /** GNU coreutils, as VERIFY.txt tells the reader to use. */
  @Test
  void sha256sumAgreesWithBothManifests() throws Exception {
    Path pack = pack();
    Shell.run(
        folder, "unzip", "-q", pack.toString(), "-d", folder.resolve("out").toString());
    Path bag = folder.resolve("out").resolve(FOLDER);
    assertThat(Shell.run(bag, "sha256sum", "--strict", "-c", "manifest-sha256.txt"))
        .contains("data/report.html: OK", "data/facts.json: OK");
    assertThat(Shell.run(bag, "sha256sum", "--strict", "-c", "tagmanifest-sha256.txt"))
        .contains("VERIFY.txt: OK");
  }

  /** Whoever makes it, and whenever. */
  @Test
  void theSameFactsGiveTheSameBytes() throws IOException {
    PackStore.Issued first =
        estate.installation.packs().issue(contents(Selector.EVERYTHING), estate.clock.instant());
    Instant asAt = first.asAt();
    estate.clock.forward(Duration.ofDays(3));
    estate.take(
        "points.csv",
        "key,resource,form,data_time,available,outcome\n"
            + "later,db,full,2026-11-27T05:00:00Z,2026-11-27T05:30:00Z,complete\n");
    PackBuilder.Contents again = estate
        .installation
        .part(PackBuilder.class)
        .contents(
            estate.installation.evaluations().at(asAt),
            "Recoverability",
            Selector.EVERYTHING,
            "Somebody Else");
    PackStore.Issued second = estate.installation.packs().issue(again, estate.clock.instant());
    assertThat(second.sha256()).isEqualTo(first.sha256());
    assertThat(second.name()).isEqualTo(FOLDER + "-2");
  }

  /** A later clean-up, another rhythm and a feed that came since are not of that time. */
  @Test
  void nothingThatCameLaterIsInAPackOfThen() throws IOException {
    Instant then = estate.clock.instant();
    byte[] before = bytes(then);
    estate.clock.forward(Duration.ofDays(2));
    estate.expect("test", Duration.ofHours(24));
    estate.take(
        "other",
        hardproof.server.feeds.Importer.WithRejections.TAKE_NONE,
        estate.write("stores.csv", "key,name,medium\nfar,FAR,tape\n"));
    assertThat(estate.installation.facts().feeds(then))
        .extracting(f -> f.key())
        .containsExactly("test");
    assertThat(estate.installation.facts().feeds(then).get(0).expectedEvery()).isNull();
    assertThat(estate.installation.facts().feeds(estate.clock.instant()))
        .extracting(f -> f.key())
        .containsExactly("other", "test");
    assertThat(bytes(then)).isEqualTo(before);
  }

  private byte[] bytes(Instant asAt) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    PackBuilder builder = estate.installation.part(PackBuilder.class);
    builder.write(
        builder.contents(estate.installation.evaluations().at(asAt), "T", Selector.EVERYTHING, "A"),
        out);
    return out.toByteArray();
  }

  /** Writes the pack again with one file changed, and every manifest and count made anew. */
  private Path forged(String file, String from, String to) throws IOException {
    return forged(file, text -> text.replace(from, to));
  }

  private Path forged(String file, UnaryOperator<String> change) throws IOException {
    return forgedBytes(
        pack(),
        files -> files.computeIfPresent(
            file,
            (path, content) -> change
                .apply(new String(content, StandardCharsets.UTF_8))
                .getBytes(StandardCharsets.UTF_8)));
  }

  private Path forgedBytes(Path pack, Consumer<Map<String, byte[]>> change) throws IOException {
    return ForgedPack.of(pack, folder.resolve("forged.zip"), change);
  }

  private static List<String> failed(Path pack) throws IOException {
    return PackVerifier.verify(pack).checks().stream()
        .filter(c -> !c.passed())
        .map(Check::name)
        .toList();
  }

  /** A report rewritten to "all proven", with manifests made anew, once verified. */
  @Test
  void aReportThatWasRewrittenIsFound() throws IOException {
    assertThat(failed(
            forged("data/report.html", "0 of 1 workload is proven", "1 of 1 workload is proven")))
        .containsExactly("Report");
  }

  @Test
  void theInstructionsAndTheBagsOwnWordsAreMadeAgain() throws IOException {
    assertThat(failed(forged("VERIFY.txt", "sha256sum --strict", "true #")))
        .containsExactly("Everything else");
    assertThat(failed(
            forged("bag-info.txt", "Hard-Proof-Scope: every", "Hard-Proof-Scope: just every")))
        .containsExactly("Everything else");
    assertThat(failed(forgedBytes(
            pack(),
            f -> f.put("data/appendix.html", "all is well".getBytes(StandardCharsets.UTF_8)))))
        .containsExactly("Everything else");
    assertThat(failed(forgedBytes(pack(), f -> f.remove("data/facts.sqlite"))))
        .containsExactly("Facts as tables");
    assertThat(failed(forged("proof/recompute.sql", "differs AND NOT unsure", "0")))
        .containsExactly("Everything else");
    assertThat(failed(forgedBytes(pack(), f -> f.remove("VERIFY.txt"))))
        .containsExactly("Everything else");
    assertThat(failed(forgedBytes(pack(), f -> f.remove("data/report.html"))))
        .containsExactly("Report", "Everything else");
  }

  /** Tables that no check is named after are compared like all others. */
  @Test
  void everyTableFollowsFromTheFacts() throws IOException {
    for (String table : List.of("copies.csv", "jobs.csv", "exceptions.csv")) {
      Path forged = forged("data/" + table, text -> text + "x\r\n");
      assertThat(failed(forged)).as(table).containsExactly("Everything else");
    }
    assertThat(BagReader.open(pack()).text("data/copies.csv"))
        .startsWith("point,store,finished,state,")
        .contains("\r\nshare-1,near,2026-11-24T05:40:00Z,present,");
  }

  @Test
  void aLogAndItsFactStandAndFallTogether() throws IOException {
    String log = BagReader.open(pack()).paths().stream()
        .filter(p -> p.startsWith("data/drills/"))
        .findFirst()
        .orElseThrow();
    assertThat(failed(forged(log, "reached", "Reached"))).containsExactly("Drill logs");
    assertThat(failed(forgedBytes(pack(), f -> f.remove(log))))
        .containsExactly("Drill logs", "Everything else");
    assertThat(failed(forgedBytes(pack(), f -> f.put("data/drills/made-up/log.txt", f.get(log)))))
        .containsExactly("Drill logs", "Everything else");
    // Facts without their steps, steps without a fact, and steps that speak against it.
    for (UnaryOperator<String> change : List.<UnaryOperator<String>>of(
        t -> t.replaceAll("(?s)\"runs\" : \\[.*\\],(\\s*\"history\")", "\"runs\" : [ ],$1"),
        t -> t.replaceFirst("\"run\" : \"[0-9a-f]", "\"run\" : \"z"),
        t -> t.replaceFirst("\"state\" : \"done\"", "\"state\" : \"failed\""))) {
      Verification verification = PackVerifier.verify(forged("data/facts.json", change));
      assertThat(verification.checks())
          .filteredOn(c -> c.name().equals("Drill logs"))
          .singleElement()
          .satisfies(c -> assertThat(c.passed()).as(c.sentence()).isFalse());
    }
  }

  @Test
  void anotherVersionOfBagItIsNamed() throws IOException {
    Path changed = folder.resolve("other.zip");
    Files.copy(pack(), changed);
    try (FileSystem zip = FileSystems.newFileSystem(changed)) {
      Path declaration = zip.getPath("/" + FOLDER + "/bagit.txt");
      Files.writeString(
          declaration, Files.readString(declaration).replace("Version: 1.0", "Version: 0.97"));
    }
    assertThat(PackVerifier.verify(changed).checks().get(0).sentence())
        .contains("declares another version of BagIt than 1.0");
  }

  /**
   * Five hundred forgeries by chance: a byte, a word or a line of any file changed, taken out or doubled, a
   * file added or taken out; then all manifests and counts made anew, or left as they were.
   */
  @Test
  void everyForgeryByChanceIsCaught() throws IOException {
    Path pack = pack();
    for (int i = 0; i < 500; i++) {
      Random random = new Random(5_000 + i);
      StringBuilder what = new StringBuilder();
      Path forged = forgedBytes(pack, files -> what.append(forge(files, random)));
      assertThat(PackVerifier.verify(forged).passed())
          .as("forgery %d: %s", i, what)
          .isFalse();
    }
  }

  /** Changes one thing that the manifests made anew do not undo. */
  private static String forge(Map<String, byte[]> files, Random random) {
    List<String> paths = files.keySet().stream()
        .filter(p -> !p.contains("manifest") && !p.equals("bagit.txt"))
        .toList();
    String path = paths.get(random.nextInt(paths.size()));
    byte[] old = files.get(path);
    String text = new String(old, StandardCharsets.UTF_8);
    // What is made anew with the manifests is no forgery.
    int end = path.equals("bag-info.txt") ? text.indexOf("Payload-Oxum") - 1 : old.length;
    int at = random.nextInt(Math.max(1, end));
    switch (random.nextInt(5)) {
      case 0 -> {
        byte[] changed = old.clone();
        changed[at] ^= (byte) (1 << random.nextInt(7));
        files.put(path, changed);
        return "byte " + at + " of " + path;
      }
      case 1 -> {
        files.remove(path);
        return path + " taken out";
      }
      case 2 -> {
        files.put("data/x" + random.nextInt(99) + ".txt", old);
        return path + " doubled under another name";
      }
      case 3 -> {
        List<String> lines = new ArrayList<>(text.lines().toList());
        int line = random.nextInt(Math.max(1, lines.size() - 1));
        lines.add(line, "X-Forged: " + line);
        files.put(path, String.join("\n", lines).getBytes(StandardCharsets.UTF_8));
        return "a line put into " + path;
      }
      default -> {
        String changed = text.replaceFirst("unproven|never|failed|passed|done|2026", "proven");
        files.put(
            changed.equals(text) ? "data/more.csv" : path,
            changed.getBytes(StandardCharsets.UTF_8));
        return "a word of " + path;
      }
    }
  }

  @Test
  void aVerdictThatWasMadeBetterIsFoundAlthoughEveryChecksumIsRight() throws IOException {
    Verification verification =
        PackVerifier.verify(forged("data/workloads.csv", "unproven", "proven"));
    assertThat(verification.passed()).isFalse();
    assertThat(verification.checks())
        .filteredOn(c -> !c.passed())
        .singleElement()
        .satisfies(c -> {
          assertThat(c.name()).isEqualTo("Verdicts");
          assertThat(c.sentence())
              .contains("workloads.csv does not follow from facts.json: line 2");
        });
  }

  @Test
  void aFactThatWasChangedChangesWhatFollows() throws IOException {
    Verification verification = PackVerifier.verify(
        forged("data/facts.json", "2026-11-24T05:00:00Z", "2026-11-20T05:00:00Z"));
    assertThat(verification.checks())
        .filteredOn(c -> !c.passed())
        .extracting(Check::name)
        .contains("Outcomes");
  }

  @Test
  void factsThatAreNoneAreSaidToBeNone() throws IOException {
    Verification verification = PackVerifier.verify(
        forged("data/facts.json", "\"hard_proof_facts\" : 8", "\"hard_proof_facts\" : 9"));
    assertThat(verification.checks())
        .filteredOn(c -> c.name().equals("Facts"))
        .singleElement()
        .satisfies(
            c -> assertThat(c.sentence()).contains("not of a version that this program reads"));
  }

  /** A few bytes of a zip mean nothing, such as dates; every other change must be noticed. */
  @Test
  void aChangedByteIsNoticedUnlessItChangesNothingThatIsRead() throws IOException {
    Path pack = pack();
    var original = BagReader.open(pack);
    byte[] bytes = Files.readAllBytes(pack);
    Path changed = folder.resolve("changed.zip");
    int noticed = 0;
    for (int at = 0; at < bytes.length; at += 1 + bytes.length / 60) {
      byte[] copy = bytes.clone();
      copy[at] ^= 0x21;
      Files.write(changed, copy);
      if (PackVerifier.verify(changed).passed()) {
        var read = BagReader.open(changed);
        assertThat(read.paths()).as("byte " + at).isEqualTo(original.paths());
        for (String path : original.paths()) {
          assertThat(read.file(path)).as("byte " + at).isEqualTo(original.file(path));
        }
      } else {
        noticed++;
      }
    }
    assertThat(noticed).isGreaterThan(50);
  }

  @Test
  void oneChangedByteInTheDataIsNamed() throws IOException {
    Path pack = pack();
    byte[] bytes = Files.readAllBytes(pack);
    bytes[bytes.length / 2] ^= 1;
    Files.write(pack, bytes);
    assertThat(PackVerifier.verify(pack).checks().get(0).sentence()).contains("data/");
  }

  @Test
  void whatIsNoZipAndWhatIsNotThereAreSaidToBe() throws IOException {
    Path text = folder.resolve("pack.zip");
    Files.writeString(text, "not a zip");
    assertThat(PackVerifier.verify(text).checks().get(0).sentence())
        .contains("is not a readable zip");
    assertThatThrownBy(() -> PackVerifier.verify(folder.resolve("nowhere.zip")))
        .isInstanceOf(IOException.class)
        .hasMessageContaining("is not a file");
  }

  @Test
  void theReportStandsAloneAndRunsNothing() {
    String html =
        estate.installation.part(PackBuilder.class).reportHtml(contents(Selector.EVERYTHING));
    assertThat(html).contains("0 of 1 workload is proven; 1 unproven.");
    assertThat(html).contains("SHARE", "DB was never drilled", "Restore share-1.tar.gz");
    assertThat(html).doesNotContain("<script", "src=", "href=", "@import", "url(http");
    // What a person typed is shown, not run.
    assertThat(html).contains("&lt;b&gt;quarterly&lt;/b&gt;").doesNotContain("<b>quarterly");
  }

  @Test
  void aScopeTakesWholeWorkloads() {
    PackBuilder.Contents contents = contents(Selector.allOf(Condition.is("name", "SHARE")));
    assertThat(contents.facts().facts().resources())
        .extracting(r -> r.key())
        .containsExactly("share", "db");
    assertThat(contents(Selector.allOf(Condition.is("name", "nothing")))
            .facts()
            .facts()
            .resources())
        .isEmpty();
  }

  @Test
  void anIssuedPackIsListedAndOneWhoseFileIsGoneIsSaidToBe() throws IOException {
    Path file = pack();
    PackStore.Issued issued = estate.installation.packs().all().get(0);
    assertThat(issued.bytes()).isEqualTo(Files.size(file));
    assertThat(issued.workloads()).isEqualTo(1);
    Files.delete(file);
    assertThatThrownBy(() -> estate.installation.packs().file(issued))
        .hasMessageContaining("was removed from the data folder");
    assertThatThrownBy(() -> estate.installation.packs().find(99))
        .hasMessageContaining("No pack 99");
  }
}
