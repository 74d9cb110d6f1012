package hardproof.core.criteria;

import static hardproof.core.criteria.Criteria.metIf;
import static hardproof.core.criteria.Criteria.noPoint;
import static hardproof.core.criteria.Criteria.notAsked;
import static hardproof.core.criteria.Criteria.notDemanded;
import static hardproof.core.criteria.Criteria.outcome;
import static hardproof.core.criteria.Criteria.unknown;

import hardproof.core.estate.Policy;
import hardproof.core.facts.Usability.Judged;
import hardproof.core.points.Consistency;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.points.SizeSignal;
import hardproof.core.points.SourceRole;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.IntStream;

/** Does the newest point hold what it says? */
final class SoundnessCriteria {
  private SoundnessCriteria() {}

  static Outcome complete(Subject s) {
    Optional<Judged> newest = s.newest();
    if (newest.isEmpty()) {
      return noPoint(CriterionCode.SOUND_COMPLETE, s);
    }
    PointOutcome found = newest.get().point().outcome();
    return outcome(
        CriterionCode.SOUND_COMPLETE,
        s,
        metIf(found == PointOutcome.COMPLETE),
        null,
        null,
        "the newest point, of " + Wording.time(newest.get().point().dataTime(), s.asAt()) + ", is "
            + found.code(),
        "outcome = " + found.code() + "; complete is demanded",
        List.of(new FactRef("points", newest.get().point().key())));
  }

  static Outcome chain(Subject s) {
    Optional<Judged> newest = s.newest();
    if (newest.isEmpty()) {
      return noPoint(CriterionCode.SOUND_CHAIN, s);
    }
    Judged j = newest.get();
    int bad = s.badBase(j.row());
    boolean whole = j.chainWhole() && bad < 0;
    long broken = IntStream.range(0, s.set().size())
        .filter(row -> !s.chainWhole(row) || s.badBase(row) >= 0)
        .count();
    String why = bad < 0
        ? j.breakSentence()
        : "it hangs from " + s.set().key(bad) + ", and " + s.whyNotAsBase(bad);
    String sentence = whole
        ? "the newest point's chain is whole: " + Wording.count(j.chainLength(), "point", "points")
            + " back to its full"
        : "the newest point can't be restored: " + why + "; "
            + Wording.count(broken, "point hangs", "points hang") + " from broken chains";
    return outcome(
        CriterionCode.SOUND_CHAIN,
        s,
        metIf(whole),
        Measure.count(j.chainLength()),
        null,
        sentence,
        "based-on followed from " + j.point().key() + " to its full = "
            + Wording.count(j.chainLength(), "point", "points")
            + "; every base complete and with a copy that can be read",
        s.chainOf(j.point()).points().stream()
            .limit(5)
            .map(p -> new FactRef("points", p.key()))
            .toList());
  }

  private static List<FactRef> fact(Judged j) {
    return List.of(new FactRef("points", j.point().key()));
  }

  private static String newestOf(Judged j, Subject s) {
    return "the newest point, of " + Wording.time(j.point().dataTime(), s.asAt()) + ",";
  }

  static Outcome skipped(Subject s) {
    CriterionCode code = CriterionCode.SOUND_SKIPPED;
    Long allowed = s.demand().value(Parameter.SKIPPED_ITEMS);
    if (allowed == null) {
      return notDemanded(code, s);
    }
    if (s.newest().isEmpty()) {
      return noPoint(code, s);
    }
    Judged j = s.newest().get();
    Long skipped = j.point().skippedItems();
    if (skipped == null) {
      return notAsked(code, s, "nobody says how many items were skipped");
    }
    return outcome(
        code,
        s,
        metIf(skipped <= allowed),
        Measure.count(skipped),
        Measure.count(allowed),
        newestOf(j, s)
            + (skipped == 0
                ? " holds every item"
                : " leaves out " + Wording.count(skipped, "item", "items") + ", and says "
                    + j.point().outcome().code()),
        "skipped items = " + skipped + " ≤ " + allowed,
        fact(j));
  }

  static Outcome consistency(Subject s) {
    CriterionCode code = CriterionCode.SOUND_CONSISTENCY;
    if (s.newest().isEmpty()) {
      return noPoint(code, s);
    }
    Judged j = s.newest().get();
    Consistency demanded = s.demand().consistency();
    String by = "its tier";
    for (Policy policy : s.policies()) {
      if (policy.consistency() != null && policy.consistency().compareTo(demanded) > 0) {
        demanded = policy.consistency();
        by = policy.name();
      }
    }
    Consistency found = j.point().consistency();
    return outcome(
        code,
        s,
        metIf(found.compareTo(demanded) >= 0),
        null,
        null,
        newestOf(j, s) + " is of consistency " + found.code() + "; " + by + " asks for "
            + demanded.code(),
        found.code() + " ≥ " + demanded.code() + " (unknown < file < crash < application)",
        fact(j));
  }

  static Outcome preStep(Subject s) {
    CriterionCode code = CriterionCode.SOUND_PRE_STEP;
    if (!s.demand().demands(Parameter.PRE_STEP)) {
      return notDemanded(code, s);
    }
    if (s.newest().isEmpty()) {
      return noPoint(code, s);
    }
    Judged j = s.newest().get();
    if (j.point().preStep() == null) {
      return notAsked(code, s, "no step before its points is known");
    }
    int without = 0;
    for (int row = s.set().size() - 1; row >= 0; row--) {
      if (s.set().preStep(row) != 0) {
        break;
      }
      without++;
    }
    return outcome(
        code,
        s,
        metIf(without == 0),
        Measure.count(without),
        Measure.count(0),
        without == 0
            ? "the step before the newest point ran"
            : without == s.points().size() && without > 1
                ? "the step before it has never run, for any of its " + without + " points"
                : "the step before it did not run for the last "
                    + Wording.count(without, "point", "points"),
        "newest points in a row without their pre-step = " + without + " ≤ 0",
        fact(j));
  }

  static Outcome sourceRole(Subject s) {
    CriterionCode code = CriterionCode.SOUND_SOURCE_ROLE;
    if (!s.demand().demands(Parameter.PASSIVE_SOURCE)) {
      return notDemanded(code, s);
    }
    if (s.newest().isEmpty()) {
      return noPoint(code, s);
    }
    Judged j = s.newest().get();
    if (j.point().sourceRole() == null) {
      return notAsked(code, s, "it is not known to be part of a cluster");
    }
    boolean met = j.point().sourceRole() == SourceRole.PASSIVE;
    String since = "";
    for (int i = s.points().size() - 2; !met && i >= 0; i--) {
      RecoveryPoint earlier = s.points().get(i).point();
      if (earlier.sourceRole() == SourceRole.PASSIVE) {
        since =
            "; the last from the passive one is of " + Wording.time(earlier.dataTime(), s.asAt());
        break;
      }
    }
    return outcome(
        code,
        s,
        metIf(met),
        null,
        null,
        newestOf(j, s) + " was taken from the " + j.point().sourceRole().code() + " member"
            + (met ? "" : ", which carries the load" + since),
        "source role = " + j.point().sourceRole().code() + "; passive is preferred",
        fact(j));
  }

  /** Compared with the points of the same form before it: an incremental is not a full. */
  static Outcome size(Subject s) {
    CriterionCode code = CriterionCode.SOUND_SIZE;
    Long most = s.demand().value(Parameter.SIZE_SCORE);
    if (most == null) {
      return notDemanded(code, s);
    }
    Judged newest = null;
    List<Double> sizes = new ArrayList<>();
    for (int i = s.points().size() - 1; i >= 0 && sizes.size() < Subject.USUAL_OF; i--) {
      RecoveryPoint point = s.points().get(i).point();
      if (point.sizeBytes() == null || point.outcome() == PointOutcome.FAILED) {
        continue;
      }
      if (newest == null) {
        newest = s.points().get(i);
      } else if (point.form() == newest.point().form()) {
        sizes.add((double) point.sizeBytes());
      }
    }
    if (newest == null) {
      return unknown(code, s, "no size of a point of it is known", "sizes = 0");
    }
    int known = sizes.size() + 1;
    if (known < SizeSignal.LEAST) {
      return unknown(
          code,
          s,
          "only " + Wording.count(known, "size", "sizes") + " of "
              + newest.point().form().code() + " points " + (known == 1 ? "is" : "are")
              + " known; " + SizeSignal.LEAST + " are needed to tell what is usual",
          "sizes = " + known + " ≥ " + SizeSignal.LEAST);
    }
    SizeSignal signal = SizeSignal.of(
        sizes.stream().mapToDouble(Double::doubleValue).toArray(),
        newest.point().sizeBytes());
    long size = newest.point().sizeBytes();
    double limit = most / 1e6;
    double share = signal.shareOfMedian(size);
    boolean odd = Math.abs(signal.score()) > limit && Math.abs(share - 1) > SizeSignal.LEAST_CHANGE;
    return outcome(
        code,
        s,
        metIf(!odd),
        Measure.score(Math.abs(signal.score())),
        Measure.score(limit),
        newestOf(newest, s) + " is " + Wording.bytes(size) + ", " + Wording.share(share)
            + " of the usual " + Wording.bytes(Math.round(signal.median()))
            + (odd ? ", and says " + newest.point().outcome().code() : ""),
        String.format(
            Locale.ROOT,
            "|size − median| ÷ spread = |%d − %.0f| ÷ %.1f = %s ≤ %s or within 10 %% of the median, of"
                + " the %d %s points before it; spread = MAD ÷ 0.6745, or 1.253314 · mean deviation"
                + " where MAD is 0",
            size,
            signal.median(),
            signal.spread(),
            Measure.score(Math.abs(signal.score())).words(),
            Measure.score(limit).words(),
            signal.sizes(),
            newest.point().form().code()),
        fact(newest));
  }

  static Outcome chainLength(Subject s) {
    CriterionCode code = CriterionCode.SOUND_CHAIN_LENGTH;
    Long allowed = s.demand().value(Parameter.CHAIN_LENGTH);
    if (allowed == null) {
      return notDemanded(code, s);
    }
    if (s.newest().isEmpty()) {
      return noPoint(code, s);
    }
    Judged j = s.newest().get();
    int length = j.chainLength();
    return outcome(
        code,
        s,
        metIf(length <= allowed),
        Measure.count(length),
        Measure.count(allowed),
        "to restore the newest point "
            + Wording.count(length, "point is", "points are") + " needed; " + allowed
            + " at most are allowed",
        "points from the full to the newest = " + length + " ≤ " + allowed,
        fact(j));
  }

  static Outcome fullAge(Subject s) {
    CriterionCode code = CriterionCode.SOUND_FULL_AGE;
    Duration allowed = s.demand().duration(Parameter.FULL_AGE);
    if (allowed == null) {
      return notDemanded(code, s);
    }
    if (s.newest().isEmpty()) {
      return noPoint(code, s);
    }
    Judged j = s.newest().get();
    if (j.full() == null) {
      return unknown(
          code, s, "the chain of the newest point is broken: it hangs from no full", "full = none");
    }
    return CoverCriteria.within(
        code,
        s,
        j.full().dataTime(),
        allowed,
        "the full that the newest point hangs from was made",
        "data time of the full",
        new FactRef("points", j.full().key()));
  }
}
