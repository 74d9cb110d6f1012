package hardproof.core.survival;

import hardproof.core.estate.Store;
import hardproof.core.losses.Loss;
import hardproof.core.survival.Survival.Guarded;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.IntStream;

/**
 * A loss beside all others: how much it takes that would be there without it.
 *
 * @param lost workloads of which a member is lost, beyond those that had nothing
 * @param late workloads that come back with data older than the RPO, beyond those that would anyway
 * @param weight lost and late by tier: what takes one workload of tier 1 weighs more than what takes one of tier 4
 */
public record LossRank(Loss loss, int lost, int late, long weight) {
  private static final int[] WEIGHTS = {8, 4, 2, 1};
  /** One lost weighs more than all that are late of the same tier in any estate. */
  private static final long LOST = 1_000_000;

  /**
   * Every single site, region, store and failure domain, an intruder, and every pair of stores that takes more than its two
   * stores do by themselves; what hurts most first.
   */
  static List<LossRank> of(Survival survival) {
    Protection.Blow none = survival.blow(Loss.NONE);
    List<LossRank> singles = singles(survival.stores()).parallelStream()
        .map(l -> of(survival, l, none))
        .toList();
    List<LossRank> all = new ArrayList<>(singles);
    List<Store> stores = survival.stores();
    all.addAll(IntStream.range(0, stores.size())
        .boxed()
        .parallel()
        .flatMap(i -> IntStream.range(i + 1, stores.size())
            .mapToObj(j -> pair(survival, stores.get(i), stores.get(j), none)))
        .filter(r -> r.weight() > 0)
        .filter(r -> singles.stream().noneMatch(s -> covers(s, r)))
        .toList());
    all.sort(Comparator.comparingLong((LossRank r) -> -r.weight())
        .thenComparing(r -> r.loss().stores().size())
        .thenComparing(r -> r.loss().words()));
    return all;
  }

  /** A pair says nothing that one of its two, or what takes both, does not say by itself. */
  private static boolean covers(LossRank single, LossRank pair) {
    return pair.loss().stores().containsAll(single.loss().stores())
        && !single.loss().stores().isEmpty()
        && single.weight() >= pair.weight();
  }

  private static LossRank pair(Survival survival, Store a, Store b, Protection.Blow none) {
    return of(survival, Loss.ofStores(Set.of(a.key(), b.key())), none);
  }

  private static List<Loss> singles(List<Store> stores) {
    Set<String> sites = new TreeSet<>();
    Set<String> regions = new TreeSet<>();
    Set<String> domains = new TreeSet<>();
    List<Loss> all = new ArrayList<>();
    for (Store store : stores) {
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
    all.add(Loss.ofIntruder());
    return all;
  }

  private static LossRank of(Survival survival, Loss loss, Protection.Blow none) {
    Protection.Blow blow = survival.blow(loss);
    int lost = 0;
    int late = 0;
    long weight = 0;
    for (Guarded guarded : survival.workloads()) {
      int before = worst(guarded, none);
      int after = worst(guarded, blow);
      int tier = WEIGHTS[guarded.workload().heldTo() - 1];
      if (after == GONE && before != GONE) {
        lost++;
        weight += LOST * tier;
      } else if (after == OLD && before == FINE) {
        late++;
        weight += tier;
      }
    }
    return new LossRank(loss, lost, late, weight);
  }

  private static final int FINE = 0;
  private static final int OLD = 1;
  private static final int GONE = 2;

  private static int worst(Guarded guarded, Protection.Blow blow) {
    int worst = FINE;
    for (Survival.Member member : guarded.members()) {
      int row = member.protection().newestLeft(blow);
      if (row < 0) {
        return GONE;
      }
      boolean old = member.ageAsTold(row).compareTo(member.result().demand().rpo()) > 0;
      worst = old ? OLD : worst;
    }
    return worst;
  }
}
