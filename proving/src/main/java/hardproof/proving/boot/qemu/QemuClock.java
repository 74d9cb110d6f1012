package hardproof.proving.boot.qemu;

import hardproof.proving.boot.BootEngine.EngineFailed;
import java.util.List;

/**
 * How long a machine in QEMU has lived, by its ACPI power management timer: 24 bits that count at
 * 3.579545 MHz (ACPI Specification 6.5, 4.8.2.1), at the port where the firmware puts it.
 */
final class QemuClock {
  private static final double TICKS_PER_MS = 3_579.545;
  private static final int MASK = 0xff_ffff;

  /** Where the firmware of today puts it, and where EFI firmware and older ones do. */
  private static final List<String> TIMERS = List.of("/w 0x608", "/w 0xb008");

  /** Reads a port of the machine. */
  @FunctionalInterface
  interface Ports {
    long read(String where) throws EngineFailed;
  }

  private final Ports ports;
  private int before = -1;
  private long ticks;

  QemuClock(Ports ports) {
    this.ports = ports;
  }

  /**
   * Asks for the time; to be called more often than the timer overflows, which it does each 4.7 s. What is
   * missed by calling it later makes the machine younger, and so it is only watched for longer.
   */
  void read() throws EngineFailed {
    for (String timer : TIMERS) {
      long value = ports.read(timer);
      if (value > MASK) {
        continue; // Nothing is there, or the firmware has not come so far yet.
      }
      if (before >= 0) {
        ticks += (value - before) & MASK;
      }
      before = (int) value;
      return;
    }
  }

  /** Milliseconds that the machine has lived since the timer was first there. */
  long livedMs() {
    return (long) (ticks / TICKS_PER_MS);
  }
}
