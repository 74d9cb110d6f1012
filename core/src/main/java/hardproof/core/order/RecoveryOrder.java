package hardproof.core.order;

import hardproof.core.criteria.Standard;
import hardproof.core.drills.Method;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.Usability;
import hardproof.core.order.RecoverySchedule.Limits;
import hardproof.core.order.RecoverySteps.Step;
import hardproof.core.points.Consistency;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.recovery.RestoreEstimate;
import hardproof.core.recovery.TimeEstimate;
import hardproof.core.recovery.TimeEstimates;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * In which order a workload comes back: its members, all that they need and what that needs, each from its newest usable
 * point. What a workload needs is up before any of its members begins.
 */
public final class RecoveryOrder {
  private final Estate estate;
  private final Map<String, RecoveryMember> members = new LinkedHashMap<>();
  private final Map<String, Set<String>> gates = new LinkedHashMap<>();
  private final Set<String> notKnown = new LinkedHashSet<>();
  private final TimeEstimates estimates;
  private final Sources sources;

  /** From which point, which of its copies and by which method a resource is brought back. */
  public interface Sources {
    /** Null where nothing brings it back. */
    @Nullable
    RecoveryPoint point(Usability usability);

    /** Keys of the stores that it may be read from; more than once does no harm. */
    List<String> stores(Usability usability, RecoveryPoint point);

    Method method(Resource resource);
  }

  private RecoveryOrder(Estate estate, TimeEstimates estimates, Sources sources) {
    this.estate = estate;
    this.estimates = estimates;
    this.sources = sources;
  }

  /**
   * @param workload one that the estate has
   */
  public static RecoveryOrder of(
      Estate estate, Standard standard, TimeEstimates estimates, Workload workload) {
    return of(estate, estimates, workload, new Newest(estate, standard));
  }

  /** The same from other points and copies. */
  public static RecoveryOrder of(
      Estate estate, TimeEstimates estimates, Workload workload, Sources sources) {
    RecoveryOrder order = new RecoveryOrder(estate, estimates, sources);
    order.gather(workload);
    return order;
  }

  private void gather(Workload first) {
    Deque<String> workloads = new ArrayDeque<>(List.of(first.key()));
    Deque<String> resources = new ArrayDeque<>();
    while (!workloads.isEmpty() || !resources.isEmpty()) {
      if (!workloads.isEmpty()) {
        addWorkload(workloads.poll(), workloads, resources);
      } else {
        String key = resources.poll();
        Resource resource = estate.resource(key);
        if (resource == null) {
          notKnown.add(key);
        } else if (!members.containsKey(key)) {
          RecoveryMember member = member(resource);
          members.put(key, member);
          resources.addAll(resource.needs());
          if (!member.byItself()) {
            resources.add(member.with().key());
          }
          Workload own = estate.workload(resource.workload());
          if (own != null) {
            workloads.addAll(own.needs());
          }
        }
      }
    }
  }

  private void addWorkload(String key, Deque<String> workloads, Deque<String> resources) {
    Workload workload = estate.workload(key);
    if (workload == null) {
      notKnown.add(key);
      return;
    }
    if (gates.containsKey(key)) {
      return;
    }
    Set<String> own = new LinkedHashSet<>();
    estate.membersOf(key).forEach(m -> own.add(m.key()));
    gates.put(key, own);
    resources.addAll(own);
    workloads.addAll(workload.needs());
  }

  private RecoveryMember member(Resource resource) {
    Resource with = estate.protectorOf(resource);
    Usability usability = Usability.of(estate, with.key(), Consistency.UNKNOWN);
    RecoveryPoint point = sources.point(usability);
    boolean itself = with.key().equals(resource.key());
    RecoveryMember member = new RecoveryMember(resource, with, point, null, null, needs(resource));
    return itself && point != null ? quickest(usability, member) : member;
  }

  /** From the copy that has it back soonest; of those that nobody can time, from the first by its store. */
  private RecoveryMember quickest(Usability usability, RecoveryMember member) {
    RecoveryMember best = member;
    for (String store : sources.stores(usability, member.point())) {
      TimeEstimate time = estimate(member.resource(), member.point(), store);
      boolean sooner = time != null
          && (best.estimate() == null || time.median().compareTo(best.estimate().median()) < 0);
      best = best.store() == null || sooner ? member.from(store, time) : best;
    }
    return best;
  }

  private List<String> needs(Resource resource) {
    Workload own = estate.workload(resource.workload());
    List<String> needs = new ArrayList<>(resource.needs());
    if (own != null) {
      own.needs().forEach(w -> estate.membersOf(w).forEach(m -> needs.add(m.key())));
    }
    return needs.stream().distinct().toList();
  }

  private @Nullable TimeEstimate estimate(Resource resource, RecoveryPoint point, String store) {
    PointSet own = estate.pointSet(resource.key());
    long bytes = RestoreEstimate.whole(resource, RestoreEstimate.chainBytes(own, point));
    return estimates.of(resource, store, sources.method(resource), bytes).orElse(null);
  }

  /** All that is brought back, the workload's own members first. */
  public List<RecoveryMember> members() {
    return List.copyOf(members.values());
  }

  /** Null where it is none of them. */
  public @Nullable RecoveryMember member(String key) {
    return members.get(key);
  }

  /** The instant of the estate. */
  public Instant asAt() {
    return estate.asAt();
  }

  public List<Store> stores() {
    return estate.facts().stores();
  }

  /** Its name where it is known, else the key. */
  public String storeName(String key) {
    return estate.storeName(key);
  }

  /** Keys that something needs and nobody knows. */
  public List<String> notKnown() {
    return List.copyOf(notKnown);
  }

  /** Those that nothing brings back. */
  public List<RecoveryMember> lost() {
    return members.values().stream().filter(m -> m.point() == null).toList();
  }

  /** What bounds it, with what each of its stores is said to read. */
  public Limits limits(int atOnce) {
    Map<String, Double> rates = new TreeMap<>();
    for (RecoveryMember member : members.values()) {
      Store store = member.store() == null ? null : estate.store(member.store());
      if (store != null && store.throughput() != null && store.throughput() > 0) {
        rates.put(store.key(), store.throughput().doubleValue());
      }
    }
    return new Limits(atOnce, rates);
  }

  /** With the usual time of each; what takes a time that is not known counts as none. */
  public RecoverySteps steps() {
    return steps(Map.of());
  }

  /**
   * @param factors by the key of a member: what its time is multiplied by
   */
  public RecoverySteps steps(Map<String, Double> factors) {
    return steps(factors, false);
  }

  /** Each as long as it takes at most in 19 of 20. */
  public RecoverySteps slowSteps() {
    return steps(Map.of(), true);
  }

  private RecoverySteps steps(Map<String, Double> factors, boolean slow) {
    List<Step> steps = new ArrayList<>();
    for (RecoveryMember member : members.values()) {
      steps.add(step(member, factors.getOrDefault(member.resource().key(), 1.0), slow));
    }
    // One step between, so that a workload of 500 members that needs one of 500 is not 250,000
    // needs.
    gates.forEach((workload, own) ->
        steps.add(new Step(RecoverySteps.allOf(workload), 0, null, 0, 0, true, List.copyOf(own))));
    return new RecoverySteps(steps);
  }

  private Step step(RecoveryMember member, double factor, boolean slow) {
    Resource resource = member.resource();
    List<String> needs = new ArrayList<>(resource.needs());
    if (!member.byItself()) {
      needs.add(member.with().key());
    }
    Workload own = estate.workload(resource.workload());
    if (own != null) {
      own.needs().forEach(w -> needs.add(RecoverySteps.allOf(w)));
    }
    TimeEstimate estimate = member.estimate();
    long millis = estimate == null
        ? 0
        : Math.round((slow ? estimate.p95() : estimate.median()).toMillis() * factor);
    double rate = estimate == null || millis == 0 ? 0 : estimate.bytes() * 1000.0 / millis;
    int tier = own == null ? Workload.STRICTEST : own.heldTo();
    return new Step(
        resource.key(), millis, member.store(), rate, tier, member.point() != null, needs);
  }

  /** Keys of the members on each circle of needs; a workload on it as {@code all of KEY}. */
  public List<List<String>> circles(RecoverySteps steps) {
    return steps.circles().stream()
        .map(c -> c.stream()
            .map(k -> RecoverySteps.isMember(k) ? k : "all of " + k.substring(1))
            .toList())
        .toList();
  }
}
