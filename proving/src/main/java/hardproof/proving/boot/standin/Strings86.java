package hardproof.proving.boot.standin;

/** Instructions A0 to AF: the accumulator and memory, and strings of bytes and words. */
final class Strings86 {
  private final Registers86 cpu;

  Strings86(Registers86 cpu) {
    this.cpu = cpu;
  }

  /**
   * Executes one of them.
   *
   * @param repeat the prefix F2 or F3; 0 where there is none
   */
  void execute(int op, boolean wide, int repeat) {
    switch (op) {
      case 0xa0, 0xa1 -> {
        int at = cpu.data(cpu.fetch16());
        cpu.setRegister(Registers86.AX, cpu.get(at, wide), wide);
      }
      case 0xa2, 0xa3 -> {
        int at = cpu.data(cpu.fetch16());
        cpu.put(at, cpu.r[Registers86.AX], wide);
      }
      case 0xa8, 0xa9 ->
        cpu.alu.logic(
            cpu.register(Registers86.AX, wide) & (wide ? cpu.fetch16() : cpu.fetch8()), wide);
      default -> repeated(op, wide, repeat);
    }
  }

  private void repeated(int op, boolean wide, int repeat) {
    if (repeat == 0) {
      oneString(op, wide);
      return;
    }
    boolean compares = (op & 0xfe) == 0xa6 || (op & 0xfe) == 0xae;
    while (cpu.r[Registers86.CX] != 0) {
      cpu.r[Registers86.CX] = cpu.r[Registers86.CX] - 1 & 0xffff;
      oneString(op, wide);
      if (compares && cpu.alu.zero != (repeat == 0xf3)) {
        break;
      }
    }
  }

  private void oneString(int op, boolean wide) {
    int from = cpu.data(cpu.r[Registers86.SI]);
    int to = cpu.linear(Registers86.ES, cpu.r[Registers86.DI]);
    int by = (cpu.alu.direction ? -1 : 1) * (wide ? 2 : 1);
    boolean source = false;
    boolean target = false;
    switch (op & 0xfe) {
      case 0xa4 -> {
        cpu.put(to, cpu.get(from, wide), wide);
        source = true;
        target = true;
      }
      case 0xa6 -> {
        cpu.alu.operate(7, cpu.get(from, wide), cpu.get(to, wide), wide);
        source = true;
        target = true;
      }
      case 0xaa -> {
        cpu.put(to, cpu.register(Registers86.AX, wide), wide);
        target = true;
      }
      case 0xac -> {
        cpu.setRegister(Registers86.AX, cpu.get(from, wide), wide);
        source = true;
      }
      default -> {
        cpu.alu.operate(7, cpu.register(Registers86.AX, wide), cpu.get(to, wide), wide);
        target = true;
      }
    }
    cpu.r[Registers86.SI] = source ? cpu.r[Registers86.SI] + by & 0xffff : cpu.r[Registers86.SI];
    cpu.r[Registers86.DI] = target ? cpu.r[Registers86.DI] + by & 0xffff : cpu.r[Registers86.DI];
  }
}
