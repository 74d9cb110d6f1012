package hardproof.core.forecast;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** An offer with what it would prove, at hand: nights look through all of them. For one forecast. */
record Prospect(Offer offer, Now now) {
  /** How a resource stands as nights pass. */
  static final class Now {
    final List<Need> needs;

    /** Whether a drill of it waits or goes on. */
    boolean busy;

    Now(List<Need> needs) {
      this.needs = needs;
    }
  }

  /**
   * By the key of a programme; the offers of one resource stand alike.
   *
   * @param now by the key of a resource; those that are missing are added
   */
  static Map<String, List<Prospect>> of(
      Map<String, List<Offer>> offers, Map<String, List<Need>> needs, Map<String, Now> now) {
    Map<String, List<Prospect>> all = new HashMap<>();
    offers.forEach((programme, list) -> {
      List<Prospect> own = new ArrayList<>(list.size());
      for (Offer offer : list) {
        String key = offer.resource().key();
        own.add(new Prospect(
            offer, now.computeIfAbsent(key, k -> new Now(needs.getOrDefault(k, List.of())))));
      }
      all.put(programme, own);
    });
    return all;
  }
}
