package hardproof.core.findings;

import java.util.List;

/**
 * What of a feed waits for facts that are not known.
 *
 * @param facts how many name another that is not known; they are kept and join when it comes
 * @param stores keys of the stores that its copies name and nobody described, in order
 */
public record Pending(long facts, List<String> stores) {
  public static final Pending NOTHING = new Pending(0, List.of());
}
