package hardproof.proving.boot;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import hardproof.proving.SmallDisk;
import hardproof.proving.boot.BootEngine.EngineFailed;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What goes wrong on our side is never taken for what the machine came to. */
class QemuEngineTest {
  /** Enough for 256 cylinders of 16 heads and 63 sectors. */
  private static final long DISK_BYTES = 256L * 16 * 63 * 512;

  @TempDir
  Path temp;

  /** Writes the first track of each cylinder, 8 MB in all, and begins again. */
  private static byte[] writer() {
    int[] code = {
      0x31,
      0xc0,
      0x8e,
      0xc0,
      0xb9,
      0x01,
      0x00, // xor ax,ax; mov es,ax; mov cx,1
      0xb8,
      0x3f,
      0x03,
      0xba,
      0x80,
      0x00,
      0xbb,
      0x00,
      0x80, // mov ax,033f; mov dx,80; mov bx,8000
      0xcd,
      0x13,
      0xfe,
      0xc5,
      0xeb,
      0xf1 // int 13; inc ch; jmp back to mov ax
    };
    byte[] sector = new byte[512];
    for (int i = 0; i < code.length; i++) {
      sector[i] = (byte) code[i];
    }
    sector[510] = 0x55;
    sector[511] = (byte) 0xaa;
    return sector;
  }

  @Test
  void aFullDiskOfOursIsNoFaultOfTheMachine() throws Exception {
    QemuEngine.Found found = QemuEngine.find(temp.resolve("self-test"));
    assumeTrue(found.engine() != null, found.sentence());
    Path image = temp.resolve("writer.img");
    try (RandomAccessFile file = new RandomAccessFile(image.toFile(), "rw")) {
      file.write(writer());
      file.setLength(DISK_BYTES);
    }
    byte[] before = Arrays.copyOf(Files.readAllBytes(image), 1 << 20);
    try (SmallDisk disk = new SmallDisk(temp, "1m")) {
      Path work = Files.createDirectory(disk.folder.resolve("machine"));
      BootEngine.Start start = new BootEngine.Start(
          image, "raw", false, work, Duration.ofSeconds(40), t -> false, "00000000");
      assertThatThrownBy(() -> found.engine().watch(start, s -> {}, () -> {}))
          .isInstanceOf(EngineFailed.class)
          .hasMessageContaining("space");
    }
    assertThat(Arrays.copyOf(Files.readAllBytes(image), 1 << 20))
        .as("nothing is written to the image")
        .isEqualTo(before);
  }
}
