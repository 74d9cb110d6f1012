package hardproof.core.proof;

import hardproof.core.estate.Workload;
import hardproof.core.ladder.Rung;
import java.util.List;

/**
 * What came out for one workload.
 *
 * @param causes worst first; the first one decides the verdict; never empty
 * @param rung the lowest of its members; null when one of them has nothing at all
 * @param demanded the highest rung demanded of a member
 */
public record WorkloadResult(
    Workload workload,
    boolean unassigned,
    Verdict verdict,
    String sentence,
    List<Cause> causes,
    Rung rung,
    Rung demanded,
    List<ResourceResult> members,
    List<Action> actions) {}
