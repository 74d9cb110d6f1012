package hardproof.core.drills;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.drills.GoodPointSearch.Kind;
import hardproof.core.drills.GoodPointSearch.Step;
import java.util.HashMap;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

class GoodPointSearchTest {
  /** Carries a search out; gives the number found, −1 for none, and how many were tried. */
  private static int[] search(boolean[] good, boolean stays) {
    Map<Integer, Boolean> tried = new HashMap<>();
    while (true) {
      Step step = GoodPointSearch.next(good.length, tried, stays);
      if (step.kind() != Kind.TRY) {
        return new int[] {step.point(), tried.size()};
      }
      assertThat(tried).as("nothing is tried twice").doesNotContainKey(step.point());
      tried.put(step.point(), good[step.point()]);
    }
  }

  private static boolean[] badUpTo(int points, int bad) {
    boolean[] good = new boolean[points];
    for (int i = bad; i < points; i++) {
      good[i] = true;
    }
    return good;
  }

  @Test
  void halvingFindsTheBorderOfDamageThatStays() {
    for (int points = 1; points <= 70; points++) {
      for (int bad = 0; bad <= points; bad++) {
        int[] found = search(badUpTo(points, bad), true);
        assertThat(found[0])
            .as(points + " points, " + bad + " bad")
            .isEqualTo(bad == points ? -1 : bad);
        if (bad < points) {
          int halvings = 32 - Integer.numberOfLeadingZeros(points);
          assertThat(found[1]).isLessThanOrEqualTo(2 + halvings);
        }
      }
    }
  }

  /** One by one, it is always the newest that passes. */
  @Test
  void oneByOneFindsTheNewestGoodWhateverElseIsBad() {
    Random random = new Random(5);
    for (int round = 0; round < 500; round++) {
      boolean[] good = new boolean[random.nextInt(20)];
      int newest = -1;
      for (int i = good.length - 1; i >= 0; i--) {
        good[i] = random.nextInt(3) == 0;
        newest = good[i] ? i : newest;
      }
      assertThat(search(good, false)[0]).isEqualTo(newest);
    }
  }

  /** Where the tries show that damage does not stay, nothing that fails is ever called good. */
  @Test
  void halvingNeverCallsABadPointGood() {
    Random random = new Random(6);
    for (int round = 0; round < 1000; round++) {
      boolean[] good = new boolean[1 + random.nextInt(20)];
      boolean any = false;
      for (int i = 0; i < good.length; i++) {
        good[i] = random.nextInt(3) == 0;
        any |= good[i];
      }
      int found = search(good, true)[0];
      assertThat(found >= 0).as("one is found where there is one").isEqualTo(any);
      assertThat(found < 0 || good[found]).isTrue();
    }
  }

  @Test
  void nothingIsFoundWhereNothingIs() {
    assertThat(GoodPointSearch.next(0, Map.of(), true)).isEqualTo(new Step(Kind.NONE, -1));
  }
}
