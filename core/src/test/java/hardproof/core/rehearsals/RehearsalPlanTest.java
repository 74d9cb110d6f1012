package hardproof.core.rehearsals;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Fields;
import hardproof.core.Given;
import hardproof.core.copies.CopyState;
import hardproof.core.estate.Kind;
import hardproof.core.facts.Estate;
import hardproof.core.feeds.FactKinds;
import hardproof.core.losses.Loss;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.recovery.TimeEstimates;
import java.time.Duration;
import java.time.Instant;
import java.util.Set;
import java.util.function.Predicate;
import org.junit.jupiter.api.Test;

/** What a rehearsal brings back. "near" is a disk at site A, "far" a tape at site B. Invented data. */
class RehearsalPlanTest {
  private static RehearsalPlan plan(
      Given g, Instant moment, Loss loss, Predicate<String> readable) {
    Estate estate = g.at(NOW);
    return RehearsalPlan.of(
        estate,
        new TimeEstimates(estate),
        estate.workload("w"),
        Duration.ofHours(24),
        moment,
        loss,
        2,
        readable);
  }

  private static RehearsalPlan plan(Given g) {
    return plan(g, NOW, Loss.NONE, s -> true);
  }

  private static RecoveryPoint point(RehearsalPlan plan) {
    return plan.outlook().order().member("r").point();
  }

  private static String store(RehearsalPlan plan) {
    return plan.outlook().order().member("r").store();
  }

  @Test
  void theNewestAtOrBeforeTheMoment() {
    Given g = Given.estate().point("old", 29).point("new", 5);
    Instant made = NOW.minus(Duration.ofHours(5));
    assertThat(point(plan(g)).key()).isEqualTo("new");
    assertThat(point(plan(g, made, Loss.NONE, s -> true)).key()).as("at it").isEqualTo("new");
    assertThat(point(plan(g, made.minusMillis(1), Loss.NONE, s -> true)).key()).isEqualTo("old");
    RehearsalPlan none = plan(g, NOW.minus(Duration.ofDays(3)), Loss.NONE, s -> true);
    assertThat(point(none)).isNull();
    assertThat(none.refusal()).startsWith("R has no usable point of then, with its whole chain");
  }

  @Test
  void fromAStoreThatIsLeftAndHasTheWholeChain() {
    Given g = Given.estate().point("full", 29);
    g.point("inc", "r", Form.INCREMENTAL, "full", 5, PointOutcome.COMPLETE).copy("inc", "far");
    g.copies.removeIf(c -> c.point().equals("full") && c.store().equals("far"));
    // The incremental lies on tape alone, its full on disk alone.
    assertThat(point(plan(g)).key()).isEqualTo("full");
    assertThat(store(plan(g))).isEqualTo("near");
    g.copy("full", "far");
    assertThat(point(plan(g)).key()).isEqualTo("inc");
    assertThat(store(plan(g))).isEqualTo("far");
    RehearsalPlan lost = plan(g, NOW, Loss.ofSite("B"), s -> true);
    assertThat(point(lost).key()).as("from what the loss leaves").isEqualTo("full");
    assertThat(plan(g, NOW, Loss.ofStores(Set.of("near", "far")), s -> true).refusal())
        .startsWith("R has no usable point of then on a store that is left");
  }

  @Test
  void whatAnIntruderCouldDeleteIsNotReadFrom() {
    Given g = Given.estate().point("a", 5);
    assertThat(store(plan(g, NOW, Loss.ofIntruder(), s -> true)))
        .as("the tape is offline")
        .isEqualTo("far");
    g.copies.removeIf(c -> c.store().equals("far"));
    assertThat(plan(g, NOW, Loss.ofIntruder(), s -> true).refusal()).startsWith("R has no");
    g.theCopy("a", "near", "locked_until", NOW.plusMillis(1).toString());
    assertThat(store(plan(g, NOW, Loss.ofIntruder(), s -> true))).isEqualTo("near");
  }

  @Test
  void taintedDataIsNotBroughtBack() {
    Given g = Given.estate().point("old", 29).point("new", 5);
    Loss tainted =
        new Loss(Set.of(), Set.of(), Set.of(), Set.of(), false, NOW.minus(Duration.ofHours(6)));
    assertThat(point(plan(g, NOW, tainted, s -> true)).key()).isEqualTo("old");
  }

  @Test
  void damagedOrPlacelessCopiesAreNoSourceAndAReadableStoreComesFirst() {
    Given g = Given.estate().point("a", 5);
    assertThat(store(plan(g, NOW, Loss.NONE, s -> s.equals("far")))).isEqualTo("far");
    assertThat(store(plan(g, NOW, Loss.NONE, s -> false)))
        .as("none can be read from here: the plan says so when it is asked")
        .isNotNull();
    g.theCopy("a", "near", "place", "");
    assertThat(store(plan(g))).isEqualTo("far");
    g.copies.removeIf(c -> c.store().equals("far"));
    g.copy("a", "far", CopyState.DAMAGED, NOW.minus(Duration.ofDays(1)));
    assertThat(plan(g).refusal()).startsWith("R has no usable point");
  }

  @Test
  void circlesAndWhatNobodyKnowsAreRefused() {
    Given g = Given.estate().theResource("needs", "db").point("a", 5);
    assertThat(plan(g).refusal()).startsWith("it needs db, of which nothing is known here");
    g.resources.add(
        Fields.with(FactKinds.RESOURCES, Given.resource("db", Kind.DATABASE, "w"), "needs", "r"));
    g.point("b", "db", Form.FULL, null, 5, PointOutcome.COMPLETE).copy("b", "near");
    assertThat(plan(g).refusal())
        .isEqualTo(
            "db, r need one another, so none of them can be up first. Correct the field needs.");
    Given empty = Given.estate();
    empty.resources.clear();
    assertThat(plan(empty).refusal()).startsWith("nothing is known to belong to Workload w");
  }

  @Test
  void theSpreadIsFromTheOldestToTheNewest() {
    Given g = Given.estate().point("a", 5);
    assertThat(plan(g).spread()).contains(Duration.ZERO);
    g.resources.add(Given.resource("db", Kind.DATABASE, "w"));
    g.point("b", "db", Form.FULL, null, 29, PointOutcome.COMPLETE).copy("b", "near");
    assertThat(plan(g).spread()).contains(Duration.ofHours(24));
  }
}
