package hardproof.core.facts;

/**
 * A state of a fact as a feed told it (null where not known), known from {@code recordedAt} (inclusive) until {@code replacedAt} (exclusive;
 * {@link Long#MAX_VALUE} for the newest), in epoch milliseconds.
 */
public record State<T>(T fact, String feed, long recordedAt, long replacedAt) {
  public boolean knownAt(long instant) {
    return recordedAt <= instant && instant < replacedAt;
  }
}
