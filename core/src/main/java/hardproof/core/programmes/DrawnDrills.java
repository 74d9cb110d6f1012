package hardproof.core.programmes;

import hardproof.core.copies.CopyState;
import hardproof.core.criteria.Standard;
import hardproof.core.drills.DrillFact;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.programmes.Draw.Candidate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * What the drills of points that were drawn at random show of all the points they were drawn from. A point that
 * somebody or a rule chose proves itself and says nothing of others.
 *
 * <p>One start that draws a sample of all points is a simple sample of them, also of those of them that are looked at:
 * how few there are counts for it (hypergeometric). A start that draws one point for each resource is none: a resource
 * with many points has as much weight as one with few, and what is shown is the mean over resources of the share of
 * their points. For that, and for several starts together, the bound of Clopper and Pearson holds, as draws of unlike
 * chances vary less than draws of one chance (Hoeffding, Annals of Mathematical Statistics 27, 1956); the bound for a
 * finite population does not.
 *
 * @param whole each point once, whatever it was restored from; failed when any drill of it failed
 * @param way how points were drawn
 * @param withoutResult points that were drawn, and whose drills came to no result
 * @param chosen drills of points that were not drawn
 * @param strata by kind and store, also those of which nothing was drawn
 * @param tiers by the tier that the points are held to, also those of which nothing was drawn
 */
public record DrawnDrills(
    Assurance whole,
    Way way,
    int withoutResult,
    int chosen,
    List<Stratum> strata,
    List<TierSure> tiers) {
  private static final int ENDLESS = 1_000_000_000;

  public DrawnDrills {
    strata = List.copyOf(strata);
    tiers = List.copyOf(tiers);
  }

  /** How points were drawn. */
  public enum Way {
    /** One sample of all. */
    SAMPLE,
    /** Several samples of all. */
    SAMPLES,
    /** One point for each resource. */
    ONE_OF_EACH,
    /** Some starts in this way, some in that. */
    MIXED;

    static Way of(List<DrawnFrom> draws) {
      long simple = draws.stream().filter(DrawnFrom::simple).count();
      if (simple == 0) {
        return ONE_OF_EACH;
      } else if (simple < draws.size()) {
        return MIXED;
      }
      return simple == 1 ? SAMPLE : SAMPLES;
    }
  }

  /** The points of a kind on a store, and the share of them that is shown good; 0 where nothing was drawn. */
  public record Stratum(Kind kind, String store, Assurance sure, double atLeast) {}

  /**
   * The points that are held to a tier.
   *
   * @param atLeast the share that is shown good; 0 where nothing was drawn
   * @param asked the share that the standard asks for; null where it asks for none
   * @param stillNeeded draws without a failure that would show it; null where nothing is asked, or no draw can
   */
  public record TierSure(
      int tier,
      Assurance sure,
      double atLeast,
      @Nullable Double asked,
      @Nullable Integer stillNeeded) {}

  /** How far the size of the population counts: where one simple sample came to results in full. */
  private record Bound(boolean simple) {
    double atLeast(Assurance sure) {
      return counted(sure).atLeast();
    }

    OptionalInt stillNeeded(Assurance sure, double share) {
      return counted(sure).stillNeeded(share);
    }

    private Assurance counted(Assurance sure) {
      return simple ? sure : new Assurance(sure.drawn(), sure.failed(), ENDLESS);
    }
  }

  /** The drills of some points: of each, whether one failed. */
  private static final class Sample {
    private final Set<Candidate> drilled = new HashSet<>();
    private final Set<Candidate> failed = new HashSet<>();
    private final Set<Candidate> all = new HashSet<>();

    void add(Candidate point, boolean bad) {
      drilled.add(point);
      all.add(point);
      if (bad) {
        failed.add(point);
      }
    }

    Assurance sure() {
      return new Assurance(drilled.size(), failed.size(), all.size());
    }
  }

  /** Points apart by kind and store, and by tier. */
  private static final class Samples {
    private final Estate estate;
    private final Sample whole = new Sample();
    private final Map<Kind, Map<String, Sample>> strata = new TreeMap<>();
    private final Map<Integer, Sample> tiers = new TreeMap<>();
    private final Map<String, Integer> tierOf = new HashMap<>();

    Samples(Estate estate) {
      this.estate = estate;
    }

    void candidate(Candidate candidate) {
      whole.all.add(candidate);
      tier(candidate).all.add(candidate);
      Resource resource = estate.resource(candidate.resource());
      RecoveryPoint point =
          resource == null ? null : estate.point(candidate.resource(), candidate.point());
      if (point != null) {
        PointSet own = estate.pointSet(candidate.resource());
        own.copiesOf(point).stream()
            .filter(c -> c.state() == CopyState.PRESENT)
            .forEach(c -> stratum(resource.kind(), c.store()).all.add(candidate));
      }
    }

    void drill(DrillFact drill) {
      Candidate point = new Candidate(drill.resource(), drill.point());
      Resource resource = estate.resource(drill.resource());
      // Also where its resource is gone since: that must not take a failure away.
      whole.add(point, drill.failed());
      tier(point).add(point, drill.failed());
      if (resource != null) {
        stratum(resource.kind(), drill.store()).add(point, drill.failed());
      }
    }

    private Sample stratum(Kind kind, String store) {
      return strata
          .computeIfAbsent(kind, k -> new TreeMap<>())
          .computeIfAbsent(store, s -> new Sample());
    }

    private Sample tier(Candidate candidate) {
      int tier = tierOf.computeIfAbsent(candidate.resource(), this::heldTo);
      return tiers.computeIfAbsent(tier, t -> new Sample());
    }

    /** What is of no known workload is held to the strictest. */
    private int heldTo(String key) {
      Resource resource = estate.resource(key);
      Workload workload = resource == null ? null : estate.workload(resource.workload());
      return workload == null ? Workload.STRICTEST : workload.heldTo();
    }

    List<Stratum> strata(Bound bound) {
      List<Stratum> list = new ArrayList<>();
      strata.forEach((kind, stores) -> stores.forEach((store, sample) ->
          list.add(new Stratum(kind, store, sample.sure(), bound.atLeast(sample.sure())))));
      return list;
    }

    List<TierSure> tiers(Bound bound, Standard standard) {
      List<TierSure> list = new ArrayList<>();
      tiers.forEach((tier, sample) -> {
        Assurance sure = sample.sure();
        Double asked = standard.tiers().get(tier - 1).shownByDrawing();
        OptionalInt needed = asked == null ? OptionalInt.empty() : bound.stillNeeded(sure, asked);
        list.add(new TierSure(
            tier, sure, bound.atLeast(sure), asked, needed.isPresent() ? needed.getAsInt() : null));
      });
      return list;
    }
  }

  /**
   * @param standard says what share is asked of each tier
   * @param drills that ended in the period, of what is looked at
   * @param draws of the period
   */
  public static DrawnDrills of(
      Estate estate, Standard standard, List<DrillFact> drills, List<DrawnFrom> draws) {
    Samples samples = new Samples(estate);
    Set<String> drawn = new HashSet<>();
    int withoutResult = 0;
    for (DrawnFrom draw : draws) {
      draw.candidates().forEach(samples::candidate);
      drawn.addAll(draw.runs());
      withoutResult += draw.withoutResult();
    }
    int chosen = 0;
    for (DrillFact drill : drills) {
      if (!drill.passed() && !drill.failed()) {
        continue;
      }
      if (drawn.contains(drill.run())) {
        if (DrawnFrom.says(drill)) {
          samples.drill(drill);
        }
      } else {
        chosen++;
      }
    }
    Way way = Way.of(draws);
    // What came to no result may be what can't be restored: then those that did are no simple
    // sample.
    Bound bound = new Bound(way == Way.SAMPLE && withoutResult == 0);
    return new DrawnDrills(
        samples.whole.sure(),
        way,
        withoutResult,
        chosen,
        samples.strata(bound),
        samples.tiers(bound, standard));
  }

  /** The share of all that is shown good; 0 where nothing was drawn. */
  public double atLeast() {
    return new Bound(way == Way.SAMPLE && withoutResult == 0).atLeast(whole);
  }

  /** For a report. */
  public List<String> sentences() {
    return DrawnWords.of(this);
  }
}
