package hardproof.core.criteria;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyCount;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Workload;
import hardproof.core.facts.BlastRadii;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.Usability;
import hardproof.core.facts.Usability.Judged;
import hardproof.core.points.ExposureCurve;
import hardproof.core.schedule.RunTimes;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** One resource with all that its criteria need, worked out once. For one thread at a time. */
public final class Subject {
  /** Run times and sizes are judged by the newest this many points. */
  static final int USUAL_OF = 30;

  private final Estate estate;
  private final Standard standard;
  private final Resource resource;
  private final Instant clock;
  private final Resource protector;
  private final TierDemand demand;
  private final PointSet set;
  private final Usability usability;
  private final ExposureCurve curve;
  private final int newestUsable;
  private final int firstFresh;
  private final Tellers tellers;

  // Worked out when first asked for: not all that is judged needs them.
  private List<Policy> policies;
  private List<AcceptedException> exceptions;
  private CopyCount copyCount;
  private List<Copy> readable;
  private Subject sooner;

  public Subject(Estate estate, Standard standard, Resource resource) {
    this.estate = estate;
    this.standard = standard;
    this.resource = resource;
    this.clock = estate.asAt();
    this.protector = estate.protectorOf(resource);
    this.demand = standard.demandOn(workload());
    this.usability = Usability.of(estate, protector.key(), demand.consistency());
    this.set = usability.set();
    this.curve = usability.curve(countedFrom());
    this.newestUsable = usability.newestUsable(estate.asAt().toEpochMilli());
    this.firstFresh = findFirstFresh();
    this.tellers = new Tellers(this);
  }

  private Subject(Subject same, Instant clock) {
    this.estate = same.estate;
    this.standard = same.standard;
    this.resource = same.resource;
    this.clock = clock;
    this.protector = same.protector;
    this.demand = same.demand;
    this.usability = same.usability;
    this.set = same.set;
    this.curve = same.curve;
    this.newestUsable = same.newestUsable;
    this.firstFresh = findFirstFresh();
    this.tellers = new Tellers(this);
  }

  private int findFirstFresh() {
    long oldest = clock.minus(demand.copyRule().freshness()).toEpochMilli();
    int first = set.size();
    while (first > 0 && set.dataTime(first - 1) >= oldest) {
      first--;
    }
    return first;
  }

  long countedFrom() {
    if (resource.firstSeen() != null) {
      return resource.firstSeen().toEpochMilli();
    }
    return IntStream.range(0, set.size())
        .mapToLong(set::available)
        .filter(available -> available != PointSet.NONE)
        .min()
        .orElse(clock.toEpochMilli());
  }

  private void countCopies() {
    ChainCounts counts = new ChainCounts(resource, estate, usability, clock);
    counts.addFrom(firstFresh);
    readable = counts.readable();
    copyCount = counts.whole();
  }

  public Estate estate() {
    return estate;
  }

  public Standard standard() {
    return standard;
  }

  /** The instant that ages, deadlines and periods are counted to. */
  public Instant asAt() {
    return clock;
  }

  /**
   * The same, with the same known and the same points usable, but counted to an earlier instant: what was
   * kept then and is not now can have failed by time alone.
   */
  Subject countedTo(Instant earlier) {
    if (sooner == null || !sooner.clock.equals(earlier)) {
      sooner = new Subject(this, earlier);
    }
    return sooner;
  }

  /** The feed that tells of its points: of the newest usable one where there is one. Null when not known. */
  public @Nullable Feed speaker() {
    return tellers.speaker();
  }

  /** Up to when its points have been told of; the as-at instant where nothing says that it is less. */
  public Instant horizon() {
    return tellers.horizon();
  }

  /** Who tells of it, and up to when. */
  Tellers tellers() {
    return tellers;
  }

  public Resource resource() {
    return resource;
  }

  /** Null when it belongs to none that is known. */
  public Workload workload() {
    return estate.workload(resource.workload());
  }

  /** The resource whose points protect this one; itself unless a parent's image does. */
  public Resource protector() {
    return protector;
  }

  public boolean throughParent() {
    return !protector.key().equals(resource.key());
  }

  public TierDemand demand() {
    return demand;
  }

  /** Start of the period that is judged. */
  public Instant periodStart() {
    return clock.minus(standard.period());
  }

  public Duration period() {
    return standard.period();
  }

  public List<Policy> policies() {
    if (policies == null) {
      policies = estate.policiesOf(protector);
    }
    return policies;
  }

  /** Those in force, for whatever criterion. */
  public List<AcceptedException> exceptions() {
    if (exceptions == null) {
      exceptions = estate.exceptionsOf(resource);
    }
    return exceptions;
  }

  /** The feeds that tell of the resource, of what protects it and of its newest points, usable or not. */
  public List<Feed> feeds() {
    return tellers.all();
  }

  /** All points, oldest data first. */
  public List<Judged> points() {
    return usability.points();
  }

  /** Those young enough for the copy rule, usable or not. */
  public List<Judged> freshPoints() {
    return points().subList(firstFresh, set.size());
  }

  /** How young those are, in words. */
  String freshWords() {
    return "of the last " + Wording.duration(demand.copyRule().freshness());
  }

  /** The row of the first of {@link #freshPoints}. */
  public int firstFresh() {
    return firstFresh;
  }

  /**
   * One copy on each store, and one that is locked where there is any, of the copies of fresh usable
   * points that are there and not known to be bad.
   */
  public List<Copy> readableCopies() {
    if (readable == null) {
      countCopies();
    }
    return readable;
  }

  public List<Copy> copiesOf(Judged judged) {
    return set.copiesOf(judged.row());
  }

  /** The points and copies by their columns, for what looks at all of them. */
  public PointSet set() {
    return set;
  }

  /** Whether a point is usable as far as is known at the as-at instant of the estate. */
  public boolean usable(Judged judged) {
    return usable(judged.row());
  }

  /** Whether the point of a row is usable, as {@link #usable(Judged)}. */
  public boolean usable(int row) {
    return usability.usableAt(row, estate.asAt().toEpochMilli());
  }

  /** The row of the base that keeps the point of a row from being restored now; −1 when none does. */
  public int badBase(int row) {
    return usability.badBase(row, estate.asAt().toEpochMilli());
  }

  /** When each point can be restored, as far as is known at the as-at instant of the estate. */
  public Usability usability() {
    return usability;
  }

  /** What would be lost with each point. */
  public BlastRadii blastRadii() {
    return new BlastRadii(usability, estate.asAt().toEpochMilli());
  }

  public ExposureCurve curve() {
    return curve;
  }

  public CopyCount copyCount() {
    if (copyCount == null) {
      countCopies();
    }
    return copyCount;
  }

  /** The row of the usable point with the newest data; −1 when there is none. */
  int newestUsableRow() {
    return newestUsable;
  }

  /** The usable point with the newest data. */
  public Optional<Judged> newestUsable() {
    return newestUsable < 0 ? Optional.empty() : Optional.of(points().get(newestUsable));
  }

  /** The point with the newest data, usable or not. */
  public Optional<Judged> newest() {
    return points().isEmpty()
        ? Optional.empty()
        : Optional.of(points().get(points().size() - 1));
  }

  /** How long its newest points took; null when none is known. */
  public RunTimes runTimes() {
    return RunTimes.of(IntStream.iterate(set.size() - 1, row -> row >= 0, row -> row - 1)
        .mapToObj(set::runTime)
        .filter(Objects::nonNull)
        .limit(USUAL_OF)
        .toList());
  }
}
