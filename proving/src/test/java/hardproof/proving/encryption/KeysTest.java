package hardproof.proving.encryption;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.proving.formats.ArtifactFormat;
import hardproof.proving.formats.Magic;
import hardproof.proving.formats.NotReadHere;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.HexFormat;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Keys lie in a folder and are their owner's alone; what they open is compared with other tools in the corpus. */
class KeysTest {
  @TempDir
  Path folder;

  private Path write(String name, String content, String rights) throws IOException {
    Path file = Files.writeString(folder.resolve(name), content);
    return Files.setPosixFilePermissions(file, PosixFilePermissions.fromString(rights));
  }

  private static void open(Keys keys) throws IOException {
    keys.open(
        Magic.SALTED,
        new ByteArrayInputStream(
            "Salted__12345678................................".getBytes(StandardCharsets.US_ASCII)),
        ArtifactFormat.named("tar.gz").orElseThrow());
  }

  @Test
  void withoutAKeyThatFitsNothingIsSaidOfTheData() throws IOException {
    assertThatThrownBy(() -> open(Keys.none()))
        .isInstanceOf(NotReadHere.class)
        .hasMessageContaining("no key that fits is here: none; put them into the folder keys");
    write("a.passphrase", "wrong\n", "rw-------");
    assertThatThrownBy(() -> open(Keys.in(folder)))
        .isInstanceOf(NotReadHere.class)
        .hasMessageContaining("no key that fits is here: 1 file in ");
  }

  @Test
  void aKeyThatOthersCanReadIsNotUsed() throws IOException {
    write("a.passphrase", "secret", "rw-r-----");
    assertThatThrownBy(() -> open(Keys.in(folder)))
        .isInstanceOf(NotReadHere.class)
        .hasMessage("the key a.passphrase can be read by others, and is not used: chmod 600 it");
  }

  @Test
  void whatEditorsAddIsNoPartOfAPassphrase() throws IOException {
    write("a.passphrase", " two words \n", "rw-------");
    write("b.passphrase", "dos\r\n", "rw-------");
    write("c.txt", "no key", "rw-------");
    assertThat(Keys.in(folder).passphrases()).containsExactly(" two words ", "dos");
  }

  /** BIP 173, "Test vectors": strings that are valid, and some that are not. */
  @Test
  void bech32IsReadByItsTestVectors() {
    for (String valid : new String[] {
      "A12UEL5L",
      "a12uel5l",
      "abcdef1qpzry9x8gf2tvdw0s3jn54khce6mua7lmqqqxw",
      "split1checkupstagehandshakeupstreamerranterredcaperred2y9e3w"
    }) {
      assertThat(Bech32.decode(valid)).as(valid).isNotNull();
    }
    for (String invalid : new String[] {
      "pzry9x0s0muk", "1pzry9x0s0muk", "x1b4n0q5v", "li1dgmt3", "A1G7SGD8", "10a06t8", "1qzzfhee"
    }) {
      assertThat(Bech32.decode(invalid)).as(invalid).isNull();
    }
    assertThat(HexFormat.of()
            .formatHex(Bech32.decode("abcdef1qpzry9x8gf2tvdw0s3jn54khce6mua7lmqqqxw")))
        .isEqualTo("00443214c74254b635cf84653a56d7c675be77df");
  }
}
