package hardproof.core.criteria;

import static hardproof.core.criteria.Criteria.metIf;
import static hardproof.core.criteria.Criteria.outcome;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyCount;
import hardproof.core.copies.CopyLag;
import hardproof.core.copies.CopyRule;
import hardproof.core.copies.CopyState;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Redundancy;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.facts.PointSet;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/** The copy rule and the copy deadlines. */
final class CopyCriteria {
  /** Of many facts the first are enough to look at. */
  private static final int FACTS = 5;

  private CopyCriteria() {}

  static List<Outcome> count(Subject s) {
    CopyCount c = s.copyCount();
    CopyRule r = s.demand().copyRule();
    String where = c.counted().isEmpty()
        ? "no store counts"
        : "counted: the data itself, " + String.join(", ", c.counted());
    String not =
        c.notCounted().isEmpty() ? "" : "; not counted: " + String.join("; ", c.notCounted());
    String fresh = " (points of the last " + Wording.duration(r.freshness()) + ")";
    return List.of(
        atLeast(
            s,
            CriterionCode.COPIES_NUMBER,
            c.copies(),
            r.copies(),
            Wording.count(c.copies(), "copy", "copies") + " in separate failure domains"
                + c.heldDown(0),
            where + not + fresh),
        atLeast(
            s,
            CriterionCode.COPIES_MEDIA,
            c.media(),
            r.media(),
            Wording.count(c.media(), "medium", "media") + c.heldDown(1),
            where + fresh),
        atLeast(
            s,
            CriterionCode.COPIES_OFF_SITE,
            c.offSite(),
            r.offSite(),
            Wording.count(c.offSite(), "copy", "copies") + " off-site" + c.heldDown(2),
            s.resource().site() == null
                ? "the resource's own site is not known"
                : "at another site than " + s.resource().site() + fresh),
        atLeast(
            s,
            CriterionCode.COPIES_OFFLINE_OR_LOCKED,
            c.offlineOrLocked(),
            r.offlineOrLocked(),
            Wording.count(c.offlineOrLocked(), "copy", "copies") + " offline or locked"
                + c.heldDown(3),
            "store offline, or locked until later than the as-at instant" + fresh),
        outcome(
            CriterionCode.COPIES_ZERO_ERRORS,
            s,
            metIf(c.errors() <= r.errorsAllowed()),
            Measure.count(c.errors()),
            Measure.count(r.errorsAllowed()),
            c.errors() == 0
                ? "no copy is known to be damaged"
                : Wording.count(c.errors(), "copy is", "copies are")
                    + " damaged or failed to be read",
            "damaged, failed in read-back or blamed by a drill = " + c.errors() + " ≤ "
                + r.errorsAllowed() + fresh,
            errorFacts(s)));
  }

  private static List<FactRef> errorFacts(Subject s) {
    if (s.copyCount().errors() == 0) {
      return List.of();
    }
    return s.points().stream()
        .filter(j -> !s.usable(j) && j.span().until() > 0)
        .limit(5)
        .map(j -> new FactRef("points", j.point().key()))
        .toList();
  }

  private static Outcome atLeast(
      Subject s, CriterionCode code, int have, int want, String words, String why) {
    if (want == 0) {
      return outcome(
          code,
          s,
          OutcomeState.NOT_APPLICABLE,
          Measure.count(have),
          Measure.count(0),
          "not demanded of this tier; there " + (have == 1 ? "is " : "are ") + words,
          have + ", none demanded; " + why,
          List.of());
    }
    return outcome(
        code,
        s,
        metIf(have >= want),
        Measure.count(have),
        Measure.count(want),
        words + "; " + want + " demanded",
        have + " ≥ " + want + "; " + why,
        List.of());
  }

  /** Every promised copy of the points that became available in the period. */
  static Outcome deadline(Subject s) {
    List<Policy.CopyTarget> targets =
        s.policies().stream().flatMap(p -> p.copyTo().stream()).distinct().toList();
    if (targets.isEmpty()) {
      return outcome(
          CriterionCode.COPIES_DEADLINE,
          s,
          OutcomeState.NOT_APPLICABLE,
          null,
          null,
          "no policy promises a copy by a deadline",
          "copy targets = 0",
          List.of());
    }
    int judged = 0;
    int over = 0;
    int rowOver = -1;
    int targetOver = -1;
    long mostOver = 0;
    Set<FactRef> facts = new LinkedHashSet<>();
    long worstPast = Long.MIN_VALUE;
    int worstTarget = -1;
    String projected = "";
    PointSet set = s.set();
    long begin = s.periodStart().toEpochMilli();
    long now = s.asAt().toEpochMilli();
    int[] stores = targets.stream().mapToInt(t -> set.storeNumber(t.store())).toArray();
    long[] deadlines = targets.stream().mapToLong(t -> t.deadline().toMillis()).toArray();
    for (int row = 0; row < set.size(); row++) {
      long available = set.available(row);
      if (available == PointSet.NONE
          || available < begin
          || available > now
          || set.outcome(row) == PointOutcome.FAILED) {
        continue;
      }
      for (int t = 0; t < stores.length; t++) {
        judged++;
        long finished = finished(set, row, stores[t]);
        long past = CopyLag.past(available, finished, deadlines[t], now);
        if (past > 0) {
          over++;
          if (past > mostOver) {
            mostOver = past;
            rowOver = row;
            targetOver = t;
          }
          if (facts.size() < FACTS) {
            facts.add(new FactRef("points", set.key(row)));
          }
        } else if (finished == PointSet.NONE || !CopyLag.there(finished, now)) {
          projected = projection(s, set.point(row), targets.get(t), projected);
        }
        if (past > worstPast) {
          worstPast = past;
          worstTarget = t;
        }
      }
    }
    if (judged == 0) {
      return outcome(
          CriterionCode.COPIES_DEADLINE,
          s,
          OutcomeState.NOT_ENOUGH_DATA,
          null,
          null,
          "no point of the last " + Wording.duration(s.period()) + " to copy",
          "points = 0",
          List.of());
    }
    Duration worst = targets.get(worstTarget).deadline();
    String sentence = (over == 0
            ? (judged == 1
                ? "the one promised copy was in time or still has time"
                : "all " + judged + " promised copies were in time or still have time")
            : over + " of " + Wording.count(judged, "promised copy was", "promised copies were")
                + " late or missing: "
                + sentence(s, rowOver, targets.get(targetOver)))
        + projected;
    return outcome(
        CriterionCode.COPIES_DEADLINE,
        s,
        metIf(over == 0),
        Measure.of(worst.plusMillis(worstPast)),
        Measure.of(worst),
        sentence,
        "the longest lag (copy finished, or now, − point available) = "
            + Wording.duration(worst.plusMillis(worstPast)) + " ≤ " + Wording.duration(worst)
            + "; late or missing = " + over + " of " + judged,
        List.copyOf(facts));
  }

  private static final Duration LONGEST_COPY = Duration.ofDays(3660);

  /**
   * When a copy that is not there yet will be, if it begins now: its size ÷ the store's throughput,
   * in the hours in which the policy lets copies be made. Said only where it will be late.
   */
  private static String projection(
      Subject s, RecoveryPoint point, Policy.CopyTarget target, String otherwise) {
    Store store = s.estate().store(target.store());
    if (store == null || store.throughput() == null || point.sizeBytes() == null) {
      return otherwise;
    }
    Duration work = Duration.ofMillis(Math.round(point.sizeBytes() * 1000.0 / store.throughput()));
    Policy policy = s.policies().stream()
        .filter(p -> p.copyTo().contains(target))
        .findFirst()
        .orElseThrow();
    Optional<Instant> projected = work.compareTo(LONGEST_COPY) > 0
        ? Optional.empty()
        : policy.copyWindow() == null
            ? Optional.of(s.asAt().plus(work))
            : policy.copyWindow().done(s.asAt(), work, policy.zone());
    if (projected.isEmpty()) {
      return "; the copy of " + point.key() + " to " + store.name()
          + " would take longer than ten years";
    }
    Instant done = projected.get();
    Duration late = Duration.between(point.available().plus(target.deadline()), done);
    return late.isNegative() || late.isZero()
        ? otherwise
        : "; the copy of " + point.key() + " to " + store.name() + " will be there at "
            + Wording.time(done, s.asAt()) + " at the earliest, " + Wording.duration(late)
            + " after its deadline";
  }

  /**
   * When the first copy on a store that is there was finished; NONE when none is: one that is missing, damaged
   * or deleted is not in time, whatever its finish time says. One that was deleted when its time was over has
   * kept its promise.
   */
  private static long finished(PointSet set, int row, int store) {
    for (int place = set.firstCopy(row); place < set.firstCopy(row + 1); place++) {
      if (set.copyStore(place) == store
          && (set.copyState(place) == CopyState.PRESENT || servedItsTime(set, place))
          && set.copyFinished(place) != PointSet.NONE) {
        return set.copyFinished(place);
      }
    }
    return PointSet.NONE;
  }

  private static boolean servedItsTime(PointSet set, int place) {
    return set.copyState(place) == CopyState.DELETED
        && set.copyExpires(place) != PointSet.NONE
        && set.copyRecordedAt(place) >= set.copyExpires(place);
  }

  /** Of a copy that is over its deadline. */
  private static String sentence(Subject s, int row, Policy.CopyTarget target) {
    RecoveryPoint point = s.set().point(row);
    long finished = finished(s.set(), row, s.set().storeNumber(target.store()));
    CopyLag lag = CopyLag.of(
        point.available(),
        finished == PointSet.NONE ? null : Instant.ofEpochMilli(finished),
        target.deadline(),
        s.asAt());
    boolean late = lag.state() == CopyLag.State.LATE;
    return "the copy of " + point.key() + " to " + s.estate().storeName(target.store())
        + (late ? " came after " : " is missing after ") + Wording.duration(lag.lag())
        + ", " + Wording.duration(lag.lag().minus(lag.deadline())) + " over its deadline of "
        + Wording.duration(lag.deadline());
  }

  static Outcome independent(Subject s) {
    CriterionCode code = CriterionCode.COPIES_INDEPENDENT;
    if (s.readableCopies().isEmpty()) {
      return Criteria.unknown(
          code,
          s,
          "there is no usable copy of the last "
              + Wording.duration(s.demand().copyRule().freshness()),
          "copies = 0");
    }
    List<String> not = s.copyCount().notCounted();
    String counted = Wording.list(s.copyCount().counted());
    return outcome(
        code,
        s,
        metIf(not.isEmpty()),
        Measure.count(not.size()),
        Measure.count(0),
        not.isEmpty()
            ? "each copy has a failure domain of its own: " + counted
            : Wording.count(not.size(), "copy does", "copies do") + " not stand by itself: "
                + String.join("; ", not),
        "stores in the failure domain of the data or of another store = " + not.size() + " ≤ 0",
        List.of());
  }

  static Outcome residency(Subject s) {
    CriterionCode code = CriterionCode.COPIES_RESIDENCY;
    Workload workload = s.workload();
    String dataClass = workload == null ? null : workload.dataClass();
    if (dataClass == null) {
      return Criteria.notAsked(code, s, "the data class of its workload is not known");
    }
    List<String> allowed = s.standard().regions().get(dataClass);
    if (allowed == null) {
      return Criteria.notAsked(code, s, "the standard sets no regions for " + dataClass + " data");
    }
    TreeSet<String> outside = new TreeSet<>();
    TreeSet<String> unknown = new TreeSet<>();
    List<FactRef> facts = new ArrayList<>();
    int judged = 0;
    PointSet set = s.set();
    Set<Integer> looked = new HashSet<>();
    for (int place = 0; place < set.firstCopy(set.size()); place++) {
      if (set.copyState(place) != CopyState.PRESENT || !looked.add(set.copyStore(place))) {
        continue;
      }
      Store store = s.estate().store(set.storeKey(set.copyStore(place)));
      if (store == null) {
        continue;
      }
      judged++;
      if (store.region() == null) {
        unknown.add(store.name());
      } else if (allowed.stream().noneMatch(store.region()::equalsIgnoreCase)) {
        if (outside.add(store.name() + " (" + store.region() + ")")) {
          facts.add(new FactRef("stores", store.key()));
        }
      }
    }
    String want = dataClass + " data may lie in " + Wording.list(allowed);
    if (judged == 0) {
      return Criteria.unknown(code, s, "no copy of it is known", "copies = 0");
    } else if (outside.isEmpty() && !unknown.isEmpty()) {
      return Criteria.unknown(
          code,
          s,
          want + "; the region of " + Wording.list(List.copyOf(unknown)) + " is not known",
          "stores without a region = " + unknown.size());
    }
    return outcome(
        code,
        s,
        metIf(outside.isEmpty()),
        Measure.count(outside.size()),
        Measure.count(0),
        outside.isEmpty()
            ? want + ", and every copy does"
            : want + "; there are copies on " + Wording.list(List.copyOf(outside)),
        "stores with a copy outside the allowed regions = " + outside.size() + " ≤ 0",
        facts);
  }

  static Outcome redundancy(Subject s) {
    CriterionCode code = CriterionCode.COPIES_REDUNDANCY;
    Redundancy demanded = s.demand().redundancy();
    if (demanded == null) {
      return Criteria.notDemanded(code, s);
    }
    Redundancy best = null;
    Store on = null;
    boolean someUnknown = false;
    for (Copy copy : s.readableCopies()) {
      Store store = s.estate().store(copy.store());
      if (store == null || store.redundancy() == null) {
        someUnknown = true;
      } else if (best == null || store.redundancy().compareTo(best) > 0) {
        best = store.redundancy();
        on = store;
      }
    }
    boolean met = best != null && best.compareTo(demanded) >= 0;
    if (!met && (someUnknown || best == null)) {
      return Criteria.unknown(
          code,
          s,
          best == null && !someUnknown
              ? "there is no usable copy to judge"
              : "what the stores of its copies survive is not known of all of them; "
                  + demanded.words() + " is demanded of one",
          "best known = " + (best == null ? "none" : best.code()));
    }
    return outcome(
        code,
        s,
        metIf(met),
        null,
        null,
        on.name() + " keeps its copy " + best.words() + "; " + demanded.words() + " is demanded",
        best.code() + " ≥ " + demanded.code(),
        List.of(new FactRef("stores", on.key())));
  }
}
