package hardproof.proving.images;

/**
 * A partition.
 *
 * @param name for messages: {@code partition 1}
 * @param first sector
 * @param sectors how many
 * @param fat whether its type says that a FAT file system is in it
 * @param boot whether firmware starts from it: the EFI system partition, or the active one
 */
public record Partition(String name, long first, long sectors, boolean fat, boolean boot) {
  /** The sector behind its last. */
  long end() {
    return first + sectors;
  }
}
