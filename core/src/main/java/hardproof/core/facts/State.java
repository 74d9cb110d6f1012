package hardproof.core.facts;

/**
 * A state of a fact, known from {@code recordedAt} (inclusive) until {@code replacedAt} (exclusive;
 * {@link Long#MAX_VALUE} for the newest), in epoch milliseconds.
 */
public record State<T>(T fact, long recordedAt, long replacedAt) {
  public boolean knownAt(long instant) {
    return recordedAt <= instant && instant < replacedAt;
  }
}
