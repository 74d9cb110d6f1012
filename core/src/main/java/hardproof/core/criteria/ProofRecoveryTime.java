package hardproof.core.criteria;

import hardproof.core.drills.DrillFact;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.estate.Store;
import hardproof.core.ladder.Rung;
import hardproof.core.recovery.RestoreEstimate;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** Does a restore take no longer than it may? */
final class ProofRecoveryTime extends ShippedCriterion {
  ProofRecoveryTime() {
    super(
        Group.PROOF,
        "Recovery time within the RTO",
        "The newest restore that passed took at most the RTO, also when it is scaled to all there is to restore; and so"
            + " did the newest rehearsal of its workload, where there was one.",
        List.of("NIST CP-10", "NIST CP-10(4)", "CSF RC.RP-03"),
        Parameter.RTO);
  }

  @Override
  Judgement judge(Subject s) {
    Optional<RehearsalFact> slow = Rehearsed.newest(s)
        .filter(RehearsalFact::passed)
        .filter(r -> Rehearsed.overSentence(s, r).isPresent());
    return slow.isPresent() ? wholeTooSlow(s, slow.get()) : judgeAlone(s);
  }

  private static Judgement wholeTooSlow(Subject s, RehearsalFact r) {
    Duration rto = s.demand().rto();
    return Judgement.of(
        OutcomeState.NOT_MET,
        Measure.of(r.counted()),
        Measure.of(rto),
        Rehearsed.overSentence(s, r).orElseThrow(),
        "begin of the newest rehearsal that passed to its last check, without waits for people = "
            + Wording.duration(r.clock())
            + (r.counted().equals(r.clock())
                ? ""
                : "; for all there is " + Wording.duration(r.counted()))
            + " > RTO " + Wording.duration(rto),
        List.of(new FactRef("rehearsals", r.id())));
  }

  private static Judgement judgeAlone(Subject s) {
    Optional<DrillFact> last = s.estate().drillsOf(s.protector().key()).stream()
        .filter(d -> d.passed() && d.rung().atLeast(Rung.RESTORED))
        .reduce((a, b) -> b);
    if (last.isEmpty()) {
      return Judgement.unknown(
          "how long a restore of " + s.resource().name() + " takes was never measured",
          "restores that passed = 0");
    }
    return judged(s, last.get());
  }

  private static final double GROWN = 1.5;

  private static Judgement judged(Subject s, DrillFact last) {
    Duration took = last.took();
    Duration rto = s.demand().rto();
    double times = timesAsMuch(s, last);
    boolean over = took.compareTo(rto) > 0;
    // No slower for each byte than what was measured: what is fixed of it is counted as if it grew
    // too.
    double longest = took.toMillis() * times;
    if (!over && longest > rto.toMillis()) {
      return tooSmall(s, last, times);
    }
    String whole = times == 1
        ? ""
        : "; for all of its " + Wording.bytes(whole(s, last)) + " at that rate "
            + Wording.duration(Duration.ofMillis((long) longest));
    return Judgement.of(
        OutcomeState.metIf(!over),
        Measure.of(took),
        Measure.of(rto),
        sentence(s, last) + ", " + Wording.duration(took.minus(rto).abs())
            + (over ? " over the " : " inside the ") + Wording.duration(rto) + " objective"
            + whole
            + (Rehearsed.newest(s).filter(RehearsalFact::passed).isPresent()
                ? "; its whole workload was back in time in the last rehearsal"
                : "; this resource alone, not its whole workload"),
        "end − start of the newest restore that passed = " + Wording.duration(took)
            + (over ? "" : scale(times, (long) longest)) + atMost(!over) + "RTO "
            + Wording.duration(rto),
        List.of(new FactRef("drills", last.run())));
  }

  private static Judgement tooSmall(Subject s, DrillFact last, double times) {
    Duration rto = s.demand().rto();
    Duration longest = Duration.ofMillis((long) (last.took().toMillis() * times));
    return Judgement.of(
        OutcomeState.NOT_ENOUGH_DATA,
        Measure.of(last.took()),
        Measure.of(rto),
        sentence(s, last) + ", and there are " + Wording.bytes(whole(s, last))
            + ": at that rate they would take " + Wording.duration(longest) + ", over the "
            + Wording.duration(rto) + " objective" + declared(s, last)
            + "; how much of the time is the same for any size is not known. Drill a point of the size "
            + "that would have to be restored",
        "end − start of the newest restore that passed = " + Wording.duration(last.took())
            + " ≤ RTO" + scale(times, longest.toMillis()) + " > RTO " + Wording.duration(rto),
        List.of(new FactRef("drills", last.run())));
  }

  /** What it comes to for all there is; nothing where that is what was measured. */
  private static String scale(double times, long longest) {
    return times == 1
        ? ""
        : String.format(Locale.ROOT, "; × %,.1f = ", times)
            + Wording.duration(Duration.ofMillis(longest));
  }

  private static String declared(Subject s, DrillFact last) {
    Store store = s.estate().store(last.store());
    if (store == null || store.throughput() == null || store.throughput() <= 0) {
      return "";
    }
    return " (" + Wording.duration(Duration.ofSeconds(whole(s, last) / store.throughput()))
        + " at what " + store.name() + " is said to read)";
  }

  /** How many times what was measured there is to restore; 1 where that was about the whole. */
  private static double timesAsMuch(Subject s, DrillFact last) {
    if (last.bytes() == 0) {
      return 1;
    }
    double times = (double) whole(s, last) / last.bytes();
    return times > GROWN ? times : 1;
  }

  /**
   * What would have to be restored: what the resource holds, where the artifacts of a drill were too small to be all
   * of it even when packed; else as much as those of its newest point.
   */
  private static long whole(Subject s, DrillFact last) {
    return Math.max(RestoreEstimate.whole(s.protector(), last.bytes()), newestBytes(s));
  }

  /** Bytes of the chain of the newest usable point; 0 where they are not known. */
  private static long newestBytes(Subject s) {
    return s.newestUsable()
        .map(j -> RestoreEstimate.chainBytes(s.set(), j.point()))
        .orElse(0L);
  }

  /** A time says little without the size that it was measured on. */
  private static String sentence(Subject s, DrillFact last) {
    return "the restore of " + Wording.time(last.ended(), s.asAt()) + " took "
        + Wording.duration(last.took())
        + (last.bytes() == 0 ? "" : " for " + Wording.bytes(last.bytes()) + " read");
  }
}
