package hardproof.proving.formats;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.points.Form;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Held to what GNU tar and qemu-img write. */
class FormHeldTest {
  @TempDir
  Path folder;

  private void run(String... command) throws IOException, InterruptedException {
    Process process = new ProcessBuilder(command)
        .directory(folder.toFile())
        .redirectErrorStream(true)
        .redirectOutput(folder.resolve("said").toFile())
        .start();
    assertThat(process.waitFor()).as(() -> String.join(" ", command)).isZero();
  }

  private static void needs(String program) {
    Assumptions.assumeTrue(
        Arrays.stream(System.getenv("PATH").split(":"))
            .anyMatch(p -> Files.isExecutable(Path.of(p, program))),
        program + " is not installed");
  }

  private Optional<Form> held(String file) throws IOException {
    try (InputStream in = Files.newInputStream(folder.resolve(file))) {
      return FormHeld.of(in);
    }
  }

  private void tree(int files) throws IOException {
    for (int i = 0; i < files; i++) {
      Path file = folder.resolve("data/d" + i % 3 + "/f" + i);
      Files.createDirectories(file.getParent());
      Files.writeString(file, "x".repeat(100 + i));
    }
  }

  @ParameterizedTest
  @CsvSource({
    "gnu, tar",
    "posix, tar",
    "gnu, tar.gz",
    "posix, tar.gz",
    "gnu, tar.zst",
    "posix, tar.xz"
  })
  void aDumpOfTarTellsWhatItLeavesOut(String form, String ending) throws Exception {
    needs("tar");
    Assumptions.assumeFalse(ending.endsWith("zst") && !Files.exists(Path.of("/usr/bin/zstd")));
    tree(60);
    String[] dump = {
      "tar", "--format=" + form, "--listed-incremental=state", "-caf", "full." + ending, "data"
    };
    run(dump);
    Files.writeString(
        folder.resolve("data/d0/f0"), "changed, and longer than it was before".repeat(9));
    dump[4] = "inc." + ending;
    run(dump);
    assertThat(held("full." + ending)).contains(Form.FULL);
    assertThat(held("inc." + ending)).contains(Form.INCREMENTAL);
  }

  @Test
  void whatIsNotReadToItsEndIsNoFullYet() throws Exception {
    needs("tar");
    tree(20);
    byte[] large = new byte[3 << 20];
    new java.util.Random(1).nextBytes(large);
    Files.write(folder.resolve("data/large"), large);
    run("tar", "--listed-incremental=state", "-cf", "full.tar", "data");
    assertThat(held("full.tar")).isEmpty();
    run("tar", "--listed-incremental=state", "-cf", "inc.tar", "data");
    assertThat(held("inc.tar")).contains(Form.INCREMENTAL);
  }

  @Test
  void anOrdinaryTarDoesNotTell() throws Exception {
    needs("tar");
    tree(9);
    run("tar", "-cf", "plain.tar", "data");
    assertThat(held("plain.tar")).isEmpty();
  }

  @ParameterizedTest
  @ValueSource(strings = {"qcow2", "vmdk"})
  void aDiskTellsWhatItRestsOn(String form) throws Exception {
    needs("qemu-img");
    run("qemu-img", "create", "-f", form, "base", "8M");
    run("qemu-img", "create", "-f", form, "-b", "base", "-F", form, "over");
    assertThat(held("base")).contains(Form.FULL);
    assertThat(held("over")).contains(Form.INCREMENTAL);
  }

  @ParameterizedTest
  @CsvSource({"dynamic, 3", "fixed, 2"})
  void aVhdTellsItsType(String kind, int type) throws Exception {
    needs("qemu-img");
    run("qemu-img", "create", "-f", "vpc", "-o", "subformat=" + kind, "disk.vhd", "8M");
    byte[] disk = Files.readAllBytes(folder.resolve("disk.vhd"));
    if (type == 2) {
      // Its only footer is at the end: a fixed one begins with the disk itself.
      assertThat(FormHeld.of(new ByteArrayInputStream(disk))).isEmpty();
      return;
    }
    assertThat(disk[63]).isEqualTo((byte) type);
    assertThat(FormHeld.of(new ByteArrayInputStream(disk))).contains(Form.FULL);
    disk[63] = 4; // Of differences, by the specification of the format; qemu-img makes none.
    assertThat(FormHeld.of(new ByteArrayInputStream(disk))).contains(Form.INCREMENTAL);
  }

  @Test
  void whatIsBrokenOrForgedSaysNothingAndEnds() throws IOException {
    List<byte[]> odd = new ArrayList<>();
    odd.add(new byte[0]);
    odd.add(new byte[] {'Q', 'F', 'I', (byte) 0xfb, 0, 0});
    odd.add("conectix".getBytes(java.nio.charset.StandardCharsets.US_ASCII));
    byte[] gzip = new byte[600];
    gzip[0] = 0x1f;
    gzip[1] = (byte) 0x8b;
    odd.add(gzip);
    byte[] tar = new byte[1536];
    System.arraycopy("ustar".getBytes(java.nio.charset.StandardCharsets.US_ASCII), 0, tar, 257, 5);
    tar[0] = 'a';
    tar[156] = 'D';
    Arrays.fill(tar, 124, 135, (byte) '7'); // A list of 8 GiB.
    odd.add(tar.clone());
    tar[124] = (byte) 0xff; // More than any number holds.
    Arrays.fill(tar, 125, 136, (byte) 0xff);
    odd.add(tar.clone());
    Arrays.fill(tar, 124, 136, (byte) '9');
    odd.add(tar);
    for (byte[] one : odd) {
      assertThat(FormHeld.of(new ByteArrayInputStream(one))).isEmpty();
    }
  }
}
