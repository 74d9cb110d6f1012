package hardproof.server.integrity;

import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.drills.DrillFact;
import hardproof.core.estate.Medium;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.Usability;
import hardproof.core.points.Consistency;
import hardproof.core.points.RecoveryPoint;
import hardproof.proving.stores.StoreRoots;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What was read back of every store, and what is damaged, by the facts of an instant.
 *
 * @param damaged what can't be relied on, newest finding first
 */
record IntegrityView(Instant asAt, List<StoreRead> stores, List<Damage> damaged) {
  /** What was read so lately counts as fresh. */
  static final Duration FRESH = Duration.ofDays(30);

  /**
   * A store and how much of it was read back.
   *
   * @param freshBytes of artifacts that were read whole within 30 days
   * @param oldestRead the artifact that was read least recently, of those that ever were
   */
  record StoreRead(
      String store,
      String name,
      String site,
      Medium medium,
      boolean online,
      boolean readable,
      @Nullable Long throughputBytes,
      int artifacts,
      long bytes,
      int readEver,
      int readFresh,
      long freshBytes,
      int damaged,
      @Nullable Instant oldestRead,
      @Nullable Instant newestRead) {}

  /**
   * A copy that is damaged or not there, or a point that is bad wherever it lies.
   *
   * @param store null when the point is bad everywhere
   * @param hanging points that need it, itself counted
   * @param lostFrom data time of the oldest, {@code lostTo} of the newest point that can't be restored
   *     because of it; absent when another copy is good
   * @param otherGood names of stores with a good copy of the same point
   */
  record Damage(
      String resource,
      String resourceName,
      String workload,
      String point,
      Instant dataTime,
      @Nullable String store,
      @Nullable String storeName,
      Instant found,
      String sentence,
      @Nullable String run,
      int hanging,
      List<String> hangingPoints,
      @Nullable Instant lostFrom,
      @Nullable Instant lostTo,
      List<String> otherGood,
      @Nullable PointRef olderGood,
      @Nullable PointRef newerGood) {}

  /** A point by its key and data time. */
  record PointRef(String point, Instant dataTime) {}

  static IntegrityView of(Estate estate, StoreRoots roots) {
    Map<String, Tally> tallies = new LinkedHashMap<>();
    for (Store store : estate.facts().stores()) {
      tallies.put(store.key(), new Tally());
    }
    List<Damage> damaged = new ArrayList<>();
    Instant fresh = estate.asAt().minus(FRESH);
    for (Resource resource : estate.facts().resources()) {
      PointSet set = estate.pointSet(resource.key());
      if (set.size() == 0) {
        continue;
      }
      Map<String, Map<String, Instant>> reads = new HashMap<>();
      for (int row = 0; row < set.size(); row++) {
        RecoveryPoint point = set.point(row);
        for (Copy copy : set.copiesOf(row)) {
          Tally tally = tallies.get(copy.store());
          boolean there = copy.state() == CopyState.PRESENT || copy.state() == CopyState.DAMAGED;
          if (tally == null || !there || copy.place() == null) {
            continue;
          }
          Instant read = reads
              .computeIfAbsent(copy.store(), s -> Sweeps.lastReads(estate, resource.key(), s))
              .get(point.key());
          if (read == null || copy.lastRead() != null && copy.lastRead().isAfter(read)) {
            read = copy.lastRead();
          }
          tally.add(point.sizeBytes() == null ? 0 : point.sizeBytes(), read, fresh);
        }
      }
      damage(estate, resource, set, damaged, tallies);
    }
    damaged.sort(Comparator.comparing(Damage::found).reversed().thenComparing(Damage::point));
    return new IntegrityView(
        estate.asAt(),
        estate.facts().stores().stream()
            .map(s -> tallies.get(s.key()).view(s, roots))
            .toList(),
        damaged);
  }

  private static final class Tally {
    private int artifacts;
    private long bytes;
    private int readEver;
    private int readFresh;
    private long freshBytes;
    private int damaged;
    private Instant oldest;
    private Instant newest;

    void add(long size, Instant read, Instant fresh) {
      artifacts++;
      bytes += size;
      if (read == null) {
        return;
      }
      readEver++;
      if (!read.isBefore(fresh)) {
        readFresh++;
        freshBytes += size;
      }
      oldest = oldest == null || read.isBefore(oldest) ? read : oldest;
      newest = newest == null || read.isAfter(newest) ? read : newest;
    }

    StoreRead view(Store s, StoreRoots roots) {
      return new StoreRead(
          s.key(),
          s.name(),
          s.site() == null ? "" : s.site(),
          s.medium(),
          !Boolean.FALSE.equals(s.online()),
          s.path() != null && roots.open(s.path()).reachable(),
          s.throughput(),
          artifacts,
          bytes,
          readEver,
          readFresh,
          freshBytes,
          damaged,
          oldest,
          newest);
    }
  }

  /** Copies and points that a drill, a sweep or a feed showed to be bad, with what hangs from them. */
  private static void damage(
      Estate estate,
      Resource resource,
      PointSet set,
      List<Damage> damaged,
      Map<String, Tally> tallies) {
    boolean any = estate.drillsOf(resource.key()).stream().anyMatch(DrillFact::failed);
    Usability usability = null;
    for (int row = 0; row < set.size(); row++) {
      if (!any && set.copiesOf(row).stream().noneMatch(IntegrityView::saidDamaged)) {
        continue;
      }
      if (usability == null) {
        usability = Usability.of(estate, resource.key(), Consistency.UNKNOWN);
      }
      RecoveryPoint point = set.point(row);
      DrillFact everywhere = usability.blamed(point.key(), null);
      if (everywhere != null) {
        damaged.add(one(estate, resource, usability, row, null, everywhere, null));
        continue;
      }
      for (Copy copy : set.copiesOf(row)) {
        DrillFact here = usability.blamed(point.key(), copy.store());
        if (here != null || saidDamaged(copy)) {
          damaged.add(one(estate, resource, usability, row, copy.store(), here, copy));
          Tally tally = tallies.get(copy.store());
          if (tally != null) {
            tally.damaged++;
          }
        }
      }
    }
  }

  private static boolean saidDamaged(Copy copy) {
    return copy.state() == CopyState.DAMAGED || Boolean.FALSE.equals(copy.lastReadPassed());
  }

  private static Damage one(
      Estate estate,
      Resource resource,
      Usability usability,
      int row,
      String store,
      DrillFact drill,
      Copy copy) {
    PointSet set = usability.set();
    RecoveryPoint point = set.point(row);
    List<String> hanging = new ArrayList<>();
    Instant from = null;
    Instant to = null;
    for (int later = row; later < set.size(); later++) {
      RecoveryPoint p = set.point(later);
      boolean needs = later == row
          || usability.chainOf(p).points().stream().anyMatch(c -> c.key().equals(point.key()));
      if (needs) {
        hanging.add(p.key());
        if (!usability.usableAt(later, estate.asAt().toEpochMilli())) {
          from = from == null ? p.dataTime() : from;
          to = p.dataTime();
        }
      }
    }
    List<String> good = new ArrayList<>();
    for (Copy other : set.copiesOf(row)) {
      if (!other.store().equals(store) && store != null && usability.readable(other)) {
        good.add(estate.storeName(other.store()));
      }
    }
    Instant found = drill != null
        ? drill.ended()
        : copy.lastRead() != null ? copy.lastRead() : copy.recordedAt();
    String sentence = drill != null
        ? drill.sentence()
        : copy.state() == CopyState.DAMAGED
            ? "its feed says that it is damaged"
            : "its feed says that its last read-back failed";
    return new Damage(
        resource.key(),
        resource.name(),
        resource.workload() == null ? "resource:" + resource.key() : resource.workload(),
        point.key(),
        point.dataTime(),
        store,
        store == null ? null : estate.storeName(store),
        found,
        sentence,
        drill == null || drill.run().startsWith(ReadBackStore.RUN) ? null : drill.run(),
        hanging.size(),
        hanging.subList(0, Math.min(12, hanging.size())),
        from,
        to,
        good,
        near(estate, usability, row, -1),
        near(estate, usability, row, 1));
  }

  private static PointRef near(Estate estate, Usability usability, int row, int step) {
    PointSet set = usability.set();
    for (int i = row + step; i >= 0 && i < set.size(); i += step) {
      if (usability.usableAt(i, estate.asAt().toEpochMilli())) {
        return new PointRef(set.key(i), set.point(i).dataTime());
      }
    }
    return null;
  }
}
