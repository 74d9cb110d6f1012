package hardproof.proving.stores;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A thing on a store, as its list tells of it.
 *
 * @param place below the store, with / between its parts
 * @param modified when the store says that it was written last
 * @param tag what the store gives it anew each time it is written; null where it gives none
 * @param storageClass null for the usual one, or where the store has none
 * @param older bytes of older versions that the store still keeps under the same place
 * @param deleted it was deleted, and only older versions are kept: whoever reads it is told that it is gone
 */
public record Listed(
    String place,
    long size,
    Instant modified,
    @Nullable String tag,
    @Nullable String storageClass,
    long older,
    boolean deleted) {
  /** A file, of which nothing else is told. */
  public static Listed file(String place, long size, Instant modified) {
    return new Listed(place, size, modified, null, null, 0, false);
  }
}
