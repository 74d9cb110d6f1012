package hardproof.server.stores;

import hardproof.core.census.CensusFact;
import hardproof.core.census.CensusState;
import hardproof.core.census.Claim;
import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PointSet;
import hardproof.core.integrity.HeldPoint;
import hardproof.core.wording.Wording;
import hardproof.proving.stores.ArtifactStore;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import hardproof.proving.stores.Protection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.PriorityQueue;
import java.util.Set;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.BooleanSupplier;

/** Holds the list of one store to what is claimed of it. */
final class CensusWork {
  /** Locks and checksums are asked for one by one: of the newest so many copies. */
  private static final int ASKED = 2_000;

  private static final int AT_ONCE = 8;

  /** After so many that the store says nothing of, it is not asked any more. */
  private static final int SILENT = 16;

  /** A claim or two may be wrong; where none of so many is found, something else is. */
  private static final int ENOUGH_TO_DOUBT = 3;

  static final int UNTOLD_KEPT = 1_000;

  private final Census census;
  private final Estate estate;
  private final ListingFile listing;
  private final ArtifactStore store;
  private final BooleanSupplier cancelled;

  /** Whether a copy for which no lock is claimed may have one all the same. */
  private final boolean mayLock;

  private final Map<String, Claim.Told> told = new HashMap<>();
  private final Map<CensusState, Long> counts = new EnumMap<>(CensusState.class);
  private final List<CensusStore.Found> found = new ArrayList<>();
  private long claimed;
  private long noPlace;

  CensusWork(
      Census census,
      Estate estate,
      ListingFile listing,
      ArtifactStore store,
      BooleanSupplier cancelled) {
    this.census = census;
    this.estate = estate;
    this.listing = listing;
    this.store = store;
    this.cancelled = cancelled;
    this.mayLock = !Boolean.FALSE.equals(estate.store(census.store()).canLock());
  }

  /** Somebody wants no more of it. */
  static final class Stopped extends RuntimeException {
    private static final long serialVersionUID = 1L;
  }

  /**
   * @param before copies of which something is told beside their claim, by their points
   * @param knownToHold whether an earlier list by the same way found any of what is claimed
   */
  CensusStore.End compare(Map<String, CensusFact> before, boolean knownToHold) throws SQLException {
    ask();
    Map<String, CensusFact> over = new HashMap<>(before);
    for (Resource resource : estate.facts().resources()) {
      compare(resource, over);
    }
    over.values()
        .forEach(fact -> found.add(new CensusStore.Found(
            fact.resource(), fact.point(), CensusState.THERE, "it is not claimed any more")));
    Census.Listed listed = listing.counted();
    if (claimed >= ENOUGH_TO_DOUBT && count(CensusState.GONE) == claimed && !knownToHold) {
      return doubtful(listed);
    }
    return new CensusStore.End(
        Census.State.DONE,
        listed,
        compared(),
        null,
        sentence(listed),
        found,
        listing.untold(UNTOLD_KEPT));
  }

  /** Either everything is gone, or it was looked for in the wrong place: which of them is not known. */
  private CensusStore.End doubtful(Census.Listed listed) throws SQLException {
    List<CensusStore.Untold> some = listing.untold(1);
    return new CensusStore.End(
        Census.State.FAILED,
        listed,
        Census.Compared.NOTHING,
        null,
        "none of the " + Wording.count(claimed, "copy", "copies")
            + " that should be there is under its place"
            + (some.isEmpty()
                ? ", as nothing is there at all"
                : "; what is there is named like " + some.get(0).place())
            + ". Either all of it is gone, or the folder or prefix is another than the places begin in: look which."
            + " Nothing was concluded from this list",
        List.of(),
        List.of());
  }

  private void compare(Resource resource, Map<String, CensusFact> over) throws SQLException {
    if (cancelled.getAsBoolean()) {
      throw new Stopped();
    }
    PointSet set = estate.claimedSet(resource.key());
    Set<String> there = new HashSet<>();
    for (int row = 0; row < set.size(); row++) {
      for (Copy copy : set.copiesOf(row)) {
        if (copy.store().equals(census.store())) {
          CensusFact before = over.remove(copy.point());
          compare(resource, new Claim(set.point(row), copy), there, before);
        }
      }
    }
    HeldPoint.newest(set, p -> there.contains(p.key()))
        .ifPresent(p -> found.add(new CensusStore.Found(
            resource.key(), p.key(), CensusState.HELD, "everything it needs is there")));
  }

  private void compare(Resource resource, Claim claim, Set<String> there, CensusFact before)
      throws SQLException {
    Copy copy = claim.copy();
    if (copy.place() == null) {
      noPlace += copy.state() == CopyState.PRESENT ? 1 : 0;
      return;
    }
    listing.told(copy.place());
    if (!claim.due(census.startedAt())) {
      end(resource, copy, before, "it need not be there any more");
      return;
    }
    claimed++;
    Claim.Finding finding = compared(claim, before);
    counts.merge(finding.state(), 1L, Long::sum);
    if (!finding.state().bad()) {
      there.add(copy.point());
    }
    boolean known = before != null
        && before.state() == finding.state()
        && Objects.equals(before.lockedUntil(), finding.lockedUntil())
        && before.sentence().equals(finding.sentence());
    if (finding.state() == CensusState.THERE) {
      end(resource, copy, before, "it is as claimed again");
    } else if (!known) {
      found.add(new CensusStore.Found(
          resource.key(),
          copy.point(),
          finding.state(),
          finding.lockedUntil(),
          finding.sentence()));
    }
  }

  private Claim.Finding compared(Claim claim, CensusFact before) throws SQLException {
    String place = claim.copy().place();
    Claim.Told lock = told.getOrDefault(claim.copy().point(), Claim.Told.NOTHING);
    Claim.Finding finding =
        claim.compared(listing.found(place), listing.deleted(place), lock, census.startedAt());
    boolean notAsked = finding.state() == CensusState.THERE && !lock.known();
    return notAsked && before != null && claim.lockStands(before)
        ? new Claim.Finding(before.state(), before.lockedUntil(), before.sentence())
        : finding;
  }

  private void end(Resource resource, Copy copy, CensusFact before, String why) {
    if (before != null) {
      found.add(new CensusStore.Found(resource.key(), copy.point(), CensusState.THERE, why));
    }
  }

  private long count(CensusState state) {
    return counts.getOrDefault(state, 0L);
  }

  private Census.Compared compared() {
    long known = told.values().stream().filter(Claim.Told::known).count();
    return new Census.Compared(
        claimed,
        count(CensusState.THERE) + count(CensusState.LONGER_LOCK),
        count(CensusState.GONE),
        count(CensusState.OTHER_SIZE),
        count(CensusState.OTHER_SUM),
        count(CensusState.NEWER),
        count(CensusState.SHORTER_LOCK),
        noPlace,
        told.size(),
        known);
  }

  private String sentence(Census.Listed listed) {
    long differ = claimed - count(CensusState.THERE) - count(CensusState.LONGER_LOCK);
    return Wording.count(listed.things(), "file", "files") + ", " + Wording.bytes(listed.bytes())
        + "; " + Wording.count(claimed, "copy", "copies") + " claimed, "
        + (differ == 0 ? "each of them as claimed" : differ + " not as claimed")
        + (listed.untold() == 0
            ? ""
            : "; " + Wording.count(listed.untold(), "file", "files") + " that no feed tells of");
  }

  /** A copy whose lock or checksum is worth asking the store for. */
  private record Worth(long data, String point, String place) {}

  private void ask() {
    PriorityQueue<Worth> newest = new PriorityQueue<>(Comparator.comparingLong(Worth::data));
    for (Resource resource : estate.facts().resources()) {
      PointSet set = estate.claimedSet(resource.key());
      for (int row = 0; row < set.size(); row++) {
        for (Copy copy : set.copiesOf(row)) {
          if (copy.store().equals(census.store()) && worth(copy, set, row)) {
            newest.add(new Worth(set.dataTime(row), copy.point(), copy.place()));
            if (newest.size() > ASKED) {
              newest.poll();
            }
          }
        }
      }
    }
    List<Worth> all = new ArrayList<>(newest);
    all.sort(Comparator.comparingLong(Worth::data).reversed());
    askAll(all);
  }

  private boolean worth(Copy copy, PointSet set, int row) {
    return copy.place() != null
        && (mayLock || copy.lockedAt(census.startedAt()) || copy.sha256() != null)
        && new Claim(set.point(row), copy).due(census.startedAt());
  }

  private void askAll(List<Worth> all) {
    ExecutorService askers = Executors.newFixedThreadPool(AT_ONCE);
    try {
      for (int from = 0; from < all.size(); from += SILENT) {
        List<Worth> some = all.subList(from, Math.min(all.size(), from + SILENT));
        List<Future<Claim.Told>> answers =
            some.stream().map(w -> askers.submit(() -> told(w.place()))).toList();
        boolean any = false;
        for (int i = 0; i < some.size(); i++) {
          Claim.Told one = answers.get(i).get();
          told.put(some.get(i).point(), one);
          any |= one.known() || one.sha256() != null;
        }
        if (!any || cancelled.getAsBoolean()) {
          return;
        }
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new Stopped();
    } catch (ExecutionException e) {
      throw new IllegalStateException(e.getCause());
    } finally {
      askers.shutdownNow();
    }
  }

  private Claim.Told told(String place) {
    try {
      Protection p = store.protection(place);
      return new Claim.Told(p.known(), p.until(), p.held(), p.sha256());
    } catch (ArtifactUnreadable e) {
      return Claim.Told.NOTHING; // The list says whether it is there.
    }
  }
}
