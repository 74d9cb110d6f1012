package hardproof.core.facts;

import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.ladder.Rung;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;

/** What the drills of a resource showed to be bad. */
final class Blames {
  private final List<DrillFact> drills;

  /** What failed drills blamed: of thousands of read-backs hardly any, and only those need all of them looked at. */
  private final Set<DrillFact.Blame> blamed;

  /**
   * @param drills in the order they ended
   */
  Blames(List<DrillFact> drills) {
    this.drills = drills;
    this.blamed =
        drills.stream().filter(DrillFact::failed).map(DrillFact::blame).collect(Collectors.toSet());
  }

  /** Whether any drill failed; if not, nothing is to blame. */
  boolean any() {
    return !blamed.isEmpty();
  }

  /**
   * The first drill that showed the point ({@code store} null) or its copy on a store to be bad,
   * unless the same was read whole again later.
   */
  DrillFact of(String point, String store) {
    if (blamed.isEmpty() || !blamed.contains(new DrillFact.Blame(point, store))) {
      return null;
    }
    DrillFact first = null;
    for (DrillFact drill : drills) {
      boolean same = drill.failed()
          && point.equals(drill.blamedPoint())
          && Objects.equals(store, drill.blamedStore());
      if (same && first == null) {
        first = drill;
      } else if (first != null && clears(drill, point, store, first)) {
        first = null;
      }
    }
    return first;
  }

  private static boolean clears(DrillFact drill, String point, String store, DrillFact failure) {
    return drill.passed()
        && point.equals(drill.point())
        && (store == null || store.equals(drill.store()))
        && (drill.method() == Method.READ_BACK && store != null
            || drill.rung().atLeast(store == null ? failure.reaches() : Rung.INTACT));
  }
}
