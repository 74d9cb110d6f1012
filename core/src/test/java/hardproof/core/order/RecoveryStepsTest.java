package hardproof.core.order;

import static hardproof.core.order.CriticalPathTest.step;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.order.RecoverySteps.Step;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class RecoveryStepsTest {
  @Test
  void circlesAreNamedWithTheirMembersAndWhatWaitsForThemIsNot() {
    RecoverySteps steps = new RecoverySteps(List.of(
        step("web", 1, "db"),
        step("db", 1, "dns"),
        step("dns", 1, "db"),
        step("mail", 1, "mail"),
        step("files", 1),
        step("scan", 1, "files", "unheard-of")));
    assertThat(steps.circles()).containsExactly(List.of("db", "dns"), List.of("mail"));
    assertThat(steps.never()).containsExactly("web", "db", "dns", "mail");
    RecoverySchedule schedule = RecoverySchedule.of(steps, RecoverySchedule.Limits.NONE);
    assertThat(schedule.bar(0)).isNull();
    assertThat(schedule.total()).isEqualTo(2);
  }

  @Test
  void whatNothingBringsBackHoldsUpWhatNeedsIt() {
    Step lost = new Step("lost", 0, null, 0, 0, false, List.of());
    RecoverySteps steps =
        new RecoverySteps(List.of(lost, step("app", 5, "lost"), step("other", 7)));
    assertThat(steps.circles()).isEmpty();
    assertThat(steps.never()).containsExactly("lost", "app");
    assertThat(RecoverySchedule.of(steps, RecoverySchedule.Limits.NONE).total()).isEqualTo(7);
  }

  @Test
  void aKeyIsThereOnce() {
    assertThatThrownBy(() -> new RecoverySteps(List.of(step("a", 1), step("a", 2))))
        .hasMessageContaining("a is there twice");
  }

  /** Two steps are on one circle when each can be reached from the other: every pair is tried. */
  @Test
  void circlesAreWhatReachesItself() {
    Random random = new Random(11);
    for (int round = 0; round < 300; round++) {
      int n = 2 + random.nextInt(8);
      List<Step> some = new ArrayList<>();
      for (int i = 0; i < n; i++) {
        String[] needs = IntStream.range(0, n)
            .filter(j -> random.nextInt(n + 2) == 0)
            .mapToObj(j -> "s" + j)
            .toArray(String[]::new);
        some.add(step("s" + i, 1, needs));
      }
      Set<Set<String>> expected = new HashSet<>();
      for (int i = 0; i < n; i++) {
        int one = i;
        Set<String> own = IntStream.range(0, n)
            .filter(j -> reaches(one, j, some) && reaches(j, one, some))
            .mapToObj(j -> "s" + j)
            .collect(Collectors.toCollection(TreeSet::new));
        if (reaches(i, i, some)) {
          expected.add(own);
        }
      }
      Set<Set<String>> found = new RecoverySteps(some)
          .circles().stream().<Set<String>>map(TreeSet::new).collect(Collectors.toSet());
      assertThat(found).isEqualTo(expected);
    }
  }

  private static boolean reaches(int from, int to, List<Step> all) {
    Set<String> seen = new HashSet<>();
    List<String> ahead = new ArrayList<>(all.get(from).needs());
    while (!ahead.isEmpty()) {
      String next = ahead.remove(0);
      if (seen.add(next)) {
        ahead.addAll(all.get(Integer.parseInt(next.substring(1))).needs());
      }
    }
    return seen.contains("s" + to);
  }

  /** A chain of needs as long as an estate neither recurses nor takes long. */
  @Test
  void aLongChainIsFine() {
    List<Step> chain = new ArrayList<>();
    for (int i = 0; i < 50_000; i++) {
      chain.add(i == 0 ? step("s0", 0) : step("s" + i, i % 2, "s" + (i - 1)));
    }
    assertThat(RecoverySchedule.of(new RecoverySteps(chain), RecoverySchedule.Limits.NONE)
            .total())
        .isEqualTo(25_000);
    chain.set(0, step("s0", 0, "s49999"));
    assertThat(new RecoverySteps(chain).circles()).hasSize(1);
  }
}
