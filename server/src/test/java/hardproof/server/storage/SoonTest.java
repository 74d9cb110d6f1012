package hardproof.server.storage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class SoonTest {
  private static final Duration LONG = Duration.ofMinutes(1);

  private final Soon soon = new Soon("test", 1);

  @Test
  void whatIsThereInTimeIsTheAnswer() {
    assertThat(soon.orBefore(() -> "fresh", "before", LONG)).isEqualTo("fresh");
  }

  @Test
  void whatTakesLongIsWorkedOutFurtherWhileTheAnswerIsFromBefore() throws InterruptedException {
    CountDownLatch released = new CountDownLatch(1);
    CountDownLatch done = new CountDownLatch(1);
    assertThat(soon.orBefore(
            () -> {
              try {
                released.await();
              } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
              }
              done.countDown();
              return "fresh";
            },
            "before",
            Duration.ofMillis(1)))
        .isEqualTo("before");
    released.countDown();
    assertThat(done.await(1, TimeUnit.MINUTES)).isTrue();
  }

  /** One core stays free for answers, where there is more than one. */
  @Test
  void whatIsWorkedOutInParallelLeavesACore() {
    int cores = Runtime.getRuntime().availableProcessors();
    Set<Thread> seen = ConcurrentHashMap.newKeySet();
    Soon wide = new Soon("wide", 64);
    long sum = wide.calmly(() -> IntStream.range(0, 10_000)
        .parallel()
        .mapToLong(i -> {
          seen.add(Thread.currentThread());
          return i;
        })
        .sum());
    assertThat(sum).isEqualTo(49_995_000);
    assertThat(seen).hasSizeLessThanOrEqualTo(Math.max(1, cores - 1));
    assertThat(seen).allMatch(t -> t.getName().equals("wide"));
    assertThatThrownBy(() -> wide.calmly(() -> {
          throw new IllegalArgumentException("no such thing");
        }))
        .hasMessage("no such thing");
  }

  @Test
  void whatFailsFailsTheAnswer() {
    assertThatThrownBy(() -> soon.orBefore(
            () -> {
              throw new IllegalArgumentException("no such thing");
            },
            "before",
            LONG))
        .hasMessage("no such thing");
  }
}
