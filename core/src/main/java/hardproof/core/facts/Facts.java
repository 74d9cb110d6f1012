package hardproof.core.facts;

import hardproof.core.census.CensusFact;
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

/** All facts as known at one instant. An evaluation needs nothing else. */
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
    List<CensusFact> censuses) {

  /** Without rehearsals and censuses. */
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
        List.of());
  }

  /** The same with other resources. */
  public Facts withResources(List<Resource> other) {
    return new Facts(
        feeds,
        workloads,
        other,
        stores,
        policies,
        points,
        copies,
        jobs,
        exceptions,
        drills,
        rehearsals,
        censuses);
  }

  /** The same with other stores. */
  public Facts withStores(List<Store> other) {
    return new Facts(
        feeds,
        workloads,
        resources,
        other,
        policies,
        points,
        copies,
        jobs,
        exceptions,
        drills,
        rehearsals,
        censuses);
  }

  /** The same with other exceptions. */
  public Facts withExceptions(List<AcceptedException> other) {
    return new Facts(
        feeds,
        workloads,
        resources,
        stores,
        policies,
        points,
        copies,
        jobs,
        other,
        drills,
        rehearsals,
        censuses);
  }

  /** The same with other policies. */
  public Facts withPolicies(List<Policy> other) {
    return new Facts(
        feeds,
        workloads,
        resources,
        stores,
        other,
        points,
        copies,
        jobs,
        exceptions,
        drills,
        rehearsals,
        censuses);
  }

  /** The same with other drills. */
  public Facts withDrills(List<DrillFact> other) {
    return new Facts(
        feeds,
        workloads,
        resources,
        stores,
        policies,
        points,
        copies,
        jobs,
        exceptions,
        other,
        rehearsals,
        censuses);
  }

  /** The same with other workloads. */
  public Facts withWorkloads(List<Workload> other) {
    return new Facts(
        feeds,
        other,
        resources,
        stores,
        policies,
        points,
        copies,
        jobs,
        exceptions,
        drills,
        rehearsals,
        censuses);
  }

  /** The same with other feeds. */
  public Facts withFeeds(List<Feed> other) {
    return new Facts(
        other,
        workloads,
        resources,
        stores,
        policies,
        points,
        copies,
        jobs,
        exceptions,
        drills,
        rehearsals,
        censuses);
  }

  /** The same with other rehearsals. */
  public Facts withRehearsals(List<RehearsalFact> other) {
    return new Facts(
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
        other,
        censuses);
  }

  /** The same with what censuses found. */
  public Facts withCensuses(List<CensusFact> other) {
    return new Facts(
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
        rehearsals,
        other);
  }
}
