package hardproof.core.facts;

import hardproof.core.Given;
import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Job;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Resource;
import hardproof.core.points.Consistency;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.TreeSet;
import java.util.function.Function;

/**
 * A drawn history of what happened, and what deliveries at some instants told of it: each tells how things
 * stand then. Invented data.
 */
final class ToldHistory {
  static final Instant BEGIN = Given.NOW.minus(Duration.ofDays(20));
  private static final List<String> RESOURCES = List.of("r", "s");

  private final List<RecoveryPoint> points = new ArrayList<>();
  private final List<Copy> copies = new ArrayList<>();
  private final List<Job> jobs = new ArrayList<>();

  ToldHistory(Random random) {
    for (String resource : RESOURCES) {
      Instant at = BEGIN.plus(minutes(random, 600));
      String base = null;
      for (int n = 0; at.isBefore(Given.NOW); n++) {
        String key = resource + n;
        boolean full = base == null || random.nextInt(4) == 0;
        Instant available = at.plus(minutes(random, 300));
        PointOutcome outcome = random.nextInt(6) == 0 ? PointOutcome.FAILED : PointOutcome.COMPLETE;
        points.add(new RecoveryPoint(
            key,
            resource,
            "p",
            full ? Form.FULL : Form.INCREMENTAL,
            full ? null : base,
            new RecoveryPoint.Times(at, null, available),
            outcome,
            new RecoveryPoint.Taken(Consistency.FILE, null, null),
            new RecoveryPoint.Content(1000L + random.nextInt(100), null, null),
            "feed"));
        jobs.add(new Job(
            "job-" + key,
            Job.Type.BACKUP,
            resource,
            "p",
            "near",
            at,
            available,
            outcome == PointOutcome.COMPLETE ? Job.Result.SUCCEEDED : Job.Result.FAILED,
            null,
            null));
        copies.add(copy(key, "near", available, random));
        if (random.nextInt(3) > 0) {
          copies.add(copy(key, "far", available.plus(minutes(random, 2000)), random));
        }
        base = outcome == PointOutcome.COMPLETE ? key : base;
        at = at.plus(minutes(random, 3000));
      }
    }
  }

  private static Duration minutes(Random random, int most) {
    return Duration.ofMinutes(1 + random.nextInt(most));
  }

  private static Copy copy(String point, String store, Instant finished, Random random) {
    boolean read = random.nextInt(3) == 0;
    return new Copy(
        point,
        store,
        finished,
        CopyState.PRESENT,
        null,
        null,
        new Copy.Artifact("tar.gz", point, null, null),
        new Copy.ReadBack(
            read ? finished.plus(minutes(random, 4000)) : null,
            read ? random.nextInt(4) > 0 : null),
        finished,
        "feed");
  }

  /** Every instant at which anything happened. */
  List<Instant> instants() {
    TreeSet<Instant> all = new TreeSet<>();
    all.add(BEGIN);
    points.forEach(p -> all.add(p.available()));
    jobs.forEach(j -> all.add(j.started()));
    copies.forEach(c -> {
      all.add(c.finished());
      if (c.lastRead() != null) {
        all.add(c.lastRead());
      }
    });
    return List.copyOf(all);
  }

  private static <T> List<State<T>> told(
      List<Instant> deliveries, Function<Instant, List<T>> standing, Function<T, String> key) {
    Map<String, State<T>> newest = new HashMap<>();
    List<State<T>> states = new ArrayList<>();
    for (Instant at : deliveries) {
      for (T fact : standing.apply(at)) {
        State<T> before = newest.get(key.apply(fact));
        if (before != null && Objects.equals(before.fact(), fact)) {
          continue;
        }
        if (before != null) {
          states.remove(before);
          states.add(new State<>(before.fact(), "feed", before.recordedAt(), at.toEpochMilli()));
        }
        State<T> state = new State<>(fact, "feed", at.toEpochMilli(), Long.MAX_VALUE);
        newest.put(key.apply(fact), state);
        states.add(state);
      }
    }
    return states;
  }

  private List<RecoveryPoint> pointsAt(Instant at) {
    return points.stream().filter(p -> !p.available().isAfter(at)).toList();
  }

  private List<Job> jobsAt(Instant at) {
    return jobs.stream()
        .filter(j -> !j.started().isAfter(at))
        .map(j -> !j.ended().isAfter(at)
            ? j
            : new Job(
                j.key(),
                j.type(),
                j.resource(),
                j.policy(),
                j.store(),
                j.started(),
                null,
                Job.Result.RUNNING,
                null,
                null))
        .toList();
  }

  private List<Copy> copiesAt(Instant at) {
    return copies.stream()
        .filter(c -> !c.finished().isAfter(at))
        .map(c -> c.lastRead() == null || !c.lastRead().isAfter(at) ? c : unread(c))
        .toList();
  }

  private static Copy unread(Copy c) {
    return new Copy(
        c.point(),
        c.store(),
        c.finished(),
        c.state(),
        null,
        null,
        new Copy.Artifact(c.format(), c.place(), null, null),
        new Copy.ReadBack(null, null),
        c.recordedAt(),
        c.feed());
  }

  private static List<Resource> resourcesAt() {
    return RESOURCES.stream().map(r -> Given.resource(r, Kind.FILE_SHARE, "w")).toList();
  }

  /**
   * The estate as judged and known, after deliveries at these instants.
   *
   * @param horizon when the feed came last by {@code known}, and up to when it had spoken
   */
  Estate estate(List<Instant> deliveries, Instant judged, Instant known, Instant horizon) {
    List<State<RecoveryPoint>> toldPoints = told(deliveries, this::pointsAt, RecoveryPoint::key);
    List<State<Copy>> toldCopies =
        told(deliveries, this::copiesAt, c -> c.point() + " " + c.store());
    Map<String, PointSet> sets = new HashMap<>();
    for (String resource : RESOURCES) {
      List<State<RecoveryPoint>> own =
          toldPoints.stream().filter(p -> p.fact().resource().equals(resource)).toList();
      List<State<Copy>> ofOwn =
          toldCopies.stream().filter(c -> c.fact().point().startsWith(resource)).toList();
      sets.put(
          resource,
          PackedStates.read(resource, PackedStates.pack(own, ofOwn))
              .at(judged.toEpochMilli(), known.toEpochMilli()));
    }
    Hindsight hindsight = new Hindsight(judged, known, f -> deliveries.get(0).isAfter(judged));
    Given g = Given.estate();
    g.resources.clear();
    g.resources.addAll(hindsight.resources(told(deliveries, i -> resourcesAt(), Resource::key)));
    g.jobs.addAll(hindsight.jobs(told(deliveries, this::jobsAt, Job::key)));
    g.feeds.add(new Feed("feed", Duration.ofDays(400), horizon, horizon));
    return new Estate(judged, known, g.facts(), source(sets));
  }

  private static PointSource source(Map<String, PointSet> sets) {
    return new PointSource() {
      @Override
      public PointSet of(String resource) {
        return sets.getOrDefault(resource, PointSet.EMPTY);
      }

      @Override
      public boolean any(String resource) {
        return of(resource).size() > 0;
      }
    };
  }
}
