package hardproof.proving.formats;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.proving.Command;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Artifacts that general tools wrote, without a name that says what they are. */
class FirstBytesTest {
  @TempDir
  Path temp;

  private static Optional<String> format(byte[] bytes) throws IOException {
    return FirstBytes.format(new ByteArrayInputStream(bytes));
  }

  private static Optional<String> format(String text) throws IOException {
    return format(text.getBytes(StandardCharsets.UTF_8));
  }

  /** Of those that are installed here. */
  @Test
  void artifactsOfGeneralToolsAreKnownByHowTheyBegin() throws Exception {
    StringBuilder text = new StringBuilder();
    new Random(3).ints(300_000, 'a', 'z').forEach(c -> text.append((char) c));
    Files.writeString(temp.resolve("x"), text);
    String[][] made = {
      {"tar", "tar cf out x", "tar"},
      {"tar", "tar czf out x", "tar.gz"},
      {"zstd", "tar cf - x | zstd -q > out", "tar.zst"},
      {"xz", "tar cJf out x", "tar.xz"},
      {"lz4", "tar cf - x | lz4 -q > out", "tar.lz4"},
      {"bsdtar", "bsdtar -cf out --format zip x", "zip"},
      {"sqlite3", "sqlite3 out 'create table t(a)'", "sqlite"},
      {"sqlite3", "sqlite3 d 'create table t(a)' && gzip -c d > out", "sqlite.gz"},
      {
        "sqlite3",
        "sqlite3 d 'create table if not exists t(a)' && sqlite3 d .dump | gzip > out",
        "sql.gz"
      },
      {"qemu-img", "qemu-img create -q -f qcow2 out 1M", "qcow2"},
      {"qemu-img", "qemu-img create -q -f vhdx out 1M", "vhdx"},
      {"gzip", "gzip -c x > out", null},
      {"openssl", "openssl enc -aes-256-cbc -pbkdf2 -k p -in x -out out", null},
    };
    for (String[] one : made) {
      if (Command.there(one[0])) {
        Files.deleteIfExists(temp.resolve("out"));
        Command run = Command.run(temp, "sh", "-c", one[1]);
        assertThat(run.exit()).as(one[1] + ": " + run.output()).isZero();
        try (InputStream in = Files.newInputStream(temp.resolve("out"))) {
          assertThat(FirstBytes.format(in)).as(one[1]).isEqualTo(Optional.ofNullable(one[2]));
        }
      }
    }
  }

  /** First lines as pg_dump 15, mariadb-dump 10.11 and mysqldump 8 write them, from memory. */
  @Test
  void dumpsSayWhoseTheyAre() throws IOException {
    assertThat(format("--\n-- PostgreSQL database dump\n--\n\n\\restrict x\n")).contains("pgsql");
    assertThat(format("--\n-- PostgreSQL database cluster dump\n--\n")).contains("pgsql");
    assertThat(format(
            "/*!999999\\- enable the sandbox mode */ \n-- MariaDB dump 10.19  Distrib 10.11\n"))
        .contains("mariadb");
    assertThat(format("version: 1\n\ndn: dc=example,dc=org\nobjectClass: top\n"))
        .contains("ldif");
    assertThat(format("# all of it\ndn: dc=example,dc=org\nobjectClass: top\n")).contains("ldif");
    assertThat(format("PGDMP\u0001\u000e")).contains("pgdump");
    assertThat(format("<html>")).isEmpty();
    assertThat(format("name,size\na,1\n")).isEmpty();
    assertThat(format("")).isEmpty();
  }

  @Test
  void whatIsBrokenBeginsLikeNothingAndThrowsNothing() throws IOException {
    Random random = new Random(11);
    byte[][] begins = {
      {0x1f, (byte) 0x8b},
      {0x28, (byte) 0xb5, 0x2f, (byte) 0xfd},
      {'B', 'Z', 'h', '9'},
      {(byte) 0xfd, '7', 'z', 'X', 'Z', 0},
      {0x04, 0x22, 0x4d, 0x18},
      {}
    };
    for (int i = 0; i < 600; i++) {
      byte[] bytes = new byte[random.nextInt(3000) + 8];
      random.nextBytes(bytes);
      byte[] begin = begins[i % begins.length];
      System.arraycopy(begin, 0, bytes, 0, begin.length);
      assertThat(format(bytes)).as("number " + i).isEmpty();
    }
  }
}
