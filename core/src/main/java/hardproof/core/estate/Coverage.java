package hardproof.core.estate;

import hardproof.core.wording.Wording;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Function;

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

  /**
   * Of some resources.
   *
   * @param tierOf the tier of each; null where it is not known
   */
  public static Coverage of(
      List<Resource> resources, Function<Resource, Integer> tierOf, Selector selector) {
    Map<Integer, Boolean> whole = new TreeMap<>();
    int chosen = 0;
    for (Resource resource : resources) {
      Integer tier = tierOf.apply(resource);
      boolean matches = selector.matches(resource, tier);
      chosen += matches ? 1 : 0;
      if (tier != null) {
        whole.merge(tier, matches, Boolean::logicalAnd);
      }
    }
    whole.values().removeIf(all -> !all);
    return new Coverage(chosen, resources.size(), List.copyOf(whole.keySet()));
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
