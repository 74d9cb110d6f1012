package hardproof.core.programmes;

import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A drill that waits or is under way, with what it will take.
 *
 * @param programme null where a person asked for it
 * @param neededBy when the proof that it renews lapses; null where there is none to lapse
 * @param takes as long as is estimated; null where nothing says
 */
public record QueuedDrill(
    String id,
    @Nullable String programme,
    Instant queued,
    @Nullable Instant neededBy,
    String store,
    @Nullable Duration takes,
    long readBytes,
    long spaceBytes,
    double cost) {}
