package hardproof.proving.images;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.zip.CRC32C;

/** What can be told of a file system by its first blocks. */
final class FileSystems {
  /** Kinds that are known, with the marks of their own descriptions. */
  enum Kind {
    EXT("an ext file system"),
    FAT("a FAT file system"),
    XFS("an XFS file system"),
    BTRFS("a btrfs file system"),
    NTFS("an NTFS file system"),
    SWAP("swap space"),
    LVM("a volume of LVM"),
    LUKS("an encrypted volume (LUKS)"),
    UNKNOWN("no file system that is known here");

    private final String words;

    Kind(String words) {
      this.words = words;
    }

    String words() {
      return words;
    }
  }

  /** What a partition begins like. */
  static Kind kind(Disk disk, Partition partition) throws IOException {
    long offset = partition.first() * Disk.SECTOR;
    ByteBuffer boot = disk.read(offset, 8192);
    if ((boot.getShort(EXT_SUPERBLOCK + 56) & 0xffff) == EXT_MAGIC) {
      return Kind.EXT;
    }
    if (text(boot, 3, 8).equals("NTFS    ")) {
      return Kind.NTFS;
    }
    if (fat(boot)) {
      return Kind.FAT;
    }
    if (text(boot, 0, 4).equals("XFSB")) {
      return Kind.XFS;
    }
    if (text(boot, 0, 4).equals("LUKS")) {
      return Kind.LUKS;
    }
    if (text(boot, 4086, 10).equals("SWAPSPACE2")) {
      return Kind.SWAP;
    }
    if (text(boot, 512, 8).equals("LABELONE")) {
      return Kind.LVM;
    }
    return text(disk.read(offset + 0x10040, 8), 0, 8).equals("_BHRfS_M")
        ? Kind.BTRFS
        : Kind.UNKNOWN;
  }

  private static String text(ByteBuffer bytes, int at, int length) {
    return new String(bytes.array(), at, length, java.nio.charset.StandardCharsets.ISO_8859_1);
  }

  private static final int EXT_SUPERBLOCK = 1024;
  private static final int EXT_MAGIC = 0xef53;

  /** RO_COMPAT_METADATA_CSUM: the superblock ends with a CRC-32C of what is before it. */
  private static final int EXT_CHECKSUM = 0x400;

  private FileSystems() {}

  static DiskFinding look(Disk disk, Partition partition) throws IOException {
    long offset = partition.first() * Disk.SECTOR;
    Kind kind = kind(disk, partition);
    return switch (kind) {
      case EXT -> ext(partition, disk.read(offset + EXT_SUPERBLOCK, 1024));
      case FAT -> fat(partition, disk.read(offset, Disk.SECTOR));
      case UNKNOWN -> unknown(disk, partition);
      default -> DiskFinding.note(partition.name() + " holds " + kind.words());
    };
  }

  private static DiskFinding unknown(Disk disk, Partition partition) throws IOException {
    if (partition.use().fat()) {
      return DiskFinding.fault(
          partition.name() + " should hold a FAT file system, and its boot sector is not one");
    }
    long backup = extBackup(disk, partition);
    if (backup == 0 && extRemains(disk, partition)) {
      return DiskFinding.fault("the superblock of the ext file system of " + partition.name()
          + " is lost; what it described is there");
    }
    return backup > 0
        ? DiskFinding.fault("the first superblock of the ext file system of " + partition.name()
            + " is lost, and the one at byte " + backup + " of it is there: e2fsck -b repairs it")
        : DiskFinding.warning(partition.name() + " holds no file system that is known here");
  }

  /** Where ext keeps its first copy: behind the first group, which depends on its block size. */
  private static long extBackup(Disk disk, Partition partition) throws IOException {
    for (long at : new long[] {8193L * 1024, 16384L * 2048, 32768L * 4096}) {
      ByteBuffer block = disk.read(partition.first() * Disk.SECTOR + at, 1024);
      boolean inside = at + 1024 <= partition.sectors() * Disk.SECTOR;
      int shift = block.getInt(24);
      if (inside
          && (block.getShort(56) & 0xffff) == EXT_MAGIC
          && shift >= 0
          && shift <= 6
          && (block.getShort(90) & 0xffff) == 1) {
        return at;
      }
    }
    return 0;
  }

  /**
   * Whether a first group descriptor leads to a table of inodes whose second is a folder, as the root of
   * every ext file system is (kernel documentation, "ext4 Data Structures").
   */
  private static boolean extRemains(Disk disk, Partition partition) throws IOException {
    long offset = partition.first() * Disk.SECTOR;
    for (int block : new int[] {1024, 2048, 4096}) {
      ByteBuffer group = disk.read(offset + Math.max(block, 2048), 32);
      long table = group.getInt(8) & 0xffffffffL;
      if (table < 3 || table * block >= partition.sectors() * Disk.SECTOR) {
        continue;
      }
      for (int inode : new int[] {128, 256}) {
        ByteBuffer root = disk.read(offset + table * block + inode, 32);
        if ((root.getShort(0) & 0xf000) == 0x4000 && (root.getShort(26) & 0xffff) >= 2) {
          return true;
        }
      }
    }
    return false;
  }

  private static DiskFinding ext(Partition partition, ByteBuffer block) {
    if ((block.getInt(100) & EXT_CHECKSUM) != 0) {
      CRC32C crc = new CRC32C();
      crc.update(block.array(), 0, 1020);
      // The kernel keeps the remainder without the last inversion.
      long found = ~crc.getValue() & 0xffffffffL;
      long stored = block.getInt(1020) & 0xffffffffL;
      if (found != stored) {
        return DiskFinding.fault(String.format(
            "the ext4 superblock of %s is damaged: its CRC-32C is %08x, %08x is stored",
            partition.name(), found, stored));
      }
    }
    int shift = block.getInt(24);
    if (shift < 0 || shift > 6) {
      return DiskFinding.fault(
          "the ext superblock of " + partition.name() + " has figures that can't be right");
    }
    boolean wide = (block.getInt(96) & 0x80) != 0;
    long blocks = block.getInt(4) & 0xffffffffL | (wide ? (long) block.getInt(0x150) << 32 : 0);
    long bytes = blocks * (1024L << shift);
    if (bytes > partition.sectors() * Disk.SECTOR || bytes < 0) {
      return DiskFinding.fault("the ext file system of " + partition.name() + " is " + bytes
          + " bytes long, its partition " + partition.sectors() * Disk.SECTOR);
    }
    return DiskFinding.note(
        partition.name() + " holds an ext file system, its superblock is right");
  }

  private static boolean fat(ByteBuffer boot) {
    int jump = boot.get(0) & 0xff;
    boolean jumps = jump == 0xeb && (boot.get(2) & 0xff) == 0x90 || jump == 0xe9;
    int sector = boot.getShort(11) & 0xffff;
    int cluster = boot.get(13) & 0xff;
    return jumps
        && (boot.getShort(510) & 0xffff) == 0xaa55
        && (sector == 512 || sector == 1024 || sector == 2048 || sector == 4096)
        && Integer.bitCount(cluster) == 1;
  }

  private static DiskFinding fat(Partition partition, ByteBuffer boot) {
    long small = boot.getShort(19) & 0xffff;
    long sectors = small != 0 ? small : boot.getInt(32) & 0xffffffffL;
    long bytes = sectors * (boot.getShort(11) & 0xffff);
    return bytes > partition.sectors() * Disk.SECTOR
        ? DiskFinding.fault("the FAT file system of " + partition.name() + " is " + bytes
            + " bytes long, its partition " + partition.sectors() * Disk.SECTOR)
        : DiskFinding.note(partition.name() + " holds a FAT file system, its boot sector is right");
  }
}
