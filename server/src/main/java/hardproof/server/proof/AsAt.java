package hardproof.server.proof;

import hardproof.core.wording.WrongValue;
import java.time.DateTimeException;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * The instant that is looked at, and by what was known when.
 *
 * @param asAt null for now
 * @param knownAt {@link #THEN} for what was known at that instant, {@link #NOW} for what is known now of it, or
 *     the instant by which it was known; null for what is usual where it is asked
 */
public record AsAt(@Nullable Instant asAt, @Nullable String knownAt) {
  /** What was known at the instant itself. */
  public static final String THEN = "then";

  /** In hindsight: what is known by now. */
  public static final String NOW = "now";

  /** As at an instant by what was known then; null for now. */
  public static AsAt then(Instant asAt) {
    return new AsAt(asAt, null);
  }

  /** Another instant by what was known when this says. */
  public AsAt at(Instant other) {
    return new AsAt(other, knownAt);
  }

  /** In hindsight unless something else is said, as is usual for a period. */
  public AsAt usuallyHindsight() {
    return new AsAt(asAt, knownAt == null || knownAt.isBlank() ? NOW : knownAt);
  }

  /** Whether what was known at the instant itself is asked for. */
  public boolean knownThen() {
    return knownAt == null || knownAt.isBlank() || knownAt.equals(THEN);
  }

  /** Whether hindsight by all that is known now is asked for. */
  public boolean knownNow() {
    return NOW.equals(knownAt);
  }

  /**
   * The instant by which it was known, where {@link #knownAt} is one.
   *
   * @throws WrongValue when it is neither a word nor an instant
   */
  public Instant knownInstant() {
    try {
      return Instant.parse(knownAt);
    } catch (DateTimeException e) {
      throw new WrongValue("'" + knownAt
          + "' says not by what was known when; give then, now or an instant like"
          + " 2026-11-26T16:07:00Z");
    }
  }
}
