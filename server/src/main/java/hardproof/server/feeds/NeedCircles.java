package hardproof.server.feeds;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;

/** Finds things that need themselves over others, before any is stored. */
final class NeedCircles {
  private final Map<String, List<String>> inFile = new HashMap<>();

  void add(String key, List<String> needs) {
    inFile.put(key, needs);
  }

  /**
   * @param known what something that is stored already needs; empty when nothing
   */
  boolean leadsBack(String key, Function<String, List<String>> known) {
    Set<String> seen = new HashSet<>();
    Deque<String> open = new ArrayDeque<>(inFile.getOrDefault(key, List.of()));
    while (!open.isEmpty()) {
      String at = open.pop();
      if (at.equals(key)) {
        return true;
      }
      if (seen.add(at)) {
        open.addAll(inFile.containsKey(at) ? inFile.get(at) : known.apply(at));
      }
    }
    return false;
  }
}
