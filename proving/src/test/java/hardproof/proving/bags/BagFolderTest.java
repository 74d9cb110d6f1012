package hardproof.proving.bags;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import gov.loc.repository.bagit.exceptions.CorruptChecksumException;
import gov.loc.repository.bagit.reader.BagReader;
import gov.loc.repository.bagit.verify.BagVerifier;
import hardproof.proving.checksums.DigestKind;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Bags of folders, as RFC 8493 has them, and every way in which one can be wrong. */
class BagFolderTest {
  @TempDir
  Path temp;

  private Path bag;

  @BeforeEach
  void make() throws IOException {
    bag = Files.createDirectory(temp.resolve("bag"));
    write("bagit.txt", "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n");
    write("data/a.txt", "one");
    write("data/sub/b.txt", "two!");
    manifest(DigestKind.SHA256);
  }

  private void write(String path, String content) throws IOException {
    Path file = bag.resolve(path);
    Files.createDirectories(file.getParent());
    Files.writeString(file, content);
  }

  private static String sum(DigestKind kind, String content) {
    return HexFormat.of().formatHex(kind.digest().digest(content.getBytes(StandardCharsets.UTF_8)));
  }

  private static String lines(DigestKind kind) {
    return sum(kind, "one") + "  data/a.txt\n" + sum(kind, "two!") + "  data/sub/b.txt\n";
  }

  private void manifest(DigestKind kind) throws IOException {
    write("manifest-" + kind.name().toLowerCase(java.util.Locale.ROOT) + ".txt", lines(kind));
  }

  private BagFolder check() throws IOException {
    return BagFolder.check(bag, n -> {});
  }

  /** Outside check: the Library of Congress's own implementation says the same of the same bags. */
  @Test
  void anIndependentImplementationAgrees() throws Exception {
    manifest(DigestKind.SHA512);
    assertThat(check().sentence()).isEqualTo("a valid bag of 2 files (7 B)");
    try (BagVerifier verifier = new BagVerifier()) {
      verifier.isValid(new BagReader().read(bag), false);
      write("data/a.txt", "One");
      assertThat(check().faults())
          .containsExactly(
              "data/a.txt has been changed: its SHA-256 is not as in the manifest",
              "data/a.txt has been changed: its SHA-512 is not as in the manifest");
      assertThatThrownBy(() -> verifier.isValid(new BagReader().read(bag), false))
          .isInstanceOf(CorruptChecksumException.class);
    }
  }

  /** RFC 8493, 2.4: MD5 and SHA-1 may be there; they show accidents only. */
  @Test
  void weakDigestsAreReadAndSaid() throws IOException {
    Files.delete(bag.resolve("manifest-sha256.txt"));
    manifest(DigestKind.MD5);
    manifest(DigestKind.SHA1);
    assertThat(check().faults()).isEmpty();
    assertThat(check().sentence())
        .isEqualTo(
            "a valid bag of 2 files (7 B); manifest-sha1.txt uses SHA-1, which shows accidents"
                + " but can be forged; manifest-md5.txt uses MD5, which shows accidents but can be"
                + " forged");
    write("data/sub/b.txt", "two?");
    assertThat(check().faults()).hasSize(2);
  }

  /** All payload manifests must list the same files (RFC 8493, 2.1.3). */
  @Test
  void everyPayloadManifestMustListEveryFile() throws IOException {
    write("manifest-sha512.txt", sum(DigestKind.SHA512, "one") + "  data/a.txt\n");
    assertThat(check().faults()).containsExactly("data/sub/b.txt is not in the SHA-512 manifest");
  }

  @Test
  void whatIsMissingOrNotListedIsNamed() throws IOException {
    Files.delete(bag.resolve("data/a.txt"));
    write("data/new.txt", "x");
    assertThat(check().faults())
        .containsExactly(
            "data/new.txt is not in the SHA-256 manifest",
            "data/a.txt is in a manifest but not in the bag");
  }

  @Test
  void aBagWhosePayloadLiesElsewhereIsNotWhole() throws IOException {
    // What was fetched is there, and the list of it may stay (RFC 8493, 2.2.3).
    write("fetch.txt", "https://localhost/a 3 data/a.txt\n");
    assertThat(check().faults()).isEmpty();
    write("fetch.txt", "https://localhost/a 3 data/elsewhere.txt\n");
    assertThat(check().faults())
        .containsExactly(
            "fetch.txt names files that lie elsewhere, so the bag does not hold its payload");
  }

  @Test
  void whatIsNoBagIsSaidToBeNone() throws IOException {
    Files.delete(bag.resolve("manifest-sha256.txt"));
    write("bagit.txt", "hello\n");
    assertThat(check().faults())
        .containsExactly(
            "bagit.txt is missing or is no bag declaration",
            "it has no payload manifest of a kind that is known (md5, sha1, sha256, sha512)");
    Files.delete(bag.resolve("bagit.txt"));
    assertThat(check().faults()).contains("bagit.txt is missing or is no bag declaration");
  }

  @Test
  void tagFilesAreHeldToTheirManifest() throws IOException {
    String manifest = lines(DigestKind.SHA256);
    write("tagmanifest-sha256.txt", sum(DigestKind.SHA256, manifest) + "  manifest-sha256.txt\n");
    assertThat(check().faults()).isEmpty();
    write("manifest-sha256.txt", manifest + "\n");
    assertThat(check().faults())
        .containsExactly(
            "manifest-sha256.txt has been changed: its SHA-256 is not as in the manifest");
  }

  @Test
  void theOctetCountMustAgree() throws IOException {
    write("bag-info.txt", "Source-Organization: Tarnwick Ferries\nPayload-Oxum: 7.2\n");
    assertThat(check().faults()).isEmpty();
    write("bag-info.txt", "Payload-Oxum: 8.2\n");
    assertThat(check().faults())
        .containsExactly("bag-info.txt counts 8.2 (octets.files), the payload has 7.2");
  }

  /** RFC 8493, 2.1.3: line feeds, carriage returns and percent signs of paths are encoded. */
  @Test
  void encodedPathsAreDecoded() {
    String sum = sum(DigestKind.SHA256, "x");
    BagManifest read = BagManifest.parse(
        "m",
        sum.toUpperCase(java.util.Locale.ROOT) + " *./data/100%25.txt\r\n" + sum
            + "\tdata/two%0Alines%0d\n" + sum + "  data/a%250A\n",
        DigestKind.SHA256,
        true);
    assertThat(read.faults()).isEmpty();
    assertThat(read.sums().keySet())
        .containsExactlyInAnyOrder("data/100%.txt", "data/two\nlines\r", "data/a%0A");
    assertThat(read.sums().values()).containsOnly(sum);
  }

  @Test
  void linesThatLeadElsewhereAreRefused() {
    String sum = sum(DigestKind.SHA256, "x");
    List<String> faults = new ArrayList<>();
    for (String path : List.of("data/../../x", "/etc/passwd", "~/x", "data/a\\..\\b", "tag.txt")) {
      faults.addAll(BagManifest.parse("m", sum + "  " + path + "\n", DigestKind.SHA256, true)
          .faults());
    }
    assertThat(faults).hasSize(5).allMatch(f -> f.endsWith("which is not below data/"));
    assertThat(
            BagManifest.parse("t", sum + "  data/a\n", DigestKind.SHA256, false).faults())
        .containsExactly("t, line 1, names data/a, which is not a tag file of the bag");
    assertThat(BagManifest.parse(
                "m",
                sum + "  data/a\n\nabc  data/b\n" + sum + "\n" + sum + "  data/a\n",
                DigestKind.SHA256,
                true)
            .faults())
        .containsExactly(
            "m, line 3, is not a SHA-256 and a path",
            "m, line 4, is not a SHA-256 and a path",
            "m, line 5, names data/a again");
  }

  @Test
  void theBagIsFoundInTheFolderOrOneBelow() throws IOException {
    assertThat(BagFolder.topOf(bag)).isEqualTo(bag);
    assertThat(BagFolder.topOf(temp)).isEqualTo(bag);
    Files.writeString(temp.resolve("other"), "x");
    assertThat(BagFolder.topOf(temp)).isEqualTo(temp);
  }

  @Test
  void manyFaultsAreCountedAndTheFirstNamed() throws IOException {
    for (int i = 0; i < 5; i++) {
      write("data/x" + i, "x");
    }
    assertThat(check().sentence())
        .startsWith("5 faults of the bag: data/x0 is not in the SHA-256 manifest; ")
        .endsWith("data/x2 is not in the SHA-256 manifest; …");
  }

  /** RFC 8493, 2.4, allows other algorithms: one that we do not have says nothing of the bag. */
  @Test
  void aManifestOfAnotherKindIsOurLack() throws IOException {
    Files.move(bag.resolve("manifest-sha256.txt"), bag.resolve("manifest-blake2b512.txt"));
    Files.deleteIfExists(bag.resolve("tagmanifest-sha256.txt"));
    org.assertj.core.api.Assertions.assertThatThrownBy(this::check)
        .isInstanceOf(hardproof.proving.formats.NotReadHere.class)
        .hasMessageContaining("only manifest-blake2b512.txt");
  }
}
