package hardproof.proving.images;

/**
 * A partition.
 *
 * @param name for messages: {@code partition 1}
 * @param first sector
 * @param sectors how many
 * @param use what its type says that it is for
 * @param active whether a boot record says that it is started from
 */
public record Partition(String name, long first, long sectors, Use use, boolean active) {
  /** What a type says, as far as it matters here. */
  public enum Use {
    /** The EFI system partition: newer firmware starts from it. */
    EFI_SYSTEM,
    /** Holds code of a loader that older firmware starts from a GPT, and no file system. */
    BIOS_BOOT,
    /** Holds a FAT file system. */
    FAT,
    /** Holds a file system of Linux. */
    LINUX,
    OTHER;

    boolean fat() {
      return this == FAT || this == EFI_SYSTEM;
    }
  }

  /** The sector behind its last. */
  long end() {
    return first + sectors;
  }
}
