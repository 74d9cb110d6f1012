package hardproof.core.plan;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.criteria.TierDemand;
import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.Usability;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import hardproof.core.schedule.Schedule;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/** Facts as they would be if something had been done and had succeeded, at the instant of the estate. */
final class AsIf {
  private static final Duration JUST_NOW = Duration.ofMinutes(1);
  private static final Duration YEAR = Duration.ofDays(365);

  private final Estate estate;
  private final Evaluation evaluation;

  AsIf(Estate estate, Evaluation evaluation) {
    this.estate = estate;
    this.evaluation = evaluation;
  }

  /** Every one of them drilled just now, by the least that shows what is demanded of it. */
  Estate drilled(List<String> resources) {
    List<DrillFact> drills = new ArrayList<>();
    for (String key : resources) {
      ResourceResult result = evaluation.resource(key);
      if (result != null) {
        Usability.newest(estate, result.protector().key())
            .ifPresent(p -> drills.add(drill(result, p)));
      }
    }
    return estate.alsoDrilled(drills);
  }

  private DrillFact drill(ResourceResult result, RecoveryPoint point) {
    Method method = Method.showing(result.protector().kind(), result.proof().demanded());
    String store = estate.copiesOf(point).stream()
        .filter(c -> c.state() == CopyState.PRESENT)
        .map(Copy::store)
        .findFirst()
        .orElse("");
    Instant now = estate.asAt();
    return new DrillFact(
        "as if " + result.resource().key(),
        new DrillFact.Of(point.resource(), point.key(), store),
        method,
        method.rung(),
        new DrillFact.Answers(RestoreState.DONE, ChecksState.PASSED, CleanupState.DONE),
        new DrillFact.Times(now, now, now),
        0,
        new DrillFact.Blame(null, null),
        "as if it had passed");
  }

  /** Of every one of them a complete full just now, with a copy on every store that is known. */
  Estate backedUp(List<String> resources) {
    Map<String, PointSet> sets = resources.parallelStream()
        .map(evaluation::resource)
        .filter(Objects::nonNull)
        .collect(
            Collectors.toConcurrentMap(r -> r.protector().key(), this::with, (one, same) -> one));
    return estate.with(estate.facts(), sets);
  }

  private PointSet with(ResourceResult result) {
    Resource protector = result.protector();
    Instant now = estate.asAt().minus(JUST_NOW);
    String key = "as if " + protector.key();
    List<RecoveryPoint> points = new ArrayList<>(estate.pointsOf(protector.key()));
    Map<String, List<Copy>> copies = new HashMap<>();
    points.forEach(p -> copies.put(p.key(), estate.copiesOf(p)));
    points.add(point(result, key, now, points));
    List<Copy> made = new ArrayList<>();
    for (Store store : estate.facts().stores()) {
      made.add(new Copy(
          key,
          store.key(),
          now,
          CopyState.PRESENT,
          Boolean.TRUE.equals(store.canLock()) ? now.plus(Duration.ofDays(3660)) : null,
          null,
          new Copy.Artifact(null, null, null, null),
          new Copy.ReadBack(null, null),
          now,
          protector.feed()));
    }
    copies.put(key, made);
    return PointSet.of(points, copies);
  }

  private static RecoveryPoint point(
      ResourceResult result, String key, Instant now, List<RecoveryPoint> before) {
    TierDemand demand = result.demand();
    Long usual = before.isEmpty() ? null : before.get(before.size() - 1).sizeBytes();
    return new RecoveryPoint(
        key,
        result.protector().key(),
        null,
        Form.FULL,
        null,
        new RecoveryPoint.Times(now, now, now),
        PointOutcome.COMPLETE,
        new RecoveryPoint.Taken(demand.consistency(), true, null),
        new RecoveryPoint.Content(usual, true, 0L),
        result.protector().feed());
  }

  /** Under a policy, and backed up by it. Empty where there is no policy to put them under. */
  Optional<Estate> covered(List<String> resources) {
    List<Policy> policies = new ArrayList<>(estate.facts().policies());
    if (policies.isEmpty()) {
      return Optional.empty();
    }
    Policy first = policies.get(0);
    policies.set(0, first.withScope(first.scope().withAlso(resources)));
    Estate backedUp = backedUp(resources);
    return Optional.of(backedUp.with(estate.facts().withPolicies(policies)));
  }

  /** What the policies of these run is begun twice as often as the shortest of their objectives. */
  Estate rescheduled(List<String> resources) {
    Set<String> keys = new HashSet<>();
    Duration shortest = null;
    for (String key : resources) {
      ResourceResult result = evaluation.resource(key);
      if (result != null) {
        result.policies().forEach(p -> keys.add(p.key()));
        Duration rpo = result.demand().rpo();
        shortest = shortest == null || rpo.compareTo(shortest) < 0 ? rpo : shortest;
      }
    }
    Duration every = shortest == null ? Duration.ofHours(1) : shortest.dividedBy(2);
    return estate.with(estate
        .facts()
        .withPolicies(estate.facts().policies().stream()
            .map(p -> keys.contains(p.key()) ? p.withSchedule(Schedule.every(every)) : p)
            .toList()));
  }

  /** An exception goes on, or begins again, for another year; empty where there is none with that key. */
  Optional<Estate> renewed(String key) {
    return ending(key, estate.asAt().plus(YEAR));
  }

  /** An exception is over. */
  Optional<Estate> ended(String key) {
    return ending(key, estate.asAt());
  }

  private Optional<Estate> ending(String key, Instant end) {
    List<AcceptedException> all = estate.facts().exceptions();
    return all.stream().noneMatch(e -> e.key().equals(key))
        ? Optional.empty()
        : Optional.of(estate.with(estate
            .facts()
            .withExceptions(
                all.stream().map(e -> e.key().equals(key) ? e.endingAt(end) : e).toList())));
  }

  /** Keys of the resources that an exception is for. */
  List<String> acceptedBy(String key) {
    return estate.facts().exceptions().stream()
        .filter(e -> e.key().equals(key))
        .flatMap(e -> estate.matching(e.scope()).stream())
        .toList();
  }

  /** Keys of all that is in the scope of a policy of these. */
  List<String> underTheSame(List<String> resources) {
    Set<String> policies = new HashSet<>();
    for (String key : resources) {
      ResourceResult result = evaluation.resource(key);
      if (result != null) {
        result.policies().forEach(p -> policies.add(p.key()));
      }
    }
    return evaluation.workloads().stream()
        .flatMap(w -> w.members().stream())
        .filter(m -> m.policies().stream().anyMatch(p -> policies.contains(p.key())))
        .map(m -> m.resource().key())
        .toList();
  }

  /** Owned by somebody, and of the tier that it is held to. */
  Estate owned(List<String> resources) {
    Set<String> workloads = new HashSet<>();
    resources.forEach(r -> workloads.add(
        evaluation.resource(r) == null
            ? null
            : evaluation.resource(r).resource().workload()));
    return estate.with(estate
        .facts()
        .withWorkloads(estate.facts().workloads().stream()
            .map(w -> workloads.contains(w.key()) ? owned(w) : w)
            .toList()));
  }

  private static Workload owned(Workload w) {
    String owner = w.owner() == null || w.owner().isBlank() ? "somebody" : w.owner();
    return new Workload(
        w.key(),
        w.name(),
        owner,
        w.heldTo(),
        w.needs(),
        w.rpo(),
        w.rto(),
        w.rung(),
        w.dataClass(),
        w.description());
  }

  /** Told of up to now. */
  Estate told(String feed) {
    return estate.with(estate
        .facts()
        .withFeeds(estate.facts().feeds().stream()
            .map(f -> f.key().equals(feed)
                ? new Feed(f.key(), f.expectedEvery(), estate.asAt(), estate.asAt())
                : f)
            .toList()));
  }

  /** Keys of the resources that a feed tells of. */
  List<String> toldBy(String feed) {
    return estate.facts().resources().stream()
        .filter(r -> feed.equals(r.feed()) || tellsOfPoints(feed, r))
        .map(Resource::key)
        .toList();
  }

  private boolean tellsOfPoints(String feed, Resource r) {
    PointSet set = estate.pointSet(r.key());
    return set.size() > 0 && feed.equals(set.feed(set.size() - 1));
  }
}
