package hardproof.proving.boot.standin;

/** What an 8086 does to its accumulator: products, quotients and decimal adjustment (Intel's manual, volume 2). */
final class Accumulator86 {
  private final Registers86 cpu;

  Accumulator86(Registers86 cpu) {
    this.cpu = cpu;
  }

  /** DAA and DAS. */
  void decimal(int low, int high) {
    int before = cpu.low(Registers86.AX);
    boolean carried = cpu.alu.carry;
    int al = before;
    boolean adjust = (al & 15) > 9 || cpu.alu.adjust;
    if (adjust) {
      al += low;
    }
    boolean carry = before > 0x99 || carried;
    if (carry) {
      al += high;
    }
    cpu.setLow(Registers86.AX, cpu.alu.logic(al, false));
    cpu.alu.adjust = adjust;
    cpu.alu.carry = carry;
  }

  /** AAA and AAS. */
  void ascii(int low, int high) {
    boolean adjust = (cpu.low(Registers86.AX) & 15) > 9 || cpu.alu.adjust;
    if (adjust) {
      cpu.setLow(Registers86.AX, cpu.low(Registers86.AX) + low);
      cpu.setHigh(Registers86.AX, cpu.high(Registers86.AX) + high);
    }
    cpu.setLow(Registers86.AX, cpu.low(Registers86.AX) & 15);
    cpu.alu.adjust = adjust;
    cpu.alu.carry = adjust;
  }

  /** AAM: two digits of a base in place of AL; false, with nothing changed, for base zero. */
  boolean split(int base) {
    if (base == 0) {
      return false;
    }
    cpu.setHigh(Registers86.AX, cpu.low(Registers86.AX) / base);
    cpu.setLow(Registers86.AX, cpu.alu.logic(cpu.low(Registers86.AX) % base, false));
    return true;
  }

  /** AAD: AL in place of two digits of a base. */
  void join(int base) {
    int value = cpu.high(Registers86.AX) * base + cpu.low(Registers86.AX);
    cpu.setLow(Registers86.AX, cpu.alu.logic(value, false));
    cpu.setHigh(Registers86.AX, 0);
  }

  /** MUL and IMUL. */
  void multiply(int value, boolean signed, boolean wide) {
    if (wide) {
      int product =
          signed ? (short) cpu.r[Registers86.AX] * (short) value : cpu.r[Registers86.AX] * value;
      cpu.r[Registers86.AX] = product & 0xffff;
      cpu.r[Registers86.DX] = product >>> 16;
      cpu.alu.carry = signed ? product != (short) product : cpu.r[Registers86.DX] != 0;
    } else {
      int product = signed
          ? (byte) (cpu.low(Registers86.AX)) * (byte) value
          : cpu.low(Registers86.AX) * value;
      cpu.r[Registers86.AX] = product & 0xffff;
      cpu.alu.carry = signed ? product != (byte) product : product > 0xff;
    }
    cpu.alu.overflow = cpu.alu.carry;
  }

  /** Divides the accumulator; false, with nothing changed, where the quotient has no room or is of zero. */
  boolean divide(int value, boolean signed, boolean wide) {
    if (value == 0) {
      return false;
    }
    long dividend;
    long divisor;
    if (wide) {
      int whole = cpu.r[Registers86.DX] << 16 | cpu.r[Registers86.AX];
      dividend = signed ? whole : whole & 0xffffffffL;
      divisor = signed ? (short) value : value;
    } else {
      dividend = signed ? (short) cpu.r[Registers86.AX] : cpu.r[Registers86.AX];
      divisor = signed ? (byte) value : value;
    }
    long quotient = dividend / divisor;
    long remainder = dividend % divisor;
    long most = wide ? signed ? 0x7fff : 0xffff : signed ? 0x7f : 0xff;
    long least = signed ? -most - 1 : 0;
    if (quotient > most || quotient < least) {
      return false;
    }
    if (wide) {
      cpu.r[Registers86.AX] = (int) quotient & 0xffff;
      cpu.r[Registers86.DX] = (int) remainder & 0xffff;
    } else {
      cpu.setLow(Registers86.AX, (int) quotient);
      cpu.setHigh(Registers86.AX, (int) remainder);
    }
    return true;
  }
}
