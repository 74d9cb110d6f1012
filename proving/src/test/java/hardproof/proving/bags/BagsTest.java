package hardproof.proving.bags;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import gov.loc.repository.bagit.reader.BagReader;
import gov.loc.repository.bagit.verify.BagVerifier;
import hardproof.proving.Command;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Random;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class BagsTest {
  @TempDir
  Path temp;

  private Path write(String name) throws IOException {
    BagWriter bag = new BagWriter("pack");
    bag.payload("findings.csv", "a,b\r\n");
    bag.payload("drills/7/log ü.txt", "done\n");
    bag.tag("VERIFY.txt", "how\n");
    Path zip = temp.resolve(name);
    bag.info(Map.of("Source-Organization", "Tarnwick\nFerries"));
    try (OutputStream out = Files.newOutputStream(zip)) {
      bag.write(out);
    }
    return zip;
  }

  private Path rewrite(Path zip, String path, byte[] content) throws IOException {
    Path changed = temp.resolve("changed.zip");
    try (ZipFile in = new ZipFile(zip.toFile());
        ZipOutputStream out =
            new ZipOutputStream(Files.newOutputStream(changed), StandardCharsets.UTF_8)) {
      for (var entries = in.entries(); entries.hasMoreElements(); ) {
        ZipEntry entry = entries.nextElement();
        if (!entry.getName().equals(path)) {
          out.putNextEntry(new ZipEntry(entry.getName()));
          out.write(in.getInputStream(entry).readAllBytes());
        }
      }
      if (content != null) {
        out.putNextEntry(new ZipEntry(path));
        out.write(content);
      }
    }
    return changed;
  }

  @Test
  void whatWeWriteWeFindValid() throws IOException {
    hardproof.proving.bags.BagReader bag = hardproof.proving.bags.BagReader.open(write("a.zip"));
    assertThat(bag.faults()).isEmpty();
    assertThat(bag.text("data/drills/7/log ü.txt")).isEqualTo("done\n");
    assertThat(bag.text("bag-info.txt"))
        .isEqualTo("Source-Organization: Tarnwick Ferries\nPayload-Oxum: 10.2\n");
  }

  /** Outside check: an independent implementation (Library of Congress) reads and verifies it. */
  @Test
  void anIndependentImplementationFindsItValid() throws Exception {
    try (var zip = FileSystems.newFileSystem(write("a.zip"));
        BagVerifier verifier = new BagVerifier()) {
      var bag = new BagReader().read(zip.getPath("/pack"));
      verifier.isValid(bag, false);
      assertThat(bag.getPayLoadManifests()).hasSize(1);
    }
  }

  /** Outside check: unzip with the JDK, then GNU sha256sum on both manifests. */
  @Test
  void sha256sumFindsItValid() throws Exception {
    Path folder = Files.createDirectory(temp.resolve("out"));
    try (ZipFile zip = new ZipFile(write("a.zip").toFile())) {
      for (var entries = zip.entries(); entries.hasMoreElements(); ) {
        ZipEntry entry = entries.nextElement();
        Path file = folder.resolve(entry.getName());
        Files.createDirectories(file.getParent());
        Files.copy(zip.getInputStream(entry), file);
      }
    }
    for (String manifest : new String[] {"manifest-sha256.txt", "tagmanifest-sha256.txt"}) {
      assertThat(Command.run(folder.resolve("pack"), "sha256sum", "--strict", "-c", manifest)
              .exit())
          .isZero();
    }
  }

  @Test
  void theSameContentsAreTheSameBytes() throws IOException {
    assertThat(write("a.zip")).hasSameBinaryContentAs(write("b.zip"));
  }

  @Test
  void everyChangeIsNamed() throws IOException {
    Path zip = write("a.zip");
    assertThat(faults(
            rewrite(zip, "pack/data/findings.csv", "a,c\r\n".getBytes(StandardCharsets.UTF_8))))
        .containsExactly(
            "data/findings.csv has been changed: its SHA-256 is not the one in manifest-sha256.txt");
    assertThat(faults(rewrite(zip, "pack/data/findings.csv", null)))
        .contains("data/findings.csv is in manifest-sha256.txt but not in the bag");
    assertThat(faults(rewrite(zip, "pack/data/extra", new byte[1])))
        .containsExactly("data/extra is in no manifest");
    assertThat(faults(rewrite(zip, "pack/VERIFY.txt", new byte[1])))
        .containsExactly(
            "VERIFY.txt has been changed: its SHA-256 is not the one in tagmanifest-sha256.txt");
    assertThat(faults(rewrite(zip, "pack/bagit.txt", null)))
        .contains("bagit.txt is missing or is no bag declaration");
    assertThat(faults(rewrite(zip, "other/x", new byte[1])))
        .contains("the zip holds more than one folder: other/x");
    assertThat(faults(rewrite(zip, "../../evil", new byte[1])))
        .contains("the zip has an entry that leaves it: ../../evil");
    assertThat(
            faults(rewrite(zip, "pack/manifest-sha256.txt", "x".getBytes(StandardCharsets.UTF_8))))
        .contains(
            "manifest-sha256.txt: line 1 of the checksum list is not a checksum (SHA-256, SHA-512, SHA-1 or MD5) and a path");
  }

  /** What is too large to be held in memory is read again each time; at, under and above the size that is. */
  @Test
  void largeFilesAreReadAndCheckedToo() throws IOException {
    for (int size : new int[] {(1 << 20) - 1, 1 << 20, (1 << 20) + 1, 3_000_000}) {
      byte[] content = new byte[size];
      new Random(size).nextBytes(content);
      BagWriter writer = new BagWriter("pack");
      writer.payload("large.bin", content);
      Path zip = temp.resolve("large.zip");
      try (OutputStream out = Files.newOutputStream(zip)) {
        writer.write(out);
      }
      var bag = hardproof.proving.bags.BagReader.open(zip);
      assertThat(bag.faults()).isEmpty();
      assertThat(bag.has("data/large.bin")).isTrue();
      assertThat(bag.file("data/large.bin")).isEqualTo(content);
      try (InputStream in = bag.open("data/large.bin")) {
        assertThat(in.readAllBytes()).isEqualTo(content);
      }
      content[size - 1] ^= 1;
      assertThat(faults(rewrite(zip, "pack/data/large.bin", content)))
          .containsExactly("data/large.bin has been changed: its SHA-256 is not the one in"
              + " manifest-sha256.txt");
    }
  }

  private static java.util.List<String> faults(Path zip) throws IOException {
    return hardproof.proving.bags.BagReader.open(zip).faults();
  }

  @Test
  void whatIsNoZipIsSaidToBeNone() throws IOException {
    Path file = Files.writeString(temp.resolve("x.zip"), "not a zip");
    assertThatThrownBy(() -> hardproof.proving.bags.BagReader.open(file))
        .isInstanceOf(IOException.class);
  }

  @Test
  void namesThatToolsReadDifferentlyAreRefused() {
    for (String name : new String[] {"a%b", "a\nb", "/a", "../a", "a\\b"}) {
      assertThatThrownBy(() -> new BagWriter("p").payload(name, "x"))
          .isInstanceOf(IllegalArgumentException.class);
    }
  }
}
