package hardproof.core.survival;

import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.losses.Loss;
import hardproof.core.order.RecoverySteps;
import hardproof.core.survival.Survival.Guarded;
import hardproof.core.survival.Survival.Member;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.IntStream;

/**
 * A loss beside all others: how much it takes that would be there without it.
 *
 * @param lost keys of workloads of which a member is lost or needs one that is, beyond those that had nothing
 * @param late keys of workloads that come back with data older than the RPO, beyond those that would anyway
 * @param weight lost and late by tier: what takes one workload of tier 1 weighs more than what takes one of tier 4
 */
public record LossRank(Loss loss, List<String> lost, List<String> late, long weight) {
  private static final int[] WEIGHTS = {8, 4, 2, 1};
  /** One lost weighs more than all that are late of the same tier in any estate. */
  private static final long LOST = 1_000_000;

  private static final int HOLDERS = 50;

  /**
   * Every single site, region, store and failure domain, what holds only keys (at most the 50 places that hold most), an
   * intruder, and every pair of stores that takes more than its two stores do by themselves; what hurts most first.
   */
  static List<LossRank> of(Survival survival) {
    RecoverySteps needs = survival.needs();
    Left none = Left.of(survival, needs, Loss.NONE);
    List<LossRank> singles = singles(survival, needs, none);
    List<LossRank> all = new ArrayList<>(singles);
    List<Store> stores = survival.stores();
    all.addAll(IntStream.range(0, stores.size())
        .boxed()
        .parallel()
        .flatMap(i -> IntStream.range(i + 1, stores.size())
            .mapToObj(j -> pair(survival, stores.get(i), stores.get(j), needs, none)))
        .filter(r -> r.weight() > 0)
        .filter(r -> singles.stream().noneMatch(s -> covers(s, r)))
        .toList());
    all.sort(Comparator.comparingLong((LossRank r) -> -r.weight())
        .thenComparing(r -> r.loss().stores().size())
        .thenComparing(r -> r.loss().words()));
    return all;
  }

  /** As {@link #of(Survival)} without pairs: each store, then sites, regions, failure domains, holders of keys, an intruder. */
  static List<LossRank> ofSingles(Survival survival) {
    RecoverySteps needs = survival.needs();
    return singles(survival, needs, Left.of(survival, needs, Loss.NONE));
  }

  private static List<LossRank> singles(Survival survival, RecoverySteps needs, Left none) {
    return singles(survival).parallelStream()
        .map(l -> of(survival, l, needs, none))
        .toList();
  }

  /** A pair says nothing that one of its two, or what takes both, does not say by itself. */
  private static boolean covers(LossRank single, LossRank pair) {
    return pair.loss().stores().containsAll(single.loss().stores())
        && !single.loss().stores().isEmpty()
        && single.weight() >= pair.weight();
  }

  private static LossRank pair(
      Survival survival, Store a, Store b, RecoverySteps needs, Left none) {
    return of(survival, Loss.ofStores(Set.of(a.key(), b.key())), needs, none);
  }

  private static List<Loss> singles(Survival survival) {
    Set<String> sites = new TreeSet<>();
    Set<String> regions = new TreeSet<>();
    Set<String> domains = new TreeSet<>();
    List<Loss> all = new ArrayList<>();
    for (Store store : survival.stores()) {
      if (store.site() != null) {
        sites.add(store.site());
      }
      if (store.region() != null) {
        regions.add(store.region());
      }
      if (store.failureDomain() != null) {
        domains.add(store.failureDomain());
      }
      all.add(Loss.ofStores(Set.of(store.key())));
    }
    sites.forEach(s -> all.add(Loss.ofSite(s)));
    regions.forEach(r -> all.add(Loss.ofRegion(r)));
    domains.forEach(d -> all.add(Loss.ofDomain(d)));
    survival.onlyHolders().stream().limit(HOLDERS).forEach(h -> all.add(Loss.ofHolder(h)));
    all.add(Loss.ofIntruder());
    return all;
  }

  private static LossRank of(Survival survival, Loss loss, RecoverySteps needs, Left none) {
    Left after = Left.of(survival, needs, loss);
    List<String> lost = new ArrayList<>();
    List<String> late = new ArrayList<>();
    long weight = 0;
    for (int i = 0; i < survival.workloads().size(); i++) {
      Workload workload = survival.workloads().get(i).workload();
      int tier = weight(workload);
      if (after.gone()[i] && !none.gone()[i]) {
        lost.add(workload.key());
        weight += LOST * tier;
      } else if (after.old()[i] && !none.old()[i] && !none.gone()[i]) {
        late.add(workload.key());
        weight += tier;
      }
    }
    return new LossRank(loss, lost, late, weight);
  }

  /** One of tier 1 is as much as two of tier 2, and so on. */
  static int weight(Workload workload) {
    return WEIGHTS[workload.heldTo() - 1];
  }

  /**
   * What a loss leaves, by the place of each workload.
   *
   * @param gone a member is lost, or needs one that is
   * @param old a member goes back beyond its RPO
   */
  private record Left(boolean[] gone, boolean[] old) {
    static Left of(Survival survival, RecoverySteps needs, Loss loss) {
      Protection.Blow blow = survival.blow(loss);
      boolean[] there = new boolean[needs.size()];
      Arrays.fill(there, true);
      boolean[] late = new boolean[needs.size()];
      for (Member member : survival.members()) {
        int row = member.protection().newestLeft(blow);
        int place = needs.place(member.resource().key());
        there[place] = row >= 0;
        late[place] =
            row >= 0 && member.ageAsTold(row).compareTo(member.result().demand().rpo()) > 0;
      }
      boolean[] whole = needs.withAllItNeeds(there);
      List<Guarded> workloads = survival.workloads();
      Left left = new Left(new boolean[workloads.size()], new boolean[workloads.size()]);
      for (int i = 0; i < workloads.size(); i++) {
        for (Member member : workloads.get(i).members()) {
          int place = needs.place(member.resource().key());
          left.gone[i] |= !whole[place];
          left.old[i] |= late[place];
        }
      }
      return left;
    }
  }
}
