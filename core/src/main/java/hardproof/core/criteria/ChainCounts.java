package hardproof.core.criteria;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyCount;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.Usability;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * The figures of the copy rule where a chain protects only as well as its weakest point: each figure of a
 * point is the smallest over the points of its chain. Points whose chain holds nothing down count
 * together, as their copies lie; of the others the best counts by itself.
 */
final class ChainCounts {
  private final Resource resource;
  private final Estate estate;
  private final Usability usability;
  private final PointSet set;
  private final Instant clock;
  private final long clockMs;
  private int errors;
  private final Map<Integer, CopyCount> own = new HashMap<>();
  private final Map<Integer, Weakest> weakest = new HashMap<>();
  private final List<Kept> whole = List.of(new Kept(), new Kept(), new Kept(), new Kept());

  /** Of points that hang from nothing, so that nothing holds them down: they count in every figure. */
  private final Kept alone = new Kept();

  private final Kept all = new Kept();
  private final int[] best = {1, 1, 0, 0};
  private final String[] heldBy = new String[4];
  private @Nullable List<Copy> readable;

  /**
   * @param clock up to when locks are counted
   */
  ChainCounts(Resource resource, Estate estate, Usability usability, Instant clock) {
    this.resource = resource;
    this.estate = estate;
    this.usability = usability;
    this.set = usability.set();
    this.clock = clock;
    this.clockMs = clock.toEpochMilli();
  }

  /** The smallest of each figure over a chain, and the row of the point that has it. */
  private record Weakest(int[] figures, int[] rows) {}

  /** Of the points from a row on: those that are usable, and the copies of all of them that are bad. */
  void addFrom(int firstRow) {
    BitSet seen = new BitSet();
    for (int row = firstRow; row < set.size(); row++) {
      errors += errorsOfChain(row, seen);
      if (usability.usableAt(row, estate.asAt().toEpochMilli())) {
        add(row);
      }
    }
  }

  /** Copies in error of a point and its bases, each counted once. */
  private int errorsOfChain(int row, BitSet seen) {
    int bad = 0;
    int at = row;
    while (at >= 0 && !seen.get(at)) {
      seen.set(at);
      for (int place = set.copies().first(at); place < set.copies().first(at + 1); place++) {
        bad += usability.inError(place) ? 1 : 0;
      }
      at = set.hangs(at) ? set.basedOn(at) : -1;
    }
    return bad;
  }

  private void add(int row) {
    all.addGood(row);
    if (!set.hangs(row)) {
      alone.addGood(row);
      return;
    }
    int[] mine = figures(own(row));
    Weakest chain = weakest(row);
    for (int f = 0; f < mine.length; f++) {
      if (chain.figures()[f] == mine[f]) {
        whole.get(f).addGood(row);
      } else if (chain.figures()[f] >= best[f]) {
        best[f] = chain.figures()[f];
        heldBy[f] = set.key(chain.rows()[f]);
      }
    }
  }

  private static int[] figures(CopyCount c) {
    return new int[] {c.copies(), c.media(), c.offSite(), c.offlineOrLocked()};
  }

  /** Down the chain to what is known already, and up again: chains may be long. */
  private Weakest weakest(int row) {
    Deque<Integer> way = new ArrayDeque<>();
    int at = row;
    while (!weakest.containsKey(at)) {
      way.push(at);
      if (!set.hangs(at)) {
        break;
      }
      at = set.basedOn(at);
    }
    Weakest below = weakest.get(at);
    while (!way.isEmpty()) {
      int next = way.pop();
      below = weakest(next, below);
      weakest.put(next, below);
    }
    return below;
  }

  /** Of one point and what it hangs from; null where it hangs from nothing. */
  private Weakest weakest(int row, Weakest below) {
    int[] figures = figures(own(row));
    int[] rows = {row, row, row, row};
    for (int f = 0; below != null && f < figures.length; f++) {
      if (below.figures()[f] < figures[f]) {
        figures[f] = below.figures()[f];
        rows[f] = below.rows()[f];
      }
    }
    return new Weakest(figures, rows);
  }

  private CopyCount own(int row) {
    return own.computeIfAbsent(row, r -> {
      Kept copies = new Kept();
      copies.addGood(r);
      return CopyCount.of(resource, copies.list(), 0, estate::store, clock);
    });
  }

  /** Copies that count: one on each store is enough, and one that is locked where there is any. */
  private final class Kept {
    private final List<Integer> places = new ArrayList<>();

    void addGood(int row) {
      for (int place = set.copies().first(row); place < set.copies().first(row + 1); place++) {
        if (!usability.inError(place) && usability.readable(place) && isNew(place)) {
          places.add(place);
        }
      }
    }

    void addAll(Kept others) {
      others.places.stream().filter(this::isNew).forEach(places::add);
    }

    private boolean isNew(int place) {
      for (int kept : places) {
        if (set.copies().store(kept) == set.copies().store(place)
            && (locked(kept) || !locked(place))) {
          return false;
        }
      }
      return true;
    }

    private boolean locked(int place) {
      // Where no lock is known its number is below any time.
      return set.copies().lockedUntil(place) > clockMs;
    }

    List<Copy> list() {
      return places.stream().map(set.copies()::at).toList();
    }
  }

  List<Copy> readable() {
    if (readable == null) {
      readable = all.list();
    }
    return readable;
  }

  CopyCount whole() {
    CopyCount together = CopyCount.of(resource, readable(), errors, estate::store, clock);
    int[] figures = new int[4];
    String[] held = new String[4];
    for (int f = 0; f < figures.length; f++) {
      whole.get(f).addAll(alone);
      // Where no chain holds anything down these are all there are, and counted already.
      int[] of = figures(
          whole.get(f).places.equals(all.places)
              ? together
              : CopyCount.of(resource, whole.get(f).list(), 0, estate::store, clock));
      boolean down = heldBy[f] != null && best[f] >= of[f];
      figures[f] = heldBy[f] == null ? of[f] : Math.max(of[f], best[f]);
      held[f] = down ? heldBy[f] : null;
    }
    return together.held(figures, held);
  }
}
