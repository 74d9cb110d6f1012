package hardproof.core.facts;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.facts.Usability.Judged;
import hardproof.core.points.Chain;
import hardproof.core.points.Consistency;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.points.RecoveryPoint;
import java.time.Instant;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * {@link Usability} goes over rows and sees each point once; {@link Chain} follows every chain by
 * itself, point by point. Both must say the same, whatever hangs from what.
 */
class ChainsOfColumnsTest {
  private static Usability judged(Given g) {
    return Usability.of(g.at(NOW), "r", Consistency.UNKNOWN);
  }

  private static Given drawn(Random random) {
    Given g = Given.estate();
    int points = 2 + random.nextInt(14);
    for (int i = 0; i < points; i++) {
      // From another point at any place, also a newer one, itself no more than by a circle, or
      // none.
      String base = "p" + random.nextInt(points + 1);
      boolean hangs = random.nextInt(4) > 0 && !base.equals("p" + i);
      Form form = hangs || random.nextInt(8) == 0 ? Form.INCREMENTAL : Form.FULL;
      g.point(
          "p" + i,
          "r",
          form,
          hangs ? base : null,
          2 + random.nextInt(200),
          random.nextInt(8) == 0 ? PointOutcome.PARTIAL : PointOutcome.COMPLETE);
      for (String store : List.of("near", "far")) {
        switch (random.nextInt(6)) {
          case 0 -> {}
          case 1 ->
            g.copy("p" + i, store, CopyState.DAMAGED, NOW.minusSeconds(random.nextInt(9999)));
          case 2 ->
            g.copy("p" + i, store, CopyState.DELETED, NOW.minusSeconds(random.nextInt(9999)));
          default -> g.copy("p" + i, store);
        }
      }
    }
    return g;
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19, 20})
  void aChainIsAsItIsWhenFollowedByItself(long seed) {
    Random random = new Random(seed);
    for (int round = 0; round < 20; round++) {
      Usability usability = judged(drawn(random));
      for (Judged j : usability.points()) {
        Chain chain = usability.chainOf(j.point());
        assertThat(j.chainWhole()).as(chain.toString()).isEqualTo(chain.whole());
        assertThat(usability.chainWhole(j.row())).isEqualTo(chain.whole());
        if (chain.whole()) {
          assertThat(j.chainLength()).isEqualTo(chain.length());
          assertThat(j.full()).isEqualTo(chain.points().get(0));
          assertThat(j.breakSentence()).isNull();
        } else {
          assertThat(j.full()).isNull();
          assertThat(j.usableAt(NOW)).isFalse();
          assertThat(j.whyNot()).isEqualTo(j.breakSentence()).isNotBlank();
        }
      }
    }
  }

  /** Usable at an instant: every point of the chain is, by itself, by its outcome and its copies. */
  @ParameterizedTest
  @ValueSource(longs = {21, 22, 23, 24, 25, 26, 27, 28, 29, 30})
  void aPointIsUsableWhenEveryPointOfItsChainIs(long seed) {
    Random random = new Random(seed);
    for (int round = 0; round < 20; round++) {
      Usability usability = judged(drawn(random));
      for (Judged j : usability.points()) {
        Chain chain = usability.chainOf(j.point());
        for (long ago : new long[] {0, 3000, 6000, 12_000, 500_000}) {
          Instant at = NOW.minusSeconds(ago);
          boolean expected = chain.whole()
              && chain.points().stream().allMatch(p -> byItself(p, usability.set(), at));
          assertThat(usability.usableAt(j.row(), at.toEpochMilli()))
              .as(j.point().key() + " " + ago + " s ago: " + j.whyNot())
              .isEqualTo(expected);
          assertThat(j.usableAt(at)).isEqualTo(expected);
        }
        assertThat(j.whyNot() == null).isEqualTo(j.usableAt(NOW));
      }
      int newest = usability.newestUsable(NOW.toEpochMilli());
      assertThat(usability.points().stream().filter(j -> j.usableAt(NOW)).count() == 0)
          .isEqualTo(newest < 0);
    }
  }

  private static boolean byItself(RecoveryPoint point, PointSet set, Instant at) {
    return point.outcome() == PointOutcome.COMPLETE
        && !point.available().isAfter(at)
        && set.copiesOf(point).stream().anyMatch(c -> there(c, at));
  }

  private static boolean there(Copy copy, Instant at) {
    return copy.state() == CopyState.PRESENT || copy.recordedAt().isAfter(at);
  }

  @Test
  void whatBreaksAChainIsNamedForAllThatHangsFromIt() {
    Given g = Given.estate();
    g.point("a", "r", Form.INCREMENTAL, "gone", 40, PointOutcome.COMPLETE).copy("a", "near");
    g.point("b", "r", Form.INCREMENTAL, "a", 30, PointOutcome.COMPLETE).copy("b", "near");
    g.point("c", "r", Form.INCREMENTAL, null, 20, PointOutcome.COMPLETE).copy("c", "near");
    g.point("d", "r", Form.INCREMENTAL, "d2", 12, PointOutcome.COMPLETE);
    g.point("d2", "r", Form.INCREMENTAL, "d", 10, PointOutcome.COMPLETE);
    List<Judged> all = judged(g).points();
    assertThat(all)
        .extracting(Judged::breakSentence)
        .containsExactly(
            "a is based on gone, which is missing",
            "a is based on gone, which is missing",
            "c is incremental and names no point that it is based on",
            "the chain goes in a circle at d",
            "the chain goes in a circle at d");
    assertThat(all).extracting(Judged::chainLength).startsWith(1, 2, 1);
  }

  @Test
  void whatEndsFirstIsToBlame() {
    Given g = Given.estate().point("f", "r", Form.FULL, null, 30, PointOutcome.COMPLETE);
    g.copy("f", "near", CopyState.DAMAGED, NOW.minusSeconds(100));
    g.point("i", "r", Form.INCREMENTAL, "f", 20, PointOutcome.COMPLETE);
    g.copy("i", "near", CopyState.MISSING, NOW.minusSeconds(900));
    g.point("j", "r", Form.INCREMENTAL, "i", 10, PointOutcome.COMPLETE).copy("j", "near");
    List<Judged> all = judged(g).points();
    assertThat(all.get(1).whyNot()).isEqualTo("the copy on NEAR is missing");
    assertThat(all.get(2).whyNot()).isEqualTo("it hangs from i: the copy on NEAR is missing");
    assertThat(all.get(2).span().until()).isEqualTo(NOW.minusSeconds(900).toEpochMilli());
  }
}
