package hardproof.proving.boot.qemu;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.fail;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import hardproof.proving.SmallDisk;
import hardproof.proving.boot.BootEngine;
import hardproof.proving.boot.BootEngine.EngineFailed;
import hardproof.proving.boot.Ending;
import hardproof.proving.boot.Screen;
import hardproof.proving.boot.Watched;
import java.io.RandomAccessFile;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
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

  /** EFI firmware draws its screen, so there is a picture and no text; its clock is elsewhere. */
  @Test
  void aMachineThatEfiFirmwareStartsIsSeen() throws Exception {
    QemuEngine.Found found = QemuEngine.find(temp.resolve("self-test"));
    assumeTrue(found.engine() != null, found.sentence());
    Path image = temp.resolve("empty.img");
    try (RandomAccessFile file = new RandomAccessFile(image.toFile(), "rw")) {
      file.setLength(4 << 20);
    }
    Path work = Files.createDirectory(temp.resolve("machine"));
    BootEngine.Start start = new BootEngine.Start(
        image,
        true,
        BootEngine.Bus.IDE,
        work,
        Duration.ofMinutes(1),
        t -> false,
        t -> false,
        "00000000");
    List<Screen> drawn = new ArrayList<>();
    try {
      Watched watched = found
          .engine()
          .watch(start, s -> drawn.addAll(s.lines() == null ? List.of(s) : List.of()), () -> {
            if (!drawn.isEmpty()) {
              throw new Seen();
            }
          });
      assumeTrue(watched.ending() != Ending.NOT_DECIDED, watched.note());
      fail("it drew nothing: " + watched.note());
    } catch (Seen e) {
      assertThat(drawn.get(0).png()).startsWith(0x89, 'P', 'N', 'G');
      assertThat(drawn.get(0).atMs()).isPositive();
    }
  }

  private static final class Seen extends RuntimeException {
    private static final long serialVersionUID = 1L;
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
          image,
          false,
          BootEngine.Bus.IDE,
          work,
          Duration.ofSeconds(40),
          t -> false,
          t -> false,
          "00000000");
      assertThatThrownBy(() -> found.engine().watch(start, s -> {}, () -> {}))
          .isInstanceOf(EngineFailed.class)
          .hasMessageContaining("space");
    }
    assertThat(Arrays.copyOf(Files.readAllBytes(image), 1 << 20))
        .as("nothing is written to the image")
        .isEqualTo(before);
  }
}
