package hardproof.core.programmes;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.drills.DrillFact;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.Usability;
import hardproof.core.facts.Usability.Judged;
import hardproof.core.points.Chain;
import hardproof.core.points.Consistency;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.points.SizeSignal;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/** The recovery point and the copy that a programme drills of a resource. */
public final class Pick {
  /** A size farther from the usual is odd: Iglewicz and Hoaglin, as in the criterion "Size as usual". */
  private static final double ODD = 3.5;

  private static final int USUAL_OF = 30;

  private final Estate estate;
  private final Resource resource;
  private final List<Judged> usable;

  /** Of the points of a resource that are usable at the instant of the estate. */
  public Pick(Estate estate, Resource resource) {
    this.estate = estate;
    this.resource = resource;
    this.usable = Usability.of(estate, resource.key(), Consistency.UNKNOWN).points().stream()
        .filter(j -> j.usableAt(estate.asAt()))
        .toList();
  }

  /** What can be drawn, where points are drawn at random. */
  public List<Draw.Candidate> candidates(PointChoice choice) {
    Duration within = choice.within();
    Instant oldest = within == null ? Instant.MIN : estate.asAt().minus(within);
    return usable.stream()
        .map(Judged::point)
        .filter(p -> !p.dataTime().isBefore(oldest))
        .map(p -> new Draw.Candidate(resource.key(), p.key()))
        .toList();
  }

  /**
   * The point that is drilled; empty when none can be.
   *
   * @param drawn what was drawn of it; null where nothing is drawn
   */
  public Optional<RecoveryPoint> point(PointChoice choice, Draw.@Nullable Candidate drawn) {
    return switch (choice.way()) {
      case NEWEST -> usable.stream().map(Judged::point).reduce((a, b) -> b);
      case OLDEST -> usable.stream().map(Judged::point).findFirst();
      case RANDOM -> Optional.ofNullable(drawn).map(c -> estate.point(c.resource(), c.point()));
      case IN_TURN ->
        usable.stream()
            .map(Judged::point)
            .min(Comparator.comparing(p -> lastDrilled(d -> d.point().equals(p.key()))));
      case RISKIEST -> riskiest();
    };
  }

  private Instant lastDrilled(Predicate<DrillFact> which) {
    return estate.drillsOf(resource.key()).stream()
        .filter(d -> d.passed() || d.failed())
        .filter(which)
        .map(DrillFact::ended)
        .max(Comparator.naturalOrder())
        .orElse(Instant.MIN);
  }

  private Optional<RecoveryPoint> riskiest() {
    return usable.stream()
        .max(Comparator.comparingDouble(this::oddity)
            .thenComparing(Judged::chainLength)
            .thenComparing(j -> j.point().dataTime()))
        .map(Judged::point);
  }

  /** How odd its size is among those of its form before it; 0 where it is usual, or nothing is known. */
  private double oddity(Judged judged) {
    RecoveryPoint point = judged.point();
    if (point.sizeBytes() == null) {
      return 0;
    }
    List<Double> before = new ArrayList<>();
    List<RecoveryPoint> all = estate.pointSet(resource.key()).points();
    for (int row = judged.row() - 1; row >= 0 && before.size() < USUAL_OF; row--) {
      RecoveryPoint older = all.get(row);
      if (older.form() == point.form()
          && older.sizeBytes() != null
          && older.outcome() != PointOutcome.FAILED) {
        before.add((double) older.sizeBytes());
      }
    }
    if (before.size() < SizeSignal.LEAST) {
      return 0;
    }
    double size = point.sizeBytes();
    SizeSignal signal =
        SizeSignal.of(before.stream().mapToDouble(Double::doubleValue).toArray(), size);
    return signal.odd(size, ODD) ? Math.abs(signal.score()) : 0;
  }

  /**
   * The store that is restored from; empty when none of those that hold the whole chain is what is asked for.
   *
   * @param holding stores that hold every artifact of the point's chain, by key
   * @param readable whether a store can be read now; one that can't is taken only where no other is
   */
  public Optional<String> store(
      CopyChoice choice, Collection<String> holding, Predicate<String> readable) {
    Comparator<String> readableFirst =
        Comparator.<String, Integer>comparing(s -> readable.test(s) ? 0 : 1);
    return switch (choice.way()) {
      case ANY -> holding.stream().min(readableFirst.thenComparing(s -> s));
      case OFF_SITE ->
        holding.stream().filter(this::offSite).min(readableFirst.thenComparing(s -> s));
      case STORE -> holding.stream().filter(s -> s.equals(choice.store())).findFirst();
      case NOT_LAST ->
        holding.stream()
            .min(readableFirst
                .thenComparing(s -> lastDrilled(d -> d.store().equals(s)))
                .thenComparing(s -> s));
    };
  }

  private boolean offSite(String key) {
    Store store = estate.store(key);
    return store != null
        && store.site() != null
        && resource.site() != null
        && !store.site().equalsIgnoreCase(resource.site());
  }

  /** Stores that hold a copy of every point of the chain of a point with a known place, by key. */
  public static Set<String> holding(Estate estate, RecoveryPoint point) {
    Set<String> stores = null;
    PointSet own = estate.pointSet(point.resource());
    for (RecoveryPoint link : Chain.of(point, own::point).points()) {
      Set<String> here = claimedOn(estate, own, link);
      if (stores == null) {
        stores = here;
      } else {
        stores.retainAll(here);
      }
    }
    return stores == null ? Set.of() : stores;
  }

  private static Set<String> claimedOn(Estate estate, PointSet own, RecoveryPoint link) {
    Set<String> here = new TreeSet<>();
    for (Copy copy : own.copiesOf(link)) {
      boolean claimed = copy.state() == CopyState.PRESENT || copy.state() == CopyState.DAMAGED;
      if (claimed && copy.place() != null && estate.store(copy.store()) != null) {
        here.add(copy.store());
      }
    }
    return here;
  }
}
