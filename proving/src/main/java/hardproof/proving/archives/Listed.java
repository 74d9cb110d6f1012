package hardproof.proving.archives;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * An entry of a point as it would be after a restore.
 *
 * @param path with / between its parts
 * @param type {@code file}, {@code link} or {@code device}
 * @param sizeBytes null when it is not told without reading
 * @param modified null when it is not told
 * @param layer place of the point: which artifact of the chain it comes from
 */
public record Listed(
    String path,
    String type,
    @Nullable Long sizeBytes,
    @Nullable Instant modified,
    String layer) {
  Listed at(String other) {
    return new Listed(other, type, sizeBytes, modified, layer);
  }
}
