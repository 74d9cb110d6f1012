package hardproof.proving.checksums;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.proving.Command;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ChecksumsTest {
  @TempDir
  Path folder;

  /** FIPS 180-4 examples, as published by NIST with the standard. */
  @Test
  void sha256OfThePublishedExamples() {
    assertThat(Sha256.of("abc".getBytes(StandardCharsets.US_ASCII)))
        .isEqualTo("ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
    assertThat(Sha256.of(new byte[0]))
        .isEqualTo("e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855");
    assertThat(Sha256.of("a".repeat(1_000_000).getBytes(StandardCharsets.US_ASCII)))
        .isEqualTo("cdc76e5c9914fb9281a1c7e284d73e67f1809a48a497200e046d39ccc7112cd0");
  }

  /** Outside check: GNU sha256sum on the same files, names with blanks and backslashes among them. */
  @Test
  void agreesWithSha256sum() throws Exception {
    byte[] content = new byte[700_001];
    new Random(1).nextBytes(content);
    Files.write(folder.resolve("a b.bin"), content);
    Files.writeString(folder.resolve("back\\slash"), "x");
    Command theirs = Command.run(folder, "sha256sum", "a b.bin", "back\\slash");
    Map<String, String> sums = ChecksumList.parse(theirs.output());
    assertThat(sums)
        .containsEntry("a b.bin", Sha256.of(folder.resolve("a b.bin")))
        .containsEntry("back\\slash", Sha256.of(folder.resolve("back\\slash")));

    Files.writeString(folder.resolve("sums"), ChecksumList.format(sums));
    assertThat(Command.run(folder, "sha256sum", "--strict", "-c", "sums").exit())
        .isZero();
  }

  @Test
  void aListThatIsNoneNamesItsLine() {
    String sum = "0".repeat(64);
    assertThatThrownBy(() -> ChecksumList.parse(sum + "  a\nnonsense\n"))
        .hasMessage(
            "line 2 of the checksum list is not a checksum (SHA-256, SHA-512, SHA-1 or MD5) and a path");
    assertThatThrownBy(() -> ChecksumList.parse(sum + "  a\n" + sum + " *./a\n"))
        .hasMessage("line 2 of the checksum list names a again");
    assertThat(ChecksumList.parse("\n")).isEmpty();
  }

  /** FIPS 180-4: one million times "a"; and against the plain digest for every odd size. */
  @Test
  void theDigestInTheBackgroundIsTheSame() {
    try (BackgroundDigest million = new BackgroundDigest()) {
      byte[] thousand = "a".repeat(1000).getBytes(StandardCharsets.UTF_8);
      for (int i = 0; i < 1000; i++) {
        million.update(thousand, 0, 1000);
      }
      assertThat(million.finish())
          .isEqualTo("cdc76e5c9914fb9281a1c7e284d73e67f1809a48a497200e046d39ccc7112cd0");
    }
    byte[] bytes = new byte[3 * Sha256.BUFFER_BYTES + 7];
    new java.util.Random(9).nextBytes(bytes);
    for (int piece :
        new int[] {1 << 10, Sha256.BUFFER_BYTES, Sha256.BUFFER_BYTES + 1, bytes.length}) {
      try (BackgroundDigest digest = new BackgroundDigest()) {
        for (int at = 0; at < bytes.length; at += piece) {
          digest.update(bytes, at, Math.min(piece, bytes.length - at));
        }
        assertThat(digest.finish()).as("pieces of " + piece).isEqualTo(Sha256.of(bytes));
      }
    }
  }
}
