package hardproof.proving.boot.standin;

import hardproof.proving.boot.Ending;
import hardproof.proving.images.Disk;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;

/**
 * A machine of the oldest kind around {@link Cpu86}: text screen, one disk, a keyboard on which nobody
 * types, a serial line, a clock of its own. It executes what the image holds and knows nothing of what
 * should come of it. Services as the IBM PC's technical reference and Ralf Brown's list describe them.
 */
final class StandInMachine implements Cpu86.Board {
  private static final int BIOS_DATA = 0x400;
  private static final int FIRMWARE = 0xf0000;
  private static final int RESET_VECTOR = 0xffff0;
  private static final int SERIAL_MAX_CHARS = 256 << 10;

  /** Microseconds between two ticks of the clock (1,193,182 Hz ÷ 65,536). */
  private static final long TICK = 54_925;

  final Cpu86 cpu = new Cpu86(this);
  final StringBuilder serial = new StringBuilder();

  private final Disk disk;
  private final StandInScreen screen = new StandInScreen(cpu);
  private final StandInDisk drive;

  /** Of the machine's own time, in microseconds. */
  private long now;

  private Ending ending;
  private boolean forKey;
  private String note = "";

  StandInMachine(Disk disk, String nonce) {
    this.disk = disk;
    this.drive = new StandInDisk(cpu, disk);
    // Where firmware keeps what it knows of the machine; a machine finds its serial number there.
    byte[] told = ("nonce=" + nonce + "\0").getBytes(StandardCharsets.US_ASCII);
    System.arraycopy(told, 0, cpu.memory, FIRMWARE + 0x1000, told.length);
    // A jump to where the processor begins after a reset comes to INT 19.
    cpu.poke16(RESET_VECTOR, 0x19cd);
    cpu.poke16(BIOS_DATA + 0x13, 639);
    cpu.poke8(BIOS_DATA + 0x75, 1);
    cpu.r[Cpu86.SP] = 0x7c00;
  }

  /** What the firmware does: reads the first sector and jumps to it, if it is signed. */
  void start() throws IOException {
    screen.print("Booting from Hard Disk...\r\n");
    ByteBuffer first = disk.sector(0);
    if (disk.size() == 0) {
      nothing("Boot failed: could not read the boot disk");
    } else if (disk.size() < Disk.SECTOR || (first.getShort(510) & 0xffff) != 0xaa55) {
      nothing("Boot failed: not a bootable disk");
    } else {
      System.arraycopy(first.array(), 0, cpu.memory, 0x7c00, Disk.SECTOR);
      cpu.ip = 0x7c00;
      cpu.r[Cpu86.DX] = StandInDisk.NUMBER;
      cpu.alu.interrupts = true;
    }
  }

  private void nothing(String why) {
    screen.print(why + "\r\n\r\nNo bootable device.\r\n");
    end(Ending.NOTHING_TO_START, "the firmware found nothing to start");
  }

  void end(Ending how, String why) {
    if (ending == null) {
      ending = how;
      note = why;
    }
  }

  /**
   * A machine that was taken to have settled goes on.
   *
   * @return false for one that can't: it waits for a key, and nobody types
   */
  boolean goOn() {
    if (forKey) {
      return false;
    }
    ending = null;
    note = "";
    return true;
  }

  Ending ending() {
    return ending;
  }

  String note() {
    return note;
  }

  long nowMs() {
    return now / 1000;
  }

  /** Executes one instruction, which takes a microsecond. */
  void step() {
    now++;
    if (now % TICK == 0) {
      cpu.poke16(BIOS_DATA + 0x6c, ticks());
      cpu.poke16(BIOS_DATA + 0x6e, ticks() >> 16);
    }
    try {
      cpu.step();
    } catch (Cpu86.Beyond e) {
      end(Ending.NOT_DECIDED, "it came to " + e.getMessage());
    }
  }

  private int ticks() {
    return (int) (now / TICK);
  }

  /** What its screen shows. */
  byte[] cells() {
    return screen.cells();
  }

  @Override
  public void halt() {
    if (!cpu.alu.interrupts) {
      end(Ending.HALTED, "it halted with interrupts off");
      return;
    }
    now = (now / TICK + 1) * TICK;
    cpu.poke16(BIOS_DATA + 0x6c, ticks());
    cpu.poke16(BIOS_DATA + 0x6e, ticks() >> 16);
    halts++;
  }

  private long halts;

  /** How often it waited for its clock: a machine that waits does so again and again. */
  long halts() {
    return halts;
  }

  @Override
  public int in(int port) {
    return switch (port) {
      case 0x60, 0x61, 0x64 -> 0;
      // The serial line takes what comes.
      case 0x3fd -> 0x60;
      // The beam is now in, now out of the picture.
      case 0x3da -> (int) (now & 9);
      case 0x3d5 -> screen.read();
      default -> 0xff;
    };
  }

  @Override
  public void out(int port, int value) {
    switch (port) {
      case 0x64 -> {
        if (value == 0xfe) {
          end(Ending.RESTARTED, "it restarted itself");
        }
      }
      case 0x3f8 -> send(value);
      case 0x3d4 -> screen.select(value);
      case 0x3d5 -> screen.write(value);
      default -> {
        // Timers, interrupt controllers and the like: nothing here depends on them.
      }
    }
  }

  private void send(int value) {
    if (serial.length() < SERIAL_MAX_CHARS) {
      serial.append((char) (value & 0xff));
    }
  }

  @Override
  public void service(int number) {
    switch (number) {
      case 0x10 -> {
        if (!screen.service()) {
          end(Ending.NOT_DECIDED, "it turned to a graphical screen");
        }
      }
      case 0x11 -> cpu.r[Cpu86.AX] = 0x0021;
      case 0x12 -> cpu.r[Cpu86.AX] = 639;
      case 0x13 -> drive.service();
      case 0x14 -> serialLine();
      case 0x15 -> system();
      case 0x16 -> keyboard();
      case 0x18 -> nothing("Boot failed: not a bootable disk");
      case 0x19 -> end(Ending.RESTARTED, "it restarted itself");
      case 0x1a -> clock();
      default -> end(Ending.NOT_DECIDED, String.format("it called service %02X", number));
    }
  }

  private void serialLine() {
    if (cpu.high(Cpu86.AX) == 1) {
      send(cpu.low(Cpu86.AX));
    }
    cpu.setHigh(Cpu86.AX, 0x60);
  }

  private void result(int status) {
    cpu.setHigh(Cpu86.AX, status);
    cpu.alu.carry = status != 0;
  }

  private void system() {
    switch (cpu.high(Cpu86.AX)) {
      case 0x24 -> result(0);
      case 0x53 -> power();
      case 0x86 -> passTime();
      case 0x88 -> {
        cpu.r[Cpu86.AX] = 0;
        cpu.alu.carry = false;
      }
      default -> result(0x86);
    }
  }

  private void power() {
    if (cpu.low(Cpu86.AX) == 7 && cpu.r[Cpu86.CX] == 3) {
      end(Ending.OFF, "it switched itself off");
    }
    result(0);
  }

  private void passTime() {
    now += (long) cpu.r[Cpu86.CX] << 16 | cpu.r[Cpu86.DX];
    halts++;
    cpu.alu.carry = false;
  }

  private void keyboard() {
    switch (cpu.high(Cpu86.AX)) {
      case 0x00, 0x10 -> {
        forKey = true;
        end(Ending.WAITING, "it waits for a key");
      }
      case 0x01, 0x11 -> {
        cpu.alu.zero = true;
        // Asking takes a while, or a machine that asks all the time would never grow older.
        now += 200;
        halts++;
      }
      default -> cpu.setLow(Cpu86.AX, 0);
    }
  }

  private void clock() {
    switch (cpu.high(Cpu86.AX)) {
      case 0x00 -> tellTicks();
      case 0x02 -> {
        int seconds = (int) (now / 1_000_000);
        cpu.r[Cpu86.CX] = 0x1200 | bcd(seconds / 60 % 60);
        cpu.r[Cpu86.DX] = bcd(seconds % 60) << 8;
        cpu.alu.carry = false;
      }
      default -> cpu.alu.carry = true;
    }
  }

  private void tellTicks() {
    cpu.r[Cpu86.CX] = ticks() >> 16 & 0xffff;
    cpu.r[Cpu86.DX] = ticks() & 0xffff;
    cpu.setLow(Cpu86.AX, 0);
    now += 20;
  }

  private static int bcd(int value) {
    return value / 10 << 4 | value % 10;
  }
}
