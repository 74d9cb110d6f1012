package hardproof.proving.images;

import java.io.IOException;
import java.nio.ByteBuffer;

/**
 * What is left of a file system whose first description of itself is gone: nothing mounts it, and yet a
 * machine may start without it. Every kind keeps copies of that description elsewhere.
 */
final class Remains {
  private static final int EXT_MAGIC = 0xef53;
  private static final int PIECE_BYTES = 1 << 20;
  private static final int XFS_BLOCK_LEAST = 512;

  private final Disk disk;
  private final long begin;
  private final long bytes;
  private final Runnable stopIfCancelled;

  Remains(Disk disk, Partition partition, Runnable stopIfCancelled) {
    this.disk = disk;
    this.begin = partition.first() * Disk.SECTOR;
    this.bytes = partition.sectors() * Disk.SECTOR;
    this.stopIfCancelled = stopIfCancelled;
  }

  /** Of what there are remains, by marks at known places, in words that follow "is lost"; null when of nothing. */
  String quick() throws IOException {
    long ext = extBackup();
    if (ext > 0) {
      return "the first superblock of its ext file system is lost, and the one at byte " + ext
          + " of it is there: e2fsck -b repairs it";
    }
    if (extTree()) {
      return "the superblock of its ext file system is lost; what it described is there";
    }
    // NTFS keeps it in its last sector, behind the file system; exFAT and FAT32 close to the first.
    if (bytes > Disk.SECTOR && FileSystemKind.NTFS.isAt(disk, begin + bytes - Disk.SECTOR)) {
      return "the boot sector of its NTFS file system is lost, and the copy at its end is there";
    }
    if (FileSystemKind.EXFAT.isAt(disk, begin + 12 * Disk.SECTOR)) {
      return "the boot region of its exFAT file system is lost, and its copy is there";
    }
    if (FileSystemKind.fat(disk.read(begin + 6 * Disk.SECTOR, Disk.SECTOR))) {
      return "the boot sector of its FAT file system is lost, and its copy is there";
    }
    long mirror = 64L << 20;
    return mirror < bytes && FileSystemKind.BTRFS.isAt(disk, begin + mirror - 0x10000)
        ? "the superblock of its btrfs file system is lost, and the copy at 64 MiB is there"
        : null;
  }

  /**
   * Reads it from its beginning to the first thing that tells.
   *
   * @return what is lost; empty when there is nothing but zeros; null when nothing tells what it is
   */
  String thorough() throws IOException {
    boolean zeros = true;
    for (long at = 0; at < bytes; at += PIECE_BYTES) {
      stopIfCancelled.run();
      byte[] piece =
          disk.read(begin + at, (int) Math.min(PIECE_BYTES, bytes - at)).array();
      zeros = zeros && zeros(piece);
      for (int i = 0; !zeros && i + 4 <= piece.length; i += XFS_BLOCK_LEAST) {
        if (xfsCopy(piece, i, at + i)) {
          return "the superblock of its XFS file system is lost, and the copy at byte " + (at + i)
              + " of it is there: xfs_repair repairs it";
        }
      }
    }
    return zeros ? "" : null;
  }

  /**
   * Whether it is a later superblock of XFS that lies where it says that it does: at the beginning of one of its
   * groups (kernel documentation, "XFS Self Describing Metadata" and xfs_format.h). A whole file system inside
   * of something else is none.
   */
  private boolean xfsCopy(byte[] piece, int i, long at) {
    boolean marked =
        piece[i] == 'X' && piece[i + 1] == 'F' && piece[i + 2] == 'S' && piece[i + 3] == 'B';
    if (!marked || i + XFS_BLOCK_LEAST > piece.length) {
      return false;
    }
    ByteBuffer block = ByteBuffer.wrap(piece, i, XFS_BLOCK_LEAST).slice();
    long size = block.getInt(4) & 0xffffffffL;
    long group = (block.getInt(84) & 0xffffffffL) * size;
    long groups = block.getInt(88) & 0xffffffffL;
    return group > 0
        && at > 0
        && at % group == 0
        && at / group < groups
        && block.getLong(8) <= bytes / size;
  }

  private static boolean zeros(byte[] piece) {
    for (byte b : piece) {
      if (b != 0) {
        return false;
      }
    }
    return true;
  }

  /** Where ext keeps its first copy: behind the first group, which depends on its block size. */
  private long extBackup() throws IOException {
    for (long at : new long[] {8193L * 1024, 16384L * 2048, 32768L * 4096}) {
      ByteBuffer block = disk.read(begin + at, 1024);
      int shift = block.getInt(24);
      if (at + 1024 <= bytes
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
  private boolean extTree() throws IOException {
    for (int block : new int[] {1024, 2048, 4096}) {
      ByteBuffer group = disk.read(begin + Math.max(block, 2048), 32);
      long table = group.getInt(8) & 0xffffffffL;
      if (table < 3 || table * block >= bytes) {
        continue;
      }
      for (int inode : new int[] {128, 256}) {
        ByteBuffer root = disk.read(begin + table * block + inode, 32);
        if ((root.getShort(0) & 0xf000) == 0x4000 && (root.getShort(26) & 0xffff) >= 2) {
          return true;
        }
      }
    }
    return false;
  }
}
