package hardproof.proving.images;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.util.zip.CRC32C;

/** What can be told of a file system by its first blocks. */
final class FileSystems {
  private static final int EXT_SUPERBLOCK = 1024;

  /** RO_COMPAT_METADATA_CSUM: the superblock ends with a CRC-32C of what is before it. */
  private static final int EXT_CHECKSUM = 0x400;

  private FileSystems() {}

  static DiskFinding look(Disk disk, Partition partition, Runnable stopIfCancelled)
      throws IOException {
    long offset = partition.first() * Disk.SECTOR;
    FileSystemKind kind = FileSystemKind.of(disk, partition);
    return switch (kind) {
      case EXT -> ext(partition, disk.read(offset + EXT_SUPERBLOCK, 1024));
      case FAT -> fat(partition, disk.read(offset, Disk.SECTOR));
      case UNKNOWN -> unknown(disk, partition, stopIfCancelled);
      default ->
        kind.seenInto()
            ? DiskFinding.note(partition.name() + " holds " + kind.words())
            : DiskFinding.warning(
                partition.name() + " holds " + kind.words() + ", which is not looked into");
    };
  }

  private static DiskFinding unknown(Disk disk, Partition partition, Runnable stopIfCancelled)
      throws IOException {
    Remains remains = new Remains(disk, partition, stopIfCancelled);
    String lost = remains.quick();
    if (lost == null) {
      lost = remains.thorough();
    }
    if (lost != null && lost.isEmpty()) {
      return DiskFinding.note(partition.name() + " is empty");
    }
    if (lost != null) {
      return DiskFinding.fault(partition.name() + " can't be used: " + lost);
    }
    return nothingFound(partition);
  }

  private static DiskFinding nothingFound(Partition partition) {
    return partition.use().fat()
        ? DiskFinding.fault(
            partition.name() + " should hold a FAT file system, and its boot sector is not one")
        : DiskFinding.warning(partition.name() + " holds " + FileSystemKind.UNKNOWN.words());
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
