package hardproof.core.points;

/**
 * When a point could be restored: from {@code from} (inclusive) until {@code until} (exclusive,
 * {@link #OPEN} when nothing has ended it). All in epoch milliseconds.
 */
public record UsableSpan(long dataTime, long from, long until) {
  public static final long OPEN = Long.MAX_VALUE;

  public boolean contains(long instant) {
    return from <= instant && instant < until;
  }
}
