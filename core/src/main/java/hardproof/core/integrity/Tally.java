package hardproof.core.integrity;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * How much of a store was read back; sizes in bytes.
 *
 * @param readFresh artifacts that were read whole lately
 * @param freshBytes of those
 * @param oldestRead when the artifact was read that was read least recently, of those that ever were
 */
public record Tally(
    int artifacts,
    long bytes,
    int readEver,
    int readFresh,
    long freshBytes,
    int damaged,
    @Nullable Instant oldestRead,
    @Nullable Instant newestRead) {
  static final Tally NOTHING = new Tally(0, 0, 0, 0, 0, 0, null, null);

  /** With one artifact more. */
  Tally with(long size, @Nullable Instant read, Instant freshFrom) {
    boolean fresh = read != null && !read.isBefore(freshFrom);
    return new Tally(
        artifacts + 1,
        bytes + size,
        readEver + (read == null ? 0 : 1),
        readFresh + (fresh ? 1 : 0),
        freshBytes + (fresh ? size : 0),
        damaged,
        read == null || oldestRead != null && !read.isBefore(oldestRead) ? oldestRead : read,
        read == null || newestRead != null && !read.isAfter(newestRead) ? newestRead : read);
  }

  Tally withDamage() {
    return new Tally(
        artifacts, bytes, readEver, readFresh, freshBytes, damaged + 1, oldestRead, newestRead);
  }
}
