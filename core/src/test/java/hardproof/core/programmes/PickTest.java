package hardproof.core.programmes;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.Given;
import hardproof.core.drills.Method;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.programmes.CopyChoice.Way;
import hardproof.core.wording.WrongValue;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Invented data. */
class PickTest {
  private static final Set<String> BOTH = Set.of("near", "far");

  private static Pick pick(Given g) {
    return new Pick(g.at(NOW), g.resources.get(0));
  }

  private static String point(Given g, PointChoice.Way way) {
    return pick(g)
        .point(new PointChoice(way, null), null)
        .map(RecoveryPoint::key)
        .orElse(null);
  }

  private static List<String> candidates(Given g, Duration within) {
    return pick(g).candidates(new PointChoice(PointChoice.Way.RANDOM, within)).stream()
        .map(Draw.Candidate::point)
        .toList();
  }

  @Test
  void onlyUsablePointsAreChosen() {
    Given g = Given.estate().point("old", 90).point("a", 50).point("b", 5).point("bad", 1);
    g.thePoint("bad", "outcome", "failed").thePoint("old", "outcome", "partial");
    assertThat(point(g, PointChoice.Way.NEWEST)).isEqualTo("b");
    assertThat(point(g, PointChoice.Way.OLDEST)).isEqualTo("a");
    assertThat(candidates(g, null)).containsExactly("a", "b");
    g.points.clear();
    for (PointChoice.Way way : PointChoice.Way.values()) {
      if (way != PointChoice.Way.RANDOM) {
        assertThat(point(g, way)).isNull();
      }
    }
    assertThat(candidates(g, null)).isEmpty();
  }

  /** Data exactly as old as is allowed is among them. */
  @Test
  void whatIsDrawnFromIsBoundedByAge() {
    Given g = Given.estate().point("a", 48).point("b", 24).point("c", 5);
    assertThat(candidates(g, Duration.ofHours(24))).containsExactly("b", "c");
    assertThat(candidates(g, Duration.ofHours(24).minusMillis(1))).containsExactly("c");
    PointChoice lately = new PointChoice(PointChoice.Way.RANDOM, Duration.ofDays(1));
    Draw draw = Draw.of("0", pick(g).candidates(lately));
    assertThat(pick(g).point(lately, draw.of("r").orElseThrow()).map(RecoveryPoint::key))
        .isEqualTo(draw.of("r").map(Draw.Candidate::point));
  }

  /** Every point comes once before any comes again; a run that said nothing was no drill. */
  @Test
  void inTurnNoPointIsForgotten() {
    Given g = Given.estate().point("a", 50).point("b", 26).point("c", 2);
    assertThat(point(g, PointChoice.Way.IN_TURN)).as("the one to go first").isEqualTo("a");
    g.drill("a", Method.FULL_RESTORE, true, 3);
    assertThat(point(g, PointChoice.Way.IN_TURN)).isEqualTo("b");
    g.drill("b", Method.FULL_RESTORE, true, 2).drill("c", Method.READ_THROUGH, true, 1);
    assertThat(point(g, PointChoice.Way.IN_TURN)).as("drilled longest ago").isEqualTo("a");
  }

  @Test
  void theRiskiestIsOfOddSizeElseOfTheLongestChain() {
    Given g = Given.estate();
    for (int day = 9; day >= 3; day--) {
      g.point("f" + day, day * 24.0).thePoint("f" + day, "size", "" + (1_000_000 + day));
    }
    g.point("i1", "r", Form.INCREMENTAL, "f3", 50, PointOutcome.COMPLETE).copy("i1", "near");
    g.point("i2", "r", Form.INCREMENTAL, "i1", 40, PointOutcome.COMPLETE).copy("i2", "near");
    assertThat(point(g, PointChoice.Way.RISKIEST)).isEqualTo("i2");
    g.point("shrunk", 30).thePoint("shrunk", "size", "400000");
    g.point("usual", 20).thePoint("usual", "size", "1000005");
    assertThat(point(g, PointChoice.Way.RISKIEST)).isEqualTo("shrunk");
    g.thePoint("shrunk", "size", "950000");
    assertThat(point(g, PointChoice.Way.RISKIEST)).as("within a tenth is usual").isEqualTo("i2");
  }

  private static String store(Given g, CopyChoice choice, Set<String> readable) {
    return pick(g).store(choice, BOTH, readable::contains).orElse(null);
  }

  /** Over time every copy is proven. */
  @Test
  void theCopyDrilledLastIsNotTakenAgain() {
    Given g = Given.estate().point("a", 5);
    assertThat(store(g, CopyChoice.NOT_LAST, BOTH)).isEqualTo("far");
    g.drill("a", "far", Method.FULL_RESTORE, true, 2, null, null);
    assertThat(store(g, CopyChoice.NOT_LAST, BOTH)).isEqualTo("near");
    g.drill("a", "near", Method.FULL_RESTORE, false, 1, null, null);
    assertThat(store(g, CopyChoice.NOT_LAST, BOTH)).isEqualTo("far");
    assertThat(store(g, CopyChoice.NOT_LAST, Set.of("near")))
        .as("what can't be read is no choice")
        .isEqualTo("near");
    assertThat(store(g, CopyChoice.NOT_LAST, Set.of()))
        .as("its refusal says why")
        .isEqualTo("far");
  }

  @Test
  void aCopyIsAsItIsAskedFor() {
    Given g = Given.estate().point("a", 5);
    CopyChoice offSite = new CopyChoice(Way.OFF_SITE, null);
    assertThat(store(g, offSite, BOTH)).isEqualTo("far");
    assertThat(store(g, new CopyChoice(Way.STORE, "near"), Set.of())).isEqualTo("near");
    assertThat(store(g, new CopyChoice(Way.STORE, "vault"), BOTH)).isNull();
    assertThat(store(g, new CopyChoice(Way.ANY, null), Set.of("near"))).isEqualTo("near");
    g.theStore("far", "site", "A");
    assertThat(store(g, offSite, BOTH)).isNull();
    g.theStore("far", "site", "");
    assertThat(store(g, offSite, BOTH)).as("not known is not off-site").isNull();
    g.theStore("far", "site", "B").theResource("site", "");
    assertThat(store(g, offSite, BOTH)).isNull();
  }

  @Test
  void choicesThatCantBeAreRefused() {
    assertThatThrownBy(() -> new PointChoice(PointChoice.Way.OLDEST, Duration.ofDays(1)))
        .isInstanceOf(WrongValue.class)
        .hasMessage("an age bounds what is drawn at random, and nothing else");
    assertThatThrownBy(() -> new PointChoice(PointChoice.Way.RANDOM, Duration.ZERO))
        .hasMessage("the points to draw from can't be 0 s old");
    assertThatThrownBy(() -> new PointChoice(PointChoice.Way.NEWEST, null, 59))
        .isInstanceOf(WrongValue.class)
        .hasMessage("a number of points is drawn at random, and in no other way");
    for (int wrong : new int[] {0, -1, 10_001}) {
      assertThatThrownBy(() -> new PointChoice(PointChoice.Way.RANDOM, null, wrong))
          .hasMessage("a start draws 1 to 10,000 points, not " + wrong);
    }
    assertThat(new PointChoice(PointChoice.Way.RANDOM, null, 10_000).sample()).isEqualTo(10_000);
    assertThatThrownBy(() -> new CopyChoice(Way.STORE, " "))
        .hasMessage("say which store it restores from");
    assertThatThrownBy(() -> new CopyChoice(Way.ANY, "near"))
        .hasMessage("a store is named, and any copy is asked for");
  }

  @Test
  void choicesAreSaidInWords() {
    assertThat(new PointChoice(PointChoice.Way.RANDOM, Duration.ofDays(30)).words())
        .isEqualTo("one drawn at random of the last 30 d");
    assertThat(new PointChoice(PointChoice.Way.RANDOM, Duration.ofDays(30), 59).words())
        .isEqualTo("59 points drawn at random of all of the last 30 d");
    assertThat(PointChoice.NEWEST.words()).isEqualTo("the newest");
    assertThat(new CopyChoice(Way.STORE, "far").words("FAR")).isEqualTo("the copy on FAR");
    assertThat(CopyChoice.NOT_LAST.words(null)).isEqualTo("not the copy drilled last");
  }
}
