package hardproof.proving.boot;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;

/**
 * The screens of a machine that are kept: the last ones, and the first bad one, which decides however long
 * ago it was.
 */
public final class KeptScreens<T> {
  private static final int LAST = 12;

  private final Deque<T> last = new ArrayDeque<>();
  private T firstBad;

  /** Whether a bad one is kept; another one need not be looked for then. */
  public boolean hasBad() {
    return firstBad != null;
  }

  public void add(T screen, boolean bad) {
    if (bad && firstBad == null) {
      firstBad = screen;
    }
    last.addLast(screen);
    if (last.size() > LAST) {
      last.removeFirst();
    }
  }

  /** Puts what is known better now in place of the newest. */
  public void replaceNewest(T screen, boolean bad) {
    last.removeLast();
    add(screen, bad);
  }

  /** The newest; null before the first. */
  public T newest() {
    return last.peekLast();
  }

  /** Oldest first. */
  public List<T> all() {
    List<T> all = new ArrayList<>();
    if (firstBad != null && !last.contains(firstBad)) {
      all.add(firstBad);
    }
    all.addAll(last);
    return all;
  }
}
