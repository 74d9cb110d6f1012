package hardproof.core.criteria;

import hardproof.core.estate.Workload;
import hardproof.core.wording.WrongValue;
import java.time.Duration;
import java.time.ZoneId;
import java.util.Collections;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * A named, versioned set of demands.
 *
 * @param period the time that worst exposure, attainment and copy lag are judged over
 * @param zone whose days, weeks, months and years retention is judged by
 * @param tiers demands of tier 1 to 4, in order
 * @param regions by data class, the regions its copies may lie in; classes not named may lie anywhere
 * @param own criteria that people wrote for themselves
 */
public record Standard(
    String name,
    int version,
    Duration period,
    ZoneId zone,
    List<TierDemand> tiers,
    Map<String, List<String>> regions,
    List<OwnCriterion> own) {
  public static final int TIERS = 4;

  public Standard {
    if (name.isBlank()) {
      throw new WrongValue("a standard needs a name");
    }
    if (period.isNegative() || period.isZero()) {
      throw new WrongValue("the period of a standard must be longer than nothing");
    }
    tiers = List.copyOf(tiers);
    if (tiers.size() != TIERS) {
      throw new WrongValue("a standard has 4 tiers, not " + tiers.size());
    }
    regions = Collections.unmodifiableMap(new TreeMap<>(regions));
    own = List.copyOf(own);
    if (own.stream().map(OwnCriterion::code).distinct().count() < own.size()) {
      throw new WrongValue("two criteria of your own have the same code");
    }
  }

  /** The one that holds until another is chosen. */
  public static Standard shipped() {
    return ShippedStandards.sensible();
  }

  /** Name and version, as evaluations and packs name it. */
  public String title() {
    return name + " " + version;
  }

  /**
   * What is demanded of a workload. One whose tier is not known is held to tier 1: not knowing must
   * not make it easier.
   */
  public TierDemand demandOn(Workload workload) {
    int tier = workload == null ? Workload.STRICTEST : workload.heldTo();
    TierDemand demand = tiers.get(tier - 1);
    if (workload == null) {
      return demand;
    }
    Map<Parameter, Long> objectives = objectives(workload);
    return demand.with(objectives);
  }

  private static Map<Parameter, Long> objectives(Workload workload) {
    Map<Parameter, Long> objectives = new EnumMap<>(Parameter.class);
    if (workload.rpo() != null) {
      objectives.put(Parameter.RPO, workload.rpo().toMillis());
    }
    if (workload.rto() != null) {
      objectives.put(Parameter.RTO, workload.rto().toMillis());
    }
    if (workload.rung() != null) {
      objectives.put(Parameter.RUNG, (long) workload.rung().number());
    }
    return objectives;
  }

  /** The same demands under another version number. */
  public Standard asVersion(int other) {
    return new Standard(name, other, period, zone, tiers, regions, own);
  }
}
