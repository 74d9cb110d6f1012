package hardproof.server.integrity;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import hardproof.core.estate.Medium;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.integrity.Integrity;
import hardproof.core.integrity.Tally;
import hardproof.core.points.RecoveryPoint;
import hardproof.server.stores.Stores;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What was read back, and what is bad. */
record IntegrityView(Instant asAt, List<StoreRead> stores, List<Damage> damaged) {
  private static final int HANGING_NAMED = 12;

  /**
   * A store and how much of it was read back.
   *
   * @param readable whether it can be read from this machine now
   */
  record StoreRead(
      String store,
      String name,
      String site,
      Medium medium,
      boolean online,
      boolean readable,
      @Nullable Long throughputBytes,
      @JsonUnwrapped Tally read) {
    static StoreRead of(Store s, Tally read, Stores stores) {
      return new StoreRead(
          s.key(),
          s.name(),
          s.site() == null ? "" : s.site(),
          s.medium(),
          !Boolean.FALSE.equals(s.online()),
          stores.reachable(s),
          s.throughput(),
          read);
    }
  }

  /**
   * A copy that is damaged or not there, or a point that is bad wherever it lies.
   *
   * @param store absent when the point is bad everywhere
   * @param run the drill that showed it; absent where a sweep or a feed did
   * @param otherGood names of stores with a good copy of the same point
   */
  record Damage(
      @JsonUnwrapped DamageOf of,
      String point,
      Instant dataTime,
      @Nullable String store,
      @Nullable String storeName,
      Instant found,
      String sentence,
      @Nullable String run,
      @JsonUnwrapped DamageLoss loss,
      List<String> otherGood,
      @Nullable PointRef olderGood,
      @Nullable PointRef newerGood) {
    static Damage of(hardproof.core.integrity.Damage d, Estate estate) {
      boolean sweep = d.drill() != null && d.drill().run().startsWith(ReadBackStore.RUN);
      return new Damage(
          DamageOf.of(d.resource()),
          d.point().key(),
          d.point().dataTime(),
          d.store(),
          d.store() == null ? null : estate.storeName(d.store()),
          d.found(),
          d.sentence(),
          d.drill() == null || sweep ? null : d.drill().run(),
          DamageLoss.of(d),
          d.otherGood().stream().map(estate::storeName).toList(),
          PointRef.of(d.olderGood()),
          PointRef.of(d.newerGood()));
    }
  }

  /** Whose point it is. */
  record DamageOf(String resource, String resourceName, String workload) {
    static DamageOf of(Resource r) {
      return new DamageOf(
          r.key(), r.name(), r.workload() == null ? "resource:" + r.key() : r.workload());
    }
  }

  /**
   * What is lost with it.
   *
   * @param hanging points that need it, itself counted
   * @param lostFrom data time of the oldest, {@code lostTo} of the newest point that can't be restored
   *     because of it; absent when another copy is good
   */
  record DamageLoss(
      int hanging,
      List<String> hangingPoints,
      @Nullable Instant lostFrom,
      @Nullable Instant lostTo) {
    static DamageLoss of(hardproof.core.integrity.Damage d) {
      List<String> hanging = d.hanging();
      return new DamageLoss(
          hanging.size(),
          hanging.subList(0, Math.min(HANGING_NAMED, hanging.size())),
          d.lostFrom(),
          d.lostTo());
    }
  }

  /** A point by its key and data time. */
  record PointRef(String point, Instant dataTime) {
    static @Nullable PointRef of(@Nullable RecoveryPoint point) {
      return point == null ? null : new PointRef(point.key(), point.dataTime());
    }
  }

  static IntegrityView of(Estate estate, Stores stores) {
    Integrity integrity = Integrity.of(estate);
    return new IntegrityView(
        estate.asAt(),
        estate.facts().stores().stream()
            .map(s -> StoreRead.of(s, integrity.stores().get(s.key()), stores))
            .toList(),
        integrity.damaged().stream().map(d -> Damage.of(d, estate)).toList());
  }
}
