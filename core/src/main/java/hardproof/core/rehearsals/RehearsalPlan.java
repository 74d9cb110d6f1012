package hardproof.core.rehearsals;

import hardproof.core.estate.Resource;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.losses.Loss;
import hardproof.core.order.RecoveryMember;
import hardproof.core.order.RecoveryOrder;
import hardproof.core.order.RecoveryOutlook;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.recovery.TimeEstimates;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
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
          + (loss.equals(Loss.NONE)
              ? ""
              : " on a store that is left" + (sealed() ? ", or none whose keys are left" : ""))
          + ", with its whole chain on one store and known places. Choose a later moment, or another"
          + " copy.";
    }
    if (!outlook.order().notKnown().isEmpty()) {
      return "it needs " + Wording.list(outlook.order().notKnown())
          + ", of which nothing is known here. Bring in its facts, or correct the field needs.";
    }
    return null;
  }

  private boolean sealed() {
    return outlook.order().lost().stream()
        .anyMatch(m -> loss.takesKeys(m.with(), outlook.order().stores()));
  }

  /** What members need besides their data, for people: where it was never tried, or not lately, that is said. */
  public List<String> besides() {
    List<String> said = new ArrayList<>();
    for (RecoveryMember member : members()) {
      Resource.Restoring needs = member.with().restoring();
      List<String> own = new ArrayList<>();
      if (needs.kit() != null) {
        own.add("its recovery kit: " + needs.kit() + tried(needs.kitTried()));
      }
      if (needs.runbook() != null) {
        own.add("its runbook: " + needs.runbook() + tried(needs.runbookTried()));
      }
      if (needs.licence() != null) {
        own.add("its licence: " + needs.licence());
      }
      if (!needs.keyPlaces().isEmpty()) {
        own.add("its keys, at " + Wording.list(needs.keyPlaces()));
      }
      if (!needs.restorers().isEmpty()) {
        own.add("one of " + Wording.list(needs.restorers()));
      }
      if (member.byItself() && !own.isEmpty()) {
        said.add(member.resource().name() + " needs besides its data " + String.join("; ", own));
      }
    }
    return said;
  }

  private String tried(@Nullable Instant at) {
    return at == null
        ? " (not known to have been tried)"
        : " (tried " + Wording.duration(Duration.between(at, outlook.order().asAt())) + " ago)";
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
