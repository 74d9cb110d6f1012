package hardproof.proving.stores;

import java.io.IOException;
import java.time.Duration;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;

/**
 * Ends what waits too long. A host that is frozen, and not gone, lets who reads from it wait without end: nothing
 * in the protocol tells.
 */
final class Patience implements AutoCloseable {
  private final long nanos;
  private final Runnable cut;
  private final Set<Waiting> waiting = ConcurrentHashMap.newKeySet();
  private final ThreadLocal<Waiting> own = new ThreadLocal<>();
  private final ScheduledExecutorService watch = Executors.newSingleThreadScheduledExecutor(r -> {
    Thread thread = new Thread(r, "patience");
    thread.setDaemon(true);
    return thread;
  });

  /**
   * @param patience how long nothing may happen
   * @param cut ends whatever waits
   */
  Patience(Duration patience, Runnable cut) {
    this.nanos = patience.toNanos();
    this.cut = cut;
    long each = Math.max(10, patience.toMillis() / 6);
    watch.scheduleWithFixedDelay(this::look, each, each, TimeUnit.MILLISECONDS);
  }

  private static final class Waiting {
    private volatile long since = System.nanoTime();
  }

  /** Something that may wait for the host. */
  interface Work<T> {
    T done() throws IOException;
  }

  <T> T during(Work<T> work) throws IOException {
    Waiting outer = own.get();
    Waiting one = new Waiting();
    own.set(one);
    waiting.add(one);
    try {
      return work.done();
    } finally {
      waiting.remove(one);
      own.set(outer);
    }
  }

  /** Something was heard; the waiting begins anew. */
  void goesOn() {
    Waiting one = own.get();
    if (one != null) {
      one.since = System.nanoTime();
    }
  }

  private void look() {
    long now = System.nanoTime();
    if (waiting.stream().anyMatch(w -> now - w.since > nanos)) {
      waiting.forEach(w -> w.since = now);
      cut.run();
    }
  }

  @Override
  public void close() {
    watch.shutdownNow();
  }
}
