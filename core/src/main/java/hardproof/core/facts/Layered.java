package hardproof.core.facts;

import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A map that never changes, of which others are made that differ in a few keys without copying all of it.
 *
 * @param base the large part
 * @param top what comes before it
 */
public record Layered<V>(Map<String, V> base, Map<String, V> top) {
  /** The top is looked through and copied often: it is put into the base when it is a larger part than one in so many. */
  private static final int ONE_IN = 8;

  public static <V> Layered<V> of(Map<String, V> base) {
    return new Layered<>(base, Map.of());
  }

  public @Nullable V get(String key) {
    V own = top.isEmpty() ? null : top.get(key);
    return own == null ? base.get(key) : own;
  }

  /** The same with other values of some keys. */
  public Layered<V> with(Map<String, V> others) {
    boolean deep = (top.size() + others.size()) * (long) ONE_IN > base.size();
    Map<String, V> all = new HashMap<>(deep ? base : top);
    if (deep) {
      all.putAll(top);
    }
    all.putAll(others);
    return deep ? of(all) : new Layered<>(base, all);
  }
}
