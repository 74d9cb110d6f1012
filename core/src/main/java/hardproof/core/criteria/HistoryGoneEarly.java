package hardproof.core.criteria;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.facts.PointSet;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/** Did copies vanish before their time? */
final class HistoryGoneEarly extends ShippedCriterion {
  HistoryGoneEarly() {
    super(
        Group.HISTORY,
        "Nothing gone early",
        "No copy vanished before its expiry in the period.",
        List.of("NIST CP-9(8)", "NIST SI-7"));
  }

  @Override
  Judgement judge(Subject s) {
    if (s.points().isEmpty()) {
      return Judgement.noPoint(s);
    }
    List<Copy> gone = goneEarly(s);
    Copy first = gone.isEmpty() ? null : gone.get(gone.size() - 1);
    return Judgement.of(
        OutcomeState.metIf(gone.isEmpty()),
        Measure.count(gone.size()),
        Measure.count(0),
        sentence(s, gone, first),
        "copies missing or deleted before their expiry = " + gone.size() + atMost(gone.isEmpty())
            + "0",
        facts(gone));
  }

  private static List<Copy> goneEarly(Subject s) {
    PointSet set = s.set();
    long begin = s.periodStart().toEpochMilli();
    List<Copy> gone = new ArrayList<>();
    for (int place = 0; place < set.copies().first(set.size()); place++) {
      CopyState state = set.copies().state(place);
      boolean vanished = (state == CopyState.MISSING || state == CopyState.DELETED)
          && set.copies().finished(place) != PointSet.NONE;
      // Where no expiry is known its number is below any time.
      if (vanished
          && set.copies().recordedAt(place) < set.copies().expires(place)
          && set.copies().recordedAt(place) >= begin) {
        gone.add(set.copies().at(place));
      }
    }
    return gone;
  }

  private static String sentence(Subject s, List<Copy> gone, Copy first) {
    return gone.isEmpty()
        ? "no copy vanished before its time in the last " + Wording.duration(s.period())
        : Wording.count(gone.size(), "copy", "copies") + " vanished early: the one of "
            + first.point() + " on " + s.estate().storeName(first.store()) + " was found "
            + first.state().code() + " at " + Wording.time(first.recordedAt(), s.asAt()) + ", "
            + Wording.duration(Duration.between(first.recordedAt(), first.expires()))
            + " before it expires";
  }

  private static List<FactRef> facts(List<Copy> gone) {
    return gone.stream()
        .map(c -> new FactRef("points", c.point()))
        .distinct()
        .limit(5)
        .toList();
  }
}
