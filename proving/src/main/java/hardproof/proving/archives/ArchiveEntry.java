package hardproof.proving.archives;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * One entry of an archive, as its format tells of it.
 *
 * @param name as it stands there ({@link hardproof.proving.names.EntryName})
 * @param target of a link: where it points; of a hard link: the name of the entry whose file it is; of a
 *     device: its numbers, {@code 8,1}; else null
 * @param sizeBytes of a file's content once restored; null when only reading it tells
 * @param mode permissions as in a tar header; null when not told
 * @param modified null when not told
 * @param kept of a folder in an incremental archive: what was in it then, and all else goes; else null
 */
public record ArchiveEntry(
    String name,
    Kind kind,
    @Nullable String target,
    @Nullable Long sizeBytes,
    @Nullable Integer mode,
    @Nullable Instant modified,
    @Nullable Dumpdir kept) {
  /** What an entry is. */
  public enum Kind {
    FILE("file"),
    FOLDER("dir"),
    LINK("link"),
    HARD_LINK("file"),
    PIPE("fifo"),
    CHARACTER_DEVICE("char"),
    BLOCK_DEVICE("block");

    private final String word;

    Kind(String word) {
      this.word = word;
    }

    /** As mtree(5) names its types. */
    public String word() {
      return word;
    }
  }

  static ArchiveEntry file(String name, Long sizeBytes, Integer mode, Instant modified) {
    return new ArchiveEntry(name, Kind.FILE, null, sizeBytes, mode, modified, null);
  }

  static ArchiveEntry folder(String name, Integer mode, Instant modified) {
    return new ArchiveEntry(name, Kind.FOLDER, null, null, mode, modified, null);
  }

  static ArchiveEntry link(String name, String target, Instant modified) {
    return new ArchiveEntry(name, Kind.LINK, target, null, null, modified, null);
  }
}
