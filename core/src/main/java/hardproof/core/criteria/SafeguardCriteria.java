package hardproof.core.criteria;

import static hardproof.core.criteria.Criteria.metIf;
import static hardproof.core.criteria.Criteria.notAsked;
import static hardproof.core.criteria.Criteria.notDemanded;
import static hardproof.core.criteria.Criteria.outcome;
import static hardproof.core.criteria.Criteria.unknown;

import hardproof.core.copies.Copy;
import hardproof.core.estate.Store;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.Usability.Judged;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** Are the points kept from those who must not read, alter or delete them? */
final class SafeguardCriteria {
  private SafeguardCriteria() {}

  private static String fresh(Subject s) {
    return "of the last " + Wording.duration(s.demand().copyRule().freshness());
  }

  static Outcome encrypted(Subject s) {
    CriterionCode code = CriterionCode.SAFE_ENCRYPTED;
    if (!s.demand().demands(Parameter.ENCRYPTED)) {
      return notDemanded(code, s);
    }
    List<FactRef> open = new ArrayList<>();
    int notKnown = 0;
    int judged = 0;
    for (int row = s.firstFresh(); row < s.set().size(); row++) {
      if (s.set().available(row) == PointSet.NONE) {
        continue;
      }
      judged++;
      if (s.set().encrypted(row) == PointSet.NONE) {
        notKnown++;
      } else if (s.set().encrypted(row) == 0) {
        open.add(new FactRef("points", s.set().key(row)));
      }
    }
    if (judged == 0 || (open.isEmpty() && notKnown > 0)) {
      return unknown(
          code,
          s,
          judged == 0
              ? "there is no point " + fresh(s)
              : "of " + Wording.count(notKnown, "point", "points") + " " + fresh(s)
                  + " it is not known whether they are encrypted",
          "points judged = " + judged + ", not known = " + notKnown);
    }
    return outcome(
        code,
        s,
        metIf(open.isEmpty()),
        Measure.count(open.size()),
        Measure.count(0),
        open.isEmpty()
            ? "each of the " + judged + " points " + fresh(s) + " is encrypted"
            : open.size() + " of " + Wording.count(judged, "point", "points") + " " + fresh(s)
                + " are not encrypted",
        "points that are not encrypted = " + open.size() + " ≤ 0",
        open.stream().limit(5).toList());
  }

  static Outcome locked(Subject s) {
    CriterionCode code = CriterionCode.SAFE_LOCKED;
    Duration demanded = s.demand().duration(Parameter.LOCKED_FOR);
    if (demanded == null) {
      return notDemanded(code, s);
    }
    List<Judged> fresh = s.freshPoints();
    for (int i = fresh.size() - 1; i >= 0; i--) {
      RecoveryPoint point = fresh.get(i).point();
      Copy longest = s.copiesOf(fresh.get(i)).stream()
          .filter(c -> c.lockedUntil() != null)
          .max(Comparator.comparing(Copy::lockedUntil))
          .orElse(null);
      if (longest == null || point.available() == null) {
        continue;
      }
      Duration lock = Duration.between(
          longest.finished() == null ? point.available() : longest.finished(),
          longest.lockedUntil());
      boolean met = lock.compareTo(demanded) >= 0;
      return outcome(
          code,
          s,
          metIf(met),
          Measure.of(lock),
          Measure.of(demanded),
          "the newest locked copy, on " + s.estate().storeName(longest.store())
              + ", was locked for " + Wording.duration(lock) + ", "
              + Wording.duration(lock.minus(demanded).abs())
              + (met ? " more than the " : " short of the ") + Wording.duration(demanded)
              + " demanded",
          "locked until − copy finished = " + Wording.duration(lock) + " ≥ "
              + Wording.duration(demanded),
          List.of(new FactRef("points", point.key())));
    }
    return outcome(
        code,
        s,
        OutcomeState.NOT_MET,
        Measure.of(Duration.ZERO),
        Measure.of(demanded),
        "no copy " + fresh(s) + " is locked; " + Wording.duration(demanded) + " is demanded",
        "locked copies = 0",
        List.of());
  }

  static Outcome lockCoversRetention(Subject s) {
    CriterionCode code = CriterionCode.SAFE_LOCK_RETENTION;
    if (!s.demand().demands(Parameter.LOCK_COVERS_RETENTION)) {
      return notDemanded(code, s);
    }
    int judged = 0;
    int locked = 0;
    Copy worst = null;
    for (Judged j : s.freshPoints()) {
      for (Copy copy : s.copiesOf(j)) {
        locked += copy.lockedUntil() == null ? 0 : 1;
        if (copy.lockedUntil() != null && copy.expires() != null) {
          judged++;
          if (worst == null || open(copy).compareTo(open(worst)) > 0) {
            worst = copy;
          }
        }
      }
    }
    if (locked == 0) {
      return notAsked(code, s, "no copy " + fresh(s) + " is locked");
    } else if (worst == null) {
      return unknown(code, s, "when its locked copies expire is not known", "copies judged = 0");
    }
    Duration open = open(worst);
    boolean met = open.isZero() || open.isNegative();
    return outcome(
        code,
        s,
        metIf(met),
        Measure.of(open),
        Measure.of(Duration.ZERO),
        met
            ? "each of the " + judged + " locked copies " + fresh(s) + " is locked until it expires"
            : "the copy of " + worst.point() + " on " + s.estate().storeName(worst.store())
                + " is locked until " + Wording.time(worst.lockedUntil(), s.asAt()) + ", "
                + Wording.duration(open) + " before it expires: it could be deleted in between",
        "the longest of (expires − locked until) = " + Wording.duration(open) + " ≤ 0 s",
        List.of(new FactRef("points", worst.point())));
  }

  /** How long a copy is to be kept and not locked any more. */
  private static Duration open(Copy copy) {
    return Duration.between(copy.lockedUntil(), copy.expires());
  }

  static Outcome deletion(Subject s) {
    CriterionCode code = CriterionCode.SAFE_DELETION;
    Long demanded = s.demand().value(Parameter.DELETE_APPROVALS);
    if (demanded == null) {
      return notDemanded(code, s);
    }
    Store best = null;
    boolean someUnknown = s.readableCopies().isEmpty();
    for (Copy copy : s.readableCopies()) {
      Store store = s.estate().store(copy.store());
      if (store == null || store.deleteApprovals() == null) {
        someUnknown = true;
      } else if (best == null || store.deleteApprovals() > best.deleteApprovals()) {
        best = store;
      }
    }
    boolean met = best != null && best.deleteApprovals() >= demanded;
    if (!met && someUnknown) {
      return unknown(
          code,
          s,
          s.readableCopies().isEmpty()
              ? "there is no usable copy to judge"
              : "how many people it takes to delete is not declared for every store of its copies",
          "best declared = " + (best == null ? "none" : best.deleteApprovals()));
    }
    return outcome(
        code,
        s,
        metIf(met),
        Measure.count(best.deleteApprovals()),
        Measure.count(demanded),
        "deleting its copy on " + best.name() + " takes "
            + Wording.count(best.deleteApprovals(), "person", "people") + " (declared); " + demanded
            + " are demanded",
        "the most people declared for one of its stores = " + best.deleteApprovals() + " ≥ "
            + demanded,
        List.of(new FactRef("stores", best.key())));
  }
}
