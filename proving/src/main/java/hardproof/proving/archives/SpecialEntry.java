package hardproof.proving.archives;

import hardproof.proving.archives.ArchiveEntry.Kind;
import java.time.Instant;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * An entry of a tree that is neither file nor folder: a link, a pipe or a device. It is kept beside the
 * restored tree, never made in it: nothing can be reached through it then, and it is compared all the same.
 *
 * @param path below the root
 * @param target where a link points; the numbers of a device; null of a pipe, or when not told
 * @param mode permissions; null when not told
 * @param modified null when not told
 */
public record SpecialEntry(
    String path,
    Kind kind,
    @Nullable String target,
    @Nullable Integer mode,
    @Nullable Instant modified) {

  SpecialEntry at(String other) {
    return new SpecialEntry(other, kind, target, mode, modified);
  }

  /** Whether both are of one kind and lead to the same place. */
  public boolean same(SpecialEntry other) {
    return kind == other.kind && Objects.equals(target, other.target);
  }

  /** {@code link to ../x}, for people. */
  public String words() {
    return switch (kind) {
      case LINK -> "a link to " + hardproof.proving.names.EntryName.shown(String.valueOf(target));
      case PIPE -> "a pipe";
      case CHARACTER_DEVICE -> "the character device " + target;
      case BLOCK_DEVICE -> "the block device " + target;
      case FILE, FOLDER, HARD_LINK -> throw new IllegalStateException(kind + " is nothing special");
    };
  }
}
