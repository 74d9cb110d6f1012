package hardproof.core.criteria;

import hardproof.core.copies.CopyRule;
import hardproof.core.estate.Workload;
import hardproof.core.ladder.Rung;
import hardproof.core.points.Consistency;
import java.time.Duration;
import java.util.List;

/**
 * A named, versioned set of demands.
 *
 * @param period the time that worst exposure, attainment and copy lag are judged over
 * @param tiers demands of tier 1 to 4, in order
 */
public record Standard(String name, int version, Duration period, List<TierDemand> tiers) {
  public Standard {
    tiers = List.copyOf(tiers);
    if (tiers.size() != 4) {
      throw new IllegalArgumentException("a standard has 4 tiers, not " + tiers.size());
    }
  }

  /**
   * The standard that ships. Proof periods as in the tier table of the manual; the quarter of tier
   * 2 follows CIS Controls v8 safeguard 11.5 (test recovery quarterly). Copies by the 3-2-1-1-0
   * rule (common practice), without the locked copy for tier 4.
   */
  public static Standard shipped() {
    return new Standard(
        "Default",
        1,
        Duration.ofDays(30),
        List.of(
            tier(
                4,
                4,
                Rung.RUNNING,
                30,
                0.99,
                Consistency.FILE,
                CopyRule.threeTwoOneOneZero(Duration.ofDays(7))),
            tier(
                24,
                24,
                Rung.RUNNING,
                90,
                0.98,
                Consistency.FILE,
                CopyRule.threeTwoOneOneZero(Duration.ofDays(7))),
            tier(
                24,
                72,
                Rung.RESTORED,
                180,
                0.95,
                Consistency.UNKNOWN,
                CopyRule.threeTwoOneOneZero(Duration.ofDays(14))),
            tier(
                48,
                168,
                Rung.INTACT,
                365,
                0.90,
                Consistency.UNKNOWN,
                new CopyRule(2, 1, 1, 0, 0, Duration.ofDays(14)))));
  }

  private static TierDemand tier(
      int rpoHours,
      int rtoHours,
      Rung rung,
      int proofDays,
      double attainment,
      Consistency consistency,
      CopyRule rule) {
    return new TierDemand(
        Duration.ofHours(rpoHours),
        Duration.ofHours(rtoHours),
        rung,
        Duration.ofDays(proofDays),
        attainment,
        consistency,
        rule);
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
    int tier = workload == null || workload.tier() == null ? 1 : workload.tier();
    TierDemand demand = tiers.get(tier - 1);
    if (workload == null) {
      return demand;
    }
    return new TierDemand(
        workload.rpo() == null ? demand.rpo() : workload.rpo(),
        workload.rto() == null ? demand.rto() : workload.rto(),
        workload.rung() == null ? demand.rung() : workload.rung(),
        demand.proofPeriod(),
        demand.attainment(),
        demand.consistency(),
        demand.copyRule());
  }
}
