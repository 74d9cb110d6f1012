package hardproof.proving.boot.standin;

import hardproof.proving.boot.TextGrid;

/** The text screen of a {@link StandInMachine}: its memory, the service that writes to it, and its ports. */
final class StandInScreen {
  private static final int VIDEO = 0xb8000;
  private static final int BIOS_DATA = 0x400;

  private final Registers86 cpu;
  private int crtcIndex;
  private int pageStart;

  StandInScreen(Registers86 cpu) {
    this.cpu = cpu;
    clear(0, 0, TextGrid.ROWS - 1, TextGrid.COLUMNS - 1, 7);
    cpu.poke8(BIOS_DATA + 0x49, 3);
    cpu.poke16(BIOS_DATA + 0x4a, TextGrid.COLUMNS);
  }

  /** What is to be seen. */
  byte[] cells() {
    byte[] cells = new byte[TextGrid.BYTES];
    for (int i = 0; i < cells.length; i++) {
      cells[i] = (byte) cpu.peek8(VIDEO + (2 * pageStart + i) % 0x8000);
    }
    return cells;
  }

  /** Port 3D4: which of the controller's registers is meant. */
  void select(int register) {
    crtcIndex = register;
  }

  /** Port 3D5. */
  int read() {
    return crtcIndex == 12 ? pageStart >> 8 : crtcIndex == 13 ? pageStart & 0xff : 0;
  }

  /** Port 3D5: systems scroll by moving where the screen begins. */
  void write(int value) {
    if (crtcIndex == 12) {
      pageStart = pageStart & 0xff | (value & 0x3f) << 8;
    } else if (crtcIndex == 13) {
      pageStart = pageStart & 0xff00 | value & 0xff;
    }
  }

  void print(String text) {
    text.chars().forEach(this::teletype);
  }

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

  void clear(int top, int left, int bottom, int right, int colour) {
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

  /** Shows a sign where the cursor is, and moves it on. */
  void teletype(int code) {
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

  /**
   * INT 10.
   *
   * @return false where it asks for a graphical screen
   */
  boolean service() {
    int ax = cpu.r[Registers86.AX];
    int cx = cpu.r[Registers86.CX];
    int dx = cpu.r[Registers86.DX];
    switch (ax >> 8) {
      case 0x00 -> {
        if ((ax & 0x7f) > 3 && (ax & 0x7f) != 7) {
          return false;
        }
        clear(0, 0, TextGrid.ROWS - 1, TextGrid.COLUMNS - 1, 7);
        cursor(0, 0);
      }
      case 0x02 ->
        cursor(Math.min(dx >> 8, TextGrid.ROWS - 1), Math.min(dx & 0xff, TextGrid.COLUMNS - 1));
      case 0x03 -> tellCursor();
      case 0x06, 0x07 -> scrollBy(ax, cx, dx);
      case 0x08 -> cpu.r[Registers86.AX] = cpu.peek16(cell(row(), column()));
      case 0x09, 0x0a -> writeRepeated(ax, cx);
      case 0x0e -> teletype(ax);
      case 0x0f -> tellMode();
      case 0x13 -> string(ax & 3, cx, dx);
      case 0x4f -> cpu.r[Registers86.AX] = 0x0100;
      default -> {
        // Cursor shape, colours, fonts: none of them changes what is read.
      }
    }
    return true;
  }

  private void tellCursor() {
    cpu.r[Registers86.DX] = row() << 8 | column();
    cpu.r[Registers86.CX] = 0x0607;
  }

  private void scrollBy(int ax, int cx, int dx) {
    int by = (ax & 0xff) * (ax >> 8 == 6 ? 1 : -1);
    scroll(by, cx >> 8, cx & 0xff, dx >> 8, dx & 0xff, cpu.high(Registers86.BX));
  }

  private void writeRepeated(int ax, int cx) {
    for (int i = 0; i < Math.min(cx, TextGrid.COLUMNS * TextGrid.ROWS); i++) {
      int at = row() * TextGrid.COLUMNS + column() + i;
      if (at < TextGrid.COLUMNS * TextGrid.ROWS) {
        cpu.poke8(cell(0, at), ax);
        if (ax >> 8 == 9) {
          cpu.poke8(cell(0, at) + 1, cpu.low(Registers86.BX));
        }
      }
    }
  }

  private void tellMode() {
    cpu.r[Registers86.AX] = TextGrid.COLUMNS << 8 | 3;
    cpu.setHigh(Registers86.BX, 0);
  }

  private void string(int mode, int length, int position) {
    int row = row();
    int column = column();
    cursor(
        Math.min(position >> 8, TextGrid.ROWS - 1),
        Math.min(position & 0xff, TextGrid.COLUMNS - 1));
    int at = cpu.linear(Registers86.ES, cpu.r[Registers86.BP]);
    for (int i = 0; i < length; i++) {
      teletype(cpu.peek8(at + (mode > 1 ? 2 * i : i)));
    }
    if (mode % 2 == 0) {
      cursor(row, column);
    }
  }
}
