package hardproof.core.forecast;

import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.ladder.Rung;
import hardproof.core.points.Chain;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.Pick;
import hardproof.core.programmes.PointChoice;
import hardproof.core.programmes.ProgrammeTerms;
import hardproof.core.recovery.TimeEstimate;
import hardproof.core.recovery.TimeEstimates;
import java.time.Duration;
import java.util.Optional;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * A drill of a resource that a programme could make, as things are now.
 *
 * @param reaches the rung that a pass would show
 * @param store that would be read; empty text where none holds what is needed
 * @param takes as long at most in 19 of 20; an hour where nothing says
 * @param whyNot what is missing; null where it could be made
 */
record Offer(
    Resource resource,
    ProgrammeTerms programme,
    Method method,
    Rung reaches,
    String store,
    Duration takes,
    long readBytes,
    @Nullable String whyNot) {
  /** Where nothing says how long a drill takes. */
  private static final Duration ASSUMED = Duration.ofHours(1);

  static Offer of(
      Estate estate,
      TimeEstimates estimates,
      ProgrammeTerms programme,
      Resource resource,
      Rung demanded,
      Predicate<String> readable) {
    Method named = programme.showing().of(resource.kind(), demanded);
    Method method = named == null ? Method.strongestFor(resource.kind()) : named;
    Rung reaches = programme.showing().rehearses()
        ? rehearsed(estate, resource, method)
        : reaches(estate, resource, method);
    Pick pick = new Pick(estate, resource);
    // What will be drawn is not known; the newest stands for it.
    PointChoice choice =
        programme.point().way() == PointChoice.Way.RANDOM ? PointChoice.NEWEST : programme.point();
    Optional<RecoveryPoint> point = pick.point(choice, null);
    if (programme.showing().rehearses() && estate.workload(resource.workload()) == null) {
      return without(
          resource,
          programme,
          method,
          reaches,
          "it belongs to no workload that could be rehearsed");
    }
    if (point.isEmpty()) {
      return without(resource, programme, method, reaches, "it has no usable recovery point");
    }
    Optional<String> store =
        pick.store(programme.copy(), Pick.holding(estate, point.get()), readable);
    if (store.isEmpty() || !readable.test(store.get())) {
      return without(
          resource, programme, method, reaches, "no copy of its points can be read from here");
    }
    long bytes = bytes(estate, point.get());
    return offered(estimates, programme, resource, method, reaches, store.get(), bytes, estate);
  }

  private static Offer offered(
      TimeEstimates estimates,
      ProgrammeTerms programme,
      Resource resource,
      Method method,
      Rung reaches,
      String store,
      long bytes,
      Estate estate) {
    Optional<TimeEstimate> estimate = estimates.of(resource, store, method, bytes);
    Duration takes = estimate.map(TimeEstimate::p95).orElse(ASSUMED);
    Double share = programme.limits().storeShare();
    Long perSecond = estate.store(store).throughput();
    if (share != null && perSecond != null && perSecond > 0) {
      long slowest = (long) (bytes / (share * perSecond) * 1000);
      takes = takes.toMillis() < slowest ? Duration.ofMillis(slowest) : takes;
    }
    return new Offer(resource, programme, method, reaches, store, takes, bytes, null);
  }

  private static Offer without(
      Resource resource, ProgrammeTerms programme, Method method, Rung reaches, String whyNot) {
    return new Offer(resource, programme, method, reaches, "", ASSUMED, 0, whyNot);
  }

  /** What the newest drill of its kind that passed showed: less than its method where nothing could be asked. */
  private static Rung reaches(Estate estate, Resource resource, Method method) {
    return estate.drillsOf(resource.key()).stream()
        .filter(d -> d.passed() && d.method() == method)
        .reduce((a, b) -> b)
        .map(DrillFact::reaches)
        .orElse(method.rung());
  }

  /** As part of its workload, where it is shown as far as it can be by itself. */
  private static Rung rehearsed(Estate estate, Resource resource, Method method) {
    Rung alone = reaches(estate, resource, method);
    Rung byItself = Rung.lower(Rung.RUNNING, resource.kind().highestRung());
    boolean whole = estate.workload(resource.workload()) != null && alone.atLeast(byItself);
    return whole ? Rung.REHEARSED : alone;
  }

  private static long bytes(Estate estate, RecoveryPoint point) {
    return Chain.of(point, estate.pointSet(point.resource())::point).points().stream()
        .mapToLong(p -> p.sizeBytes() == null ? 0 : p.sizeBytes())
        .sum();
  }

  long spaceBytes() {
    return method.needsSandbox() ? readBytes : 0;
  }

  double cost(Capacity capacity) {
    return capacity.prices().of(spaceBytes(), programme.hold());
  }

  /** What a sample of all points draws, nobody knows before. */
  boolean foretold() {
    return programme.point().sample() == null;
  }

  boolean proves(Rung demanded) {
    return whyNot == null && foretold() && reaches.atLeast(demanded);
  }

  /** The same, where it could not be made when it was tried last; {@code why} is null where it could. */
  Offer refused(@Nullable String why) {
    return why == null || whyNot != null
        ? this
        : new Offer(
            resource,
            programme,
            method,
            reaches,
            store,
            takes,
            readBytes,
            "when it was tried last: " + why);
  }
}
