package hardproof.proving.drills;

import hardproof.proving.checksums.BlockManifest;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * What was found when an artifact without a checksum was read for the first time. It can show that
 * nothing has changed since, not that it was right then.
 *
 * @param seen null for one that this run made
 */
public record Baseline(String point, String place, @Nullable Instant seen, BlockManifest blocks) {}
