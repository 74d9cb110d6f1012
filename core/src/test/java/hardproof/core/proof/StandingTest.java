package hardproof.core.proof;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.drills.Method;
import hardproof.core.ladder.Rung;
import org.junit.jupiter.api.Test;

/** What still stands of a proof when something has failed since. */
class StandingTest {
  @Test
  void withoutAFailureTheRungStands() {
    WorkloadResult result =
        Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 10).result();
    assertThat(result.failed()).isNull();
    assertThat(result.standing()).isEqualTo(Rung.RESTORED);
  }

  @Test
  void whatFailedSinceTakesItsRungAndAllAbove() {
    WorkloadResult result = Given.estate()
        .point("a", 5)
        .drill("a", Method.FULL_RESTORE, true, 10)
        .drill("a", Method.FULL_RESTORE, false, 1)
        .result();
    assertThat(result.rung()).isEqualTo(Rung.RESTORED);
    assertThat(result.failed()).isEqualTo(Rung.RESTORED);
    assertThat(result.standing()).isEqualTo(Rung.INTACT);
  }

  @Test
  void aFailureAboveWhatWasReachedTakesNothing() {
    WorkloadResult result = Given.estate()
        .point("a", 5)
        .drill("a", Method.READ_THROUGH, true, 10)
        .drill("a", Method.FULL_RESTORE, false, 1)
        .result();
    assertThat(result.failed()).isEqualTo(Rung.RESTORED);
    assertThat(result.standing()).isEqualTo(Rung.INTACT);
  }

  @Test
  void aLaterPassGivesItBack() {
    WorkloadResult result = Given.estate()
        .point("a", 5)
        .drill("a", Method.FULL_RESTORE, false, 2)
        .drill("a", Method.FULL_RESTORE, true, 1)
        .result();
    assertThat(result.failed()).isNull();
    assertThat(result.standing()).isEqualTo(Rung.RESTORED);
  }

  @Test
  void nothingAtAllStandsAtNothing() {
    Given g = Given.estate();
    g.policies.clear();
    assertThat(g.result().standing()).isNull();
  }

  @Test
  void afterAFailureTheNextDrillIsOfAnOlderPointOrOfANewerOneThatIsUsable() {
    Given older = Given.estate().point("old", 29).point("new", 5);
    older.drill("new", Method.FULL_RESTORE, false, 0.1);
    // Both stores' copies of "new" would have to be bad; the one on FAR still is usable.
    assertThat(older.result().actions()).extracting(Action::point).containsExactly("new");
    Given inside = Given.estate().point("old", 20).point("new", 5);
    inside.drill("new", "near", Method.FULL_RESTORE, false, 0.1, "new", null);
    assertThat(inside.result().actions()).singleElement().satisfies(a -> {
      assertThat(a.point()).isEqualTo("old");
      assertThat(a.sentence()).contains("from the next older point that may be good");
    });
  }

  @Test
  void aDrillThatFailedIsNotCalledNeverDrilled() {
    WorkloadResult result =
        Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, false, 1).result();
    assertThat(result.causes())
        .extracting(Cause::sentence)
        .contains("R has passed no drill; restored demanded");
  }
}
