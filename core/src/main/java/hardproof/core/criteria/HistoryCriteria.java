package hardproof.core.criteria;

import static hardproof.core.criteria.Criteria.metIf;
import static hardproof.core.criteria.Criteria.notAsked;
import static hardproof.core.criteria.Criteria.notDemanded;
import static hardproof.core.criteria.Criteria.outcome;
import static hardproof.core.criteria.Criteria.unknown;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.estate.Policy;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.Usability.Judged;
import hardproof.core.points.PointOutcome;
import hardproof.core.retention.Retention;
import hardproof.core.retention.Slot;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;

/** How far back can it be brought, and is that what was promised? */
final class HistoryCriteria {
  private HistoryCriteria() {}

  static Outcome reach(Subject s) {
    CriterionCode code = CriterionCode.HISTORY_REACH;
    Duration demanded = s.demand().duration(Parameter.REACH);
    if (demanded == null) {
      return notDemanded(code, s);
    }
    Optional<Judged> oldest = IntStream.range(0, s.set().size())
        .filter(s::usable)
        .mapToObj(s.points()::get)
        .findFirst();
    Duration reach =
        oldest.map(j -> Duration.between(j.point().dataTime(), s.asAt())).orElse(Duration.ZERO);
    boolean met = reach.compareTo(demanded) >= 0;
    Instant firstSeen = s.resource().firstSeen();
    if (!met && firstSeen == null) {
      return unknown(
          code,
          s,
          "usable points reach back " + Wording.duration(reach) + " of the "
              + Wording.duration(demanded)
              + " demanded; since when the resource is there is not known",
          "first seen is not known");
    }
    if (!met && firstSeen.isAfter(s.asAt().minus(demanded))) {
      return unknown(
          code,
          s,
          "not enough history: it was first seen "
              + Wording.duration(Duration.between(firstSeen, s.asAt())) + " ago, "
              + Wording.duration(demanded) + " of reach are demanded",
          "as at − first seen "
              + Wording.duration(Duration.between(firstSeen, s.asAt())) + " < "
              + Wording.duration(demanded));
    }
    return outcome(
        code,
        s,
        metIf(met),
        Measure.of(reach),
        Measure.of(demanded),
        oldest.isEmpty()
            ? s.resource().name() + " has no usable point, so it reaches back not at all"
            : "the oldest usable point is from "
                + Wording.time(oldest.get().point().dataTime(), s.asAt()) + ": it reaches back "
                + Wording.duration(reach) + ", "
                + Wording.duration(reach.minus(demanded).abs())
                + (met ? " more than the " : " short of the ") + Wording.duration(demanded)
                + " demanded",
        "as at − oldest usable data time = " + Wording.duration(reach) + " ≥ "
            + Wording.duration(demanded),
        oldest.map(j -> List.of(new FactRef("points", j.point().key()))).orElse(List.of()));
  }

  static Outcome slots(Subject s) {
    CriterionCode code = CriterionCode.HISTORY_SLOTS;
    long[] dataTimes = IntStream.range(0, s.set().size())
        .filter(s::usable)
        .mapToLong(s.set()::dataTime)
        .toArray();
    Policy policy = s.policies().stream()
        .filter(
            p -> !p.retention().slots(s.asAt(), s.standard().zone(), dataTimes).isEmpty())
        .max(Comparator.comparing(
            p -> p.retention().slots(s.asAt(), s.standard().zone(), dataTimes).size()))
        .orElse(null);
    if (policy == null) {
      return notAsked(code, s, "no policy of it promises a day, week, month or year");
    }
    List<Slot> slots = policy.retention().slots(s.asAt(), s.standard().zone(), dataTimes);
    Instant since = s.resource().firstSeen();
    List<Slot> missing = Retention.missing(slots, dataTimes, since);
    FactRef fact = new FactRef("policies", policy.key());
    boolean tooYoung = since == null || slots.get(0).from().isBefore(since);
    if (tooYoung) {
      long asked = since == null
          ? 0
          : slots.stream().filter(x -> !x.from().isBefore(since)).count();
      return unknown(
          code,
          s,
          since == null
              ? "since when the resource is there is not known, so which of the " + slots.size()
                  + " slots it must hold is not either"
              : "not enough history: " + policy.name() + " promises "
                  + Wording.count(slots.size(), "slot", "slots") + " back to "
                  + slots.get(0).label() + ", and it was first seen on "
                  + Wording.time(since, s.asAt()) + "; of the " + asked + " since then "
                  + (asked - missing.size()) + " are held",
          "slots before first seen can't be asked for");
    }
    boolean met = missing.isEmpty();
    long held = slots.size() - missing.size();
    return outcome(
        code,
        s,
        metIf(met),
        Measure.count(held),
        Measure.count(slots.size()),
        met
            ? "each of the " + slots.size() + " slots that " + policy.name() + " promises ("
                + policy.retention().words() + ") holds a usable point"
            : missing.size() + " of the " + slots.size() + " slots that " + policy.name()
                + " promises hold no usable point: " + labels(missing),
        "slots with at least one usable data time = " + held + " of " + slots.size() + " ("
            + policy.retention().words() + ", by the calendar of "
            + s.standard().zone() + ")",
        List.of(fact));
  }

  private static String labels(List<Slot> missing) {
    int shown = Math.min(5, missing.size());
    // The newest gaps are the ones that can still be explained.
    List<String> labels = missing.subList(missing.size() - shown, missing.size()).stream()
        .map(Slot::label)
        .toList();
    return Wording.list(labels)
        + (missing.size() > shown ? " and " + (missing.size() - shown) + " before" : "");
  }

  static Outcome onPaper(Subject s) {
    CriterionCode code = CriterionCode.HISTORY_ON_PAPER;
    Duration demanded = s.demand().duration(Parameter.REACH);
    if (demanded == null) {
      return notDemanded(code, s);
    }
    if (s.policies().isEmpty()) {
      return notAsked(code, s, "no policy has it in scope: there is no retention to judge");
    }
    Policy best = null;
    Duration reach = null;
    for (Policy policy : s.policies()) {
      Duration own = policy.retention().reachOnPaper(policy.longestGap(s.asAt()).orElse(null));
      if (own != null && (reach == null || own.compareTo(reach) > 0)) {
        best = policy;
        reach = own;
      }
    }
    if (reach == null) {
      return unknown(
          code, s, "no policy of it states how long points are kept", "retention = none");
    }
    boolean met = reach.compareTo(demanded) >= 0;
    return outcome(
        code,
        s,
        metIf(met),
        Measure.of(reach),
        Measure.of(demanded),
        best.name() + " keeps " + best.retention().words()
            + best.longestGap(s.asAt())
                .map(g -> " with " + Wording.duration(g) + " between starts")
                .orElse("")
            + ", which reaches " + Wording.duration(reach) + " back, "
            + Wording.duration(reach.minus(demanded).abs())
            + (met ? " more than the " : " short of the ") + Wording.duration(demanded)
            + " demanded",
        "the farthest of points kept × longest gap, days kept whole, and long-tail slots = "
            + Wording.duration(reach) + " ≥ " + Wording.duration(demanded),
        List.of(new FactRef("policies", best.key())));
  }

  static Outcome lifetime(Subject s) {
    CriterionCode code = CriterionCode.HISTORY_LIFETIME;
    Duration demanded = s.demand().duration(Parameter.LIFETIME);
    if (demanded == null) {
      return notDemanded(code, s);
    }
    PointSet set = s.set();
    long begin = s.periodStart().toEpochMilli();
    long least = Long.MAX_VALUE;
    int shortestOf = -1;
    int judged = 0;
    int under = 0;
    for (int row = 0; row < set.size(); row++) {
      if (set.available(row) == PointSet.NONE
          || set.available(row) < begin
          || set.outcome(row) != PointOutcome.COMPLETE) {
        continue;
      }
      long expires = PointSet.NONE;
      for (int place = set.firstCopy(row); place < set.firstCopy(row + 1); place++) {
        expires = Math.max(expires, set.copyExpires(place));
      }
      if (expires == PointSet.NONE) {
        continue;
      }
      long life = expires - set.available(row);
      judged++;
      under += life < demanded.toMillis() ? 1 : 0;
      if (life < least) {
        least = life;
        shortestOf = row;
      }
    }
    Duration shortest = shortestOf < 0 ? null : Duration.ofMillis(least);
    if (shortest == null) {
      return unknown(code, s, "when its copies expire is not known", "copies with an expiry = 0");
    }
    boolean met = shortest.compareTo(demanded) >= 0;
    return outcome(
        code,
        s,
        metIf(met),
        Measure.of(shortest),
        Measure.of(demanded),
        met
            ? "each of the " + judged + " points of the last " + Wording.duration(s.period())
                + " is kept for at least " + Wording.duration(shortest)
            : under + " of " + Wording.count(judged, "point", "points") + " of the last "
                + Wording.duration(s.period()) + " are kept for less than "
                + Wording.duration(demanded) + ", " + set.key(shortestOf) + " for "
                + Wording.duration(shortest) + " only",
        "the shortest of (latest expiry of its copies − available) = " + Wording.duration(shortest)
            + " ≥ " + Wording.duration(demanded),
        List.of(new FactRef("points", set.key(shortestOf))));
  }

  static Outcome goneEarly(Subject s) {
    CriterionCode code = CriterionCode.HISTORY_GONE_EARLY;
    if (s.points().isEmpty()) {
      return Criteria.noPoint(code, s);
    }
    PointSet set = s.set();
    long begin = s.periodStart().toEpochMilli();
    List<Copy> gone = new ArrayList<>();
    for (int place = 0; place < set.firstCopy(set.size()); place++) {
      CopyState state = set.copyState(place);
      boolean vanished = (state == CopyState.MISSING || state == CopyState.DELETED)
          && set.copyFinished(place) != PointSet.NONE;
      // Where no expiry is known its number is below any time.
      if (vanished
          && set.copyRecordedAt(place) < set.copyExpires(place)
          && set.copyRecordedAt(place) >= begin) {
        gone.add(set.copyAtPlace(place));
      }
    }
    Copy first = gone.isEmpty() ? null : gone.get(gone.size() - 1);
    return outcome(
        code,
        s,
        metIf(gone.isEmpty()),
        Measure.count(gone.size()),
        Measure.count(0),
        gone.isEmpty()
            ? "no copy vanished before its time in the last " + Wording.duration(s.period())
            : Wording.count(gone.size(), "copy", "copies") + " vanished early: the one of "
                + first.point() + " on " + s.estate().storeName(first.store()) + " was found "
                + first.state().code() + " at " + Wording.time(first.recordedAt(), s.asAt()) + ", "
                + Wording.duration(Duration.between(first.recordedAt(), first.expires()))
                + " before it expires",
        "copies missing or deleted before their expiry = " + gone.size() + " ≤ 0",
        gone.stream()
            .map(c -> new FactRef("points", c.point()))
            .distinct()
            .limit(5)
            .toList());
  }
}
