package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.copies.CopyState;
import hardproof.core.losses.Loss;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.survival.Fate;
import hardproof.core.survival.Survival;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Losses that a standard demands to be survived. "near" is a disk at site A, "far" a tape at site B. Invented data. */
class SurvivingTest {
  private static Outcome one(Given g) {
    return g.outcome(CriterionCode.COPIES_SURVIVE_ONE);
  }

  private static Outcome intruder(Given g) {
    return g.theWorkload("tier", "1").outcome(CriterionCode.COPIES_SURVIVE_INTRUDER);
  }

  @Test
  void theSentenceNamesWhatWouldLeaveNothing() {
    Given g = Given.estate().point("a", 6);
    assertThat(one(g).sentence())
        .isEqualTo("something of R is left whichever of 4 sites and failure domains is lost");
    g.copies.removeIf(c -> c.store().equals("far"));
    assertThat(one(g).sentence())
        .isEqualTo("nothing is left of R without site A and failure domain array");
    assertThat(one(g).measured()).isEqualTo(Measure.count(2));
  }

  @Test
  void aPointIsLeftWithItsWholeChainOrNotAtAll() {
    Given g = Given.estate();
    g.point("full", "r", Form.FULL, null, 30, PointOutcome.COMPLETE).copy("full", "near");
    g.point("inc", "r", Form.INCREMENTAL, "full", 6, PointOutcome.COMPLETE)
        .copy("inc", "near")
        .copy("inc", "far");
    assertThat(one(g).state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(intruder(g).state()).isEqualTo(OutcomeState.NOT_MET);
    g.copy("full", "far");
    assertThat(one(g).state()).isEqualTo(OutcomeState.MET);
    assertThat(intruder(g).state()).isEqualTo(OutcomeState.MET);
  }

  /** What is left and can't be opened is not left. */
  @Test
  void aLossTakesTheKeysToo() {
    Given g = Given.estate()
        .point("a", 6)
        .thePoint("a", "encrypted", "yes")
        .theResource("key_places", "A");
    assertThat(one(g).sentence())
        .isEqualTo("nothing is left of R without site A, which takes its keys");
    assertThat(one(g.thePoint("a", "encrypted", "no")).state()).isEqualTo(OutcomeState.MET);
    g.thePoint("a", "encrypted", "yes").theResource("key_places", "A;B");
    assertThat(one(g).state()).isEqualTo(OutcomeState.MET);
  }

  @Test
  void copiesThatAreBadAreNotLeft() {
    Given g = Given.estate().point("a", 6);
    g.copies.removeIf(c -> c.store().equals("far"));
    g.copy("a", "far", CopyState.DAMAGED, NOW.minus(Duration.ofDays(1)));
    assertThat(one(g).state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(intruder(g).state()).isEqualTo(OutcomeState.NOT_MET);
  }

  /** At the very end of a lock an administrator can delete again. */
  @Test
  void aLockHoldsUntilItEnds() {
    Given g = Given.estate().point("a", 2);
    g.copies.removeIf(c -> c.store().equals("far"));
    g.theCopy("a", "near", "locked_until", NOW.plusMillis(1).toString());
    assertThat(intruder(g).state()).isEqualTo(OutcomeState.MET);
    g.theCopy("a", "near", "locked_until", NOW.toString());
    assertThat(intruder(g).state()).isEqualTo(OutcomeState.NOT_MET);
  }

  @Test
  void whatNobodySaysIsNeitherSurvivedNorNot() {
    Given g = Given.estate().point("a", 2);
    g.theStore("far", "online", "");
    assertThat(intruder(g).state()).isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    g.theStore("far", "site", "");
    assertThat(one(g).sentence())
        .isEqualTo(
            "whether anything is left of R without site A is not known: a store of its copies names no site");
    assertThat(one(Given.estate()).state())
        .as("there is nothing that could be left")
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(one(Given.estate().theWorkload("tier", "4").point("a", 6)).state())
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
  }

  /** What the section Survival computes in another way, over a thousand estates drawn with a seed. */
  @Test
  void theyAgreeWithTheSectionThatTriesEveryLoss() {
    Random random = new Random(29);
    for (int trial = 0; trial < 1000; trial++) {
      Given g = drawn(random);
      var estate = g.at(NOW);
      Survival survival =
          Survival.of(estate, hardproof.core.proof.Evaluator.evaluate(estate, Standard.shipped()));
      List<Loss> losses = new ArrayList<>(List.of(
          Loss.ofSite("A"), Loss.ofSite("B"), Loss.ofDomain("array"), Loss.ofDomain("store:far")));
      boolean fatal = losses.stream().anyMatch(l -> lost(survival, l));
      OutcomeState state = one(g).state();
      if (state != OutcomeState.NOT_ENOUGH_DATA) {
        assertThat(state).isEqualTo(OutcomeState.metIf(!fatal));
        assertThat(intruder(g).state())
            .isEqualTo(OutcomeState.metIf(!lost(survival, Loss.ofIntruder())));
      }
    }
  }

  private static boolean lost(Survival survival, Loss loss) {
    Fate fate = survival.after(loss, 2).lines().stream()
        .filter(l -> l.workload().key().equals("w"))
        .findFirst()
        .orElseThrow()
        .fate();
    return fate == Fate.LOST;
  }

  private static Given drawn(Random random) {
    List<String> places = List.of("", "A", "near", "far", "A;far", "near;far", "a safe");
    Given g = Given.estate().theResource("key_places", places.get(random.nextInt(places.size())));
    String base = null;
    for (int i = 0; i < 3; i++) {
      boolean full = base == null || random.nextBoolean();
      String key = "p" + i;
      g.point(
          key,
          "r",
          full ? Form.FULL : Form.INCREMENTAL,
          full ? null : base,
          30 - 8 * i,
          random.nextInt(5) == 0 ? PointOutcome.FAILED : PointOutcome.COMPLETE);
      g.thePoint(key, "encrypted", random.nextBoolean() ? "yes" : "no");
      for (String store : List.of("near", "far")) {
        if (random.nextInt(3) > 0) {
          g.copy(key, store);
          if (random.nextInt(4) == 0) {
            g.theCopy(key, store, "locked_until", NOW.plusSeconds(60).toString());
          }
        }
      }
      base = key;
    }
    return g;
  }
}
