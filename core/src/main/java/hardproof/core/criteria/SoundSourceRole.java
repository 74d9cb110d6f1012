package hardproof.core.criteria;

import hardproof.core.facts.Usability.Judged;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.points.SourceRole;
import hardproof.core.wording.Wording;
import java.util.List;

/** Was the newest point taken from the member that carries no load? */
final class SoundSourceRole extends NewestPointCriterion {
  SoundSourceRole() {
    super(
        "Preferred source",
        "The newest point was taken from the passive member of its cluster.",
        List.of("NIST CP-9"),
        Parameter.PASSIVE_SOURCE);
  }

  @Override
  boolean asked(TierDemand demand) {
    return demand.demands(Parameter.PASSIVE_SOURCE);
  }

  @Override
  Judgement judge(Subject s, Judged j) {
    if (j.point().sourceRole() == null) {
      return Judgement.notAsked("it is not known to be part of a cluster");
    }
    boolean met = j.point().sourceRole() == SourceRole.PASSIVE;
    String since = sinceWhen(s, met);
    return judged(s, j, met, since);
  }

  private static String sinceWhen(Subject s, boolean met) {
    String since = "";
    for (int i = s.points().size() - 2; !met && i >= 0; i--) {
      RecoveryPoint earlier = s.points().get(i).point();
      if (earlier.sourceRole() == SourceRole.PASSIVE) {
        since =
            "; the last from the passive one is of " + Wording.time(earlier.dataTime(), s.asAt());
        break;
      }
    }
    return since;
  }

  private static Judgement judged(Subject s, Judged j, boolean met, String since) {
    return Judgement.of(
        OutcomeState.metIf(met),
        null,
        null,
        newestOf(j, s) + " was taken from the " + j.point().sourceRole().code() + " member"
            + (met ? "" : ", which carries the load" + since),
        "source role = " + j.point().sourceRole().code() + "; passive is preferred",
        fact(j));
  }
}
