package hardproof.proving.drills;

import hardproof.core.ladder.Rung;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a drill will do and take, worked out before anything starts.
 *
 * @param reaches the rung that a pass would show
 * @param readBytes that will be read from the store
 * @param spaceBytes needed in the sandbox, estimated; 0 for methods that need none
 * @param freeBytes that sandboxes may take now
 * @param notes what a person should know of it, each a sentence
 * @param refusal why it can't be done, with what would do instead; null when it can
 */
public record DrillPlan(
    Rung reaches,
    List<String> steps,
    long readBytes,
    long spaceBytes,
    long freeBytes,
    DrillLimits limits,
    List<String> notes,
    @Nullable String refusal) {}
