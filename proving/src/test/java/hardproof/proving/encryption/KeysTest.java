package hardproof.proving.encryption;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.proving.formats.ArtifactFormat;
import hardproof.proving.formats.Magic;
import hardproof.proving.formats.NotReadHere;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Date;
import java.util.HexFormat;
import org.bouncycastle.bcpg.SymmetricKeyAlgorithmTags;
import org.bouncycastle.openpgp.PGPEncryptedDataGenerator;
import org.bouncycastle.openpgp.PGPLiteralDataGenerator;
import org.bouncycastle.openpgp.operator.bc.BcPBEKeyEncryptionMethodGenerator;
import org.bouncycastle.openpgp.operator.bc.BcPGPDataEncryptorBuilder;
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
            ("Salted__12345678" + ".".repeat(64)).getBytes(StandardCharsets.US_ASCII)),
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

  /** A pipe whose first program failed leaves a file that is encrypted, and nothing else. */
  @Test
  void whatIsTooShortToHoldAnythingIsDamagedWhateverTheKey() throws IOException {
    write("a.passphrase", "wrong\n", "rw-------");
    byte[] bytes = ("Salted__12345678" + ".".repeat(32)).getBytes(StandardCharsets.US_ASCII);
    assertThatThrownBy(() -> Keys.in(folder)
            .open(
                Magic.SALTED,
                new ByteArrayInputStream(bytes),
                ArtifactFormat.named("tar.gz").orElseThrow()))
        .isNotInstanceOf(NotReadHere.class)
        .hasMessage("it is encrypted, and so short that there is nothing in it");
    // The same may be a short dump, for a key that is not here.
    assertThatThrownBy(() -> Keys.in(folder)
            .open(
                Magic.SALTED,
                new ByteArrayInputStream(bytes),
                ArtifactFormat.named("sql").orElseThrow()))
        .isInstanceOf(NotReadHere.class);
  }

  /** RFC 9580, 5.7: what programs before 2001 wrote; nothing in it shows a changed byte. */
  @Test
  void aMessageWithoutASumIsNotJudged() throws Exception {
    write("a.passphrase", "secret", "rw-------");
    var out = new ByteArrayOutputStream();
    var encrypted = new PGPEncryptedDataGenerator(
        new BcPGPDataEncryptorBuilder(SymmetricKeyAlgorithmTags.AES_256)
            .setWithIntegrityPacket(false));
    encrypted.addMethod(new BcPBEKeyEncryptionMethodGenerator("secret".toCharArray()));
    try (OutputStream in = encrypted.open(out, new byte[512]);
        OutputStream literal =
            new PGPLiteralDataGenerator().open(in, 'b', "", new Date(0), new byte[512])) {
      literal.write("data".getBytes(StandardCharsets.US_ASCII));
    }
    InputStream opened = Keys.in(folder)
        .open(
            Magic.PGP,
            new ByteArrayInputStream(out.toByteArray()),
            ArtifactFormat.named("tar").orElseThrow());
    assertThatThrownBy(opened::readAllBytes)
        .isInstanceOf(NotReadHere.class)
        .hasMessageContaining("without a sum");
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
