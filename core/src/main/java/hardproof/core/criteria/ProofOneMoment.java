package hardproof.core.criteria;

import hardproof.core.drills.DrillFact;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Members that come back from far apart in time do not agree with each other, however good each is. */
final class ProofOneMoment extends ShippedCriterion {
  ProofOneMoment() {
    super(
        Group.PROOF,
        "Members of one moment",
        "The newest rehearsal of its workload that passed brought its members back from data that lies no further apart"
            + " than the tier allows.",
        List.of("NIST CP-10"),
        Parameter.ONE_MOMENT);
  }

  @Override
  Judgement judge(Subject s) {
    Duration allowed = s.demand().duration(Parameter.ONE_MOMENT);
    if (allowed == null) {
      return Judgement.notDemanded();
    }
    Optional<RehearsalFact> newest = Rehearsed.newest(s).filter(RehearsalFact::passed);
    // Whether it has to be rehearsed is asked by the rung.
    return newest.isEmpty()
        ? Judgement.notAsked("no rehearsal of its workload passed in the proof period")
        : judged(s, newest.get(), allowed);
  }

  private static Judgement judged(Subject s, RehearsalFact rehearsal, Duration allowed) {
    List<Instant> times = new ArrayList<>();
    int gone = 0;
    for (RehearsalFact.Member member : rehearsal.members()) {
      if (member.run() != null) {
        Instant at = dataTime(s, member);
        if (at == null) {
          gone++;
        } else {
          times.add(at);
        }
      }
    }
    Duration apart = times.isEmpty()
        ? Duration.ZERO
        : Duration.between(Collections.min(times), Collections.max(times));
    boolean within = apart.compareTo(allowed) <= 0;
    String which = "the rehearsal of " + Wording.time(rehearsal.started(), s.asAt());
    if (within && gone > 0) {
      return Judgement.unknown(
          "how far apart the data of " + which + " lay is not known: "
              + Wording.count(gone, "of its points is gone", "of its points are gone"),
          "points of the rehearsal that are not known any more = " + gone);
    }
    return Judgement.of(
        OutcomeState.metIf(within),
        Measure.of(apart),
        Measure.of(allowed),
        which + " brought back data " + Wording.duration(apart) + " apart, "
            + Wording.duration(allowed) + " allowed",
        "newest − oldest data time of the members of the newest rehearsal that passed = "
            + Wording.duration(apart) + (within ? " ≤ " : " > ") + Wording.duration(allowed),
        List.of(new FactRef("rehearsals", rehearsal.id())));
  }

  private static @Nullable Instant dataTime(Subject s, RehearsalFact.Member member) {
    return s.estate().drillsOf(member.resource()).stream()
        .filter(d -> d.run().equals(member.run()))
        .findFirst()
        .map(DrillFact::point)
        .map(point -> s.estate().point(member.resource(), point))
        .map(RecoveryPoint::dataTime)
        .orElse(null);
  }
}
