package hardproof.core.facts;

import hardproof.core.census.CensusFact;
import hardproof.core.census.StoreListing;
import hardproof.core.copies.Copy;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.RehearsalFact;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Job;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.points.RecoveryPoint;
import java.util.List;
import java.util.function.Consumer;

/**
 * All facts as known at one instant. An evaluation needs nothing else.
 *
 * @param listings of each store the newest list, and the newest that was whole
 */
public record Facts(
    List<Feed> feeds,
    List<Workload> workloads,
    List<Resource> resources,
    List<Store> stores,
    List<Policy> policies,
    List<RecoveryPoint> points,
    List<Copy> copies,
    List<Job> jobs,
    List<AcceptedException> exceptions,
    List<DrillFact> drills,
    List<RehearsalFact> rehearsals,
    List<CensusFact> censuses,
    List<StoreListing> listings) {

  /** What others told, and drills. */
  public Facts(
      List<Feed> feeds,
      List<Workload> workloads,
      List<Resource> resources,
      List<Store> stores,
      List<Policy> policies,
      List<RecoveryPoint> points,
      List<Copy> copies,
      List<Job> jobs,
      List<AcceptedException> exceptions,
      List<DrillFact> drills) {
    this(
        feeds,
        workloads,
        resources,
        stores,
        policies,
        points,
        copies,
        jobs,
        exceptions,
        drills,
        List.of(),
        List.of(),
        List.of());
  }

  /** The same with other resources. */
  public Facts withResources(List<Resource> other) {
    return with(e -> e.resources = other);
  }

  /** The same with other stores. */
  public Facts withStores(List<Store> other) {
    return with(e -> e.stores = other);
  }

  /** The same with other exceptions. */
  public Facts withExceptions(List<AcceptedException> other) {
    return with(e -> e.exceptions = other);
  }

  /** The same with other policies. */
  public Facts withPolicies(List<Policy> other) {
    return with(e -> e.policies = other);
  }

  /** The same with other drills. */
  public Facts withDrills(List<DrillFact> other) {
    return with(e -> e.drills = other);
  }

  /** The same with other workloads. */
  public Facts withWorkloads(List<Workload> other) {
    return with(e -> e.workloads = other);
  }

  /** The same with other feeds. */
  public Facts withFeeds(List<Feed> other) {
    return with(e -> e.feeds = other);
  }

  /** The same with other rehearsals. */
  public Facts withRehearsals(List<RehearsalFact> other) {
    return with(e -> e.rehearsals = other);
  }

  /** The same with what censuses found of copies. */
  public Facts withCensuses(List<CensusFact> other) {
    return with(e -> e.censuses = other);
  }

  /** The same with other lists of stores. */
  public Facts withListings(List<StoreListing> other) {
    return with(e -> e.listings = other);
  }

  private Facts with(Consumer<Edit> change) {
    Edit edit = new Edit(this);
    change.accept(edit);
    return edit.facts();
  }

  /** What may become other facts. */
  private static final class Edit {
    private final Facts before;
    private List<Feed> feeds;
    private List<Workload> workloads;
    private List<Resource> resources;
    private List<Store> stores;
    private List<Policy> policies;
    private List<AcceptedException> exceptions;
    private List<DrillFact> drills;
    private List<RehearsalFact> rehearsals;
    private List<CensusFact> censuses;
    private List<StoreListing> listings;

    Edit(Facts before) {
      this.before = before;
      this.feeds = before.feeds;
      this.workloads = before.workloads;
      this.resources = before.resources;
      this.stores = before.stores;
      this.policies = before.policies;
      this.exceptions = before.exceptions;
      this.drills = before.drills;
      this.rehearsals = before.rehearsals;
      this.censuses = before.censuses;
      this.listings = before.listings;
    }

    Facts facts() {
      return new Facts(
          feeds,
          workloads,
          resources,
          stores,
          policies,
          before.points,
          before.copies,
          before.jobs,
          exceptions,
          drills,
          rehearsals,
          censuses,
          listings);
    }
  }
}
