package hardproof.core.order;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.order.RecoverySteps.Step;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class CriticalPathTest {
  static Step step(String key, long millis, String... needs) {
    return new Step(key, millis, null, 0, 0, true, List.of(needs));
  }

  /**
   * The worked example of the article "Program evaluation and review technique" of the English Wikipedia (from memory; in
   * hundredths of its days): A, C, E and G are critical and end at 19.51; B has 3.84 of slack, D and F have 4.68.
   */
  @Test
  void aPublishedExampleComesOutAsItIsPublished() {
    RecoverySteps steps = new RecoverySteps(List.of(
        step("A", 400),
        step("B", 533),
        step("C", 517, "A"),
        step("D", 633, "A"),
        step("E", 517, "B", "C"),
        step("F", 450, "D"),
        step("G", 517, "E")));
    CriticalPath path = CriticalPath.of(steps);
    assertThat(path.total()).isEqualTo(1951);
    assertThat(path.path()).containsExactly("A", "C", "E", "G");
    assertThat(IntStream.range(0, 7).mapToLong(path::slack).toArray())
        .containsExactly(0, 384, 0, 468, 0, 468, 0);
    assertThat(IntStream.range(0, 7).mapToLong(path::earliestBegin).toArray())
        .containsExactly(0, 0, 400, 400, 917, 1033, 1434);
  }

  /** Against every way there is, tried one after another. */
  @Test
  void theLongestWayIsTheLongestOfAll() {
    Random random = new Random(3);
    for (int round = 0; round < 200; round++) {
      List<Step> some = new ArrayList<>();
      for (int i = 0; i < 8; i++) {
        List<String> needs = new ArrayList<>();
        for (int j = 0; j < i; j++) {
          if (random.nextInt(3) == 0) {
            needs.add("s" + j);
          }
        }
        some.add(step("s" + i, random.nextInt(50), needs.toArray(String[]::new)));
      }
      long longest = some.stream().mapToLong(s -> way(s, some)).max().orElseThrow();
      RecoverySteps steps = new RecoverySteps(some);
      CriticalPath path = CriticalPath.of(steps);
      assertThat(path.total()).isEqualTo(longest);
      assertThat(path.path().stream()
              .mapToLong(k -> some.get(Integer.parseInt(k.substring(1))).millis())
              .sum())
          .isEqualTo(longest);
      assertThat(RecoverySchedule.of(steps, RecoverySchedule.Limits.NONE).total())
          .isEqualTo(longest);
    }
  }

  private static long way(Step step, List<Step> all) {
    return step.millis()
        + step.needs().stream()
            .mapToLong(n -> way(all.get(Integer.parseInt(n.substring(1))), all))
            .max()
            .orElse(0);
  }

  @Test
  void nothingTakesNoTime() {
    CriticalPath path = CriticalPath.of(new RecoverySteps(List.of()));
    assertThat(path.total()).isZero();
    assertThat(path.path()).isEmpty();
  }
}
