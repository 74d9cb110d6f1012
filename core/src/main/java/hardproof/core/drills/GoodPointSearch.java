package hardproof.core.drills;

import java.util.Map;

/**
 * Looks for the newest point that passes, with as few drills as it can. Points are numbered from 0, the
 * newest. Where damage that came once stays (a database that went bad inside is backed up bad from then
 * on), halving finds the border; where every artifact may be bad by itself, they are tried one by one.
 */
public final class GoodPointSearch {
  private GoodPointSearch() {}

  /**
   * What to do next.
   *
   * @param point its number: to be tried, or found; −1 when there is none
   */
  public record Step(Kind kind, int point) {}

  /** What a step says. */
  public enum Kind {
    TRY,
    FOUND,
    /** Every point was tried and failed. */
    NONE
  }

  /**
   * @param points how many there are
   * @param tried number to whether it passed
   * @param stays whether damage is taken to stay once it came. That is dropped when the tries show
   *     otherwise, or when the oldest point is bad too
   */
  public static Step next(int points, Map<Integer, Boolean> tried, boolean stays) {
    if (points == 0) {
      return new Step(Kind.NONE, -1);
    }
    if (!tried.containsKey(0)) {
      return new Step(Kind.TRY, 0);
    }
    if (tried.get(0)) {
      return new Step(Kind.FOUND, 0);
    }
    return stays && holds(points, tried) ? halve(points, tried) : oneByOne(points, tried);
  }

  /** Whether what was tried fits to bad points first and good ones after them, the oldest good. */
  private static boolean holds(int points, Map<Integer, Boolean> tried) {
    if (Boolean.FALSE.equals(tried.get(points - 1))) {
      return false;
    }
    boolean goodSeen = false;
    for (int i = 0; i < points; i++) {
      Boolean passed = tried.get(i);
      if (passed != null) {
        if (goodSeen && !passed) {
          return false;
        }
        goodSeen |= passed;
      }
    }
    return true;
  }

  private static Step halve(int points, Map<Integer, Boolean> tried) {
    if (!tried.containsKey(points - 1)) {
      return new Step(Kind.TRY, points - 1);
    }
    int bad = 0;
    int good = points - 1;
    for (Map.Entry<Integer, Boolean> one : tried.entrySet()) {
      if (one.getValue()) {
        good = Math.min(good, one.getKey());
      } else {
        bad = Math.max(bad, one.getKey());
      }
    }
    return good - bad == 1 ? new Step(Kind.FOUND, good) : new Step(Kind.TRY, (bad + good) / 2);
  }

  private static Step oneByOne(int points, Map<Integer, Boolean> tried) {
    for (int i = 0; i < points; i++) {
      Boolean passed = tried.get(i);
      if (passed == null) {
        return new Step(Kind.TRY, i);
      }
      if (passed) {
        return new Step(Kind.FOUND, i);
      }
    }
    return new Step(Kind.NONE, -1);
  }
}
