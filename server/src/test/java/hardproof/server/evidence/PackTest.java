package hardproof.server.evidence;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import gov.loc.repository.bagit.domain.Bag;
import gov.loc.repository.bagit.verify.BagVerifier;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.estate.Selector;
import hardproof.core.estate.Selector.Condition;
import hardproof.proving.bags.BagReader;
import hardproof.proving.bags.BagWriter;
import hardproof.server.Estate;
import hardproof.server.drills.RunOrder;
import hardproof.server.evidence.PackVerifier.Check;
import hardproof.server.evidence.PackVerifier.Verification;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileSystem;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class PackTest {
  @TempDir
  Path folder;

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
        .packBuilder()
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
        .containsExactly("Bag (RFC 8493)", "Facts", "Verdicts", "Outcomes", "Drills");
    assertThat(verification.checks().get(3).sentence())
        .isEqualTo(2 * CriterionCode.values().length
            + " outcomes computed again from facts.json agree with findings.csv");
  }

  /** An implementation of RFC 8493 that is not ours: the Library of Congress's. */
  @Test
  void anIndependentBagItImplementationFindsItCompleteAndValid() throws Exception {
    Path pack = pack();
    try (FileSystem zip = FileSystems.newFileSystem(pack)) {
      String name = pack.getFileName().toString().replace(".zip", "");
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
    run(folder, "unzip", "-q", pack.toString(), "-d", folder.resolve("out").toString());
    Path bag = folder.resolve("out").resolve(pack.getFileName().toString().replace(".zip", ""));
    assertThat(run(bag, "sha256sum", "--strict", "-c", "manifest-sha256.txt"))
        .contains("data/report.html: OK", "data/facts.json: OK");
    assertThat(run(bag, "sha256sum", "--strict", "-c", "tagmanifest-sha256.txt"))
        .contains("VERIFY.txt: OK");
  }

  private static String run(Path in, String... command) throws Exception {
    Process process = new ProcessBuilder(command)
        .directory(in.toFile())
        .redirectErrorStream(true)
        .start();
    String output = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(process.waitFor()).as(output).isZero();
    return output;
  }

  @Test
  void theSameFactsGiveTheSameBytes() throws IOException {
    PackBuilder.Contents contents = contents(Selector.EVERYTHING);
    ByteArrayOutputStream a = new ByteArrayOutputStream();
    ByteArrayOutputStream b = new ByteArrayOutputStream();
    estate.installation.packBuilder().write(contents, "pack", a);
    estate.installation.packBuilder().write(contents, "pack", b);
    assertThat(a.toByteArray()).isEqualTo(b.toByteArray());
  }

  /** Writes the pack again with one file changed, and honest manifests for the change. */
  private Path forged(String file, String from, String to) throws IOException {
    var bag = BagReader.open(pack());
    BagWriter writer = new BagWriter("forged");
    for (String path : bag.paths()) {
      if (path.startsWith("data/")) {
        String text = bag.text(path);
        writer.payload(path.substring(5), path.equals(file) ? text.replace(from, to) : text);
      }
    }
    Path forged = folder.resolve("forged.zip");
    try (OutputStream out = Files.newOutputStream(forged)) {
      writer.write(out, Map.of());
    }
    return forged;
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
        forged("data/facts.json", "\"hard_proof_facts\" : 2", "\"hard_proof_facts\" : 9"));
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
    String html = estate.installation.packBuilder().reportHtml(contents(Selector.EVERYTHING));
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
