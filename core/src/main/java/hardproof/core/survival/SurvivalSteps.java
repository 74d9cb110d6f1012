package hardproof.core.survival;

import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.order.RecoverySchedule.Limits;
import hardproof.core.order.RecoverySteps;
import hardproof.core.order.RecoverySteps.Step;
import hardproof.core.recovery.TimeEstimate;
import hardproof.core.survival.Survival.Member;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** The restores of a whole estate: by tier, and what a stricter tier needs as if it were of that tier. */
final class SurvivalSteps {
  private final Survival survival;
  private final List<Step> steps = new ArrayList<>();
  private final Map<String, Double> rates = new TreeMap<>();
  private final Set<String> needed = new TreeSet<>();

  SurvivalSteps(Survival survival) {
    this.survival = survival;
  }

  /**
   * @param store the place of the store that it is read from; −1 for none
   */
  void add(Member member, boolean possible, int store, @Nullable TimeEstimate time) {
    Workload own = survival.estate().workload(member.resource().workload());
    List<String> needs = new ArrayList<>(member.resource().needs());
    if (!member.byItself()) {
      needs.add(member.with().key());
    }
    if (own != null) {
      for (String workload : own.needs()) {
        needs.add(RecoverySteps.allOf(workload));
        needed.add(workload);
      }
    }
    Store from = store < 0 ? null : survival.bits().stores().get(store);
    if (from != null && from.throughput() != null && from.throughput() > 0) {
      rates.put(from.key(), from.throughput().doubleValue());
    }
    long millis = time == null || !member.byItself() ? 0 : time.median().toMillis();
    steps.add(new Step(
        member.resource().key(),
        millis,
        from == null ? null : from.key(),
        millis == 0 ? 0 : time.bytes() * 1000.0 / millis,
        own == null ? Workload.STRICTEST : own.heldTo(),
        possible,
        needs));
  }

  RecoverySteps steps() {
    for (String workload : needed) {
      List<String> own = survival.estate().membersOf(workload).stream()
          .map(r -> r.key())
          .filter(key -> survival.member(key) != null)
          .toList();
      steps.add(new Step(
          RecoverySteps.allOf(workload), 0, null, 0, Workload.STRICTEST + MORE, true, own));
    }
    return new RecoverySteps(steps).rankedByNeed();
  }

  /** Later than any tier: that a workload is up matters to who needs it. */
  private static final int MORE = 100;

  Limits limits(int atOnce) {
    return new Limits(atOnce, rates);
  }
}
