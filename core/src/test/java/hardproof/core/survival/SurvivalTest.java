package hardproof.core.survival;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.copies.CopyState;
import hardproof.core.drills.Method;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Kind;
import hardproof.core.ladder.Rung;
import hardproof.core.losses.Loss;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/**
 * Losses of invented estates. "near" is a disk at site A, "far" a tape at site B, both in region nordal and read at 100 MB a
 * second; the workload w is of tier 3 (RPO 24 h).
 */
class SurvivalTest {
  @Test
  void whatLiesElsewhereSurvives() {
    Given g = Given.estate().point("a", 5);
    assertThat(Tried.line(g, Loss.NONE).sentence()).startsWith("back after ").endsWith("5 h ago");
    for (Loss loss : List.of(
        Loss.ofSite("A"),
        Loss.ofStores(Set.of("near")),
        Loss.ofDomain("array"),
        Loss.ofSite("C"))) {
      assertThat(Tried.fate(g, loss)).as(loss.words()).isEqualTo(Fate.SURVIVES);
    }
    assertThat(Tried.line(g, Loss.ofRegion("nordal")).sentence()).isEqualTo("nothing is left of R");
    assertThat(Tried.fate(g, Loss.ofStores(Set.of("near", "far")))).isEqualTo(Fate.LOST);
    // A store that names no failure domain is its own.
    assertThat(Tried.fate(
            g, new Loss(Set.of("A"), Set.of(), Set.of(), Set.of("store:far"), false, null)))
        .isEqualTo(Fate.LOST);
  }

  /** At the very RPO it is not late; a second later it is. */
  @Test
  void olderDataThanTheRpoIsLate() {
    Given g = Given.estate().point("a", 24).point("b", 5);
    g.copies.removeIf(c -> c.point().equals("b") && c.store().equals("far"));
    assertThat(Tried.fate(g, Loss.ofSite("A"))).isEqualTo(Fate.SURVIVES);
    g = Given.estate().point("a", 24 + 1 / 3600.0).point("b", 5);
    g.copies.removeIf(c -> c.point().equals("b") && c.store().equals("far"));
    assertThat(Tried.line(g, Loss.ofSite("A")).sentence()).isEqualTo("R goes back 24 h, RPO 24 h");
    assertThat(Tried.fate(g, Loss.ofSite("A"))).isEqualTo(Fate.LATE);
    assertThat(Tried.line(g, Loss.ofSite("A")).exposure()).isEqualTo(Duration.ofSeconds(86_401));
  }

  /** Silence of a feed is neither a gap nor none: judged is what was told, and what that leaves open is said. */
  @Test
  void whatWasNotToldSinceIsNotKnown() {
    Given g = Given.estate().point("a", 30);
    g.feeds.add(new Feed(
        "feed",
        Duration.ofHours(1),
        NOW.minus(Duration.ofHours(6)),
        NOW.minus(Duration.ofHours(6))));
    assertThat(Tried.fate(g, Loss.NONE))
        .as("24 h old when it was told of")
        .isEqualTo(Fate.NOT_KNOWN);
    assertThat(Tried.line(g, Loss.NONE).sentence())
        .startsWith("R goes back 30 h by what was told until ")
        .endsWith("RPO 24 h");
    assertThat(Tried.of(g).after(Loss.NONE, 1).sentence())
        .isEqualTo("0 of 1 survive; 1 not known; none is lost");
    g.feeds.set(
        0,
        new Feed(
            "feed",
            Duration.ofHours(1),
            NOW.minus(Duration.ofHours(6)),
            NOW.minus(Duration.ofHours(6)).plusMillis(1)));
    assertThat(Tried.fate(g, Loss.NONE)).isEqualTo(Fate.LATE);
  }

  /** Offline, or locked for longer than now: at the very instant at which a lock ends it holds no more. */
  @Test
  void anIntruderLeavesWhatIsOfflineOrLocked() {
    Given g = Given.estate().point("a", 5);
    assertThat(Tried.fate(g, Loss.ofIntruder())).as("by tape alone").isEqualTo(Fate.SURVIVES);
    g.theStore("far", "online", "yes");
    assertThat(Tried.fate(g, Loss.ofIntruder())).isEqualTo(Fate.LOST);
    g.theStore("far", "online", "");
    assertThat(Tried.fate(g, Loss.ofIntruder()))
        .as("nobody says that it is offline")
        .isEqualTo(Fate.LOST);
    g.theCopy("a", "near", "locked_until", NOW.toString());
    assertThat(Tried.fate(g, Loss.ofIntruder())).isEqualTo(Fate.LOST);
    g.theCopy("a", "near", "locked_until", NOW.plusMillis(1).toString());
    assertThat(Tried.fate(g, Loss.ofIntruder())).isEqualTo(Fate.SURVIVES);
    Loss both = new Loss(Set.of(), Set.of(), Set.of("near"), Set.of(), true, null);
    assertThat(Tried.fate(g, both)).isEqualTo(Fate.LOST);
  }

  @Test
  void taintedDataDoesNotCount() {
    Given g = Given.estate().point("old", 30).point("new", 5);
    Loss tainted =
        new Loss(Set.of(), Set.of(), Set.of(), Set.of(), false, NOW.minus(Duration.ofHours(5)));
    assertThat(Tried.line(g, tainted).exposure()).as("not after it").isEqualTo(Duration.ofHours(5));
    Loss more = new Loss(
        Set.of(),
        Set.of(),
        Set.of(),
        Set.of(),
        false,
        NOW.minus(Duration.ofHours(5)).minusMillis(1));
    assertThat(Tried.line(g, more).exposure()).isEqualTo(Duration.ofHours(30));
    Loss all =
        new Loss(Set.of(), Set.of(), Set.of(), Set.of(), false, NOW.minus(Duration.ofHours(31)));
    assertThat(Tried.fate(g, all)).isEqualTo(Fate.LOST);
  }

  /** A point is left when all that it hangs from is. */
  @Test
  void aChainIsAsGoodAsItsWorstLink() {
    Given g = Given.estate().point("full", 20);
    g.copies.removeIf(c -> c.store().equals("far"));
    g.point("inc", "r", Form.INCREMENTAL, "full", 5, PointOutcome.COMPLETE)
        .copy("inc", "near")
        .copy("inc", "far");
    assertThat(Tried.fate(g, Loss.ofSite("A"))).isEqualTo(Fate.LOST);
    g.copy("full", "far");
    assertThat(Tried.fate(g, Loss.ofSite("A"))).isEqualTo(Fate.SURVIVES);
  }

  @Test
  void aCopyThatIsBadOrGoneIsNone() {
    Given g = Given.estate().point("a", 5);
    g.theCopy("a", "far", "last_read", "2026-11-24T09:00:00Z", "last_read_outcome", "failed");
    assertThat(Tried.fate(g, Loss.ofSite("A"))).isEqualTo(Fate.LOST);
    g = Given.estate().point("a", 5);
    g.copies.removeIf(c -> c.store().equals("far"));
    g.copy("a", "far", CopyState.MISSING, NOW.minus(Duration.ofHours(1)));
    assertThat(Tried.fate(g, Loss.ofSite("A"))).isEqualTo(Fate.LOST);
  }

  /** What had nothing before is not laid at the door of any loss. */
  @Test
  void whoHadNothingIsNamedApart() {
    Given g = Given.estate();
    assertThat(Tried.fate(g, Loss.ofSite("A"))).isEqualTo(Fate.HAD_NOTHING);
    assertThat(Tried.of(g).after(Loss.ofSite("A"), 1).sentence())
        .isEqualTo("0 of 0 survive; none is lost; 1 had nothing to come back from before");
    assertThat(Tried.of(g).ranking()).allSatisfy(r -> assertThat(r.weight()).isZero());
  }

  /** A drill from a store that is lost says nothing of the copy elsewhere, unless that is the same bytes. */
  @Test
  void proofOfALostCopyVouchesForTheSameBytesOnly() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 0.1);
    String drilled = g.drills.get(0).store();
    String other = drilled.equals("near") ? "far" : "near";
    Loss loss = Loss.ofStores(Set.of(drilled));
    assertThat(Tried.line(g, Loss.NONE).rung()).isEqualTo(Rung.RESTORED);
    assertThat(Tried.line(g, loss).rung()).isNull();
    String sum = "0123456789abcdef".repeat(4);
    g.theCopy("a", drilled, "sha256", sum);
    assertThat(Tried.line(g, loss).rung()).isNull();
    g.theCopy("a", other, "sha256", sum.replace('0', '1'));
    assertThat(Tried.line(g, loss).rung()).isNull();
    g.theCopy("a", other, "sha256", sum);
    assertThat(Tried.line(g, loss).rung()).isEqualTo(Rung.RESTORED);
  }

  /** Of two workloads that compete for one store the stricter tier is back first, with what it needs. */
  @Test
  void theStricterTierComesFirst() {
    Given g = Given.estate().point("a", 5);
    g.thePoint("a", "size", "10000000000");
    g.workloads.add(Given.workload("first", 1));
    g.resources.add(hardproof.core.Fields.with(
        hardproof.core.feeds.FactKinds.RESOURCES,
        Given.resource("db", Kind.FILE_SHARE, "first"),
        "needs",
        "names"));
    g.workloads.add(Given.workload("late", 4));
    g.resources.add(Given.resource("names", Kind.FILE_SHARE, "late"));
    for (String key : List.of("db", "names")) {
      g.point(key + "-1", key, Form.FULL, null, 2, PointOutcome.COMPLETE);
      g.thePoint(key + "-1", "size", "10000000000").copy(key + "-1", "near");
    }
    Aftermath after = Tried.of(g).after(Loss.NONE, 1);
    assertThat(after.backByTier()).containsEntry(1, 200_000L).containsEntry(3, 300_000L);
    assertThat(after.bytes()).isEqualTo(30_000_000_000L);
    assertThat(after.sentence())
        .isEqualTo("3 of 3 survive; none is lost; tier 1 is back after 3 m 20 s");
    // What needs what is lost is lost with it.
    g.copies.removeIf(c -> c.point().equals("names-1"));
    g.copy("names-1", "far");
    Aftermath lost = Tried.of(g).after(Loss.ofSite("B"), 1);
    assertThat(lost.lines())
        .filteredOn(l -> l.workload().key().equals("first"))
        .singleElement()
        .satisfies(l -> {
          assertThat(l.fate()).isEqualTo(Fate.LOST);
          assertThat(l.sentence()).isEqualTo("DB needs what can't be brought back");
        });
  }

  /** What needs something that takes a time nobody knows is not known to be in time either. */
  @Test
  void aTimeThatIsNotKnownReachesAllThatNeedsIt() {
    Given g = Given.estate().point("a", 5).theResource("needs", "names");
    g.theStore("far", "throughput", "");
    g.workloads.add(Given.workload("late", 4));
    g.resources.add(Given.resource("names", Kind.FILE_SHARE, "late"));
    g.point("names-1", "names", Form.FULL, null, 2, PointOutcome.COMPLETE).copy("names-1", "far");
    assertThat(Tried.fate(g, Loss.NONE)).isEqualTo(Fate.NOT_KNOWN);
    assertThat(Tried.line(g, Loss.NONE).back()).isNull();
    assertThat(Tried.line(g, Loss.NONE).sentence())
        .isEqualTo("how long it takes until R is back is not known");
    g.copy("names-1", "near");
    assertThat(Tried.fate(g, Loss.NONE)).isEqualTo(Fate.SURVIVES);
  }

  @Test
  void aLossOfEverythingIsALoss() {
    Given g = Given.estate().point("a", 5);
    Loss all =
        new Loss(Set.of("A", "B"), Set.of("nordal"), Set.of("near", "far"), Set.of(), true, NOW);
    assertThat(Tried.of(g).after(all, 1).sentence()).isEqualTo("0 of 1 survive; 1 is lost");
    assertThat(all.words())
        .isEqualTo("site A, site B, region nordal, store far, store near, all that an administrator"
            + " could delete, all data after " + NOW);
    g.theStore("near", "site", "");
    assertThat(Tried.fate(g, Loss.ofSite("B"))).as("a store in no site").isEqualTo(Fate.SURVIVES);
  }

  /** How far back what is left goes: of the member that goes back least. */
  @Test
  void theReachThatIsLeft() {
    Given g = Given.estate().point("old", 90).point("new", 5);
    assertThat(Tried.line(g, Loss.NONE).reach()).isEqualTo(Duration.ofHours(90));
    g.copies.removeIf(c -> c.point().equals("old") && c.store().equals("far"));
    assertThat(Tried.line(g, Loss.ofSite("A")).reach()).isEqualTo(Duration.ofHours(5));
    g.resources.add(Given.resource("s", Kind.FILE_SHARE, "w"));
    g.point("s-1", "s", Form.FULL, null, 7, PointOutcome.COMPLETE).copy("s-1", "near");
    assertThat(Tried.line(g, Loss.NONE).reach()).isEqualTo(Duration.ofHours(7));
    assertThat(Tried.line(g, Loss.ofSite("A")).reach()).as("a member is lost").isNull();
  }
}
