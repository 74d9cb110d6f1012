package hardproof.core.rehearsals;

import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.order.RecoveryMember;
import hardproof.core.order.RecoveryOrder;
import hardproof.core.order.RecoveryOutlook;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.recovery.TimeEstimates;
import hardproof.core.survival.Loss;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * What a rehearsal of a workload would bring back, in which order, from what, and how long that is expected to take.
 *
 * @param moment every member comes back from its newest point at or before it
 * @param loss what is left out as if it were lost
 * @param atOnce members that are brought back at once
 * @param outlook the order and the times
 */
public record RehearsalPlan(
    Workload workload, Instant moment, Loss loss, int atOnce, RecoveryOutlook outlook) {

  /**
   * @param workload one that the estate has
   * @param rto the objective
   * @param readable whether a store can be read from here, by its key
   */
  public static RehearsalPlan of(
      Estate estate,
      TimeEstimates estimates,
      Workload workload,
      Duration rto,
      Instant moment,
      Loss loss,
      int atOnce,
      Predicate<String> readable) {
    RecoveryOrder order =
        RecoveryOrder.of(estate, estimates, workload, new OfMoment(estate, moment, loss, readable));
    return new RehearsalPlan(
        workload, moment, loss, atOnce, RecoveryOutlook.of(order, order.limits(atOnce), rto));
  }

  /** In the order in which they begin; last those that can't. */
  public List<RecoveryMember> members() {
    return outlook.order().members().stream()
        .sorted(Comparator.comparing(
                (RecoveryMember m) -> begin(m), Comparator.nullsLast(Comparator.naturalOrder()))
            .thenComparing(m -> end(m), Comparator.nullsLast(Comparator.naturalOrder())))
        .toList();
  }

  /** Milliseconds from the begin; null for one that can't begin. */
  public @Nullable Long begin(RecoveryMember member) {
    var bar = outlook.bar(member.resource().key());
    return bar == null ? null : bar.begin();
  }

  /** As {@link #begin}. */
  public @Nullable Long end(RecoveryMember member) {
    var bar = outlook.bar(member.resource().key());
    return bar == null ? null : bar.end();
  }

  /** Why it can't be rehearsed; null when it can. */
  public @Nullable String refusal() {
    if (outlook.order().members().isEmpty()) {
      return "nothing is known to belong to " + workload.name()
          + ". Say in the field workload of resources what does.";
    }
    List<List<String>> circles = outlook.order().circles(outlook.steps());
    if (!circles.isEmpty()) {
      return String.join(", ", circles.get(0))
          + " need one another, so none of them can be up first. Correct the field needs.";
    }
    List<String> lost =
        outlook.order().lost().stream().map(m -> m.resource().name()).toList();
    if (!lost.isEmpty()) {
      return Wording.list(lost)
          + (lost.size() == 1 ? " has" : " have")
          + " no usable point of then"
          + (loss.equals(Loss.NONE) ? "" : " on a store that is left")
          + ", with its whole chain on one store and known places. Choose a later moment, or another"
          + " copy.";
    }
    if (!outlook.order().notKnown().isEmpty()) {
      return "it needs " + Wording.list(outlook.order().notKnown())
          + ", of which nothing is known here. Bring in its facts, or correct the field needs.";
    }
    return null;
  }

  /** From the oldest to the newest data that is brought back; empty where nothing is. */
  public Optional<Duration> spread() {
    List<Instant> times = outlook.order().members().stream()
        .filter(RecoveryMember::byItself)
        .map(RecoveryMember::point)
        .filter(Objects::nonNull)
        .map(RecoveryPoint::dataTime)
        .sorted()
        .toList();
    return times.isEmpty()
        ? Optional.empty()
        : Optional.of(Duration.between(times.get(0), times.get(times.size() - 1)));
  }
}
