package hardproof.core.moves;

import hardproof.core.estate.Resource;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * That a resource went to another site, and may be back.
 *
 * @param home where it was
 * @param away where it went; the last site where it went to several
 * @param left when facts first put it elsewhere
 * @param back when facts first put it home again; null while it is away
 */
public record Move(
    Resource resource,
    String home,
    String away,
    Instant left,
    @Nullable Instant back) {
  /**
   * The last one. Home is where it was first, or where it was when a person said that it stays.
   *
   * @param stays of the resource, oldest first
   * @param settled when a person last said that it is where it belongs; null where nobody did
   */
  public static Optional<Move> of(Resource resource, List<Stay> stays, @Nullable Instant settled) {
    String home = null;
    Move move = null;
    for (Stay stay : stays) {
      if (home == null || settled != null && !stay.since().isAfter(settled)) {
        home = stay.site();
        move = null;
      } else if (!stay.site().equals(home)) {
        boolean on = move != null && move.back() == null;
        move = new Move(resource, home, stay.site(), on ? move.left() : stay.since(), null);
      } else if (move != null && move.back() == null) {
        move = new Move(resource, home, move.away(), move.left(), stay.since());
      }
    }
    return Optional.ofNullable(move);
  }

  public Move {
    Objects.requireNonNull(home);
  }

  /** Whether data of an instant was made while it was away, as far as facts tell when that was. */
  boolean awayAt(long instant) {
    return instant >= left.toEpochMilli() && (back == null || instant < back.toEpochMilli());
  }
}
