package hardproof.server.feeds;

import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;

/** Finds points that would make a chain go in a circle, before any is stored. */
final class BasedOnCircles {
  private final Map<String, String> inFile = new HashMap<>();
  private final Set<String> sound = new HashSet<>();

  void add(String point, String basedOn) {
    inFile.put(point, basedOn);
  }

  /**
   * @param known based-on of a point that is stored already; null when it has none
   */
  boolean circles(String point, UnaryOperator<String> known) {
    Set<String> seen = new HashSet<>();
    String at = point;
    while (at != null && !sound.contains(at)) {
      if (!seen.add(at)) {
        return true;
      }
      at = inFile.containsKey(at) ? inFile.get(at) : known.apply(at);
    }
    sound.addAll(seen);
    return false;
  }
}
