package hardproof.standins.artifacts;

import hardproof.proving.boot.BootSector;
import hardproof.proving.checksums.BlockManifest;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.Random;
import java.util.zip.GZIPOutputStream;

/** Disks of small machines, with boot code of their own that really runs. */
public final class Machines {
  private static final int DISK_BYTES = 256 << 10;
  private static final int PARTITION_FROM = 64;
  private static final int PARTITION_TYPE_LINUX = 0x83;

  /** What becomes of a machine when it is started. */
  public enum Fate {
    BOOTS,
    FATAL,
    NO_BOOT_RECORD,
    REPAIR,
    HANGS,
    /** It shows its login, and stops a minute later. */
    DIES_LATER,
    /** It shows a screen that is no login and that nobody has seen before. */
    OWN_CONSOLE
  }

  private Machines() {}

  /** A disk as its backup holds it; the same seed always gives the same bytes. */
  public static Artifact disk(String host, Fate fate, long seed) throws IOException {
    byte[] disk = new byte[DISK_BYTES];
    // A little that differs from day to day, and the empty space that most disks hold.
    byte[] used = new byte[8 << 10];
    new Random(seed).nextBytes(used);
    System.arraycopy(used, 0, disk, PARTITION_FROM * 512, used.length);
    byte[] first = sector(host, fate).build();
    System.arraycopy(first, 0, disk, 0, first.length);
    partition(disk);
    if (fate == Fate.NO_BOOT_RECORD) {
      java.util.Arrays.fill(disk, 0, 512, (byte) 0);
    }
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (GZIPOutputStream gzip = new GZIPOutputStream(out)) {
      gzip.write(disk);
    }
    byte[] packed = out.toByteArray();
    return new Artifact("img.gz", packed, BlockManifest.of(packed, 1 << 16).bytes(), ".blocks");
  }

  private static BootSector sector(String host, Fate fate) {
    BootSector code = new BootSector().clear().print("Tarnwick boot 4\r\n").pause(300);
    return switch (fate) {
      case BOOTS -> code.print("Services up.\r\n\r\n" + host + " login: ").waitForKeys();
      case FATAL ->
        code.print("Mounting root ...\r\nKernel panic - not syncing: no root on sda1")
            .halt();
      case REPAIR ->
        code.print("You are in emergency mode.\r\nGive root password for maintenance: ")
            .waitForKeys();
      case HANGS -> code.print("Starting " + host + " services ...").spin();
      case DIES_LATER ->
        code.print("Services up.\r\n\r\n" + host + " login: ")
            .pause(60_000)
            .print("\r\nKernel panic - not syncing: out of memory")
            .halt();
      case OWN_CONSOLE ->
        code.print("MOORING LOGGER 7\r\n\r\nLines 1-8 slack. Turn key to begin.")
            .waitForKeys();
      case NO_BOOT_RECORD -> code.idle();
    };
  }

  private static void partition(byte[] disk) {
    int at = 446;
    int sectors = disk.length / 512 - PARTITION_FROM;
    disk[at] = (byte) 0x80;
    disk[at + 4] = (byte) PARTITION_TYPE_LINUX;
    for (int i = 0; i < 4; i++) {
      disk[at + 8 + i] = (byte) (PARTITION_FROM >> 8 * i);
      disk[at + 12 + i] = (byte) (sectors >> 8 * i);
    }
    java.util.Arrays.fill(disk, at + 16, 510, (byte) 0);
  }
}
