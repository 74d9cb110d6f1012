package hardproof.server.storage;

import java.time.Duration;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ForkJoinPool;
import java.util.concurrent.ForkJoinWorkerThread;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.Supplier;

/** For whoever has to give an answer while something is worked out that takes long: what was known before. */
public final class Soon {
  private static final int CORES = Runtime.getRuntime().availableProcessors();

  private final ForkJoinPool workers;

  /**
   * @param name of the threads
   * @param atOnce how many things are worked out at once
   */
  public Soon(String name, int atOnce) {
    // What is worked out in parallel stays in the pool that it was begun in, so that a core is left
    // for answers.
    this.workers = new ForkJoinPool(
        Math.max(1, Math.min(atOnce, CORES - 1)),
        pool -> {
          ForkJoinWorkerThread thread =
              ForkJoinPool.defaultForkJoinWorkerThreadFactory.newThread(pool);
          thread.setName(name);
          return thread;
        },
        null,
        true);
  }

  /** Works something out where it leaves a core for answers, and waits for it. */
  public <T> T calmly(Supplier<T> work) {
    try {
      return CompletableFuture.supplyAsync(work, workers).get();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException("interrupted while something was worked out", e);
    } catch (ExecutionException e) {
      throw inside(e);
    }
  }

  /**
   * What {@code fresh} comes to, when that is there in time; else {@code before}, while it is worked out further.
   *
   * @param fresh gives what it made last at once, when nothing changed since
   */
  public <T> T orBefore(Supplier<T> fresh, T before, Duration waits) {
    Future<T> made = CompletableFuture.supplyAsync(fresh, workers);
    try {
      return made.get(waits.toMillis(), TimeUnit.MILLISECONDS);
    } catch (TimeoutException e) {
      return before;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return before;
    } catch (ExecutionException e) {
      throw inside(e);
    }
  }

  private static RuntimeException inside(ExecutionException e) {
    return e.getCause() instanceof RuntimeException inside
        ? inside
        : new IllegalStateException("it could not be worked out", e.getCause());
  }
}
