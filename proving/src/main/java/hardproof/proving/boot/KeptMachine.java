package hardproof.proving.boot;

import java.io.IOException;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.Consumer;

/** A machine that goes on after its screen has settled, watched on a thread of its own, until it is let go. */
public final class KeptMachine implements AutoCloseable {
  private static final long LAST_LOOK_SECONDS = 60;

  private final CompletableFuture<Watched> first = new CompletableFuture<>();
  private final CompletableFuture<Watched> last = new CompletableFuture<>();
  private final CountDownLatch over = new CountDownLatch(1);

  /** Begins it. */
  public static KeptMachine start(
      BootEngine engine, BootEngine.Start start, Consumer<Screen> shown, Runnable stopIfCancelled) {
    KeptMachine machine = new KeptMachine();
    Thread thread = new Thread(
        () -> machine.run(engine, start, shown, stopIfCancelled), "machine-" + engine.code());
    thread.setDaemon(true);
    thread.start();
    return machine;
  }

  private KeptMachine() {}

  private void run(
      BootEngine engine, BootEngine.Start start, Consumer<Screen> shown, Runnable stopIfCancelled) {
    BootEngine.Keeping keeping = new BootEngine.Keeping() {
      @Override
      public void settled(Watched watched) {
        first.complete(watched);
      }

      @Override
      public boolean wanted(long waitMs) {
        try {
          return !over.await(waitMs, TimeUnit.MILLISECONDS);
        } catch (InterruptedException e) {
          Thread.currentThread().interrupt();
          return false;
        }
      }
    };
    try {
      Watched watched = engine.watch(
          start,
          s -> {
            if (!first.isDone()) {
              shown.accept(s);
            }
          },
          () -> {
            if (!first.isDone()) {
              stopIfCancelled.run();
            }
          },
          keeping);
      first.complete(watched);
      last.complete(watched);
    } catch (IOException | RuntimeException | Error e) {
      first.completeExceptionally(e);
      last.completeExceptionally(e);
    }
  }

  /**
   * What was seen of it until it settled, or ended.
   *
   * @throws IOException as the engine says
   */
  public Watched settled() throws IOException {
    return got(first, 0);
  }

  /** Whether it runs: false once it ended by itself. */
  public boolean running() {
    return !last.isDone();
  }

  /**
   * Ends it.
   *
   * @return all that was seen of it to its end
   * @throws IOException as the engine says
   */
  public Watched end() throws IOException {
    over.countDown();
    return got(last, LAST_LOOK_SECONDS);
  }

  private static Watched got(CompletableFuture<Watched> of, long seconds) throws IOException {
    try {
      return seconds == 0 ? of.get() : of.get(seconds, TimeUnit.SECONDS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new BootEngine.EngineFailed("interrupted while the machine was watched", e);
    } catch (TimeoutException e) {
      throw new BootEngine.EngineFailed("the machine could not be looked at once more", e);
    } catch (ExecutionException e) {
      if (e.getCause() instanceof IOException io) {
        throw io;
      } else if (e.getCause() instanceof RuntimeException mine) {
        throw mine;
      } else if (e.getCause() instanceof Error error) {
        throw error;
      }
      throw new IllegalStateException(e.getCause());
    }
  }

  @Override
  public void close() {
    over.countDown();
    // Until it is gone it may still write to the folder that is removed next.
    last.handle((watched, fault) -> watched).join();
  }
}
