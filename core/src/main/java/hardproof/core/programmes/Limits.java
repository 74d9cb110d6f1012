package hardproof.core.programmes;

import hardproof.core.wording.WrongValue;
import org.jspecify.annotations.Nullable;

/**
 * What a programme may take at the most; null where nothing bounds it.
 *
 * @param atOnce of its drills that may go on at once
 * @param nightBytes that it may read between the opening of one night and that of the next
 * @param monthCost that its drills of a calendar month may come to
 * @param storeShare of what a store is said to read that each of its drills may ask for, 0 to 1
 */
public record Limits(
    @Nullable Integer atOnce,
    @Nullable Long nightBytes,
    @Nullable Double monthCost,
    @Nullable Double storeShare) {
  /** Nothing bounds it. */
  public static final Limits NONE = new Limits(null, null, null, null);

  /**
   * @throws WrongValue where a limit would let nothing through at all, or is none
   */
  public Limits {
    if (atOnce != null && atOnce < 1) {
      throw new WrongValue("restores at once are at least 1; leave it empty for no limit");
    }
    if (nightBytes != null && nightBytes < 1) {
      throw new WrongValue("bytes a night are at least 1; leave it empty for no limit");
    }
    if (monthCost != null && !(monthCost >= 0 && monthCost < 1e12)) {
      throw new WrongValue("the cost of a month is nothing or more; leave it empty for no limit");
    }
    if (storeShare != null && !(storeShare > 0 && storeShare <= 1)) {
      throw new WrongValue(
          "the share of a store's throughput is more than 0 and at most 1, such as 0.5");
    }
  }
}
