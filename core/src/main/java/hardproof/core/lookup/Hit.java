package hardproof.core.lookup;

import hardproof.core.wording.Coded;
import org.jspecify.annotations.Nullable;

/**
 * Something that was found.
 *
 * @param key of the thing; of a drill its run, of a finding its key
 * @param detail what tells it from others of its name
 * @param why what of it matches, in words
 * @param workload key of the workload whose case file tells of it; null where none does
 * @param rank the smaller the better it matches
 */
public record Hit(
    Kind kind,
    String key,
    String name,
    String detail,
    String why,
    @Nullable String workload,
    int rank) {
  /** What it is, in the order in which equally good ones are shown. */
  public enum Kind implements Coded {
    WORKLOAD,
    RESOURCE,
    POINT,
    DRILL,
    FINDING,
    STORE,
    POLICY,
    FEED
  }
}
