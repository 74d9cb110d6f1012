package hardproof.core.moves;

import hardproof.core.criteria.Standard;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.order.RecoverySchedule;
import hardproof.core.order.RecoverySchedule.Limits;
import hardproof.core.order.RecoverySteps;
import hardproof.core.recovery.TimeEstimates;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * What is needed until a workload is home again as it was: its members that went elsewhere, in the order in which they go
 * back.
 *
 * @param workload null for resources that belong to none that is known
 * @param members those that are away first, in their order; then those that are back and not yet as they were
 * @param total milliseconds until all that are away are home, from the newest points that lie there; null where one can't go
 *     back yet, or takes a time that nobody knows
 */
public record GoingBack(
    @Nullable Workload workload,
    List<Return> members,
    @Nullable Long total) {
  /**
   * Of every workload with a member that is away, or back and not as it was; the strictest tier first.
   *
   * @param stays of resources, oldest first
   * @param settled when a person last said of a resource that it is where it belongs, by its key
   * @param atOnce restores that go on at once
   */
  public static List<GoingBack> of(
      Estate estate,
      Standard standard,
      List<Stay> stays,
      Map<String, Instant> settled,
      int atOnce) {
    TimeEstimates estimates = new TimeEstimates(estate);
    Map<String, List<Stay>> byResource = new HashMap<>();
    stays.forEach(
        s -> byResource.computeIfAbsent(s.resource(), k -> new ArrayList<>()).add(s));
    Map<String, List<Return>> byWorkload = new LinkedHashMap<>();
    for (Resource resource : estate.facts().resources()) {
      Move.of(
              resource,
              byResource.getOrDefault(resource.key(), List.of()),
              settled.get(resource.key()))
          .map(m -> Returning.of(estate, standard, estimates, m))
          .filter(r -> !r.over())
          .ifPresent(r -> {
            Workload own = estate.workload(resource.workload());
            byWorkload
                .computeIfAbsent(own == null ? "" : own.key(), k -> new ArrayList<>())
                .add(r);
          });
    }
    return byWorkload.entrySet().stream()
        .map(e -> of(estate, estate.workload(e.getKey()), e.getValue(), atOnce))
        .sorted(Comparator.comparing((GoingBack g) ->
                g.workload() == null ? Integer.MAX_VALUE : g.workload().heldTo())
            .thenComparing(g -> g.workload() == null ? "" : g.workload().name()))
        .toList();
  }

  private static GoingBack of(
      Estate estate, @Nullable Workload workload, List<Return> members, int atOnce) {
    RecoverySteps steps = steps(estate, members);
    RecoverySchedule schedule = RecoverySchedule.of(steps, new Limits(atOnce, rates(estate)));
    Comparator<Return> order = Comparator.comparing(
        (Return r) -> begin(steps, schedule, r), Comparator.nullsLast(Comparator.naturalOrder()));
    List<Return> sorted = members.stream()
        .sorted(Comparator.comparing((Return r) -> r.move().back() != null)
            .thenComparing(order)
            .thenComparing(r -> r.move().resource().name()))
        .toList();
    boolean known = members.stream()
        .filter(r -> r.move().back() == null)
        .allMatch(r -> r.time() != null && begin(steps, schedule, r) != null);
    return new GoingBack(workload, sorted, known ? Long.valueOf(schedule.total()) : null);
  }

  /** What is away is brought back as its needs among them ask; all else is up where it is. */
  private static RecoverySteps steps(Estate estate, List<Return> members) {
    Set<String> away = new HashSet<>();
    members.stream()
        .filter(r -> r.move().back() == null)
        .forEach(r -> away.add(r.move().resource().key()));
    List<RecoverySteps.Step> steps = new ArrayList<>();
    for (Return one : members) {
      Resource resource = one.move().resource();
      if (away.contains(resource.key())) {
        Resource with = estate.protectorOf(resource);
        // What another brings back comes with it, and takes no time of its own.
        boolean comes = !with.key().equals(resource.key()) && away.contains(with.key());
        List<String> needs = new ArrayList<>(resource.needs());
        if (comes) {
          needs.add(with.key());
        }
        long millis = comes || one.time() == null ? 0 : one.time().median().toMillis();
        steps.add(new RecoverySteps.Step(
            resource.key(),
            millis,
            comes ? null : one.store(),
            millis == 0 ? 0 : one.time().bytes() * 1000.0 / millis,
            0,
            one.carried() != null,
            needs.stream().filter(away::contains).toList()));
      }
    }
    return new RecoverySteps(steps);
  }

  private static Map<String, Double> rates(Estate estate) {
    Map<String, Double> rates = new HashMap<>();
    for (Store store : estate.facts().stores()) {
      if (store.throughput() != null && store.throughput() > 0) {
        rates.put(store.key(), store.throughput().doubleValue());
      }
    }
    return rates;
  }

  private static @Nullable Long begin(RecoverySteps steps, RecoverySchedule schedule, Return one) {
    if (one.move().back() != null) {
      return null;
    }
    RecoverySchedule.Bar bar = schedule.bar(steps.place(one.move().resource().key()));
    return bar == null ? null : bar.begin();
  }

  /** Members that are not home. */
  public long away() {
    return members.stream().filter(r -> r.move().back() == null).count();
  }

  /** For people: how many are away, what keeps them there, and how long the way back is. */
  public String sentence() {
    if (away() == 0) {
      return "all are home; not yet as it was: " + Wording.list(names(r -> true));
    }
    List<String> notYet = names(r -> r.move().back() == null && r.carried() == null);
    String many = away() + " away";
    if (!notYet.isEmpty()) {
      return many + "; " + Wording.list(notYet) + " can't go back yet without losing what is new";
    }
    return total == null
        ? many + "; each has a point at home; how long the way back takes is not known"
        : many + "; back in about " + Wording.duration(Duration.ofMillis(total))
            + " from what lies at home";
  }

  private List<String> names(Predicate<Return> which) {
    return members.stream().filter(which).map(r -> r.move().resource().name()).toList();
  }
}
