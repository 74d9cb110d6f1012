package hardproof.proving.boot.standin;

/** Arithmetic of the 8086 with its flags (Intel 64 and IA-32 manual, volume 2, and appendix A of volume 1). */
final class Alu86 {
  boolean carry;
  boolean parity;
  boolean adjust;
  boolean zero;
  boolean sign;
  boolean trap;
  boolean interrupts;
  boolean direction;
  boolean overflow;

  int flags() {
    return 2
        | (carry ? 1 : 0)
        | (parity ? 4 : 0)
        | (adjust ? 0x10 : 0)
        | (zero ? 0x40 : 0)
        | (sign ? 0x80 : 0)
        | (trap ? 0x100 : 0)
        | (interrupts ? 0x200 : 0)
        | (direction ? 0x400 : 0)
        | (overflow ? 0x800 : 0);
  }

  void flags(int f) {
    low(f);
    trap = (f & 0x100) != 0;
    interrupts = (f & 0x200) != 0;
    direction = (f & 0x400) != 0;
    overflow = (f & 0x800) != 0;
  }

  /** The five flags that SAHF sets. */
  void low(int f) {
    carry = (f & 1) != 0;
    parity = (f & 4) != 0;
    adjust = (f & 0x10) != 0;
    zero = (f & 0x40) != 0;
    sign = (f & 0x80) != 0;
  }

  private static int mask(boolean wide) {
    return wide ? 0xffff : 0xff;
  }

  private static int top(boolean wide) {
    return wide ? 0x8000 : 0x80;
  }

  private int result(int value, boolean wide) {
    int r = value & mask(wide);
    zero = r == 0;
    sign = (r & top(wide)) != 0;
    parity = (Integer.bitCount(r & 0xff) & 1) == 0;
    return r;
  }

  /** ADD, OR, ADC, SBB, AND, SUB, XOR and CMP, as they are numbered in instructions. */
  int operate(int operation, int a, int b, boolean wide) {
    return switch (operation) {
      case 0 -> add(a, b, 0, wide);
      case 1 -> logic(a | b, wide);
      case 2 -> add(a, b, carry ? 1 : 0, wide);
      case 3 -> subtract(a, b, carry ? 1 : 0, wide);
      case 4 -> logic(a & b, wide);
      case 5, 7 -> subtract(a, b, 0, wide);
      default -> logic(a ^ b, wide);
    };
  }

  int logic(int value, boolean wide) {
    carry = false;
    overflow = false;
    adjust = false;
    return result(value, wide);
  }

  private int add(int a, int b, int with, boolean wide) {
    int sum = a + b + with;
    carry = sum > mask(wide);
    adjust = (a & 0xf) + (b & 0xf) + with > 0xf;
    overflow = ((a ^ sum) & (b ^ sum) & top(wide)) != 0;
    return result(sum, wide);
  }

  private int subtract(int a, int b, int with, boolean wide) {
    int difference = a - b - with;
    carry = difference < 0;
    adjust = (a & 0xf) - (b & 0xf) - with < 0;
    overflow = ((a ^ b) & (a ^ difference) & top(wide)) != 0;
    return result(difference, wide);
  }

  /** INC and DEC leave the carry as it is. */
  int increment(int a, int by, boolean wide) {
    boolean kept = carry;
    int r = by > 0 ? add(a, 1, 0, wide) : subtract(a, 1, 0, wide);
    carry = kept;
    return r;
  }

  int negate(int a, boolean wide) {
    return subtract(0, a, 0, wide);
  }

  /** ROL, ROR, RCL, RCR, SHL, SHR and SAR, as they are numbered in instructions. */
  int shift(int operation, int value, int by, boolean wide) {
    int count = by & 0x1f;
    int r = value & mask(wide);
    for (int i = 0; i < count; i++) {
      r = shiftOnce(operation, r, wide);
    }
    if (count > 0 && operation >= 4) {
      result(r, wide);
    }
    return r;
  }

  private int shiftOnce(int operation, int value, boolean wide) {
    int top = top(wide);
    boolean out = operation % 2 == 0 ? (value & top) != 0 : (value & 1) != 0;
    int left = value << 1 & mask(wide);
    int right = value >>> 1;
    int r = switch (operation) {
      case 0 -> left | (out ? 1 : 0);
      case 1 -> right | (out ? top : 0);
      case 2 -> left | (carry ? 1 : 0);
      case 3 -> right | (carry ? top : 0);
      case 4, 6 -> left;
      case 5 -> right;
      default -> right | value & top;
    };
    carry = out;
    overflow = operation % 2 == 0 ? ((r & top) != 0) != carry : ((r ^ value) & top) != 0;
    return r;
  }
}
