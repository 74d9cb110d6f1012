package hardproof.server.integrity;

import hardproof.proving.drills.Unwatched;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;

/** Watches one artifact being read, holds it to the bandwidth limit, and stops it when asked. */
final class SweepWatcher extends Unwatched {
  private static final long ASK_EVERY_NANOS = 300_000_000L;

  private final Sweep.Item item;
  private final BooleanSupplier stop;
  private volatile Long bytesPerSecond;
  private volatile long bytes;
  private long limitedSince = System.nanoTime();
  private long limitedFrom;
  private volatile long lastAsked = System.nanoTime() - ASK_EVERY_NANOS;
  private volatile boolean stopped;

  /** What is read now. */
  record Progress(long sweep, String resource, String point, long bytes, long ofBytes) {}

  SweepWatcher(Sweep.Item item, Long bytesPerSecond, BooleanSupplier stop) {
    this.item = item;
    this.bytesPerSecond = bytesPerSecond;
    this.stop = stop;
  }

  Progress progress() {
    return new Progress(item.sweep(), item.resource(), item.point(), bytes, item.sizeBytes());
  }

  synchronized void limit(Long rate) {
    bytesPerSecond = rate;
    limitedSince = System.nanoTime();
    limitedFrom = bytes;
  }

  /** Readers report on their own threads and wait here for as long as they are ahead of the limit. */
  @Override
  public void progressed(int step, long doneBytes) {
    bytes = doneBytes;
    while (!cancelled()) {
      long ahead = aheadNanos(doneBytes);
      if (ahead <= 0) {
        return;
      }
      try {
        TimeUnit.NANOSECONDS.sleep(Math.min(ahead, 200_000_000L));
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        return;
      }
    }
  }

  private synchronized long aheadNanos(long doneBytes) {
    Long rate = bytesPerSecond;
    if (rate == null) {
      return 0;
    }
    double due = (doneBytes - limitedFrom) / (double) rate * 1e9;
    return (long) due - (System.nanoTime() - limitedSince);
  }

  @Override
  public boolean cancelled() {
    long now = System.nanoTime();
    if (!stopped && now - lastAsked >= ASK_EVERY_NANOS) {
      lastAsked = now;
      stopped = stop.getAsBoolean();
    }
    return stopped;
  }
}
