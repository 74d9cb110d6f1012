package hardproof.core.criteria;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyCount;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Usability;
import hardproof.core.facts.Usability.Judged;
import hardproof.core.points.ExposureCurve;
import hardproof.core.points.UsableSpan;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** One resource with all that its criteria need, worked out once. */
public final class Subject {
  private final Estate estate;
  private final Resource resource;
  private final Resource protector;
  private final TierDemand demand;
  private final Duration period;
  private final List<Policy> policies;
  private final List<Judged> points;
  private final ExposureCurve curve;
  private final CopyCount copyCount;

  public Subject(Estate estate, Standard standard, Resource resource) {
    this.estate = estate;
    this.resource = resource;
    this.protector = estate.protectorOf(resource);
    this.demand = standard.demandOn(estate.workload(resource.workload()));
    this.period = standard.period();
    this.policies = estate.policiesOf(protector);
    this.points = Usability.of(estate, protector.key(), demand.consistency());
    List<UsableSpan> spans = points.stream().map(Judged::span).toList();
    this.curve = ExposureCurve.of(countedFrom(), spans);
    this.copyCount = countCopies();
  }

  private long countedFrom() {
    Instant from = resource.firstSeen();
    if (from == null) {
      from = points.stream()
          .map(j -> j.point().available())
          .filter(java.util.Objects::nonNull)
          .min(Comparator.naturalOrder())
          .orElse(estate.asAt());
    }
    return from.toEpochMilli();
  }

  private CopyCount countCopies() {
    Instant oldest = estate.asAt().minus(demand.copyRule().freshness());
    List<Copy> readable = new ArrayList<>();
    int errors = 0;
    for (Judged judged : points) {
      if (judged.point().dataTime().isBefore(oldest)) {
        continue;
      }
      for (Copy copy : estate.copiesOf(judged.point().key())) {
        if (Usability.inError(estate, protector.key(), copy)) {
          errors++;
        } else if (judged.usableAt(estate.asAt())
            && Usability.readable(estate, protector.key(), copy)) {
          readable.add(copy);
        }
      }
    }
    return CopyCount.of(resource, readable, errors, estate::store, estate.asAt());
  }

  public Estate estate() {
    return estate;
  }

  public Instant asAt() {
    return estate.asAt();
  }

  public Resource resource() {
    return resource;
  }

  /** The resource whose points protect this one; itself unless a parent's image does. */
  public Resource protector() {
    return protector;
  }

  public TierDemand demand() {
    return demand;
  }

  /** Start of the period that is judged. */
  public Instant periodStart() {
    return estate.asAt().minus(period);
  }

  public Duration period() {
    return period;
  }

  public List<Policy> policies() {
    return policies;
  }

  /** All points, oldest data first. */
  public List<Judged> points() {
    return points;
  }

  public ExposureCurve curve() {
    return curve;
  }

  public CopyCount copyCount() {
    return copyCount;
  }

  /** The usable point with the newest data. */
  public Optional<Judged> newestUsable() {
    return points.stream()
        .filter(j -> j.usableAt(estate.asAt()))
        .max(Comparator.comparing(j -> j.point().dataTime()));
  }

  /** The point with the newest data, usable or not. */
  public Optional<Judged> newest() {
    return points.isEmpty() ? Optional.empty() : Optional.of(points.get(points.size() - 1));
  }
}
