package hardproof.core.criteria;

import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.List;

/** Will what it brings back be allowed to run? */
final class CoverLicence extends ShippedCriterion {
  CoverLicence() {
    super(
        Group.COVER,
        "Licence holds",
        "The licence that it needs before it runs again has not ended.",
        List.of("NIST CP-10"));
  }

  @Override
  Judgement judge(Subject s) {
    String licence = s.resource().restoring().licence();
    Instant until = s.resource().restoring().licenceUntil();
    if (licence == null && until == null) {
      return Judgement.notAsked("nobody says that it needs a licence");
    }
    String which = licence == null ? "its licence" : "its licence (" + licence + ")";
    if (until == null) {
      return Judgement.unknown("when " + which + " ends is not known", "licence until = not known");
    }
    boolean met = !until.isBefore(s.asAt());
    return Judgement.of(
        OutcomeState.metIf(met),
        null,
        null,
        which
            + (met ? " holds until " : " ended on ")
            + Wording.time(until, s.asAt())
            + (met ? "" : ", " + Wording.duration(Duration.between(until, s.asAt())) + " ago"),
        "licence until " + Wording.time(until, s.asAt()) + atLeast(met) + "as at",
        List.of(new FactRef("resources", s.resource().key())));
  }
}
