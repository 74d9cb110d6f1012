package hardproof.proving.boot.standin;

/**
 * Executes real-mode code of the 8086 and 80186. Anything newer, which a system of today turns to soon,
 * is beyond it: it then says so and stops, and nothing is concluded.
 */
final class Cpu86 extends Registers86 {
  private final Board board;
  private final Accumulator86 accumulator = new Accumulator86(this);
  private final Strings86 strings = new Strings86(this);

  /** What surrounds the processor. */
  interface Board {
    /** A software interrupt that no code of the machine's own serves. */
    void service(int number);

    int in(int port);

    void out(int port, int value);

    /** HLT was executed. */
    void halt();
  }

  /** An instruction that is not executed here. */
  static final class Beyond extends RuntimeException {
    private static final long serialVersionUID = 1L;

    Beyond(String what) {
      super(what, null, false, false);
    }
  }

  Cpu86(Board board) {
    this.board = board;
  }

  /** Executes one instruction, a repeated one as a whole. */
  void step() {
    override = -1;
    int repeat = 0;
    int op = fetch8();
    while (true) {
      if (op == 0x26 || op == 0x2e || op == 0x36 || op == 0x3e) {
        override = op >> 3 & 3;
      } else if (op == 0xf2 || op == 0xf3) {
        repeat = op;
      } else if (op != 0xf0) {
        break;
      }
      op = fetch8();
    }
    execute(op, repeat);
  }

  private void execute(int op, int repeat) {
    boolean wide = (op & 1) != 0;
    if (op < 0x40 && (op & 7) < 6) {
      arithmetic(op, wide);
    } else if (op < 0x40) {
      stackOrAdjust(op);
    } else if (op < 0x60) {
      oneRegister(op);
    } else if (op >= 0x70 && op < 0x80) {
      jump(condition(op & 15), signed8(fetch8()));
    } else if (op >= 0xb0 && op < 0xc0) {
      boolean w = op >= 0xb8;
      setRegister(op & 7, w ? fetch16() : fetch8(), w);
    } else if (op >= 0x90 && op < 0x98) {
      int value = r[AX];
      r[AX] = r[op & 7];
      r[op & 7] = value;
    } else if (op < 0xa0) {
      middle(op, wide);
    } else if (op < 0xb0) {
      strings.execute(op, wide, repeat);
    } else if (op < 0xe0) {
      calls(op, wide);
    } else {
      flow(op, wide);
    }
  }

  private void arithmetic(int op, boolean wide) {
    int operation = op >> 3;
    int a;
    int result;
    switch (op & 7) {
      case 0, 1 -> {
        decode();
        result = alu.operate(operation, operand(wide), register(reg(), wide), wide);
        if (operation != 7) {
          setOperand(result, wide);
        }
      }
      case 2, 3 -> {
        decode();
        result = alu.operate(operation, register(reg(), wide), operand(wide), wide);
        if (operation != 7) {
          setRegister(reg(), result, wide);
        }
      }
      default -> {
        a = register(AX, wide);
        result = alu.operate(operation, a, wide ? fetch16() : fetch8(), wide);
        if (operation != 7) {
          setRegister(AX, result, wide);
        }
      }
    }
  }

  private void stackOrAdjust(int op) {
    switch (op) {
      case 0x06, 0x0e, 0x16, 0x1e -> push(seg[op >> 3]);
      case 0x07, 0x17, 0x1f -> seg[op >> 3] = pop();
      case 0x27 -> accumulator.decimal(6, 0x60);
      case 0x2f -> accumulator.decimal(-6, -0x60);
      case 0x37 -> accumulator.ascii(6, 1);
      case 0x3f -> accumulator.ascii(-6, -1);
      default -> throw new Beyond(named(op, "code of the 80286 or newer"));
    }
  }

  private void oneRegister(int op) {
    int n = op & 7;
    switch (op >> 3) {
      case 8 -> r[n] = alu.increment(r[n], 1, true);
      case 9 -> r[n] = alu.increment(r[n], -1, true);
      case 10 -> push(r[n]);
      default -> r[n] = pop();
    }
  }

  private boolean condition(int code) {
    boolean met = switch (code >> 1) {
      case 0 -> alu.overflow;
      case 1 -> alu.carry;
      case 2 -> alu.zero;
      case 3 -> alu.carry || alu.zero;
      case 4 -> alu.sign;
      case 5 -> alu.parity;
      case 6 -> alu.sign != alu.overflow;
      default -> alu.zero || alu.sign != alu.overflow;
    };
    return met != ((code & 1) != 0);
  }

  private void jump(boolean taken, int by) {
    if (taken) {
      ip = ip + by & 0xffff;
    }
  }

  private void middle(int op, boolean wide) {
    switch (op) {
      case 0x60 -> pushAll();
      case 0x61 -> popAll();
      case 0x68 -> push(fetch16());
      case 0x6a -> push(signed8(fetch8()) & 0xffff);
      case 0x69, 0x6b -> {
        decode();
        int by = op == 0x69 ? (short) fetch16() : signed8(fetch8());
        int product = (short) operand(true) * by;
        r[reg()] = product & 0xffff;
        alu.carry = product != (short) product;
        alu.overflow = alu.carry;
      }
      case 0x80, 0x81, 0x82, 0x83 -> {
        decode();
        int value = op == 0x81 ? fetch16() : op == 0x83 ? signed8(fetch8()) & 0xffff : fetch8();
        int result = alu.operate(reg(), operand(wide), value, wide);
        if (reg() != 7) {
          setOperand(result, wide);
        }
      }
      case 0x84, 0x85 -> {
        decode();
        alu.logic(operand(wide) & register(reg(), wide), wide);
      }
      case 0x86, 0x87 -> {
        decode();
        int value = operand(wide);
        setOperand(register(reg(), wide), wide);
        setRegister(reg(), value, wide);
      }
      case 0x88, 0x89 -> {
        decode();
        setOperand(register(reg(), wide), wide);
      }
      case 0x8a, 0x8b -> {
        decode();
        setRegister(reg(), operand(wide), wide);
      }
      case 0x8c -> {
        decode();
        setOperand(seg[reg() & 3], true);
      }
      case 0x8d -> {
        decode();
        r[reg()] = effective;
      }
      case 0x8e -> {
        decode();
        seg[reg() & 3] = operand(true);
      }
      case 0x8f -> {
        decode();
        setOperand(pop(), true);
      }
      case 0x98 -> r[AX] = signed8(low(AX)) & 0xffff;
      case 0x99 -> r[DX] = (r[AX] & 0x8000) != 0 ? 0xffff : 0;
      case 0x9a -> {
        int offset = fetch16();
        int segment = fetch16();
        push(seg[CS]);
        push(ip);
        seg[CS] = segment;
        ip = offset;
      }
      case 0x9b -> {
        // WAIT: there is no coprocessor to wait for.
      }
      case 0x9c -> push(alu.flags());
      case 0x9d -> alu.flags(pop());
      case 0x9e -> alu.low(high(AX));
      case 0x9f -> setHigh(AX, alu.flags());
      default -> throw new Beyond(named(op, "code of the 80386 or newer"));
    }
  }

  private void calls(int op, boolean wide) {
    switch (op) {
      case 0xc0, 0xc1 -> {
        decode();
        int by = fetch8();
        setOperand(alu.shift(reg(), operand(wide), by, wide), wide);
      }
      case 0xc2 -> {
        int drop = fetch16();
        ip = pop();
        r[SP] = r[SP] + drop & 0xffff;
      }
      case 0xc3 -> ip = pop();
      case 0xc4, 0xc5 -> {
        decode();
        if (address < 0) {
          throw new Beyond(named(op, "an instruction that does not exist"));
        }
        r[reg()] = peek16(address);
        seg[op == 0xc4 ? ES : DS] = peek16(address + 2);
      }
      case 0xc6, 0xc7 -> {
        decode();
        setOperand(wide ? fetch16() : fetch8(), wide);
      }
      case 0xc8 -> {
        int room = fetch16();
        if (fetch8() != 0) {
          throw new Beyond("ENTER with levels");
        }
        push(r[BP]);
        r[BP] = r[SP];
        r[SP] = r[SP] - room & 0xffff;
      }
      case 0xc9 -> {
        r[SP] = r[BP];
        r[BP] = pop();
      }
      case 0xca, 0xcb -> {
        int drop = op == 0xca ? fetch16() : 0;
        ip = pop();
        seg[CS] = pop();
        r[SP] = r[SP] + drop & 0xffff;
      }
      case 0xcc -> interrupt(3);
      case 0xcd -> interrupt(fetch8());
      case 0xce -> {
        if (alu.overflow) {
          interrupt(4);
        }
      }
      case 0xcf -> {
        ip = pop();
        seg[CS] = pop();
        alu.flags(pop());
      }
      case 0xd0, 0xd1, 0xd2, 0xd3 -> {
        decode();
        int by = op < 0xd2 ? 1 : low(CX);
        setOperand(alu.shift(reg(), operand(wide), by, wide), wide);
      }
      case 0xd4 -> {
        if (!accumulator.split(fetch8())) {
          interrupt(0);
        }
      }
      case 0xd5 -> accumulator.join(fetch8());
      case 0xd7 -> setLow(AX, peek8(data(r[BX] + low(AX))));
      default -> throw new Beyond(named(op, "code for a coprocessor"));
    }
  }

  /** Calls the machine's own code for an interrupt, or the firmware where it has none. */
  void interrupt(int number) {
    int vector = number * 4;
    if (peek16(vector) == 0 && peek16(vector + 2) == 0) {
      board.service(number);
      return;
    }
    push(alu.flags());
    push(seg[CS]);
    push(ip);
    alu.interrupts = false;
    alu.trap = false;
    ip = peek16(vector);
    seg[CS] = peek16(vector + 2);
  }

  private void flow(int op, boolean wide) {
    switch (op) {
      case 0xe0, 0xe1, 0xe2 -> {
        int by = signed8(fetch8());
        r[CX] = r[CX] - 1 & 0xffff;
        jump(r[CX] != 0 && (op == 0xe2 || alu.zero == (op == 0xe1)), by);
      }
      case 0xe3 -> jump(r[CX] == 0, signed8(fetch8()));
      case 0xe4, 0xe5 -> in(fetch8(), wide);
      case 0xe6, 0xe7 -> board.out(fetch8(), register(AX, wide));
      case 0xec, 0xed -> in(r[DX], wide);
      case 0xee, 0xef -> board.out(r[DX], register(AX, wide));
      case 0xe8 -> {
        int by = fetch16();
        push(ip);
        ip = ip + by & 0xffff;
      }
      case 0xe9 -> {
        int by = fetch16();
        ip = ip + by & 0xffff;
      }
      case 0xea -> {
        int offset = fetch16();
        seg[CS] = fetch16();
        ip = offset;
      }
      case 0xeb -> jump(true, signed8(fetch8()));
      case 0xf4 -> board.halt();
      case 0xf5 -> alu.carry = !alu.carry;
      case 0xf6, 0xf7 -> unary(wide);
      case 0xf8, 0xf9 -> alu.carry = wide;
      case 0xfa, 0xfb -> alu.interrupts = wide;
      case 0xfc, 0xfd -> alu.direction = wide;
      case 0xfe, 0xff -> last(wide);
      default -> throw new Beyond(named(op, "an instruction that does not exist"));
    }
  }

  private void in(int port, boolean wide) {
    setRegister(AX, board.in(port), wide);
  }

  private void unary(boolean wide) {
    decode();
    int value = operand(wide);
    switch (reg()) {
      case 0, 1 -> alu.logic(value & (wide ? fetch16() : fetch8()), wide);
      case 2 -> setOperand(~value, wide);
      case 3 -> setOperand(alu.negate(value, wide), wide);
      case 4, 5 -> accumulator.multiply(value, reg() == 5, wide);
      default -> {
        if (!accumulator.divide(value, reg() == 7, wide)) {
          interrupt(0);
        }
      }
    }
  }

  private void last(boolean wide) {
    decode();
    switch (reg()) {
      case 0 -> setOperand(alu.increment(operand(wide), 1, wide), wide);
      case 1 -> setOperand(alu.increment(operand(wide), -1, wide), wide);
      case 2 -> {
        int to = operand(true);
        push(ip);
        ip = to;
      }
      case 4 -> ip = operand(true);
      case 3, 5 -> {
        if (address < 0) {
          throw new Beyond("a far jump through a register, which does not exist");
        }
        int offset = peek16(address);
        int segment = peek16(address + 2);
        if (reg() == 3) {
          push(seg[CS]);
          push(ip);
        }
        seg[CS] = segment;
        ip = offset;
      }
      case 6 -> push(operand(true));
      default -> throw new Beyond("an instruction that does not exist");
    }
  }

  private String named(int op, String what) {
    return String.format("%s (%02X at %04X:%04X)", what, op, seg[CS], ip - 1 & 0xffff);
  }
}
