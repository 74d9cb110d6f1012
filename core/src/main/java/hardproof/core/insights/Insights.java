package hardproof.core.insights;

import hardproof.core.criteria.Standard;
import hardproof.core.criteria.Subject;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.wording.Wording;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;

/**
 * A period in figures, by what is known at its end. Pure.
 *
 * @param attainment by tier, 1 first, as far as feeds have spoken; resources left out by an exception are
 *     not counted
 * @param gained proofs that began in the period: a drill reached the demanded rung and the resource
 *     was not proven before it
 * @param lapsed proofs that ended in the period without another one in time
 */
public record Insights(
    Instant from,
    Instant to,
    List<TierAttainment> attainment,
    List<ProofChange> gained,
    List<ProofChange> lapsed,
    List<FailureCause> failures,
    OpenFindings open,
    List<TrendPoint> trend) {

  /**
   * @param stretches of findings that touch the period
   * @param about whether a resource, by its key, is looked at
   */
  public static Insights of(
      Estate estate,
      Standard standard,
      Instant from,
      List<Stretch> stretches,
      Predicate<String> about) {
    Period period = new Period(from, estate.asAt());
    List<Resource> resources =
        estate.facts().resources().stream().filter(r -> about.test(r.key())).toList();
    List<Subject> subjects = resources.stream()
        .filter(r -> estate.exceptionsOf(r).stream().noneMatch(e -> e.criterion() == null))
        .map(r -> new Subject(estate, standard, r))
        .toList();
    List<ProofChange> gained = new ArrayList<>();
    List<ProofChange> lapsed = new ArrayList<>();
    subjects.forEach(s -> ProofChange.add(s, period, gained, lapsed));
    gained.sort(ProofChange.BY_TIME);
    lapsed.sort(ProofChange.BY_TIME);
    return new Insights(
        from,
        period.to(),
        TierAttainment.of(subjects, period),
        gained,
        lapsed,
        FailureCause.between(estate, from, period.to(), about),
        OpenFindings.of(stretches, period),
        TrendPoint.of(resources.stream().map(r -> estate.pointSet(r.key())).toList(), period));
  }

  /** The whole in a few sentences that somebody who is not of the trade understands. */
  public List<String> sentences() {
    List<String> sentences = new ArrayList<>();
    attainment.forEach(t -> sentences.add(sentence(t)));
    sentences.add(Wording.count(gained.size(), "proof of recovery was", "proofs of recovery were")
        + " gained and " + lapsed.size() + " lapsed.");
    sentences.add(Wording.count(open.opened(), "gap", "gaps") + " opened, " + open.closed()
        + " closed, and " + open.atEnd() + (open.atEnd() == 1 ? " is" : " are") + " open now"
        + (open.meanToFix() == null
            ? "; none that closed to measure by."
            : "; a gap that closed had been open for " + Wording.duration(open.meanToFix())
                + " on average."));
    return sentences;
  }

  private static String sentence(TierAttainment t) {
    return "Tier " + t.tier() + ": the promised limit of data loss was kept "
        + Wording.share(t.mean()) + " of the time on average over "
        + Wording.count(t.resources(), "resource", "resources") + "; "
        + (t.kept() == t.resources()
            ? "all of them kept it throughout."
            : t.kept() + " kept it throughout, and " + t.worstName() + " did worst with "
                + Wording.share(t.worst()) + ".");
  }
}
