package hardproof.proving.boot.standin;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import hardproof.proving.boot.BootEngine;
import hardproof.proving.boot.BootSector;
import hardproof.proving.boot.Watched;
import hardproof.proving.boot.qemu.QemuEngine;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Instructions against a real machine: random values go through every kind of arithmetic, in our
 * interpreter and in QEMU, and both print what came out, flags included.
 */
class Cpu86Test {
  @TempDir
  Path temp;

  private static String run(BootEngine engine, Path folder, byte[] image) throws Exception {
    Path file = folder.resolve("cpu.img");
    Files.write(file, image);
    Watched watched = engine.watch(
        new BootEngine.Start(
            file,
            false,
            BootEngine.Bus.IDE,
            folder,
            Duration.ofSeconds(20),
            t -> t.contains("done"),
            t -> false,
            "00000000"),
        s -> {},
        () -> {});
    return watched.serial();
  }

  /** A program of its own: sets registers, executes, sends AX, DX and flags over the serial line. */
  private static byte[] program(int[]... cases) {
    BootSector sector = new BootSector();
    // The routine lies behind a jump: sends AX as four hexadecimal digits.
    // hex: mov cx,4; next: rol ax,4 (four times rol ax,1); push ax; and al,15; daa trick; out; pop
    // ax; loop
    int[] hex = {
      0xb9, 0x04, 0x00, 0xd1, 0xc0, 0xd1, 0xc0, 0xd1, 0xc0, 0xd1, 0xc0, 0x50, 0x24, 0x0f, 0x04,
      0x90, 0x27, 0x14, 0x40, 0x27, 0x52, 0xba, 0xf8, 0x03, 0xee, 0x5a, 0x58, 0xe2, 0xe6, 0xc3
    };
    sector.raw(0xeb, hex.length);
    sector.raw(hex);
    int at = 14 + 2;
    int here = at + hex.length;
    for (int[] code : cases) {
      sector.raw(code);
      here += code.length;
      // pushf; push dx; call hex; pop ax; call hex; pop ax; and ax,08C5; call hex
      int[] show = {0x9c, 0x52, 0xe8, 0, 0, 0x58, 0xe8, 0, 0, 0x58, 0x25, 0xc5, 0x08, 0xe8, 0, 0};
      for (int call : new int[] {2, 6, 13}) {
        int by = at - (here + call + 3);
        show[call + 1] = by & 255;
        show[call + 2] = by >> 8 & 255;
      }
      sector.raw(show);
      here += show.length;
    }
    return sector.print("done").idle().build();
  }

  private static int[] loaded(Random random, int... instruction) {
    int ax = random.nextInt(65536);
    int bx = random.nextInt(65536);
    int dx = random.nextInt(65536);
    int[] before = {
      0xb8,
      ax & 255,
      ax >> 8,
      0xbb,
      bx & 255,
      bx >> 8,
      0xba,
      dx & 255,
      dx >> 8,
      random.nextBoolean() ? 0xf8 : 0xf9
    };
    int[] all = java.util.Arrays.copyOf(before, before.length + instruction.length);
    System.arraycopy(instruction, 0, all, before.length, instruction.length);
    return all;
  }

  @Test
  void arithmeticIsThatOfARealMachine() throws Exception {
    QemuEngine.Found found = QemuEngine.find(temp.resolve("self-test"));
    assumeTrue(found.engine() != null, found.sentence());
    Random random = new Random(86);
    int[][] instructions = {
      {0x01, 0xd8}, // add ax,bx
      {0x11, 0xd8}, // adc ax,bx
      {0x29, 0xd8}, // sub ax,bx
      {0x19, 0xd8}, // sbb ax,bx
      {0x21, 0xd8}, // and ax,bx
      {0x31, 0xd8}, // xor ax,bx
      {0x39, 0xd8}, // cmp ax,bx
      {0x00, 0xd8}, // add al,bl
      {0x28, 0xfc}, // sub ah,bh
      {0x40}, // inc ax
      {0x48}, // dec ax
      {0xf7, 0xd8}, // neg ax
      {0xf7, 0xd0}, // not ax
      {0xd1, 0xe0}, // shl ax,1
      {0xd1, 0xe8}, // shr ax,1
      {0xd1, 0xf8}, // sar ax,1
      {0xd1, 0xd0}, // rcl ax,1
      {0xd1, 0xd8}, // rcr ax,1
      {0x98}, // cbw
      {0x99}, // cwd
      {0x83, 0xe8, 0x7f}, // sub ax,127
      {0x83, 0xc0, 0x80}, // add ax,-128
      {0x31, 0xd2, 0x83, 0xcb, 0x01, 0xf7, 0xf3, 0x09, 0xc0
      }, // xor dx,dx; or bx,1; div bx; or ax,ax
      {0x2d, 0x00, 0x40, 0xf5} // sub ax,4000; cmc
    };
    for (int round = 0; round < 3; round++) {
      int[][] cases = new int[13][];
      for (int i = 0; i < cases.length; i++) {
        cases[i] = loaded(random, instructions[(round * cases.length + i) % instructions.length]);
      }
      byte[] image = program(cases);
      String ours = run(new StandInEngine(), temp, image);
      String real = run(found.engine(), temp, image);
      assertThat(ours).hasSize(12 * cases.length).isEqualTo(real);
    }
  }

  @Test
  void stringInstructionsMoveAndCompare() throws Exception {
    // mov si,TEXT is not at hand: copy the code itself 32 bytes on and compare it with repe cmpsb.
    byte[] image = program(new int[][] {
      {
        0xbe, 0x00, 0x7c, 0xbf, 0x00, 0x90, 0xb9, 0x20, 0x00, 0xf3, 0xa4, // rep movsb
        0xbe, 0x00, 0x7c, 0xbf, 0x00, 0x90, 0xb9, 0x20, 0x00, 0xf3, 0xa6, // repe cmpsb
        0x89, 0xc8, 0x89, 0xfa // mov ax,cx; mov dx,di
      }
    });
    String ours = run(new StandInEngine(), temp, image);
    assertThat(ours).as("all 32 compared, DI behind them, zero flag set").startsWith("00009020");
    QemuEngine.Found found = QemuEngine.find(temp.resolve("self-test"));
    assumeTrue(found.engine() != null, found.sentence());
    assertThat(run(found.engine(), temp, image)).isEqualTo(ours);
  }
}
