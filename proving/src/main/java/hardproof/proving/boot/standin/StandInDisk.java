package hardproof.proving.boot.standin;

import hardproof.proving.images.Disk;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.HashMap;
import java.util.Map;

/** The one disk of a {@link StandInMachine}: what is written to it is kept aside, never in the image. */
final class StandInDisk {
  /** The number of the first hard disk. */
  static final int NUMBER = 0x80;

  private static final int HEADS = 16;
  private static final int SECTORS = 63;

  private final Registers86 cpu;
  private final Disk disk;
  private final Map<Long, byte[]> written = new HashMap<>();

  StandInDisk(Registers86 cpu, Disk disk) {
    this.cpu = cpu;
    this.disk = disk;
  }

  /** INT 13. */
  void service() {
    int function = cpu.high(Registers86.AX);
    if (cpu.low(Registers86.DX) != NUMBER) {
      result(1);
      return;
    }
    switch (function) {
      case 0x00, 0x01, 0x04, 0x0d, 0x10, 0x11 -> result(0);
      case 0x02, 0x03 -> moveByCylinder(function == 0x02);
      case 0x08 -> tellShape();
      case 0x15 -> {
        cpu.r[Registers86.CX] = (int) (disk.sectors() >> 16) & 0xffff;
        cpu.r[Registers86.DX] = (int) disk.sectors() & 0xffff;
        cpu.setHigh(Registers86.AX, 3);
        cpu.alu.carry = false;
      }
      case 0x41 -> {
        cpu.r[Registers86.BX] = 0xaa55;
        cpu.r[Registers86.CX] = 1;
        cpu.setHigh(Registers86.AX, 0x30);
        cpu.alu.carry = false;
      }
      case 0x42, 0x43 -> moveByPacket(function == 0x42);
      case 0x48 -> tellSize();
      default -> result(1);
    }
  }

  private void moveByCylinder(boolean read) {
    int cx = cpu.r[Registers86.CX];
    long cylinder = cx >> 8 | (cx & 0xc0) << 2;
    long sector = (cylinder * HEADS + cpu.high(Registers86.DX)) * SECTORS + (cx & 0x3f) - 1;
    int address = cpu.linear(Registers86.ES, cpu.r[Registers86.BX]);
    move(read, sector, cpu.low(Registers86.AX), address);
  }

  private void tellShape() {
    long cylinders = Math.min(1024, Math.max(1, disk.sectors() / (HEADS * SECTORS)));
    long last = cylinders - 1;
    cpu.r[Registers86.CX] = (int) (last & 0xff) << 8 | (int) (last >> 2 & 0xc0) | SECTORS;
    cpu.r[Registers86.DX] = HEADS - 1 << 8 | 1;
    result(0);
  }

  private void moveByPacket(boolean read) {
    int packet = cpu.linear(Registers86.DS, cpu.r[Registers86.SI]);
    long sector = (cpu.peek16(packet + 8) | (long) cpu.peek16(packet + 10) << 16) & 0xffffffffL;
    int address = (cpu.peek16(packet + 6) << 4) + cpu.peek16(packet + 4);
    move(read, sector, cpu.peek16(packet + 2), address);
  }

  private void tellSize() {
    int at = cpu.linear(Registers86.DS, cpu.r[Registers86.SI]);
    long sectors = disk.sectors();
    for (int i = 0; i < 4; i++) {
      cpu.poke16(at + 16 + 2 * i, (int) (sectors >> 16 * i) & 0xffff);
    }
    cpu.poke16(at + 24, Disk.SECTOR);
    result(0);
  }

  private void result(int status) {
    cpu.setHigh(Registers86.AX, status);
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
        moveOne(reads, sector, address, i);
      }
      result(0);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private void moveOne(boolean reads, long sector, int address, int i) throws IOException {
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
}
