package hardproof.core.proof;

import hardproof.core.drills.Method;
import hardproof.core.wording.Coded;
import org.jspecify.annotations.Nullable;

/**
 * Something that would move a workload towards proven.
 *
 * @param method for a drill, otherwise null
 * @param point the point to drill, otherwise null
 */
public record Action(
    Type type,
    String resource,
    @Nullable String point,
    @Nullable Method method,
    String sentence) {
  /** What is to be done. */
  public enum Type implements Coded {
    COVER,
    MAKE_POINT,
    DRILL,
    REPORT
  }
}
