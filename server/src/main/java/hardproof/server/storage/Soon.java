package hardproof.server.storage;

import java.time.Duration;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.Supplier;

/** For whoever has to give an answer while something is worked out that takes long: what was known before. */
public final class Soon {
  private final ExecutorService workers;

  /**
   * @param name of the threads
   * @param atOnce how many things are worked out at once
   */
  public Soon(String name, int atOnce) {
    this.workers = Executors.newFixedThreadPool(atOnce, r -> {
      Thread thread = new Thread(r, name);
      thread.setDaemon(true);
      return thread;
    });
  }

  /**
   * What {@code fresh} comes to, when that is there in time; else {@code before}, while it is worked out further.
   *
   * @param fresh gives what it made last at once, when nothing changed since
   */
  public <T> T orBefore(Supplier<T> fresh, T before, Duration waits) {
    Future<T> made = workers.submit(fresh::get);
    try {
      return made.get(waits.toMillis(), TimeUnit.MILLISECONDS);
    } catch (TimeoutException e) {
      return before;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return before;
    } catch (ExecutionException e) {
      if (e.getCause() instanceof RuntimeException inside) {
        throw inside;
      }
      throw new IllegalStateException("it could not be worked out", e.getCause());
    }
  }
}
