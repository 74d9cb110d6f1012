package hardproof.core.criteria;

import hardproof.core.copies.Copy;
import hardproof.core.facts.PointSet;
import java.util.function.Predicate;

/** What is left of a resource where only some of its copies are: points are judged again with their whole chains. */
final class LeftOver {
  private LeftOver() {}

  /**
   * Whether a usable point is left, each point of its chain in a copy that can be read and that is among those.
   *
   * @param keysLost whether nothing opens what is encrypted any more
   */
  static boolean any(Subject s, boolean keysLost, Predicate<Copy> left) {
    for (int row = s.set().size() - 1; row >= 0; row--) {
      if (s.usable(row) && whole(s, row, keysLost, left)) {
        return true;
      }
    }
    return false;
  }

  private static boolean whole(Subject s, int newest, boolean keysLost, Predicate<Copy> left) {
    PointSet set = s.set();
    int row = newest;
    while (row >= 0) {
      if (keysLost && set.encrypted(row) == 1 || !here(s, row, left)) {
        return false;
      }
      row = set.hangs(row) ? set.basedOn(row) : -1;
    }
    return true;
  }

  private static boolean here(Subject s, int row, Predicate<Copy> left) {
    PointSet set = s.set();
    for (int place = set.copies().first(row); place < set.copies().first(row + 1); place++) {
      if (s.usability().readable(place) && left.test(set.copies().at(place))) {
        return true;
      }
    }
    return false;
  }
}
