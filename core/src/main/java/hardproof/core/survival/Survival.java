package hardproof.core.survival;

import hardproof.core.copies.CopyState;
import hardproof.core.criteria.Proof;
import hardproof.core.criteria.Standard;
import hardproof.core.criteria.Subject;
import hardproof.core.drills.Method;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.losses.Loss;
import hardproof.core.order.RecoverySteps;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.Verdict;
import hardproof.core.proof.WorkloadResult;
import hardproof.core.recovery.RestoreEstimate;
import hardproof.core.recovery.TimeEstimate;
import hardproof.core.recovery.TimeEstimates;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * What an estate has against losses: of each workload that is not excluded its members, and where their points lie. Made
 * once for an evaluation; losses are then tried without looking at facts again. Safe for many threads.
 */
public final class Survival {
  private final Estate estate;
  private final Standard standard;
  private final StoreBits bits;
  private final FeedNumbers feeds = new FeedNumbers();
  private final List<Guarded> workloads = new ArrayList<>();
  private final Map<String, Member> members = new LinkedHashMap<>();

  // Worked out when first asked for.
  private volatile @Nullable RecoverySteps needs;

  /** A workload with its members that are not excluded. */
  record Guarded(WorkloadResult result, List<Member> members) {
    Workload workload() {
      return result.workload();
    }
  }

  /**
   * A member.
   *
   * @param times how long a restore from a store takes alone, by the place of the store; null where nobody knows
   * @param bytes that its copies take, by the place of the store
   */
  record Member(
      Resource resource,
      Resource with,
      ResourceResult result,
      Protection protection,
      @Nullable TimeEstimate[] times,
      long[] bytes) {
    boolean byItself() {
      return with.key().equals(resource.key());
    }

    /** How old a point was when its feed last told: silence since then is neither a gap nor none. */
    Duration ageAsTold(int row) {
      long age = result.told().horizon().toEpochMilli() - protection.dataTime(row);
      return Duration.ofMillis(Math.max(0, age));
    }

    /** Whether it has a usable point as it is. */
    boolean hasAny() {
      return protection.usableRow() >= 0;
    }
  }

  private Survival(Estate estate, Standard standard) {
    this.estate = estate;
    this.standard = standard;
    this.bits = new StoreBits(estate);
  }

  public static Survival of(Estate estate, Evaluation evaluation) {
    Survival made = new Survival(estate, evaluation.standard());
    TimeEstimates estimates = new TimeEstimates(estate);
    Map<String, Member> members = new HashMap<>();
    Map<String, ResourceResult> results = new HashMap<>();
    evaluation
        .workloads()
        .forEach(w -> w.members().forEach(m -> results.put(m.resource().key(), m)));
    for (Member member :
        estate.each(r -> made.member(evaluation, estimates, results.get(r.key()), r))) {
      members.put(member.resource().key(), member);
    }
    for (WorkloadResult result : evaluation.workloads()) {
      List<Member> own = result.members().stream()
          .filter(m -> m.verdict() != Verdict.EXCLUDED)
          .map(m -> members.get(m.resource().key()))
          .toList();
      if (!own.isEmpty()) {
        made.workloads.add(new Guarded(result, own));
        own.forEach(m -> made.members.put(m.resource().key(), m));
      }
    }
    return made;
  }

  private Member member(
      Evaluation evaluation, TimeEstimates estimates, ResourceResult result, Resource resource) {
    Subject subject = new Subject(estate, evaluation.standard(), resource);
    Resource with = subject.protector();
    TimeEstimate[] times = new TimeEstimate[bits.stores().size()];
    if (with.key().equals(resource.key())) {
      subject.newestUsable().ifPresent(newest -> {
        Method method = Method.restoring(resource.kind(), subject.demand().rung());
        long bytes = RestoreEstimate.whole(
            resource, RestoreEstimate.chainBytes(subject.set(), newest.point()));
        for (int i = 0; i < times.length; i++) {
          times[i] =
              estimates.of(resource, bits.stores().get(i).key(), method, bytes).orElse(null);
        }
      });
    }
    return new Member(
        resource,
        with,
        result,
        Protection.of(subject, Proof.inPeriod(subject), bits, feeds),
        times,
        with.key().equals(resource.key())
            ? bytes(subject)
            : new long[bits.stores().size()]);
  }

  private long[] bytes(Subject subject) {
    long[] bytes = new long[bits.stores().size()];
    PointSet set = subject.set();
    for (int row = 0; row < set.size(); row++) {
      long size = Math.max(0, set.sizeBytes(row));
      for (int at = set.copies().first(row); at < set.copies().first(row + 1); at++) {
        int store = set.copies().state(at) == CopyState.PRESENT
            ? bits.place(set.copies().storeKey(set.copies().store(at)))
            : -1;
        if (store >= 0) {
          bytes[store] += size;
        }
      }
    }
    return bytes;
  }

  /** Bytes of all copies that are present, by the key of the store; sizes that nobody knows count as none. */
  public Map<String, Long> bytesByStore() {
    Map<String, Long> all = new TreeMap<>();
    for (int i = 0; i < stores().size(); i++) {
      long sum = 0;
      for (Member member : members.values()) {
        sum += member.bytes()[i];
      }
      all.put(stores().get(i).key(), sum);
    }
    return all;
  }

  Estate estate() {
    return estate;
  }

  Standard standard() {
    return standard;
  }

  StoreBits bits() {
    return bits;
  }

  List<Guarded> workloads() {
    return workloads;
  }

  /** Null for one that is excluded. */
  @Nullable
  Member member(String key) {
    return members.get(key);
  }

  Iterable<Member> members() {
    return members.values();
  }

  Protection.Blow blow(Loss loss) {
    long never = loss.feeds().isEmpty() ? Long.MAX_VALUE : Long.MIN_VALUE;
    return new Protection.Blow(
        bits.of(loss::takes),
        loss.intruder(),
        loss.taintedAfter() == null ? never : loss.taintedAfter().toEpochMilli(),
        loss.feeds().isEmpty() ? null : feeds.those(loss.feeds()::contains),
        loss);
  }

  /** The stores, in the order of the facts. */
  public List<Store> stores() {
    return bits.stores();
  }

  /** What of it needs what, each as if it took no time. */
  RecoverySteps needs() {
    RecoverySteps made = needs;
    if (made == null) {
      SurvivalSteps all = new SurvivalSteps(this);
      members.values().forEach(m -> all.add(m, true, -1, null));
      made = all.steps();
      needs = made;
    }
    return made;
  }

  /** Places of keys that are neither site nor store and hold the only key of something, those with the most first. */
  public List<String> onlyHolders() {
    Map<String, Integer> held = new TreeMap<>();
    for (Member member : members.values()) {
      List<String> places = member.with().restoring().keyPlaces();
      if (places.size() == 1 && !isPlace(places.get(0))) {
        held.merge(places.get(0), 1, Integer::sum);
      }
    }
    return held.entrySet().stream()
        .sorted(Map.Entry.<String, Integer>comparingByValue().reversed())
        .map(Map.Entry::getKey)
        .toList();
  }

  /** People who can restore and places of keys that are neither site nor store, by name. */
  public List<String> holders() {
    Set<String> all = new TreeSet<>();
    for (Member member : members.values()) {
      all.addAll(member.with().restoring().restorers());
      member.with().restoring().keyPlaces().stream().filter(p -> !isPlace(p)).forEach(all::add);
    }
    return List.copyOf(all);
  }

  private boolean isPlace(String place) {
    return bits.stores().stream()
        .anyMatch(s -> place.equals(s.site()) || place.equals(s.key()) || place.equals(s.name()));
  }

  /** What would have more of it survive a loss, the most for the fewest bytes first. */
  public List<Remedy> remedies(Loss loss) {
    return new Remedies(this, loss).found();
  }

  /** Losses beside each other, what hurts most first: how late each workload is back is not looked at here. */
  public List<LossRank> ranking() {
    return LossRank.of(this);
  }

  /** What each single loss takes; the order follows from the facts. */
  public List<LossRank> singles() {
    return LossRank.ofSingles(this);
  }

  /**
   * What is left after a loss.
   *
   * @param atOnce restores that go on at once
   */
  public Aftermath after(Loss loss, int atOnce) {
    return Aftermath.of(this, loss, atOnce);
  }
}
