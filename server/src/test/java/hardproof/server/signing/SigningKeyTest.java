package hardproof.server.signing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.util.HexFormat;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SigningKeyTest {
  /** SubjectPublicKeyInfo of Ed25519 up to the 32 bytes of the key (RFC 8410, section 4). */
  private static final String SPKI = "302a300506032b6570032100";

  @TempDir
  Path folder;

  private static byte[] bytes(String hex) {
    return hex == null ? new byte[0] : HexFormat.of().parseHex(hex);
  }

  /** RFC 8032, section 7.1, tests 1 to 3 (from memory: one wrong digit did not verify). */
  @ParameterizedTest
  @CsvSource({
    "d75a980182b10ab7d54bfed3c964073a0ee172f3daa62325af021a68f707511a,,"
        + "e5564300c360ac729086e2cc806e828a84877f1eb8e5d974d873e065224901555fb8821590a33bacc61e39701cf9b46bd25bf5f0595bbe24655141438e7a100b",
    "3d4017c3e843895a92b70aa74d1b7ebc9c982ccf2ec4968cc0cd55f12af4660c,72,"
        + "92a009a9f0d4cab8720e820b5f642540a2b27b5416503f8fb3762223ebdb69da085ac1e43e15996e458f3613d0f11d8c387b2eaeb4302aeeb00d291612bb0c00",
    "fc51cd8e6218a1a38da47ed00230f0580816ed13ba3303ac5deb911548908025,af82,"
        + "6291d657deec24024827e69c3abe01a30ce548a284743a445e3680d7db5ac3ac18ff9b538d16f290ae67f760984dc6594a7c15e9716ed28dc027beceea1ec40a"
  })
  void vectorsOfTheStandard(String key, String message, String signature) {
    byte[] publicKey = bytes(SPKI + key);
    assertThat(SigningKey.verifies(publicKey, bytes(message), bytes(signature))).isTrue();
    byte[] other = bytes(signature);
    for (int i = 0; i < other.length; i++) {
      other[i] ^= 1;
      assertThat(SigningKey.verifies(publicKey, bytes(message), other))
          .as("byte " + i)
          .isFalse();
      other[i] ^= 1;
    }
    assertThat(SigningKey.verifies(publicKey, new byte[] {1}, bytes(signature))).isFalse();
    assertThat(SigningKey.verifies(publicKey, bytes(message), new byte[3])).isFalse();
    assertThat(SigningKey.verifies(new byte[3], bytes(message), bytes(signature)))
        .isFalse();
  }

  @Test
  void theSecretHalfIsTheOwnersAloneAndBothBelongTogether() throws IOException {
    SigningKey made = SigningKey.make(folder, "a");
    SigningKey read = SigningKey.read(folder, "a");
    assertThat(read.publicKey()).isEqualTo(made.publicKey());
    assertThat(Files.getPosixFilePermissions(folder.resolve("a.key")))
        .containsExactlyInAnyOrder(PosixFilePermission.OWNER_READ, PosixFilePermission.OWNER_WRITE);
    assertThat(SigningKey.ofPem(SigningKey.pem(made.publicKey()))).isEqualTo(made.publicKey());
    assertThat(SigningKey.ofPem("-----BEGIN-----\n%%%")).isEmpty();
    SigningKey.make(folder, "b");
    Files.copy(
        folder.resolve("b.pub"),
        folder.resolve("a.pub"),
        java.nio.file.StandardCopyOption.REPLACE_EXISTING);
    assertThatThrownBy(() -> SigningKey.read(folder, "a"))
        .isInstanceOf(IOException.class)
        .hasMessageContaining("don't belong together");
    Files.writeString(folder.resolve("a.key"), "none");
    assertThatThrownBy(() -> SigningKey.read(folder, "a")).hasMessageContaining("can't be used");
  }
}
