package hardproof.core.survival;

import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.facts.PointSet;
import hardproof.core.losses.Loss;
import hardproof.core.order.RecoverySteps;
import hardproof.core.survival.Survival.Guarded;
import hardproof.core.survival.Survival.Member;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Tries what would have more survive a loss: on each store that it leaves one more copy of all that it takes, where that may
 * lie there, and one more place for keys.
 */
final class Remedies {
  private final Survival survival;
  private final Loss loss;
  private final Protection.Blow blow;
  private final RecoverySteps needs;
  private final boolean[] there;
  private final boolean[] goneNow;
  private final List<Taken> taken = new ArrayList<>();

  /**
   * A member that the loss takes and that has a point to be saved.
   *
   * @param row of that point
   * @param sealed whether it would need another place for its keys
   * @param there whether it is left itself, and only its keys are not
   */
  private record Taken(Member member, int row, boolean sealed, boolean there) {
    String key() {
      return member.resource().key();
    }
  }

  Remedies(Survival survival, Loss loss) {
    this.survival = survival;
    this.loss = loss;
    this.blow = survival.blow(loss);
    this.needs = survival.needs();
    this.there = new boolean[needs.size()];
    Arrays.fill(there, true);
    for (Member member : survival.members()) {
      Protection own = member.protection();
      if (own.newestLeft(blow) < 0) {
        there[needs.place(member.resource().key())] = false;
        int row = own.newestTrusted(blow);
        if (row >= 0) {
          boolean keys = own.sealed(blow) && own.encrypted(row);
          taken.add(new Taken(member, row, keys, keys && own.newestUnsealed(blow) >= 0));
        }
      }
    }
    this.goneNow = gone(there);
  }

  List<Remedy> found() {
    List<Remedy> found = new ArrayList<>();
    if (taken.isEmpty()) {
      return found;
    }
    add(found, Remedy.Kind.KEY, null, taken.stream().filter(Taken::there).toList());
    for (Store store : survival.stores()) {
      if (!loss.takes(store) && outlasts(store)) {
        List<Taken> allowed =
            taken.stream().filter(t -> mayLie(t.member(), store)).toList();
        List<Taken> open = allowed.stream().filter(t -> !t.sealed()).toList();
        add(found, kind(store, open), store, open);
        if (allowed.stream().anyMatch(t -> t.sealed() && !t.there())) {
          add(found, kind(store, allowed), store, allowed);
        }
      }
    }
    found.sort(Comparator.comparingLong((Remedy c) -> -c.weight())
        .thenComparingLong(Remedy::bytes)
        .thenComparing(c -> c.copied().size())
        .thenComparing(Remedy::kind)
        .thenComparing(c -> String.valueOf(c.store())));
    return found;
  }

  private boolean outlasts(Store store) {
    return !loss.intruder()
        || Boolean.FALSE.equals(store.online())
        || Boolean.TRUE.equals(store.canLock());
  }

  private Remedy.Kind kind(Store store, List<Taken> all) {
    List<Taken> copied = all.stream().filter(t -> !t.there()).toList();
    if (!loss.intruder() || Boolean.FALSE.equals(store.online())) {
      return Remedy.Kind.COPY;
    }
    return copied.stream().allMatch(t -> lies(t, store))
        ? Remedy.Kind.LOCK
        : Remedy.Kind.LOCKED_COPY;
  }

  /** Where its data may lie by the standard, and not where production does. */
  private boolean mayLie(Member member, Store store) {
    Workload own = survival.estate().workload(member.resource().workload());
    List<String> regions = own == null || own.dataClass() == null
        ? null
        : survival.standard().regions().get(own.dataClass());
    boolean here = regions == null
        || store.region() != null && regions.stream().anyMatch(store.region()::equalsIgnoreCase);
    String production = member.with().tags().get(Resource.FAILURE_DOMAIN_TAG);
    return here && !store.effectiveFailureDomain().equals(production);
  }

  private void add(List<Remedy> found, Remedy.Kind kind, @Nullable Store store, List<Taken> all) {
    boolean[] tried = there.clone();
    all.forEach(t -> tried[needs.place(t.key())] = true);
    boolean[] gone = gone(tried);
    List<Guarded> saved = new ArrayList<>();
    int still = 0;
    for (int i = 0; i < gone.length; i++) {
      Guarded guarded = survival.workloads().get(i);
      if (goneNow[i] && !gone[i]) {
        saved.add(guarded);
      } else if (gone[i] && guarded.members().stream().allMatch(Member::hasAny)) {
        still++;
      }
    }
    if (saved.isEmpty()) {
      return;
    }
    Set<String> wanted = withAllTheyNeed(saved);
    List<Taken> own = all.stream().filter(t -> wanted.contains(t.key())).toList();
    List<Taken> copied = own.stream().filter(t -> store != null && !t.there()).toList();
    if (store != null && copied.isEmpty()) {
      return; // Keys alone do it, which is tried without a store.
    }
    found.add(new Remedy(
        kind,
        store == null ? null : store.key(),
        copied.stream().map(Taken::key).toList(),
        own.stream().filter(Taken::sealed).map(Taken::key).toList(),
        saved.size(),
        still,
        saved.stream().mapToLong(g -> LossRank.weight(g.workload())).sum(),
        store == null ? 0 : bytes(copied, store)));
  }

  /** Keys of members and of all that these need, at any depth: nothing else has to be saved for them. */
  private Set<String> withAllTheyNeed(List<Guarded> workloads) {
    Set<String> wanted = new HashSet<>();
    Deque<String> open = new ArrayDeque<>();
    workloads.forEach(g -> g.members().forEach(m -> open.add(m.resource().key())));
    while (!open.isEmpty()) {
      String key = open.poll();
      if (wanted.add(key)) {
        open.addAll(
            needs.step(needs.place(key)).needs().stream().filter(needs::has).toList());
      }
    }
    return wanted;
  }

  private boolean[] gone(boolean[] which) {
    boolean[] whole = needs.withAllItNeeds(which);
    boolean[] gone = new boolean[survival.workloads().size()];
    for (int i = 0; i < gone.length; i++) {
      gone[i] = !survival.workloads().get(i).members().stream()
          .allMatch(m -> whole[needs.place(m.resource().key())]);
    }
    return gone;
  }

  /** What one brings that others come with is copied once. */
  private long bytes(List<Taken> all, Store store) {
    Set<String> counted = new HashSet<>();
    return all.stream()
        .filter(t -> counted.add(t.member().with().key()))
        .mapToLong(t -> bytes(t, store))
        .sum();
  }

  /** Of the point and all that it hangs from, what is not on a store yet. */
  private long bytes(Taken one, Store store) {
    PointSet set = survival.estate().pointSet(one.member().with().key());
    int place = survival.bits().place(store.key());
    long bytes = 0;
    for (int at = one.row(); at >= 0; at = set.hangs(at) ? set.basedOn(at) : -1) {
      boolean here = one.member().protection().readableOn(at, place);
      bytes += here ? 0 : Math.max(0, set.sizeBytes(at));
    }
    return bytes;
  }

  private boolean lies(Taken one, Store store) {
    return one.member().protection().wholeOn(one.row(), survival.bits().place(store.key()));
  }
}
