package hardproof.proving.checksums;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.proving.Command;
import java.io.ByteArrayInputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class BlockManifestTest {
  @TempDir
  Path temp;

  @Test
  void itReadsWhatItWrites() {
    for (int size : new int[] {0, 1, 4095, 4096, 4097, 12_288}) {
      BlockManifest made = BlockManifest.of(new byte[size], 4096);
      assertThat(made.digests()).hasSize((size + 4095) / 4096);
      assertThat(BlockManifest.parse(made.format())).isEqualTo(made);
      assertThat(made.difference(made)).isNull();
    }
  }

  /** Every block against GNU sha256sum over the same bytes cut by GNU split. */
  @Test
  void theBlocksAreThoseOfTheGeneralTools() throws Exception {
    byte[] bytes = new byte[10_000];
    new Random(3).nextBytes(bytes);
    Files.write(temp.resolve("whole"), bytes);
    Command.run(temp, "split", "-b", "4096", "whole", "part-");
    String sums = Command.run(temp, "sh", "-c", "sha256sum part-* | cut -c1-64").output();
    assertThat(BlockManifest.of(bytes, 4096).digests()).isEqualTo(sums.lines().toList());
    String root = Command.run(
            temp, "sh", "-c", "sha256sum part-* | cut -c1-64 | tr -d '\n' | xxd -r -p | sha256sum")
        .output();
    assertThat(root).startsWith(BlockManifest.of(bytes, 4096).root());
  }

  /** Property: whatever one byte is changed, its block is named and no other. */
  @Test
  void oneChangedByteIsLocated() throws Exception {
    Random random = new Random(11);
    byte[] bytes = new byte[50_000];
    random.nextBytes(bytes);
    BlockManifest whole = BlockManifest.of(bytes, 4096);
    for (int i = 0; i < 200; i++) {
      int at = random.nextInt(bytes.length);
      byte[] changed = bytes.clone();
      changed[at] ^= (byte) (1 << random.nextInt(8));
      long[] read = new long[1];
      BlockManifest found =
          BlockManifest.of(new ByteArrayInputStream(changed), 4096, n -> read[0] += n);
      assertThat(read[0]).isEqualTo(bytes.length);
      assertThat(whole.difference(found))
          .startsWith("block " + (at / 4096 + 1) + " of 13 ")
          .endsWith("the other 12 are as recorded");
    }
    assertThat(whole.difference(BlockManifest.of(Arrays.copyOf(bytes, 49_999), 4096)))
        .startsWith("it is 49999 bytes long, 50000 are in its block manifest");
  }

  @Test
  void whatIsWrongWithAManifestIsSaid() {
    String good = BlockManifest.of(new byte[5000], 4096).format();
    assertThatThrownBy(() -> BlockManifest.parse("")).hasMessageContaining("begins with size");
    assertThatThrownBy(() -> BlockManifest.parse(good.replace("size 5000", "size 50000")))
        .hasMessage("it lists 2 blocks; 50000 bytes in blocks of 4096 are 13");
    assertThatThrownBy(() -> BlockManifest.parse(good.replace("block 4096", "block 1")))
        .hasMessageStartingWith("blocks of 1 bytes");
    assertThatThrownBy(() -> BlockManifest.parse(good.replace("size 5000", "length 5000")))
        .hasMessage("'length 5000' should be: size and a number");
    assertThatThrownBy(() -> BlockManifest.parse(good.replaceFirst("root .", "root g")))
        .hasMessageContaining("root");
    assertThatThrownBy(() -> BlockManifest.parse(good + "zz\n"))
        .hasMessage("line 6 is not the SHA-256 of a block");
  }

  @Test
  void blocksGrowWithTheFile() {
    assertThat(BlockManifest.blockFor(0)).isEqualTo(1 << 20);
    assertThat(BlockManifest.blockFor((1L << 36) - 1)).isEqualTo(1 << 20);
    assertThat(BlockManifest.blockFor(1L << 36)).isEqualTo(1 << 21);
    assertThat(BlockManifest.blockFor(Long.MAX_VALUE)).isEqualTo(1 << 30);
  }
}
