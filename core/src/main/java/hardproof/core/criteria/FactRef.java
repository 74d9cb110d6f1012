package hardproof.core.criteria;

/** A fact that an outcome rests on. {@code kind} is the bundle file it belongs to, or "drills". */
public record FactRef(String kind, String key) {
  /** Of many facts that say the same, the first so many are enough to look at. */
  static final int ENOUGH = 5;
}
