package hardproof.server.discovery;

import hardproof.core.discovery.PlacePattern;
import hardproof.core.estate.Kind;
import hardproof.core.points.Form;
import java.time.ZoneId;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How a store's names become facts.
 *
 * @param zone of times in names that don't say theirs
 */
record StoreFeed(String store, String feed, ZoneId zone, List<Followed> followed, String by) {
  /**
   * A pattern that is followed.
   *
   * @param kind of its resources
   * @param form of those whose names say none
   * @param format of its artifacts; null for what their endings say
   */
  record Followed(
      PlacePattern pattern, Kind kind, Form form, @Nullable String format) {}
}
