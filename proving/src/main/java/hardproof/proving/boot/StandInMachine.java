package hardproof.proving.boot;

import hardproof.proving.images.Disk;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;

/**
 * A machine of the oldest kind around {@link Cpu86}: text screen, one disk, a keyboard on which nobody
 * types, a serial line, a clock of its own. It executes what the image holds and knows nothing of what
 * should come of it. Services as the IBM PC's technical reference and Ralf Brown's list describe them.
 */
final class StandInMachine implements Cpu86.Board {
  private static final int VIDEO = 0xb8000;
  private static final int BIOS_DATA = 0x400;
  private static final int FIRMWARE = 0xf0000;
  private static final int RESET_VECTOR = 0xffff0;
  private static final int DISK = 0x80;
  private static final int HEADS = 16;
  private static final int SECTORS = 63;
  private static final int SERIAL_MAX_CHARS = 256 << 10;

  /** Microseconds between two ticks of the clock (1,193,182 Hz ÷ 65,536). */
  private static final long TICK = 54_925;

  final Cpu86 cpu = new Cpu86(this);
  final StringBuilder serial = new StringBuilder();

  private final Disk disk;
  private final Map<Long, byte[]> written = new HashMap<>();
  private int crtcIndex;
  private int pageStart;

  /** Of the machine's own time, in microseconds. */
  private long now;

  private Ending ending;
  private String note = "";

  StandInMachine(Disk disk, String nonce) {
    this.disk = disk;
    // Where firmware keeps what it knows of the machine; a machine finds its serial number there.
    byte[] told = ("nonce=" + nonce + "\0").getBytes(StandardCharsets.US_ASCII);
    System.arraycopy(told, 0, cpu.memory, FIRMWARE + 0x1000, told.length);
    // A jump to where the processor begins after a reset comes to INT 19.
    cpu.poke16(RESET_VECTOR, 0x19cd);
    clear(0, 0, TextGrid.ROWS - 1, TextGrid.COLUMNS - 1, 7);
    cpu.poke16(BIOS_DATA + 0x13, 639);
    cpu.poke8(BIOS_DATA + 0x75, 1);
    cpu.poke8(BIOS_DATA + 0x49, 3);
    cpu.poke16(BIOS_DATA + 0x4a, TextGrid.COLUMNS);
    cpu.r[Cpu86.SP] = 0x7c00;
  }

  /** What the firmware does: reads the first sector and jumps to it, if it is signed. */
  void start() throws IOException {
    print("Booting from Hard Disk...\r\n");
    ByteBuffer first = disk.sector(0);
    if (disk.size() == 0) {
      nothing("Boot failed: could not read the boot disk");
    } else if (disk.size() < Disk.SECTOR || (first.getShort(510) & 0xffff) != 0xaa55) {
      nothing("Boot failed: not a bootable disk");
    } else {
      System.arraycopy(first.array(), 0, cpu.memory, 0x7c00, Disk.SECTOR);
      cpu.ip = 0x7c00;
      cpu.r[Cpu86.DX] = DISK;
      cpu.alu.interrupts = true;
    }
  }

  private void nothing(String why) {
    print(why + "\r\n\r\nNo bootable device.\r\n");
    end(Ending.NOTHING_TO_START, "the firmware found nothing to start");
  }

  private void print(String text) {
    text.chars().forEach(this::teletype);
  }

  void end(Ending how, String why) {
    if (ending == null) {
      ending = how;
      note = why;
    }
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

  byte[] cells() {
    byte[] cells = new byte[TextGrid.BYTES];
    for (int i = 0; i < cells.length; i++) {
      cells[i] = (byte) cpu.peek8(VIDEO + (2 * pageStart + i) % 0x8000);
    }
    return cells;
  }

  // ---- what the processor asks

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
      case 0x3d5 -> crtcIndex == 12 ? pageStart >> 8 : crtcIndex == 13 ? pageStart & 0xff : 0;
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
      case 0x3d4 -> crtcIndex = value;
      case 0x3d5 -> {
        if (crtcIndex == 12) {
          pageStart = pageStart & 0xff | (value & 0x3f) << 8;
        } else if (crtcIndex == 13) {
          pageStart = pageStart & 0xff00 | value & 0xff;
        }
      }
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
      case 0x10 -> video();
      case 0x11 -> cpu.r[Cpu86.AX] = 0x0021;
      case 0x12 -> cpu.r[Cpu86.AX] = 639;
      case 0x13 -> disk();
      case 0x14 -> serialLine();
      case 0x15 -> system();
      case 0x16 -> keyboard();
      case 0x18 -> nothing("Boot failed: not a bootable disk");
      case 0x19 -> end(Ending.RESTARTED, "it restarted itself");
      case 0x1a -> clock();
      default -> end(Ending.NOT_DECIDED, String.format("it called service %02X", number));
    }
  }

  // ---- screen

  private int cell(int row, int column) {
    return VIDEO + 2 * (pageStart + row * TextGrid.COLUMNS + column);
  }

  private int row() {
    return cpu.peek8(BIOS_DATA + 0x51);
  }

  private int column() {
    return cpu.peek8(BIOS_DATA + 0x50);
  }

  private void cursor(int row, int column) {
    cpu.poke8(BIOS_DATA + 0x51, row);
    cpu.poke8(BIOS_DATA + 0x50, column);
  }

  private void clear(int top, int left, int bottom, int right, int colour) {
    for (int row = top; row <= Math.min(bottom, TextGrid.ROWS - 1); row++) {
      for (int column = left; column <= Math.min(right, TextGrid.COLUMNS - 1); column++) {
        cpu.poke16(cell(row, column), colour << 8 | ' ');
      }
    }
  }

  private void scroll(int by, int top, int left, int bottom, int right, int colour) {
    int last = Math.min(bottom, TextGrid.ROWS - 1);
    int lines = Math.abs(by);
    if (by == 0 || lines > last - top) {
      clear(top, left, last, right, colour);
      return;
    }
    for (int i = 0; i <= last - top - lines; i++) {
      int to = by > 0 ? top + i : last - i;
      int from = by > 0 ? to + lines : to - lines;
      for (int column = left; column <= Math.min(right, TextGrid.COLUMNS - 1); column++) {
        cpu.poke16(cell(to, column), cpu.peek16(cell(from, column)));
      }
    }
    if (by > 0) {
      clear(last - lines + 1, left, last, right, colour);
    } else {
      clear(top, left, top + lines - 1, right, colour);
    }
  }

  private void teletype(int code) {
    int row = row();
    int column = column();
    switch (code & 0xff) {
      case 7 -> {
        // A bell is not seen.
      }
      case 8 -> column = Math.max(0, column - 1);
      case 10 -> row++;
      case 13 -> column = 0;
      default -> {
        cpu.poke8(cell(row, column), code);
        column++;
      }
    }
    if (column >= TextGrid.COLUMNS) {
      column = 0;
      row++;
    }
    if (row >= TextGrid.ROWS) {
      scroll(1, 0, 0, TextGrid.ROWS - 1, TextGrid.COLUMNS - 1, 7);
      row = TextGrid.ROWS - 1;
    }
    cursor(row, column);
  }

  private void video() {
    int ax = cpu.r[Cpu86.AX];
    int cx = cpu.r[Cpu86.CX];
    int dx = cpu.r[Cpu86.DX];
    switch (ax >> 8) {
      case 0x00 -> {
        if ((ax & 0x7f) > 3 && (ax & 0x7f) != 7) {
          end(Ending.NOT_DECIDED, "it turned to a graphical screen");
          return;
        }
        clear(0, 0, TextGrid.ROWS - 1, TextGrid.COLUMNS - 1, 7);
        cursor(0, 0);
      }
      case 0x02 ->
        cursor(Math.min(dx >> 8, TextGrid.ROWS - 1), Math.min(dx & 0xff, TextGrid.COLUMNS - 1));
      case 0x03 -> {
        cpu.r[Cpu86.DX] = row() << 8 | column();
        cpu.r[Cpu86.CX] = 0x0607;
      }
      case 0x06, 0x07 -> {
        int by = (ax & 0xff) * (ax >> 8 == 6 ? 1 : -1);
        scroll(by, cx >> 8, cx & 0xff, dx >> 8, dx & 0xff, cpu.high(Cpu86.BX));
      }
      case 0x08 -> cpu.r[Cpu86.AX] = cpu.peek16(cell(row(), column()));
      case 0x09, 0x0a -> {
        for (int i = 0; i < Math.min(cx, TextGrid.COLUMNS * TextGrid.ROWS); i++) {
          int at = row() * TextGrid.COLUMNS + column() + i;
          if (at < TextGrid.COLUMNS * TextGrid.ROWS) {
            cpu.poke8(cell(0, at), ax);
            if (ax >> 8 == 9) {
              cpu.poke8(cell(0, at) + 1, cpu.low(Cpu86.BX));
            }
          }
        }
      }
      case 0x0e -> teletype(ax);
      case 0x0f -> {
        cpu.r[Cpu86.AX] = TextGrid.COLUMNS << 8 | 3;
        cpu.setHigh(Cpu86.BX, 0);
      }
      case 0x13 -> string(ax & 3, cx, dx);
      case 0x4f -> cpu.r[Cpu86.AX] = 0x0100;
      default -> {
        // Cursor shape, colours, fonts: none of them changes what is read.
      }
    }
  }

  private void string(int mode, int length, int position) {
    int row = row();
    int column = column();
    cursor(
        Math.min(position >> 8, TextGrid.ROWS - 1),
        Math.min(position & 0xff, TextGrid.COLUMNS - 1));
    int at = cpu.linear(Cpu86.ES, cpu.r[Cpu86.BP]);
    for (int i = 0; i < length; i++) {
      teletype(cpu.peek8(at + (mode > 1 ? 2 * i : i)));
    }
    if (mode % 2 == 0) {
      cursor(row, column);
    }
  }

  // ---- disk

  private void disk() {
    int function = cpu.high(Cpu86.AX);
    if (cpu.low(Cpu86.DX) != DISK) {
      result(1);
      return;
    }
    switch (function) {
      case 0x00, 0x04, 0x0d, 0x10, 0x11 -> result(0);
      case 0x01 -> result(0);
      case 0x02, 0x03 -> {
        int cx = cpu.r[Cpu86.CX];
        long cylinder = cx >> 8 | (cx & 0xc0) << 2;
        long sector = (cylinder * HEADS + cpu.high(Cpu86.DX)) * SECTORS + (cx & 0x3f) - 1;
        int address = cpu.linear(Cpu86.ES, cpu.r[Cpu86.BX]);
        move(function == 2, sector, cpu.low(Cpu86.AX), address);
      }
      case 0x08 -> {
        long cylinders = Math.min(1024, Math.max(1, disk.sectors() / (HEADS * SECTORS)));
        long last = cylinders - 1;
        cpu.r[Cpu86.CX] = (int) (last & 0xff) << 8 | (int) (last >> 2 & 0xc0) | SECTORS;
        cpu.r[Cpu86.DX] = HEADS - 1 << 8 | 1;
        result(0);
      }
      case 0x15 -> {
        cpu.r[Cpu86.CX] = (int) (disk.sectors() >> 16) & 0xffff;
        cpu.r[Cpu86.DX] = (int) disk.sectors() & 0xffff;
        cpu.setHigh(Cpu86.AX, 3);
        cpu.alu.carry = false;
      }
      case 0x41 -> {
        cpu.r[Cpu86.BX] = 0xaa55;
        cpu.r[Cpu86.CX] = 1;
        cpu.setHigh(Cpu86.AX, 0x30);
        cpu.alu.carry = false;
      }
      case 0x42, 0x43 -> {
        int packet = cpu.linear(Cpu86.DS, cpu.r[Cpu86.SI]);
        long sector = (cpu.peek16(packet + 8) | (long) cpu.peek16(packet + 10) << 16) & 0xffffffffL;
        int address = (cpu.peek16(packet + 6) << 4) + cpu.peek16(packet + 4);
        move(function == 0x42, sector, cpu.peek16(packet + 2), address);
      }
      case 0x48 -> {
        int at = cpu.linear(Cpu86.DS, cpu.r[Cpu86.SI]);
        long sectors = disk.sectors();
        for (int i = 0; i < 4; i++) {
          cpu.poke16(at + 16 + 2 * i, (int) (sectors >> 16 * i) & 0xffff);
        }
        cpu.poke16(at + 24, Disk.SECTOR);
        result(0);
      }
      default -> result(1);
    }
  }

  private void result(int status) {
    cpu.setHigh(Cpu86.AX, status);
    cpu.alu.carry = status != 0;
  }

  /** Sectors beyond the image can't be read; what is written is kept aside, and read again from there. */
  private void move(boolean reads, long sector, int count, int address) {
    long all = (disk.size() + Disk.SECTOR - 1) / Disk.SECTOR;
    if (sector < 0 || count > 128 || sector + count > all) {
      result(4);
      return;
    }
    try {
      for (int i = 0; i < count; i++) {
        int at = address + i * Disk.SECTOR;
        if (reads) {
          byte[] kept = written.get(sector + i);
          byte[] bytes = kept != null ? kept : disk.sector(sector + i).array();
          for (int b = 0; b < Disk.SECTOR; b++) {
            cpu.poke8(at + b, bytes[b]);
          }
        } else {
          byte[] bytes = new byte[Disk.SECTOR];
          for (int b = 0; b < Disk.SECTOR; b++) {
            bytes[b] = (byte) cpu.peek8(at + b);
          }
          written.put(sector + i, bytes);
        }
      }
      result(0);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  // ---- the rest

  private void serialLine() {
    if (cpu.high(Cpu86.AX) == 1) {
      send(cpu.low(Cpu86.AX));
    }
    cpu.setHigh(Cpu86.AX, 0x60);
  }

  private void system() {
    switch (cpu.high(Cpu86.AX)) {
      case 0x24 -> result(0);
      case 0x53 -> {
        if (cpu.low(Cpu86.AX) == 7 && cpu.r[Cpu86.CX] == 3) {
          end(Ending.OFF, "it switched itself off");
        }
        result(0);
      }
      case 0x86 -> {
        now += (long) cpu.r[Cpu86.CX] << 16 | cpu.r[Cpu86.DX];
        cpu.alu.carry = false;
      }
      case 0x88 -> {
        cpu.r[Cpu86.AX] = 0;
        cpu.alu.carry = false;
      }
      default -> result(0x86);
    }
  }

  private void keyboard() {
    switch (cpu.high(Cpu86.AX)) {
      case 0x00, 0x10 -> end(Ending.WAITING, "it waits for a key");
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
      case 0x00 -> {
        cpu.r[Cpu86.CX] = ticks() >> 16 & 0xffff;
        cpu.r[Cpu86.DX] = ticks() & 0xffff;
        cpu.setLow(Cpu86.AX, 0);
        now += 20;
      }
      case 0x02 -> {
        int seconds = (int) (now / 1_000_000);
        cpu.r[Cpu86.CX] = 0x1200 | bcd(seconds / 60 % 60);
        cpu.r[Cpu86.DX] = bcd(seconds % 60) << 8;
        cpu.alu.carry = false;
      }
      default -> cpu.alu.carry = true;
    }
  }

  private static int bcd(int value) {
    return value / 10 << 4 | value % 10;
  }
}
