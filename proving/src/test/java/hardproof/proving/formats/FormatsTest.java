package hardproof.proving.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import hardproof.proving.Command;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What formats are called, and what files that general tools wrote look like. */
class FormatsTest {
  @TempDir
  Path temp;

  private static ArtifactFormat format(String code) {
    return ArtifactFormat.named(code).orElseThrow();
  }

  @Test
  void everyCodeLeadsToItsFormatAndBack() {
    for (String code : ArtifactFormat.codes()) {
      ArtifactFormat format = format(code);
      assertThat(format(format.code())).as(code).isEqualTo(format);
      assertThat(format.tree()).isEqualTo(format.packing() != Packing.SINGLE);
    }
    assertThat(ArtifactFormat.codes())
        .contains("tar.gz", "tgz", "folder", "app", "app.tar.zst", "bag.zip", "sqlite.gz", "img");
    assertThat(format("TGZ ")).isEqualTo(format("tar.gz"));
    assertThat(format("raw")).isEqualTo(format("img"));
    assertThat(ArtifactFormat.named("rar")).isEmpty();
    assertThat(ArtifactFormat.named(null)).isEmpty();
  }

  /** The file of a general tool; skipped, and said so, where it isn't installed. */
  private byte[] head(String command, String file) throws Exception {
    assumeTrue(Command.there(command.split(" ")[0]), command + " is not installed");
    Files.writeString(temp.resolve("x"), "content");
    Command made = Command.run(temp, "sh", "-c", command);
    assertThat(made.exit()).as(made.output()).isZero();
    try (InputStream in = Files.newInputStream(temp.resolve(file))) {
      return in.readNBytes(Magic.BYTES);
    }
  }

  @ParameterizedTest
  @CsvSource(delimiter = '|', textBlock = """
      gzip x                                       | x.gz  | GZIP   | tar.gz
      zstd -q x                                    | x.zst | ZSTD   | tar.zst
      xz x                                         | x.xz  | XZ     | tar.xz
      bzip2 x                                      | x.bz2 | BZIP2  | tar.bz2
      lz4 -q x x.lz4                               | x.lz4 | LZ4    | tar.lz4
      tar cf x.tar x                               | x.tar | TAR    | tar
      bsdtar -a -cf x.zip x                        | x.zip | ZIP    | zip
      sqlite3 x.db 'create table t(a)'             | x.db  | SQLITE | sqlite
      qemu-img create -q -f qcow2 x.qcow2 1M       | x.qcow2 | QCOW2 | qcow2
      qemu-img create -q -f vmdk x.vmdk 1M         | x.vmdk | VMDK  | vmdk
      openssl enc -aes-256-cbc -pbkdf2 -k p -in x -out x.enc | x.enc | SALTED |""")
  void filesOfGeneralToolsAreKnown(String command, String file, Magic magic, String code)
      throws Exception {
    byte[] head = head(command, file);
    assertThat(Magic.of(head)).isEqualTo(magic);
    if (code != null) {
      Magic.accept(head, format(code));
    }
    assertThatThrownBy(
            () -> Magic.accept(head, format(magic == Magic.GZIP ? "tar.zst" : "sqlite.gz")))
        .isInstanceOf(NotReadHere.class)
        .hasMessageStartingWith(magic == Magic.SALTED ? "it is encrypted (" : "it is said to be ");
  }

  @Test
  void encryptedFilesAreNotTakenForDamage() {
    for (String begin :
        new String[] {"-----BEGIN PGP MESSAGE-----", "age-encryption.org/v1\n", "Salted__12345678"
        }) {
      assertThatThrownBy(
              () -> Magic.accept(begin.getBytes(StandardCharsets.US_ASCII), format("tar.gz")))
          .isInstanceOf(NotReadHere.class)
          .hasMessageStartingWith("it is encrypted (")
          .hasMessageEndingWith("), and no key for it is known here");
    }
  }

  @Test
  void whatHasNoMarkIsLeftToItsReader() throws IOException {
    byte[] text = "hello".getBytes(StandardCharsets.US_ASCII);
    for (String code : new String[] {"tar", "cpio", "zip", "img", "sql", "ldif", "pgsql"}) {
      Magic.accept(text, format(code));
    }
    assertThatThrownBy(() -> Magic.accept(text, format("7z")))
        .isNotInstanceOf(NotReadHere.class)
        .hasMessage("it is said to be 7z but does not begin like one");
    assertThatThrownBy(() -> Magic.accept(new byte[0], format("tar"))).hasMessage("it is empty");
    byte[] zip = {'P', 'K', 3, 4, 0, 0};
    assertThatThrownBy(() -> Magic.accept(zip, format("tar")))
        .isInstanceOf(NotReadHere.class)
        .hasMessageStartingWith("it is said to be tar but begins like a zip file");
  }

  /** RFC 1952, 2.2, and RFC 8878, 3.1: members and frames may follow one another. */
  @Test
  void severalMembersAreReadAsOne() throws Exception {
    Files.writeString(temp.resolve("x"), "content");
    Command.run(temp, "sh", "-c", "gzip -c x > y.gz; gzip -c x >> y.gz");
    try (InputStream in = Compression.GZIP.content(Files.newInputStream(temp.resolve("y.gz")))) {
      assertThat(new String(in.readAllBytes(), StandardCharsets.US_ASCII))
          .isEqualTo("contentcontent");
    }
    assumeTrue(Command.there("zstd"), "zstd is not installed");
    Command.run(temp, "sh", "-c", "zstd -qc x > y.zst; zstd -qc x >> y.zst");
    try (InputStream in = Compression.ZSTD.content(Files.newInputStream(temp.resolve("y.zst")))) {
      assertThat(new String(in.readAllBytes(), StandardCharsets.US_ASCII))
          .isEqualTo("contentcontent");
    }
  }

  @Test
  void whatIsNotCompressedIsPassedOn() throws IOException {
    InputStream in = InputStream.nullInputStream();
    assertThat(Compression.NONE.content(in)).isSameAs(in);
  }
}
