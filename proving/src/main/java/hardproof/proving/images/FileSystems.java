package hardproof.proving.images;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.zip.CRC32C;

/** What can be told of a file system by its superblock: ext2 to ext4, and FAT. */
final class FileSystems {
  private static final int EXT_SUPERBLOCK = 1024;
  private static final int EXT_MAGIC = 0xef53;

  /** RO_COMPAT_METADATA_CSUM: the superblock ends with a CRC-32C of what is before it. */
  private static final int EXT_CHECKSUM = 0x400;

  private FileSystems() {}

  static DiskFinding look(Disk disk, Partition partition) throws IOException {
    long offset = partition.first() * Disk.SECTOR;
    ByteBuffer ext = disk.read(offset + EXT_SUPERBLOCK, 1024);
    if ((ext.getShort(56) & 0xffff) == EXT_MAGIC) {
      return ext(partition, ext);
    }
    ByteBuffer boot = disk.read(offset, Disk.SECTOR);
    if (fat(boot)) {
      return fat(partition, boot);
    }
    return partition.fat()
        ? DiskFinding.fault(
            partition.name() + " should hold a FAT file system, and its boot sector is not one")
        : DiskFinding.warning(
            partition.name() + " holds no file system that is known here (ext2 to ext4, FAT)");
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
