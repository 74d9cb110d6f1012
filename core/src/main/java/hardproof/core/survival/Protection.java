package hardproof.core.survival;

import hardproof.core.copies.Copy;
import hardproof.core.criteria.Subject;
import hardproof.core.drills.DrillFact;
import hardproof.core.estate.Resource;
import hardproof.core.facts.PointSet;
import hardproof.core.ladder.Rung;
import hardproof.core.losses.Loss;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * The points of one resource with the stores that have them, packed so that thousands of losses can be tried: of each
 * point which stores have a copy that can be read, and which of these an intruder could not delete.
 */
final class Protection {
  private final int words;
  private final long[] dataTimes;
  private final boolean[] usable;
  private final int[] basedOn;
  private final int[] feeds;
  private final long[] readable;
  private final long[] safe;
  private final List<Shown> shown;
  private final boolean[] encrypted;
  private final Predicate<Loss> takesKeys;

  /**
   * A drill that counts, by the stores it vouches for.
   *
   * @param stores its own, and those with a copy of the same bytes
   */
  private record Shown(Rung rung, long[] stores) {}

  private Protection(int words, int rows, List<Shown> shown, Predicate<Loss> takesKeys) {
    this.words = words;
    this.dataTimes = new long[rows];
    this.usable = new boolean[rows];
    this.basedOn = new int[rows];
    this.feeds = new int[rows];
    this.readable = new long[rows * words];
    this.safe = new long[rows * words];
    this.shown = shown;
    this.encrypted = new boolean[rows];
    this.takesKeys = takesKeys;
  }

  /**
   * @param counting drills that passed, count and are inside the proof period
   */
  static Protection of(
      Subject subject, List<DrillFact> counting, StoreBits bits, FeedNumbers feeds) {
    PointSet set = subject.set();
    List<Shown> shown = counting.stream()
        .map(d -> new Shown(d.rung(), vouchedFor(set, d, bits)))
        .toList();
    Resource with = subject.protector();
    Protection made = new Protection(
        bits.words(),
        set.size(),
        shown,
        with.restoring().keyPlaces().isEmpty()
            ? loss -> false
            : loss -> loss.takesKeys(with, bits.stores()));
    for (int row = 0; row < set.size(); row++) {
      made.dataTimes[row] = set.dataTime(row);
      made.usable[row] = subject.usable(row);
      made.encrypted[row] = set.encrypted(row) == 1;
      made.basedOn[row] = set.hangs(row) ? set.basedOn(row) : -1;
      made.feeds[row] = feeds.of(set.feed(row));
      made.addCopies(row, subject, bits);
    }
    return made;
  }

  private void addCopies(int row, Subject subject, StoreBits bits) {
    PointSet set = subject.set();
    for (int place = set.copies().first(row); place < set.copies().first(row + 1); place++) {
      Copy copy = set.copies().at(place);
      int store = bits.place(copy.store());
      if (store >= 0 && subject.usability().readable(place)) {
        StoreBits.set(readable, row * words, store);
        if (Loss.outlasts(copy, bits.stores().get(store), subject.asAt())) {
          StoreBits.set(safe, row * words, store);
        }
      }
    }
  }

  private static long[] vouchedFor(PointSet set, DrillFact drill, StoreBits bits) {
    long[] stores = new long[bits.words()];
    add(stores, bits, drill.store());
    int row = set.row(drill.point());
    // Of a chain the other points would have to be the same too.
    if (row >= 0 && !set.hangs(row)) {
      String bytes = set.copiesOf(row).stream()
          .filter(c -> c.store().equals(drill.store()))
          .map(Copy::sha256)
          .filter(Objects::nonNull)
          .findFirst()
          .orElse(null);
      set.copiesOf(row).stream()
          .filter(c -> bytes != null && bytes.equalsIgnoreCase(c.sha256()))
          .forEach(c -> add(stores, bits, c.store()));
    }
    return stores;
  }

  private static void add(long[] stores, StoreBits bits, String key) {
    int place = bits.place(key);
    if (place >= 0) {
      StoreBits.set(stores, 0, place);
    }
  }

  /**
   * What a loss leaves.
   *
   * @param lost stores that are lost
   * @param intruder whether what is not safe is lost too
   * @param taintedAfter epoch milliseconds after which data is tainted
   * @param taintedFeeds by their numbers those whose data is; null where that of every feed is
   * @param loss that it is of: it may take keys, too
   */
  record Blow(
      long[] lost,
      boolean intruder,
      long taintedAfter,
      boolean @Nullable [] taintedFeeds,
      Loss loss) {}

  /** The newest point that is left with its chain; −1 where none is. */
  int newestLeft(Blow blow) {
    return newestLeft(blow, takesKeys.test(blow.loss()));
  }

  private int newestLeft(Blow blow, boolean sealed) {
    for (int row = dataTimes.length - 1; row >= 0; row--) {
      if (left(row, blow, sealed)) {
        return row;
      }
    }
    return -1;
  }

  /** Whether points are left that could only be opened with keys that a loss takes. */
  boolean sealed(Blow blow) {
    return takesKeys.test(blow.loss());
  }

  /** As {@link #newestLeft}, the oldest. */
  int oldestLeft(Blow blow) {
    boolean sealed = takesKeys.test(blow.loss());
    for (int row = 0; row < dataTimes.length; row++) {
      if (left(row, blow, sealed)) {
        return row;
      }
    }
    return -1;
  }

  /** As {@link #newestLeft}, as if no keys were taken. */
  int newestUnsealed(Blow blow) {
    return newestLeft(blow, false);
  }

  /** Whether a store has a copy of a point that can be read. */
  boolean readableOn(int row, int store) {
    return (readable[row * words + store / Long.SIZE] >>> store % Long.SIZE & 1) == 1;
  }

  /** The same of the point and of all that it hangs from. */
  boolean wholeOn(int row, int store) {
    boolean whole = true;
    for (int at = row; at >= 0; at = basedOn[at]) {
      whole &= readableOn(at, store);
    }
    return whole;
  }

  /** The newest where nothing is lost; −1 where there is none. */
  int usableRow() {
    return newestLeft(nothing(Long.MAX_VALUE, null));
  }

  /** The newest that would be left if a copy of all points lay where a loss takes nothing, and their keys too. */
  int newestTrusted(Blow blow) {
    return newestLeft(nothing(blow.taintedAfter(), blow.taintedFeeds()));
  }

  private Blow nothing(long taintedAfter, boolean @Nullable [] taintedFeeds) {
    return new Blow(new long[words], false, taintedAfter, taintedFeeds, Loss.NONE);
  }

  /** Whether a point or one that it hangs from is known to be encrypted. */
  boolean encrypted(int row) {
    boolean any = false;
    for (int at = row; at >= 0; at = basedOn[at]) {
      any |= encrypted[at];
    }
    return any;
  }

  private boolean left(int row, Blow blow, boolean sealed) {
    if (!usable[row]) {
      return false;
    }
    for (int at = row; at >= 0; at = basedOn[at]) {
      if (!anyLeft(at, blow) || sealed && encrypted[at] || tainted(at, blow)) {
        return false;
      }
    }
    return true;
  }

  private boolean tainted(int row, Blow blow) {
    return dataTimes[row] > blow.taintedAfter()
        && (blow.taintedFeeds() == null || feeds[row] >= 0 && blow.taintedFeeds()[feeds[row]]);
  }

  private boolean anyLeft(int row, Blow blow) {
    long[] copies = blow.intruder() ? safe : readable;
    for (int w = 0; w < words; w++) {
      if ((copies[row * words + w] & ~blow.lost()[w]) != 0) {
        return true;
      }
    }
    return false;
  }

  long dataTime(int row) {
    return dataTimes[row];
  }

  /** The stores that still have a point. */
  long[] storesLeft(int row, Blow blow) {
    long[] copies = blow.intruder() ? safe : readable;
    long[] left = Arrays.copyOfRange(copies, row * words, (row + 1) * words);
    for (int w = 0; w < words; w++) {
      left[w] &= ~blow.lost()[w];
    }
    return left;
  }

  /** The highest rung that was shown from one of the stores, or from the same bytes; null where none was. */
  @Nullable
  Rung shownFrom(long[] stores) {
    Rung best = null;
    for (Shown one : shown) {
      boolean vouches = false;
      for (int w = 0; w < words; w++) {
        vouches |= (one.stores()[w] & stores[w]) != 0;
      }
      if (vouches && (best == null || one.rung().atLeast(best))) {
        best = one.rung();
      }
    }
    return best;
  }
}
