package hardproof.core.plan;

import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;

/**
 * What something comes to for one workload.
 *
 * @param proven whether it becomes proven
 * @param better whether its verdict gets better and is not proven
 * @param weight of either, more for a stricter tier; 0 where neither is so
 * @param closed criteria that would be met and are not
 * @param opened criteria that would not be met and are
 */
record Gain(boolean proven, boolean better, double weight, int closed, int opened) {
  private static final int TIERS_AND_ONE = 5;

  static Gain of(WorkloadResult before, WorkloadResult after) {
    int more = open(after) - open(before);
    // From worst to best, but what is left out is neither.
    boolean better =
        after.verdict().compareTo(before.verdict()) > 0 && after.verdict() != Verdict.EXCLUDED;
    boolean proven = better && after.verdict() == Verdict.PROVEN;
    int tier = after.workload().heldTo();
    double weight = better ? (TIERS_AND_ONE - tier) * (proven ? 2 : 1) : 0;
    return new Gain(proven, better && !proven, weight, Math.max(0, -more), Math.max(0, more));
  }

  private static int open(WorkloadResult w) {
    int open = 0;
    for (ResourceResult member : w.members()) {
      if (member.verdict() == Verdict.EXCLUDED) {
        continue; // Nothing is held against what is left out.
      }
      for (Outcome outcome : member.outcomes()) {
        open += outcome.state() == OutcomeState.NOT_MET ? 1 : 0;
      }
    }
    return open;
  }
}
