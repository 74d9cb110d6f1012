package hardproof.proving.archives;

import java.time.Instant;

/**
 * What stands before an entry of a cpio archive.
 *
 * @param file the device and the inode, by which names of one file know each other
 * @param device of a device: its numbers
 * @param padding bytes behind its content that belong to nothing
 * @param sum of its bytes; −1 where none is stored
 */
record CpioHeader(
    String name,
    long size,
    int mode,
    long links,
    String file,
    Instant modified,
    String device,
    int padding,
    long sum) {
  /** The bits of a mode that say what kind of file it is. */
  static final int TYPE = 0170000;

  ArchiveEntry emptyFile() {
    return ArchiveEntry.file(name, 0L, mode & 07777, modified);
  }
}
