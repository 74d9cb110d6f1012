package hardproof.core.survival;

import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;

/** The stores of an estate as bits of some numbers, so that sets of them are compared at once. */
final class StoreBits {
  private static final int WORD = Long.SIZE;

  private final List<Store> stores;
  private final Map<String, Integer> places = new HashMap<>();

  StoreBits(Estate estate) {
    stores = estate.facts().stores();
    for (int i = 0; i < stores.size(); i++) {
      places.put(stores.get(i).key(), i);
    }
  }

  /** Numbers that a set takes; at least one. */
  int words() {
    return Math.max(1, (stores.size() + WORD - 1) / WORD);
  }

  /** −1 where nobody knows the store. */
  int place(String store) {
    return places.getOrDefault(store, -1);
  }

  List<Store> stores() {
    return stores;
  }

  long[] of(Predicate<Store> which) {
    long[] bits = new long[words()];
    for (int i = 0; i < stores.size(); i++) {
      if (which.test(stores.get(i))) {
        set(bits, 0, i);
      }
    }
    return bits;
  }

  /**
   * @param from where the set begins
   */
  static void set(long[] bits, int from, int place) {
    bits[from + place / WORD] |= 1L << place % WORD;
  }

  static boolean has(long[] bits, int place) {
    return (bits[place / WORD] >>> place % WORD & 1) == 1;
  }
}
