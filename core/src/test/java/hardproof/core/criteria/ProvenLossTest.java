package hardproof.core.criteria;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.copies.CopyState;
import hardproof.core.drills.Method;
import hardproof.core.estate.Kind;
import java.time.Duration;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** What would be lost by proof. Tier 3: restored shows that the content is right. Invented data. */
class ProvenLossTest {
  private static ProvenLoss loss(Given g) {
    return g.result().members().get(0).proof().loss();
  }

  private static Given points() {
    return Given.estate().point("old", 100).point("mid", 50).point("new", 5);
  }

  @Test
  void itCountsToTheNewestPointThatWasShownToBeRight() {
    Given g = points();
    assertThat(loss(g)).isEqualTo(ProvenLoss.NOTHING);
    g.drill("mid", Method.FULL_RESTORE, true, 1);
    assertThat(loss(g).loss()).isEqualTo(Duration.ofHours(50));
    // Drilled later, and older: it takes nothing back.
    g.drill("old", Method.FULL_RESTORE, true, 0.5);
    assertThat(loss(g).loss()).isEqualTo(Duration.ofHours(50));
    assertThat(loss(g).drill().point()).isEqualTo("mid");
    assertThat(loss(g).beside(Duration.ofHours(5)))
        .isEqualTo("5 h if we believe it; 2 d 02 h by proof");
    assertThat(ProvenLoss.NOTHING.beside(null))
        .isEqualTo("all of it, since no point is usable; all of it by proof");
  }

  /** That every byte is as it was written says nothing of what was written. */
  @ParameterizedTest
  @EnumSource(
      value = Method.class,
      names = {"PRESENCE", "READ_BACK", "READ_THROUGH", "SAMPLE_RESTORE"})
  void whatRestoresNothingShowsNoContent(Method method) {
    assertThat(loss(points().drill("new", method, true, 0.1)).loss()).isNull();
  }

  @Test
  void whereRunningIsDemandedNothingLessWillDo() {
    Given g = points().theWorkload("tier", "2").theResource("kind", "database");
    g.drill("new", Method.FULL_RESTORE, true, 0.1);
    assertThat(loss(g).loss()).isNull();
    g.drill("mid", Method.DATABASE, true, 0.1);
    assertThat(loss(g).loss()).isEqualTo(Duration.ofHours(50));
    // A file share can be shown no more than restored.
    g.theResource("kind", Kind.FILE_SHARE.code());
    assertThat(loss(g).loss()).isEqualTo(Duration.ofHours(5));
  }

  /** What can't be restored any more is no proof of what could be. */
  @Test
  void aPointThatIsGoneOrBlamedSinceProvesNothing() {
    Given g = points().drill("mid", Method.FULL_RESTORE, true, 1);
    g.drill("new", Method.FULL_RESTORE, true, 2);
    g.drill("new", "near", Method.FULL_RESTORE, false, 1, "new", null);
    assertThat(loss(g).loss()).as("blamed since").isEqualTo(Duration.ofHours(50));
    Given gone = points().drill("mid", Method.FULL_RESTORE, true, 1);
    gone.copies.removeIf(c -> c.point().equals("mid"));
    gone.copy("mid", "near", CopyState.DELETED, Given.NOW.minusSeconds(60));
    assertThat(loss(gone).loss()).as("deleted").isNull();
  }

  @Test
  void afterWrongContentWhatNobodyDrilledSinceTheLastRightIsSuspect() {
    Given g = points().point("between", 30);
    g.drill("old", Method.FULL_RESTORE, true, 3);
    g.drill("new", "near", Method.FULL_RESTORE, false, 1, "new", null);
    assertThat(loss(g).suspect()).containsExactlyInAnyOrder("between", "mid");
    assertThat(loss(g).beside(Duration.ofHours(30)))
        .isEqualTo("30 h if we believe it; 4 d 04 h by proof; 2 points are suspect: made since the"
            + " last whose content was right, and nobody drilled them");
    g.drill("mid", Method.FULL_RESTORE, true, 0.5);
    assertThat(loss(g).suspect()).containsExactly("between");
    // They stay usable: nobody has shown them to be wrong.
    assertThat(g.outcome(CriterionCode.FRESH_EXPOSURE_NOW).measured())
        .isEqualTo(Measure.of(Duration.ofHours(30)));
  }

  /** A newer point whose content is right: whatever was wrong has been mended. */
  @Test
  void aLaterRightPointClearsTheSuspicion() {
    Given g = points().point("newest", 2);
    g.drill("mid", "near", Method.FULL_RESTORE, false, 1, "mid", null);
    assertThat(loss(g).suspect()).containsExactly("newest", "new", "old");
    g.drill("newest", Method.FULL_RESTORE, true, 0.5);
    assertThat(loss(g).suspect()).isEmpty();
  }

  /** One bad copy says nothing of the content. */
  @Test
  void aBadCopyMakesNothingSuspect() {
    Given g = points().drill("new", Method.FULL_RESTORE, false, 1);
    assertThat(loss(g).suspect()).isEmpty();
  }

  /** It is never less than what is claimed, whatever was drilled. */
  @Test
  void byProofNoLessIsLostThanIsClaimed() {
    Random random = new Random(6);
    for (int trial = 0; trial < 100; trial++) {
      Given g = Given.estate();
      for (int i = 0; i < 6; i++) {
        g.point("p" + i, 1 + random.nextInt(400));
      }
      for (int i = 0; i < 5; i++) {
        g.drill(
            "p" + random.nextInt(6),
            Method.FULL_RESTORE,
            random.nextInt(3) > 0,
            random.nextDouble());
      }
      Measure claimed = g.outcome(CriterionCode.FRESH_EXPOSURE_NOW).measured();
      Duration proven = loss(g).loss();
      if (proven != null) {
        assertThat(claimed).isNotNull();
        assertThat((double) proven.toMillis()).isGreaterThanOrEqualTo(claimed.value());
      }
    }
  }
}
