package hardproof.core.estate;

import hardproof.core.wording.Wording;
import java.util.List;

/**
 * How much of an estate a selector chooses.
 *
 * @param wholeTiers tiers of which it chooses every resource
 */
public record Coverage(int resources, int of, List<Integer> wholeTiers) {
  /** A larger share than this is much of an estate: one in so many. */
  private static final int ONE_IN = 10;

  public Coverage {
    wholeTiers = List.copyOf(wholeTiers);
  }

  /** More than a tenth of the estate, or a whole tier. */
  public boolean wide() {
    return resources * (long) ONE_IN > of || !wholeTiers.isEmpty();
  }

  /** {@code 24 of 60 resources (40 %), all of tier 3}. */
  public String sentence() {
    String tiers = wholeTiers.isEmpty()
        ? ""
        : ", all of tier "
            + Wording.list(wholeTiers.stream().map(String::valueOf).toList());
    return resources + " of " + Wording.count(of, "resource", "resources") + " ("
        + (of == 0 ? 0 : resources * 100L / of) + " %)" + tiers;
  }
}
