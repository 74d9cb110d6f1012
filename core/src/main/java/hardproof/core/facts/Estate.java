package hardproof.core.facts;

import hardproof.core.copies.Copy;
import hardproof.core.drills.DrillFact;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.points.RecoveryPoint;
import java.time.Instant;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;

/** The facts at one instant, indexed. Immutable. */
public final class Estate {
  private final Instant asAt;
  private final Facts facts;
  private final Map<String, Workload> workloads;
  private final Map<String, Resource> resources;
  private final Map<String, List<Resource>> membersByWorkload;
  private final Map<String, Store> stores;
  private final Map<String, Feed> feeds;
  private final Map<String, RecoveryPoint> points;
  private final Map<String, List<RecoveryPoint>> pointsByResource;
  private final Map<String, List<Copy>> copiesByPoint;
  private final Map<String, List<DrillFact>> drillsByResource;

  public Estate(Instant asAt, Facts facts) {
    this.asAt = asAt;
    this.facts = facts;
    this.workloads = index(facts.workloads(), Workload::key);
    this.resources = index(facts.resources(), Resource::key);
    this.membersByWorkload = group(
        facts.resources().stream().filter(r -> r.workload() != null).toList(), Resource::workload);
    this.stores = index(facts.stores(), Store::key);
    this.feeds = index(facts.feeds(), Feed::key);
    this.points = index(facts.points(), RecoveryPoint::key);
    this.pointsByResource = group(facts.points(), RecoveryPoint::resource);
    this.pointsByResource
        .values()
        .forEach(l -> l.sort(
            Comparator.comparing(RecoveryPoint::dataTime).thenComparing(RecoveryPoint::key)));
    this.copiesByPoint = group(facts.copies(), Copy::point);
    this.drillsByResource = group(facts.drills(), DrillFact::resource);
    this.drillsByResource
        .values()
        .forEach(l -> l.sort(Comparator.comparing(DrillFact::ended).thenComparing(DrillFact::run)));
  }

  private static <T> Map<String, T> index(List<T> items, Function<T, String> key) {
    Map<String, T> map = new LinkedHashMap<>();
    items.forEach(i -> map.put(key.apply(i), i));
    return map;
  }

  private static <T> Map<String, List<T>> group(List<T> items, Function<T, String> key) {
    return items.stream().collect(Collectors.groupingBy(key, HashMap::new, Collectors.toList()));
  }

  public Instant asAt() {
    return asAt;
  }

  public Facts facts() {
    return facts;
  }

  /** Null when not known; so are the other look-ups by key. */
  public Workload workload(String key) {
    return key == null ? null : workloads.get(key);
  }

  public Resource resource(String key) {
    return key == null ? null : resources.get(key);
  }

  public Store store(String key) {
    return stores.get(key);
  }

  public Feed feed(String key) {
    return feeds.get(key);
  }

  public RecoveryPoint point(String key) {
    return points.get(key);
  }

  /** Oldest data first; empty when there are none. */
  public List<RecoveryPoint> pointsOf(String resource) {
    return pointsByResource.getOrDefault(resource, List.of());
  }

  public List<Copy> copiesOf(String point) {
    return copiesByPoint.getOrDefault(point, List.of());
  }

  /** In the order they ended. */
  public List<DrillFact> drillsOf(String resource) {
    return drillsByResource.getOrDefault(resource, List.of());
  }

  public List<Resource> membersOf(String workload) {
    return membersByWorkload.getOrDefault(workload, List.of());
  }

  /** The tier of the resource's workload; null when either is not known. */
  public Integer tierOf(Resource resource) {
    Workload workload = workload(resource.workload());
    return workload == null ? null : workload.tier();
  }

  public List<Policy> policiesOf(Resource resource) {
    Integer tier = tierOf(resource);
    return facts.policies().stream()
        .filter(p -> p.scope().matches(resource, tier))
        .toList();
  }

  public List<AcceptedException> exceptionsOf(Resource resource) {
    Integer tier = tierOf(resource);
    return facts.exceptions().stream()
        .filter(e -> e.validAt(asAt) && e.scope().matches(resource, tier))
        .toList();
  }

  /**
   * The resource whose points protect this one: itself when it has any, else its nearest ancestor
   * that has (a volume inside a machine's image), else itself.
   */
  public Resource protectorOf(Resource resource) {
    Set<String> seen = new LinkedHashSet<>();
    Resource at = resource;
    while (at != null && seen.add(at.key())) {
      if (!pointsOf(at.key()).isEmpty()) {
        return at;
      }
      at = resource(at.parent());
    }
    return resource;
  }

  /** What {@code key} names, for sentences: the name where it is known, else the key. */
  public String storeName(String key) {
    return Optional.ofNullable(stores.get(key)).map(Store::name).orElse(key);
  }
}
