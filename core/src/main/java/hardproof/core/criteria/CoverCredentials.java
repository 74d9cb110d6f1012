package hardproof.core.criteria;

import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.List;

/** What was never known to change needs no new test. */
final class CoverCredentials extends ShippedCriterion {
  CoverCredentials() {
    super(
        Group.COVER,
        "Credentials tested",
        "The credentials that its backups use were tested since they last changed.",
        List.of("NIST CP-9", "CIS 11.5"));
  }

  @Override
  Judgement judge(Subject s) {
    Instant changed = s.resource().credentialsChanged();
    Instant tested = s.resource().credentialsTested();
    if (changed == null) {
      return Judgement.notAsked("its credentials are not known to have changed");
    }
    boolean met = tested != null && !tested.isBefore(changed);
    String since = "its credentials changed on " + Wording.time(changed, s.asAt());
    return Judgement.of(
        OutcomeState.metIf(met),
        null,
        null,
        tested == null
            ? since + " and are not known to have been tested: the next backup may not get in"
            : since + "; they were last tested on " + Wording.time(tested, s.asAt()) + ", "
                + Wording.duration(Duration.between(changed, tested).abs())
                + (met ? " after that" : " before that: the next backup may not get in"),
        "credentials tested " + (tested == null ? "never" : Wording.time(tested, s.asAt()))
            + atLeast(met) + "credentials changed " + Wording.time(changed, s.asAt()),
        List.of(new FactRef("resources", s.resource().key())));
  }
}
