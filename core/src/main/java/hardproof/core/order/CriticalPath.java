package hardproof.core.order;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;

/**
 * The longest way through what needs what: how soon all can be back where nothing but needs bounds it (critical path
 * method; J. E. Kelley and M. R. Walker, 1959). Times are milliseconds from the begin; what can never begin is left out.
 */
public final class CriticalPath {
  private final RecoverySteps steps;
  private final long[] earliest;
  private final long[] tail;
  private final long total;

  private CriticalPath(RecoverySteps steps, long[] earliest, long[] tail, long total) {
    this.steps = steps;
    this.earliest = earliest;
    this.tail = tail;
    this.total = total;
  }

  public static CriticalPath of(RecoverySteps steps) {
    long[] earliest = new long[steps.size()];
    long[] tail = new long[steps.size()];
    long total = 0;
    for (int place : steps.order()) {
      for (int need : steps.needs(place)) {
        earliest[place] =
            Math.max(earliest[place], earliest[need] + steps.step(need).millis());
      }
      total = Math.max(total, earliest[place] + steps.step(place).millis());
    }
    int[] order = steps.order();
    for (int i = order.length - 1; i >= 0; i--) {
      int place = order[i];
      for (int waiting : steps.neededBy(place)) {
        tail[place] = Math.max(tail[place], tail[waiting]);
      }
      tail[place] += steps.step(place).millis();
    }
    return new CriticalPath(steps, earliest, tail, total);
  }

  /** When all is back. */
  public long total() {
    return total;
  }

  /** When a step can begin. */
  public long earliestBegin(int place) {
    return earliest[place];
  }

  /** From the begin of a step until all that waits for it is back. */
  public long tail(int place) {
    return tail[place];
  }

  /** How much later a step could begin without anything ending later. */
  public long slack(int place) {
    return total - earliest[place] - tail[place];
  }

  /** Keys of the steps that set the time, first to last; of two ways as long, the one through what was named first. */
  public List<String> path() {
    List<String> path = new ArrayList<>();
    int at = -1;
    for (int place : steps.order()) {
      if (earliest[place] + steps.step(place).millis() == total
          && (at < 0 || steps.step(place).millis() > 0 && steps.step(at).millis() == 0)) {
        at = place;
      }
    }
    while (at >= 0) {
      path.add(steps.step(at).key());
      int before = -1;
      for (int need : steps.needs(at)) {
        if (earliest[need] + steps.step(need).millis() == earliest[at] && before < 0) {
          before = need;
        }
      }
      at = before;
    }
    Collections.reverse(path);
    return path;
  }
}
