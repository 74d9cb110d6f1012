package hardproof.core.integrity;

import hardproof.core.facts.Estate;
import hardproof.core.facts.Usability;
import hardproof.core.points.Consistency;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.function.Predicate;

/** Which points a search for the last good one may try. */
public final class SearchCandidates {
  private SearchCandidates() {}

  /**
   * Newest first: complete, with a whole chain, known by then, and with artifacts that can be read.
   *
   * @param until points that became available later came after the search began
   * @param readable whether the artifacts of a point can be read from where they are asked for
   */
  public static List<RecoveryPoint> of(
      Estate facts, String resource, Instant until, Predicate<RecoveryPoint> readable) {
    List<RecoveryPoint> points = new ArrayList<>();
    for (Usability.Judged judged :
        Usability.of(facts, resource, Consistency.UNKNOWN).points()) {
      RecoveryPoint point = judged.point();
      boolean whole = point.outcome() == PointOutcome.COMPLETE && judged.chainWhole();
      boolean known = point.available() != null && !point.available().isAfter(until);
      if (whole && known && readable.test(point)) {
        points.add(point);
      }
    }
    Collections.reverse(points);
    return points;
  }
}
