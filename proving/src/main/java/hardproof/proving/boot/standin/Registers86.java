package hardproof.proving.boot.standin;

/** Registers and memory of an 8086, and how its instructions name their operands. */
class Registers86 {
  static final int AX = 0;
  static final int CX = 1;
  static final int DX = 2;
  static final int BX = 3;
  static final int SP = 4;
  static final int BP = 5;
  static final int SI = 6;
  static final int DI = 7;
  static final int ES = 0;
  static final int CS = 1;
  static final int SS = 2;
  static final int DS = 3;

  private static final int MEMORY = 1 << 20;

  final int[] r = new int[8];
  final int[] seg = new int[4];
  final Alu86 alu = new Alu86();
  final byte[] memory = new byte[MEMORY];
  int ip;

  /** The segment that the instruction names in place of the usual one; -1 where it names none. */
  int override = -1;

  private int modrm;

  /** Where the decoded operand is in memory; -1 where it is a register. */
  int address = -1;

  /** The decoded operand's offset in its segment. */
  int effective;

  int peek8(int linear) {
    return memory[linear & (MEMORY - 1)] & 0xff;
  }

  int peek16(int linear) {
    return peek8(linear) | peek8(linear + 1) << 8;
  }

  void poke8(int linear, int value) {
    memory[linear & (MEMORY - 1)] = (byte) value;
  }

  void poke16(int linear, int value) {
    poke8(linear, value);
    poke8(linear + 1, value >> 8);
  }

  /** The address of an offset in a segment. */
  int linear(int segment, int offset) {
    return (seg[segment] << 4) + (offset & 0xffff);
  }

  /** The next byte of the code. */
  int fetch8() {
    int value = peek8(linear(CS, ip));
    ip = ip + 1 & 0xffff;
    return value;
  }

  int fetch16() {
    int low = fetch8();
    return low | fetch8() << 8;
  }

  static int signed8(int value) {
    return (byte) value;
  }

  void push(int value) {
    r[SP] = r[SP] - 2 & 0xffff;
    poke16(linear(SS, r[SP]), value);
  }

  int pop() {
    int value = peek16(linear(SS, r[SP]));
    r[SP] = r[SP] + 2 & 0xffff;
    return value;
  }

  void pushAll() {
    int sp = r[SP];
    for (int i = 0; i < r.length; i++) {
      push(i == SP ? sp : r[i]);
    }
  }

  void popAll() {
    for (int i = r.length - 1; i >= 0; i--) {
      int value = pop();
      r[i] = i == SP ? r[SP] : value;
    }
  }

  int low(int register) {
    return r[register] & 0xff;
  }

  int high(int register) {
    return r[register] >> 8 & 0xff;
  }

  void setLow(int register, int value) {
    r[register] = r[register] & 0xff00 | value & 0xff;
  }

  void setHigh(int register, int value) {
    r[register] = r[register] & 0xff | (value & 0xff) << 8;
  }

  int register(int number, boolean wide) {
    if (wide) {
      return r[number];
    }
    return number < 4 ? low(number) : high(number - 4);
  }

  void setRegister(int number, int value, boolean wide) {
    if (wide) {
      r[number] = value & 0xffff;
    } else if (number < 4) {
      setLow(number, value);
    } else {
      setHigh(number - 4, value);
    }
  }

  /** Reads the byte that names a register, and a register or a place in memory as the operand. */
  void decode() {
    modrm = fetch8();
    int mode = modrm >> 6;
    if (mode == 3) {
      address = -1;
      return;
    }
    int rm = modrm & 7;
    int segment = rm == 2 || rm == 3 || rm == 6 && mode != 0 ? SS : DS;
    int offset = base(mode, rm);
    offset = displaced(mode, offset);
    effective = offset & 0xffff;
    address = linear(override >= 0 ? override : segment, effective);
  }

  private int base(int mode, int rm) {
    int offset = switch (rm) {
      case 0 -> r[BX] + r[SI];
      case 1 -> r[BX] + r[DI];
      case 2 -> r[BP] + r[SI];
      case 3 -> r[BP] + r[DI];
      case 4 -> r[SI];
      case 5 -> r[DI];
      case 6 -> mode == 0 ? fetch16() : r[BP];
      default -> r[BX];
    };
    return offset;
  }

  private int displaced(int mode, int offset) {
    if (mode == 1) {
      offset += signed8(fetch8());
    } else if (mode == 2) {
      offset += fetch16();
    }
    return offset;
  }

  /** The register that the decoded byte names, or the operation where it holds one. */
  int reg() {
    return modrm >> 3 & 7;
  }

  int operand(boolean wide) {
    if (address < 0) {
      return register(modrm & 7, wide);
    }
    return get(address, wide);
  }

  void setOperand(int value, boolean wide) {
    if (address < 0) {
      setRegister(modrm & 7, value, wide);
    } else {
      put(address, value, wide);
    }
  }

  int get(int linear, boolean wide) {
    return wide ? peek16(linear) : peek8(linear);
  }

  void put(int linear, int value, boolean wide) {
    if (wide) {
      poke16(linear, value);
    } else {
      poke8(linear, value);
    }
  }

  /** An address in the data segment, or in the one that the instruction names. */
  int data(int offset) {
    return linear(override >= 0 ? override : DS, offset);
  }
}
