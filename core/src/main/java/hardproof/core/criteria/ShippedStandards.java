package hardproof.core.criteria;

import static hardproof.core.criteria.Parameter.AGENT_WITHIN;
import static hardproof.core.criteria.Parameter.ATTAINMENT;
import static hardproof.core.criteria.Parameter.CHAIN_LENGTH;
import static hardproof.core.criteria.Parameter.CONSISTENCY;
import static hardproof.core.criteria.Parameter.COPIES;
import static hardproof.core.criteria.Parameter.COPY_FRESHNESS;
import static hardproof.core.criteria.Parameter.DELETE_APPROVALS;
import static hardproof.core.criteria.Parameter.ENCRYPTED;
import static hardproof.core.criteria.Parameter.ERRORS;
import static hardproof.core.criteria.Parameter.FAILURES_IN_A_ROW;
import static hardproof.core.criteria.Parameter.FULL_AGE;
import static hardproof.core.criteria.Parameter.KEYS_APART;
import static hardproof.core.criteria.Parameter.KIT_TRIED_WITHIN;
import static hardproof.core.criteria.Parameter.LIFETIME;
import static hardproof.core.criteria.Parameter.LOCKED_FOR;
import static hardproof.core.criteria.Parameter.LOCK_COVERS_RETENTION;
import static hardproof.core.criteria.Parameter.LOSS_BY_PROOF;
import static hardproof.core.criteria.Parameter.MEDIA;
import static hardproof.core.criteria.Parameter.OFFLINE_OR_LOCKED;
import static hardproof.core.criteria.Parameter.OFF_SITE;
import static hardproof.core.criteria.Parameter.OFF_SITE_DRILL_AGE;
import static hardproof.core.criteria.Parameter.ONE_MOMENT;
import static hardproof.core.criteria.Parameter.PASSIVE_SOURCE;
import static hardproof.core.criteria.Parameter.PRE_STEP;
import static hardproof.core.criteria.Parameter.PROOF_PERIOD;
import static hardproof.core.criteria.Parameter.REACH;
import static hardproof.core.criteria.Parameter.READ_BACK_AGE;
import static hardproof.core.criteria.Parameter.REDUNDANCY;
import static hardproof.core.criteria.Parameter.RESTORERS;
import static hardproof.core.criteria.Parameter.RPO;
import static hardproof.core.criteria.Parameter.RTO;
import static hardproof.core.criteria.Parameter.RUNBOOK_TRIED_WITHIN;
import static hardproof.core.criteria.Parameter.RUNG;
import static hardproof.core.criteria.Parameter.SEEN_WITHIN;
import static hardproof.core.criteria.Parameter.SHOWN_BY_DRAWING;
import static hardproof.core.criteria.Parameter.SIZE_SCORE;
import static hardproof.core.criteria.Parameter.SKIPPED_ITEMS;
import static hardproof.core.criteria.Parameter.SURVIVE_INTRUDER;
import static hardproof.core.criteria.Parameter.SURVIVE_ONE;

import java.time.Duration;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/**
 * The two standards that ship. Proof periods and rungs are those of the tier table in the manual; the
 * quarter of tier 2 follows CIS Controls v8 safeguard 11.5 (test recovery quarterly). Copies by the
 * 3-2-1-1-0 rule (common practice). The size score of 3.5 is that of Iglewicz and Hoaglin
 * (NIST/SEMATECH e-Handbook 1.3.5.17). The other figures are our own choice, to be changed by those
 * who know better.
 */
public final class ShippedStandards {
  private ShippedStandards() {}

  /** A table with a row for each parameter and the values of tier 1 to 4; "-" is not demanded. */
  private static final class Table {
    private final List<Map<Parameter, Long>> tiers = new ArrayList<>();

    Table() {
      for (int i = 0; i < Standard.TIERS; i++) {
        tiers.add(new EnumMap<>(Parameter.class));
      }
    }

    Table row(Parameter parameter, String tier1, String tier2, String tier3, String tier4) {
      String[] values = {tier1, tier2, tier3, tier4};
      for (int i = 0; i < values.length; i++) {
        if (!values[i].equals("-")) {
          tiers.get(i).put(parameter, parameter.read(values[i]));
        }
      }
      return this;
    }

    Standard standard(String name) {
      return new Standard(
          name,
          1,
          Duration.ofDays(30),
          ZoneOffset.UTC,
          tiers.stream().map(TierDemand::new).toList(),
          Map.of(),
          List.of());
    }
  }

  /** For an organisation that begins to hold itself to something. */
  public static Standard sensible() {
    return new Table()
        .row(RPO, "4h", "24h", "24h", "48h")
        .row(RTO, "4h", "24h", "72h", "168h")
        .row(RUNG, "running", "running", "restored", "intact")
        .row(PROOF_PERIOD, "30d", "90d", "180d", "365d")
        .row(CONSISTENCY, "file", "file", "unknown", "unknown")
        .row(ATTAINMENT, "0.99", "0.98", "0.95", "0.9")
        .row(SEEN_WITHIN, "60d", "60d", "60d", "60d")
        .row(AGENT_WITHIN, "3d", "3d", "7d", "7d")
        .row(KIT_TRIED_WITHIN, "365d", "365d", "365d", "-")
        .row(RUNBOOK_TRIED_WITHIN, "365d", "-", "-", "-")
        .row(RESTORERS, "2", "-", "-", "-")
        .row(KEYS_APART, "yes", "yes", "yes", "-")
        .row(FAILURES_IN_A_ROW, "0", "1", "1", "2")
        .row(REACH, "30d", "30d", "14d", "7d")
        .row(LIFETIME, "7d", "7d", "7d", "-")
        .row(COPIES, "3", "3", "3", "2")
        .row(MEDIA, "2", "2", "2", "1")
        .row(OFF_SITE, "1", "1", "1", "1")
        .row(OFFLINE_OR_LOCKED, "1", "1", "1", "0")
        .row(ERRORS, "0", "0", "0", "0")
        .row(COPY_FRESHNESS, "7d", "7d", "14d", "14d")
        .row(REDUNDANCY, "one-building", "-", "-", "-")
        .row(SURVIVE_ONE, "yes", "yes", "yes", "-")
        .row(SURVIVE_INTRUDER, "yes", "yes", "-", "-")
        .row(ENCRYPTED, "yes", "yes", "-", "-")
        .row(LOCKED_FOR, "14d", "-", "-", "-")
        .row(LOCK_COVERS_RETENTION, "-", "-", "-", "-")
        .row(DELETE_APPROVALS, "2", "-", "-", "-")
        .row(PRE_STEP, "yes", "yes", "yes", "-")
        .row(PASSIVE_SOURCE, "yes", "yes", "yes", "-")
        .row(SKIPPED_ITEMS, "0", "0", "0", "0")
        .row(SIZE_SCORE, "3.5", "3.5", "3.5", "3.5")
        .row(CHAIN_LENGTH, "30", "30", "30", "60")
        .row(FULL_AGE, "30d", "30d", "30d", "90d")
        .row(READ_BACK_AGE, "30d", "90d", "180d", "365d")
        .row(ONE_MOMENT, "4h", "24h", "24h", "-")
        .row(OFF_SITE_DRILL_AGE, "180d", "-", "-", "-")
        .row(LOSS_BY_PROOF, "31d", "92d", "182d", "-")
        .row(SHOWN_BY_DRAWING, "0.95", "0.9", "0.8", "-")
        .standard("Default");
  }

  /** For an organisation that must be able to recover from an intruder with its own rights. */
  public static Standard strict() {
    return new Table()
        .row(RPO, "1h", "4h", "12h", "24h")
        .row(RTO, "2h", "8h", "24h", "72h")
        .row(RUNG, "running", "running", "running", "restored")
        .row(PROOF_PERIOD, "30d", "60d", "90d", "180d")
        .row(CONSISTENCY, "application", "crash", "file", "file")
        .row(ATTAINMENT, "0.999", "0.995", "0.99", "0.95")
        .row(SEEN_WITHIN, "7d", "7d", "14d", "14d")
        .row(AGENT_WITHIN, "1d", "1d", "3d", "3d")
        .row(KIT_TRIED_WITHIN, "180d", "365d", "365d", "365d")
        .row(RUNBOOK_TRIED_WITHIN, "180d", "365d", "365d", "-")
        .row(RESTORERS, "2", "2", "2", "-")
        .row(KEYS_APART, "yes", "yes", "yes", "yes")
        .row(FAILURES_IN_A_ROW, "0", "0", "0", "1")
        .row(REACH, "90d", "60d", "30d", "14d")
        .row(LIFETIME, "30d", "14d", "14d", "7d")
        .row(COPIES, "3", "3", "3", "3")
        .row(MEDIA, "2", "2", "2", "2")
        .row(OFF_SITE, "1", "1", "1", "1")
        .row(OFFLINE_OR_LOCKED, "1", "1", "1", "1")
        .row(ERRORS, "0", "0", "0", "0")
        .row(COPY_FRESHNESS, "3d", "3d", "7d", "7d")
        .row(REDUNDANCY, "several-buildings", "one-building", "one-building", "-")
        .row(SURVIVE_ONE, "yes", "yes", "yes", "yes")
        .row(SURVIVE_INTRUDER, "yes", "yes", "yes", "yes")
        .row(ENCRYPTED, "yes", "yes", "yes", "yes")
        .row(LOCKED_FOR, "30d", "14d", "14d", "7d")
        .row(LOCK_COVERS_RETENTION, "yes", "yes", "-", "-")
        .row(DELETE_APPROVALS, "2", "2", "2", "-")
        .row(PRE_STEP, "yes", "yes", "yes", "yes")
        .row(PASSIVE_SOURCE, "yes", "yes", "yes", "yes")
        .row(SKIPPED_ITEMS, "0", "0", "0", "0")
        .row(SIZE_SCORE, "3.5", "3.5", "3.5", "3.5")
        .row(CHAIN_LENGTH, "14", "14", "30", "30")
        .row(FULL_AGE, "14d", "14d", "30d", "30d")
        .row(READ_BACK_AGE, "14d", "30d", "60d", "90d")
        .row(ONE_MOMENT, "1h", "4h", "12h", "24h")
        .row(OFF_SITE_DRILL_AGE, "90d", "180d", "365d", "-")
        .row(LOSS_BY_PROOF, "31d", "61d", "91d", "182d")
        .row(SHOWN_BY_DRAWING, "0.99", "0.95", "0.9", "0.8")
        .standard("Strict");
  }
}
