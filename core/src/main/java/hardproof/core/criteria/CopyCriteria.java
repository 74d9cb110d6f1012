package hardproof.core.criteria;

import static hardproof.core.criteria.Criteria.metIf;
import static hardproof.core.criteria.Criteria.outcome;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyCount;
import hardproof.core.copies.CopyLag;
import hardproof.core.copies.CopyRule;
import hardproof.core.estate.Policy;
import hardproof.core.facts.Usability.Judged;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.wording.Wording;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** The copy rule and the copy deadlines. */
final class CopyCriteria {
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
            Wording.count(c.copies(), "copy", "copies") + " in separate failure domains",
            where + not + fresh),
        atLeast(
            s,
            CriterionCode.COPIES_MEDIA,
            c.media(),
            r.media(),
            Wording.count(c.media(), "medium", "media"),
            where + fresh),
        atLeast(
            s,
            CriterionCode.COPIES_OFF_SITE,
            c.offSite(),
            r.offSite(),
            Wording.count(c.offSite(), "copy", "copies") + " off-site",
            s.resource().site() == null
                ? "the resource's own site is not known"
                : "at another site than " + s.resource().site() + fresh),
        atLeast(
            s,
            CriterionCode.COPIES_OFFLINE_OR_LOCKED,
            c.offlineOrLocked(),
            r.offlineOrLocked(),
            Wording.count(c.offlineOrLocked(), "copy", "copies") + " offline or locked",
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
    return s.points().stream()
        .filter(
            j -> s.copyCount().errors() > 0 && !j.usableAt(s.asAt()) && j.span().until() > 0)
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
          "not demanded of this tier; there is " + words,
          why,
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
    List<String> over = new ArrayList<>();
    List<FactRef> facts = new ArrayList<>();
    CopyLag worst = null;
    for (Judged j : s.points()) {
      RecoveryPoint point = j.point();
      if (point.available() == null
          || point.outcome() == PointOutcome.FAILED
          || point.available().isBefore(s.periodStart())
          || point.available().isAfter(s.asAt())) {
        continue;
      }
      for (Policy.CopyTarget target : targets) {
        CopyLag lag = CopyLag.of(
            point.available(), finished(s, point, target.store()), target.deadline(), s.asAt());
        judged++;
        if (lag.state() == CopyLag.State.LATE || lag.state() == CopyLag.State.MISSING) {
          over.add(sentence(s, point, target, lag));
          facts.add(new FactRef("points", point.key()));
        }
        if (worst == null
            || lag.lag().minus(lag.deadline()).compareTo(worst.lag().minus(worst.deadline())) > 0) {
          worst = lag;
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
    String sentence = over.isEmpty()
        ? "all " + Wording.count(judged, "promised copy was", "promised copies were")
            + " in time or still have time"
        : over.size() + " of " + Wording.count(judged, "promised copy was", "promised copies were")
            + " late or missing: " + over.get(over.size() - 1);
    return outcome(
        CriterionCode.COPIES_DEADLINE,
        s,
        metIf(over.isEmpty()),
        Measure.of(worst.lag()),
        Measure.of(worst.deadline()),
        sentence,
        "lag = copy finished − point available; late when over the deadline",
        facts.stream().distinct().limit(5).toList());
  }

  private static Instant finished(Subject s, RecoveryPoint point, String store) {
    return s.estate().copiesOf(point.key()).stream()
        .filter(c -> c.store().equals(store))
        .map(Copy::finished)
        .filter(java.util.Objects::nonNull)
        .findFirst()
        .orElse(null);
  }

  private static String sentence(
      Subject s, RecoveryPoint point, Policy.CopyTarget target, CopyLag lag) {
    boolean late = lag.state() == CopyLag.State.LATE;
    return "the copy of " + point.key() + " to " + s.estate().storeName(target.store())
        + (late ? " came after " : " is missing after ") + Wording.duration(lag.lag())
        + ", " + Wording.duration(lag.lag().minus(lag.deadline())) + " over its deadline of "
        + Wording.duration(lag.deadline());
  }
}
