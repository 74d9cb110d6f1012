package hardproof.core.facts;

import hardproof.core.census.CensusFact;
import hardproof.core.copies.Copy;
import hardproof.core.drills.DrillFact;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Coverage;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Job;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Selector;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.points.RecoveryPoint;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** The facts at one instant, indexed. Immutable. */
public final class Estate {
  /** Resources whose points are brought in together. */
  private static final int TOGETHER = 8;

  private final Instant asAt;
  private final Instant knownAt;
  private final Facts facts;
  private final PointSource points;
  private final Map<String, Workload> workloads;
  private final Map<String, Resource> resources;
  private final Map<String, List<Resource>> membersByWorkload;
  private final Map<String, List<Resource>> children;
  private final Map<String, Store> stores;
  private final Map<String, Feed> feeds;
  private final Map<String, List<Job>> jobsByResource;
  private final Layered<List<DrillFact>> drillsByResource;
  private final RehearsalIndex rehearsals;
  private final Map<String, List<CensusFact>> censuses;
  private final List<AcceptedException> valid;

  /** An estate whose points and copies are all in {@code facts}. */
  public Estate(Instant asAt, Facts facts) {
    this(asAt, facts, PointSource.of(facts.points(), facts.copies()));
  }

  /**
   * @param points where points and copies come from, instead of {@code facts}
   */
  public Estate(Instant asAt, Facts facts, PointSource points) {
    this(asAt, asAt, facts, points);
  }

  /** In hindsight: all that {@code facts} say of {@code asAt}, as recorded by then. */
  public Estate(Instant asAt, Instant knownAt, Facts facts) {
    this(asAt, knownAt, facts, PointSource.of(facts.points(), facts.copies()));
  }

  /**
   * @param asAt the instant that is judged
   * @param knownAt the instant by which the facts were recorded; not before {@code asAt}
   */
  public Estate(Instant asAt, Instant knownAt, Facts facts, PointSource points) {
    if (knownAt.isBefore(asAt)) {
      throw new IllegalArgumentException(
          "what was known at " + knownAt + " can't tell of " + asAt + ", which is later");
    }
    this.asAt = asAt;
    this.knownAt = knownAt;
    this.facts = facts;
    this.points = points;
    this.workloads = Indexes.index(facts.workloads(), Workload::key);
    this.resources = Indexes.index(facts.resources(), Resource::key);
    this.membersByWorkload = Indexes.members(facts);
    this.children = Indexes.children(facts);
    this.stores = Indexes.index(facts.stores(), Store::key);
    this.feeds = Indexes.index(facts.feeds(), Feed::key);
    this.jobsByResource = Indexes.jobs(facts);
    this.drillsByResource = Layered.of(Indexes.drills(facts));
    this.rehearsals = new RehearsalIndex(facts.rehearsals());
    this.censuses = Indexes.group(facts.censuses(), CensusFact::resource);
    this.valid = Indexes.valid(facts, asAt);
  }

  /** What did not change is not looked through again, which in a large estate would take longest. */
  private Estate(
      Estate before, Facts facts, PointSource points, @Nullable Layered<List<DrillFact>> drills) {
    Facts old = before.facts;
    this.asAt = before.asAt;
    this.knownAt = before.knownAt;
    this.facts = facts;
    this.points = points;
    this.workloads = facts.workloads() == old.workloads()
        ? before.workloads
        : Indexes.index(facts.workloads(), Workload::key);
    boolean same = facts.resources() == old.resources();
    this.resources = same ? before.resources : Indexes.index(facts.resources(), Resource::key);
    this.membersByWorkload = same ? before.membersByWorkload : Indexes.members(facts);
    this.children = same ? before.children : Indexes.children(facts);
    this.stores =
        facts.stores() == old.stores() ? before.stores : Indexes.index(facts.stores(), Store::key);
    this.feeds =
        facts.feeds() == old.feeds() ? before.feeds : Indexes.index(facts.feeds(), Feed::key);
    this.jobsByResource = facts.jobs() == old.jobs() ? before.jobsByResource : Indexes.jobs(facts);
    this.drillsByResource = drills != null
        ? drills
        : facts.drills() == old.drills()
            ? before.drillsByResource
            : Layered.of(Indexes.drills(facts));
    this.rehearsals = facts.rehearsals() == old.rehearsals()
        ? before.rehearsals
        : new RehearsalIndex(facts.rehearsals());
    this.censuses = facts.censuses() == old.censuses()
        ? before.censuses
        : Indexes.group(facts.censuses(), CensusFact::resource);
    this.valid = facts.exceptions() == old.exceptions() ? before.valid : Indexes.valid(facts, asAt);
  }

  /** The same instant, points and copies with other facts beside them. */
  public Estate with(Facts other) {
    return with(other, Map.of());
  }

  /** The same instant with other facts, and other points and copies of some resources. */
  public Estate with(Facts other, Map<String, PointSet> sets) {
    return new Estate(this, other, sets.isEmpty() ? points : points.with(sets), null);
  }

  /** The same instant with other facts; the points of their resources are held in memory, as they are now. */
  public Estate holding(Facts other) {
    List<String> keys = other.resources().stream().map(Resource::key).toList();
    return new Estate(this, other, points.held(keys), null);
  }

  /** The same facts, judged at another instant by what was recorded until {@code known}. */
  public Estate judgedAt(Instant judged, Instant known) {
    return new Estate(judged, known, facts, points);
  }

  /** The same with more drills, which ended after those that are known of their resources. */
  public Estate alsoDrilled(List<DrillFact> more) {
    List<DrillFact> all = new ArrayList<>(facts.drills());
    all.addAll(more);
    return new Estate(
        this, facts.withDrills(all), points, Indexes.alsoDrilled(drillsByResource, more));
  }

  public Instant asAt() {
    return asAt;
  }

  /** The instant by which what is known had been recorded; {@link #asAt} unless it is hindsight. */
  public Instant knownAt() {
    return knownAt;
  }

  public boolean hindsight() {
    return knownAt.isAfter(asAt);
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
    return key == null ? null : stores.get(key);
  }

  public Feed feed(String key) {
    return key == null ? null : feeds.get(key);
  }

  /** Judges each resource, several at a time; in the order of {@link Facts#resources}. */
  public <T> List<T> each(Function<Resource, T> judge) {
    List<Resource> all = facts.resources();
    return IntStream.range(0, (all.size() + TOGETHER - 1) / TOGETHER)
        .parallel()
        .mapToObj(i -> {
          List<Resource> some = all.subList(i * TOGETHER, Math.min(all.size(), (i + 1) * TOGETHER));
          points.expect(some.stream().map(Resource::key).toList());
          return some.stream().map(judge).toList();
        })
        .flatMap(List::stream)
        .toList();
  }

  /** The points of a resource with their copies, which are locked as their stores say. */
  public PointSet pointSet(String resource) {
    PointSet claimed = points.of(resource);
    List<CensusFact> found = censusOf(resource);
    return found.isEmpty() ? claimed : claimed.asStoresSay(found);
  }

  /** The same as its feeds claim, whatever stores say. */
  public PointSet claimedSet(String resource) {
    return points.of(resource);
  }

  /** The points of all resources, in their order; made as they are asked for. */
  public Stream<RecoveryPoint> points() {
    return sets().flatMap(own -> own.points().stream());
  }

  /** The copies of all points as claimed, in the order of these; made as they are asked for. */
  public Stream<Copy> copies() {
    return sets().flatMap(own -> own.copies().all().stream());
  }

  public long pointCount() {
    return sets().mapToLong(PointSet::size).sum();
  }

  public long copyCount() {
    return sets().mapToLong(own -> own.copies().count()).sum();
  }

  private Stream<PointSet> sets() {
    return facts.resources().stream().map(r -> points.of(r.key()));
  }

  /** Null when the resource has no such point. */
  public RecoveryPoint point(String resource, String key) {
    return points.of(resource).point(key);
  }

  /** Oldest data first; empty when there are none. */
  public List<RecoveryPoint> pointsOf(String resource) {
    return points.of(resource).points();
  }

  public List<Copy> copiesOf(RecoveryPoint point) {
    return pointSet(point.resource()).copiesOf(point);
  }

  /** In the order they began. */
  public List<Job> jobsOf(String resource) {
    return jobsByResource.getOrDefault(resource, List.of());
  }

  /** In the order they ended. */
  public List<DrillFact> drillsOf(String resource) {
    List<DrillFact> drills = drillsByResource.get(resource);
    return drills == null ? List.of() : drills;
  }

  /** What censuses found of its copies, each as the newest that said something of it. */
  public List<CensusFact> censusOf(String resource) {
    return censuses.getOrDefault(resource, List.of());
  }

  /** Drills and, where a census found a copy to be bad, that; in the order they ended. */
  public List<DrillFact> blamingOf(String resource) {
    List<DrillFact> found = censusOf(resource).stream()
        .filter(c -> c.state().bad())
        .map(CensusFact::asDrill)
        .toList();
    if (found.isEmpty()) {
      return drillsOf(resource);
    }
    List<DrillFact> all = new ArrayList<>(drillsOf(resource));
    all.addAll(found);
    all.sort(Comparator.comparing(DrillFact::ended));
    return all;
  }

  public RehearsalIndex rehearsals() {
    return rehearsals;
  }

  public List<Resource> membersOf(String workload) {
    return membersByWorkload.getOrDefault(workload, List.of());
  }

  /** The resource and all that lie inside it, at any depth. */
  public Set<String> withDescendants(String resource) {
    Set<String> found = new LinkedHashSet<>();
    Deque<String> ahead = new ArrayDeque<>(List.of(resource));
    while (!ahead.isEmpty()) {
      String next = ahead.pop();
      if (found.add(next)) {
        children.getOrDefault(next, List.of()).forEach(c -> ahead.push(c.key()));
      }
    }
    return found;
  }

  /** The tier of the resource's workload; null when either is not known. */
  public Integer tierOf(Resource resource) {
    Workload workload = workload(resource.workload());
    return workload == null ? null : workload.tier();
  }

  /** The keys of the resources that a selector chooses, in the order of the facts. */
  public Set<String> matching(Selector selector) {
    return facts.resources().stream()
        .filter(r -> selector.matches(r, tierOf(r)))
        .map(Resource::key)
        .collect(Collectors.toCollection(LinkedHashSet::new));
  }

  /** How much of the estate a selector chooses. */
  public Coverage coverage(Selector selector) {
    return Coverage.of(facts.resources(), this::tierOf, selector);
  }

  public List<Policy> policiesOf(Resource resource) {
    Integer tier = tierOf(resource);
    return facts.policies().stream()
        .filter(p -> p.scope().matches(resource, tier))
        .toList();
  }

  /** The exceptions in force that have the resource in scope. */
  public List<AcceptedException> exceptionsOf(Resource resource) {
    Integer tier = tierOf(resource);
    return valid.stream().filter(e -> e.scope().matches(resource, tier)).toList();
  }

  /**
   * The resource whose points protect this one: itself when it has any, else its nearest ancestor
   * that has and whose policies do not leave it out (a volume inside a machine's image), else itself.
   */
  public Resource protectorOf(Resource resource) {
    Set<String> seen = new LinkedHashSet<>();
    Resource at = resource;
    while (at != null && seen.add(at.key())) {
      if (points.any(at.key())) {
        return at != resource && leftOutOf(at, resource).isPresent() ? resource : at;
      }
      at = resource(at.parent());
    }
    return resource;
  }

  /** The exclude filter of a policy of {@code ancestor} that leaves out {@code resource} whole. */
  public Optional<Exclusion> leftOutOf(Resource ancestor, Resource resource) {
    for (Policy policy : policiesOf(ancestor)) {
      for (String pattern : policy.exclude()) {
        if (Paths.glob(pattern, resource.key()) || Paths.glob(pattern, resource.name())) {
          return Optional.of(new Exclusion(policy, pattern));
        }
      }
    }
    return Optional.empty();
  }

  /** A filter of a policy. */
  public record Exclusion(Policy policy, String pattern) {}

  /** What {@code key} names, for sentences: the name where it is known, else the key. */
  public String storeName(String key) {
    return Optional.ofNullable(stores.get(key)).map(Store::name).orElse(key);
  }
}
