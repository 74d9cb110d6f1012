package hardproof.core.programmes;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.drills.Method;
import hardproof.core.estate.Kind;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Invented data. */
class DrawnDrillsTest {
  private final Given g = Given.estate();
  private final Set<Draw.Candidate> candidates = new HashSet<>();

  DrawnDrillsTest() {
    for (int i = 1; i <= 20; i++) {
      g.point("p" + i, i * 2.0);
      candidates.add(new Draw.Candidate("r", "p" + i));
    }
  }

  private DrawnDrills of(Set<String> drawn, int withoutResult) {
    return DrawnDrills.of(g.at(NOW), g.drills, drawn, candidates, withoutResult);
  }

  @Test
  void onlyWhatWasDrawnSaysSomethingOfTheOthers() {
    g.drill("p1", Method.FULL_RESTORE, true, 3)
        .drill("p2", Method.FULL_RESTORE, true, 2)
        .drill("p3", Method.FULL_RESTORE, false, 1);
    DrawnDrills sure = of(Set.of("run0", "run1"), 0);
    assertThat(sure.whole()).isEqualTo(new Assurance(2, 0, 20));
    assertThat(sure.chosen()).isEqualTo(1);
    assertThat(sure.sentences().get(0))
        .startsWith(
            "2 points of 20 drawn at random, one at a time for each resource, and drilled,");
    assertThat(sure.sentences())
        .contains("1 drill was of points that somebody or a rule chose; each proves its point, and"
            + " says nothing of others.");
  }

  /** One of the drills of a point failed: mended since or not, it is a failure of the period. */
  @Test
  void aPointCountsOnceAndAFailureStays() {
    g.drill("p1", "near", Method.FULL_RESTORE, false, 3, null, null)
        .drill("p1", "far", Method.FULL_RESTORE, true, 1, null, null);
    assertThat(of(Set.of("run0", "run1"), 0).whole()).isEqualTo(new Assurance(1, 1, 20));
  }

  @Test
  void strataWithoutADrawAreThere() {
    g.drill("p1", "near", Method.FULL_RESTORE, true, 1, null, null);
    g.copies.removeIf(c -> c.point().equals("p20") && c.store().equals("far"));
    assertThat(of(Set.of("run0"), 0).strata())
        .containsExactly(
            new DrawnDrills.Stratum(Kind.FILE_SHARE, "far", new Assurance(0, 0, 19)),
            new DrawnDrills.Stratum(Kind.FILE_SHARE, "near", new Assurance(1, 0, 20)));
  }

  @Test
  void whatIsForgottenSinceStillCounts() {
    g.drill("gone", Method.FULL_RESTORE, true, 1);
    DrawnDrills sure = of(Set.of("run0"), 0);
    assertThat(sure.whole()).isEqualTo(new Assurance(1, 0, 21));
  }

  @Test
  void howMuchIsMissingIsSaid() {
    g.drill("p1", Method.FULL_RESTORE, true, 1);
    List<String> said = of(Set.of("run0"), 3).sentences();
    // 59 clean draws show 95 % (AICPA's table), whatever the number of points.
    assertThat(said)
        .contains("58 more draws without a failure would show 95.00 %.")
        .anyMatch(s -> s.startsWith("3 points were drawn and came to no result"));
  }

  /**
   * Of one resource 1 point of 18 is good, of the other both: one draw of each finds nothing in more than 5 % of all
   * nights. A bound for 20 points would then say that 25 % are good where 15 % are.
   */
  @Test
  void fewPointsAreNoReasonToClaimMore() {
    g.drill("p1", Method.FULL_RESTORE, true, 1).drill("p2", Method.FULL_RESTORE, true, 1);
    DrawnDrills two = of(Set.of("run0", "run1"), 0);
    assertThat(two.whole().atLeast()).as("of a simple sample of 20").isEqualTo(0.25);
    assertThat(two.sentences().get(0)).contains("at least 22.36 % of their points");
    assertThat(two.strata()).allSatisfy(s -> assertThat(s.atLeast()).isLessThan(0.2237));
  }

  @Test
  void whatWasDrawnAndNeverDrilledShowsNothing() {
    assertThat(of(Set.of(), 1).sentences().get(0))
        .isEqualTo("Points were drawn at random from 20, and none of them was drilled to a result:"
            + " nothing is known of the others.");
  }

  @Test
  void whereNothingWasDrawnThatIsSaid() {
    candidates.clear();
    assertThat(of(Set.of(), 0).sentences())
        .containsExactly("No point was drawn at random in this period: its drills show what they"
            + " drilled, and nothing of other points.");
  }
}
