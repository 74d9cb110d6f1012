package hardproof.proving.images;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * What a partition may hold, told by its marks: of the kernel's documentation and headers (ext, XFS, btrfs,
 * F2FS, JFS, ReiserFS, squashfs, swap), Microsoft's specifications (FAT, exFAT, NTFS), ECMA-119 and 167 (ISO
 * 9660, UDF), Apple's (HFS+, APFS), cryptsetup, LVM2 and mdadm. From memory where no tool here makes them:
 * HFS+, APFS, ReFS, BitLocker and ReiserFS.
 */
enum FileSystemKind {
  EXT("an ext file system", true, 1024 + 56, 0x53, 0xef),
  NTFS("an NTFS file system", true, 3, text("NTFS    ")),
  EXFAT("an exFAT file system", true, 3, text("EXFAT   ")),
  FAT("a FAT file system", true),
  XFS("an XFS file system", true, 0, text("XFSB")),
  BTRFS("a btrfs file system", true, 0x10040, text("_BHRfS_M")),
  SWAP("swap space", true, 4086, text("SWAPSPACE2")),
  LUKS("an encrypted volume (LUKS)", false, 0, 'L', 'U', 'K', 'S', 0xba, 0xbe),
  BITLOCKER("an encrypted volume (BitLocker)", false, 3, text("-FVE-FS-")),
  LVM("a volume of LVM", false, 512, text("LABELONE")),
  RAID("a part of a RAID", false, 4096, 0xfc, 0x4e, 0x2b, 0xa9),
  F2FS("an F2FS file system", false, 1024, 0x10, 0x20, 0xf5, 0xf2),
  JFS("a JFS file system", false, 0x8000, text("JFS1")),
  REISER("a ReiserFS file system", false, 0x10034, text("ReIsEr")),
  REFS("a ReFS file system", false, 3, text("ReFS")),
  SQUASHFS("a squashfs file system", false, 0, text("hsqs")),
  HFS("an HFS+ file system", false, 1024, 'H', '+'),
  APFS("an APFS container", false, 32, text("NXSB")),
  ISO("an ISO 9660 file system", false, 0x8001, text("CD001")),
  UDF("a UDF file system", false, 0x8001, text("BEA01")),
  UNKNOWN("no file system that is known here", false);

  private final String words;
  private final boolean seenInto;
  private final int offset;
  private final byte[] mark;

  FileSystemKind(String words, boolean seenInto, int... offsetAndMark) {
    this.words = words;
    this.seenInto = seenInto;
    this.offset = offsetAndMark.length == 0 ? 0 : offsetAndMark[0];
    this.mark = new byte[Math.max(0, offsetAndMark.length - 1)];
    for (int i = 0; i < mark.length; i++) {
      mark[i] = (byte) offsetAndMark[i + 1];
    }
  }

  FileSystemKind(String words, boolean seenInto, int offset, byte[] mark) {
    this.words = words;
    this.seenInto = seenInto;
    this.offset = offset;
    this.mark = mark;
  }

  private static byte[] text(String mark) {
    return mark.getBytes(StandardCharsets.US_ASCII);
  }

  /** In words with an article. */
  String words() {
    return words;
  }

  /** Whether it is looked into here: there is a checker for it, or there is nothing in it to lose. */
  boolean seenInto() {
    return seenInto;
  }

  /** What a partition begins like. */
  static FileSystemKind of(Disk disk, Partition partition) throws IOException {
    long offset = partition.first() * Disk.SECTOR;
    for (FileSystemKind kind : values()) {
      boolean is = kind == FAT
          ? fat(disk.read(offset, Disk.SECTOR))
          : kind.mark.length > 0 && kind.isAt(disk, offset);
      if (is) {
        return kind;
      }
    }
    return UNKNOWN;
  }

  /** Whether its mark is where it would be, did it begin at an offset of the disk. */
  boolean isAt(Disk disk, long begin) throws IOException {
    return Arrays.equals(disk.read(begin + offset, mark.length).array(), mark);
  }

  /** A boot sector with figures that FAT may have (Microsoft's FAT specification, 3). */
  static boolean fat(ByteBuffer boot) {
    int jump = boot.get(0) & 0xff;
    boolean jumps = jump == 0xeb && (boot.get(2) & 0xff) == 0x90 || jump == 0xe9;
    int sector = boot.getShort(11) & 0xffff;
    int cluster = boot.get(13) & 0xff;
    return jumps
        && (boot.getShort(510) & 0xffff) == 0xaa55
        && (sector == 512 || sector == 1024 || sector == 2048 || sector == 4096)
        && Integer.bitCount(cluster) == 1;
  }
}
