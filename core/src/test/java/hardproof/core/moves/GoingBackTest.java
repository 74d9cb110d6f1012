package hardproof.core.moves;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Fields;
import hardproof.core.Given;
import hardproof.core.copies.CopyState;
import hardproof.core.criteria.Standard;
import hardproof.core.estate.Kind;
import hardproof.core.feeds.FactKinds;
import hardproof.core.moves.ReturnStep.State;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** A file share of an invented estate goes from site A, where "near" stands, to site B with "far", and comes back. */
class GoingBackTest {
  private static final Instant LEFT = NOW.minus(Duration.ofHours(48));
  private static final Instant BACK = NOW.minus(Duration.ofHours(10));

  private final List<Stay> stays =
      new ArrayList<>(List.of(new Stay("r", "A", NOW.minus(Duration.ofDays(90)))));

  private GoingBackTest at(String site, Instant since) {
    stays.add(new Stay("r", site, since));
    return this;
  }

  private List<GoingBack> all(Given g) {
    return GoingBack.of(g.at(NOW), Standard.shipped(), stays, Map.of(), 2);
  }

  private Return only(Given g) {
    return all(g).get(0).members().get(0);
  }

  private List<State> states(Given g) {
    return only(g).steps().stream().map(Return.Step::state).toList();
  }

  private String said(Given g, ReturnStep step) {
    return only(g).steps().get(step.ordinal()).sentence();
  }

  /** A point of before on both stores. */
  private static Given before() {
    return Given.estate().point("before", 60);
  }

  @Test
  void whoNeverLeftIsNotListed() {
    assertThat(all(before())).isEmpty();
    at("A", LEFT);
    assertThat(all(before())).isEmpty();
    stays.clear();
    assertThat(all(before())).as("no site was ever named").isEmpty();
  }

  @Test
  void awayWithoutAPointNothingCanGoBack() {
    at("B", LEFT);
    Given g = before();
    assertThat(states(g))
        .containsExactly(State.OPEN, State.WAITS, State.WAITS, State.WAITS, State.WAITS);
    assertThat(all(g).get(0).sentence())
        .isEqualTo("1 away; R can't go back yet without losing what is new");
    assertThat(all(g).get(0).total()).isNull();
    assertThat(said(g, ReturnStep.PROTECTED_AWAY))
        .isEqualTo(
            "no usable point was made since it is at B: what is new there lies nowhere else");
  }

  /** At the very instant at which facts put it elsewhere a point is one of there; a millisecond before it is not. */
  @Test
  void aPointCountsFromTheInstantItLeft() {
    at("B", LEFT);
    Given g = before().point("away", 48);
    assertThat(states(g).get(0)).isEqualTo(State.DONE);
    g.thePoint("away", "data_time", LEFT.minusMillis(1).toString());
    assertThat(states(g).get(0)).isEqualTo(State.OPEN);
  }

  @Test
  void aPointThatLiesOnlyThereHasToComeHomeFirst() {
    at("B", LEFT);
    Given g =
        before().point("away", "r", Form.FULL, null, 5, PointOutcome.COMPLETE).copy("away", "far");
    assertThat(states(g))
        .containsExactly(State.DONE, State.OPEN, State.WAITS, State.WAITS, State.WAITS);
    assertThat(said(g, ReturnStep.COPIED_HOME))
        .isEqualTo("no point from there lies whole and readable on NEAR");
    g.copy("away", "near", CopyState.DAMAGED, NOW);
    assertThat(states(g).get(1)).as("damaged").isEqualTo(State.OPEN);
    g.copies.removeIf(c -> c.state() == CopyState.DAMAGED);
    g.copy("away", "near");
    assertThat(states(g))
        .containsExactly(State.DONE, State.DONE, State.OPEN, State.WAITS, State.WAITS);
    assertThat(said(g, ReturnStep.COPIED_HOME)).endsWith("loses what is newer than 5 h");
    g.theStore("near", "site", "C");
    assertThat(said(g, ReturnStep.COPIED_HOME))
        .isEqualTo("no store of the facts is at A; say in stores.csv what stands there");
  }

  /** An increment at home is nothing without what it hangs from. */
  @Test
  void theWholeChainHasToLieAtHome() {
    at("B", LEFT);
    Given g = before()
        .point("full", "r", Form.FULL, null, 40, PointOutcome.COMPLETE)
        .copy("full", "far")
        .point("inc", "r", Form.INCREMENTAL, "full", 5, PointOutcome.COMPLETE)
        .copy("inc", "far")
        .copy("inc", "near");
    assertThat(states(g).get(1)).isEqualTo(State.OPEN);
    g.copy("full", "near");
    assertThat(states(g).get(1)).isEqualTo(State.DONE);
    assertThat(only(g).carried().key()).isEqualTo("inc");
  }

  /** Home again a new chain has to begin, and copies to lie where those of before did. */
  @Test
  void homeIsNotYetAsItWas() {
    at("B", LEFT).at("A", BACK);
    Given g = before()
        .point("away", 12)
        .point("inc", "r", Form.INCREMENTAL, "away", 8, PointOutcome.COMPLETE)
        .copy("inc", "near");
    assertThat(states(g))
        .containsExactly(State.DONE, State.DONE, State.DONE, State.OPEN, State.OPEN);
    assertThat(said(g, ReturnStep.COPIES_AS_BEFORE))
        .isEqualTo("no point made since it is back lies on FAR, as those of before did");
    assertThat(all(g).get(0).sentence()).isEqualTo("all are home; not yet as it was: R");
    g.point("home", "r", Form.FULL, null, 6, PointOutcome.COMPLETE).copy("home", "near");
    assertThat(states(g).get(3)).isEqualTo(State.DONE);
    g.copy("home", "far");
    assertThat(all(g)).as("as it was").isEmpty();
  }

  /** A store whose copies of before have gone by retention had them all the same; one that never had any did not. */
  @Test
  void whereCopiesLayIsRememberedOfTheNewestAndNotOfLongAgo() {
    at("B", LEFT).at("A", BACK);
    Given g = before()
        .point("away", 12)
        .point("home", "r", Form.FULL, null, 6, PointOutcome.COMPLETE)
        .copy("home", "near");
    g.copies.removeIf(c -> c.point().equals("before") && c.store().equals("far"));
    assertThat(all(g)).as("far never had one").isEmpty();
    g.copy("before", "far", CopyState.DELETED, NOW);
    assertThat(states(g).get(4)).isEqualTo(State.OPEN);
    g.copies.removeIf(c -> c.state() == CopyState.DELETED);
    g.copy("before", "far", CopyState.MISSING, NOW);
    assertThat(all(g)).as("it was only said to be there").isEmpty();
    g.point("old", "r", Form.FULL, null, 24 * 33, PointOutcome.COMPLETE).copy("old", "far");
    assertThat(all(g)).as("longer ago than the period before it left").isEmpty();
  }

  /** Back without a point of its time away: what was new there may be lost, and nothing brings that step about any more. */
  @Test
  void whoCameBackWithNothingIsTold() {
    at("B", LEFT).at("A", BACK);
    Given g =
        before().point("home", "r", Form.FULL, null, 6, PointOutcome.COMPLETE).copy("home", "near");
    assertThat(states(g))
        .containsExactly(State.MISSED, State.MISSED, State.DONE, State.DONE, State.OPEN);
    assertThat(said(g, ReturnStep.COPIED_HOME)).endsWith("what was new there may be lost");
    g.copy("home", "far");
    assertThat(all(g)).as("nothing is left to do").isEmpty();
  }

  @Test
  void whereCopiesLayIsNotKnownOnceNothingOfBeforeIs() {
    at("B", LEFT);
    assertThat(states(Given.estate().point("away", 5)).get(4)).isEqualTo(State.NOT_KNOWN);
  }

  /** What a person settles is where it belongs; a later move counts from there. */
  @Test
  void aMoveThatStaysIsOver() {
    at("B", LEFT);
    Map<String, Instant> settled = Map.of("r", LEFT.plusSeconds(60));
    assertThat(GoingBack.of(before().at(NOW), Standard.shipped(), stays, settled, 2))
        .isEmpty();
    Map<String, Instant> earlier = Map.of("r", LEFT.minusSeconds(60));
    assertThat(GoingBack.of(before().at(NOW), Standard.shipped(), stays, earlier, 2))
        .hasSize(1);
    at("A", BACK);
    Move move = GoingBack.of(before().at(NOW), Standard.shipped(), stays, settled, 2)
        .get(0)
        .members()
        .get(0)
        .move();
    assertThat(move.home()).isEqualTo("B");
    assertThat(move.away()).isEqualTo("A");
    assertThat(move.left()).isEqualTo(BACK);
  }

  /** From one place to the next it is away since it first left; gone again after it was back, since then. */
  @Test
  void severalMoves() {
    at("B", LEFT).at("C", LEFT.plusSeconds(60));
    assertThat(only(before()).move())
        .extracting(Move::home, Move::away, Move::left, Move::back)
        .containsExactly("A", "C", LEFT, null);
    at("A", BACK).at("B", BACK.plusSeconds(60));
    assertThat(only(before()).move())
        .extracting(Move::away, Move::left, Move::back)
        .containsExactly("B", BACK.plusSeconds(60), null);
  }

  /** Two at 100 MB a second from one store, one of which needs the other: 100 s and 50 s, one after the other. */
  @Test
  void theWayBackGoesByNeeds() {
    at("B", LEFT);
    stays.add(new Stay("db", "A", NOW.minus(Duration.ofDays(90))));
    stays.add(new Stay("db", "B", LEFT));
    Given g = before().point("away", 5).theResource("needs", "db;elsewhere");
    g.thePoint("away", "size", "10000000000");
    g.resources.add(
        Fields.with(FactKinds.RESOURCES, Given.resource("db", Kind.FILE_SHARE, "w"), "site", "B"));
    g.point("db-1", "db", Form.FULL, null, 4, PointOutcome.COMPLETE).copy("db-1", "near");
    g.thePoint("db-1", "size", "5000000000");
    GoingBack back = all(g).get(0);
    assertThat(back.members())
        .extracting(r -> r.move().resource().key())
        .containsExactly("db", "r");
    assertThat(back.total()).isEqualTo(150_000L);
    assertThat(back.sentence()).isEqualTo("2 away; back in about 2 m 30 s from what lies at home");
    g.theStore("near", "throughput", "");
    assertThat(all(g).get(0).sentence())
        .isEqualTo("2 away; each has a point at home; how long the way back takes is not known");
  }

  /** A disk that a machine's image brings back comes with it: its bytes are read once. */
  @Test
  void whatComesWithAnotherTakesNoTimeOfItsOwn() {
    at("B", LEFT);
    stays.add(new Stay("disk", "A", NOW.minus(Duration.ofDays(90))));
    stays.add(new Stay("disk", "B", LEFT));
    Given g = before().point("away", 5);
    g.thePoint("away", "size", "10000000000");
    g.resources.add(Given.resource("disk", Kind.VOLUME, "w", "r", Map.of()));
    GoingBack back = all(g).get(0);
    assertThat(back.members())
        .extracting(r -> r.move().resource().key())
        .containsExactly("r", "disk");
    assertThat(back.total()).isEqualTo(100_000L);
  }

  @Test
  void resourcesOfNoWorkloadAreListedLast() {
    at("B", LEFT);
    stays.add(new Stay("x", "A", NOW.minus(Duration.ofDays(90))));
    stays.add(new Stay("x", "B", LEFT));
    Given g = before();
    g.resources.add(0, Given.resource("x", Kind.VOLUME, ""));
    assertThat(all(g))
        .extracting(b -> b.workload() == null ? null : b.workload().key())
        .containsExactly("w", null);
  }
}
