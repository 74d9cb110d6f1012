package hardproof.core.criteria;

import hardproof.core.copies.CopyRule;
import hardproof.core.ladder.Rung;
import hardproof.core.points.Consistency;
import java.time.Duration;

/**
 * What a tier demands. A workload's own objectives override {@code rpo}, {@code rto} and
 * {@code rung}.
 *
 * @param proofPeriod how long a drill counts; a day here is 24 hours
 * @param attainment share of the period (0 to 1) in which exposure must be within the RPO
 */
public record TierDemand(
    Duration rpo,
    Duration rto,
    Rung rung,
    Duration proofPeriod,
    double attainment,
    Consistency consistency,
    CopyRule copyRule) {}
