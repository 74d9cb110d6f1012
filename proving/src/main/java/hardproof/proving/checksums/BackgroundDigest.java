package hardproof.proving.checksums;

import java.security.MessageDigest;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Semaphore;

/**
 * A SHA-256 that is computed on a thread of its own, so that whoever reads can unpack and write
 * meanwhile. A few pieces wait for it at the most.
 */
public final class BackgroundDigest implements AutoCloseable {
  private static final int PIECES_WAITING = 8;

  private final MessageDigest digest = Sha256.digest();
  private final Semaphore room = new Semaphore(PIECES_WAITING);
  private final ExecutorService worker = Executors.newSingleThreadExecutor(r -> {
    Thread thread = new Thread(r, "background-digest");
    thread.setDaemon(true);
    return thread;
  });
  private byte[] piece = new byte[Sha256.BUFFER_BYTES];
  private int filled;

  /** Takes a copy; waits while too many pieces do. */
  public void update(byte[] buffer, int offset, int length) {
    int from = offset;
    int left = length;
    while (left > 0) {
      int n = Math.min(left, piece.length - filled);
      System.arraycopy(buffer, from, piece, filled, n);
      filled += n;
      from += n;
      left -= n;
      if (filled == piece.length) {
        hand();
        piece = new byte[Sha256.BUFFER_BYTES];
      }
    }
  }

  private void hand() {
    byte[] full = piece;
    int length = filled;
    filled = 0;
    room.acquireUninterruptibly();
    worker.execute(() -> {
      try {
        digest.update(full, 0, length);
      } finally {
        // Whatever happens here, who reads must not wait for ever.
        room.release();
      }
    });
  }

  /** The SHA-256 of all that was given, in lower-case hexadecimal. */
  public String finish() {
    hand();
    try {
      return worker.submit(() -> Sha256.hex(digest.digest())).get();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException("interrupted while a checksum was computed", e);
    } catch (ExecutionException e) {
      throw new IllegalStateException("a checksum could not be computed", e);
    }
  }

  @Override
  public void close() {
    worker.shutdownNow();
  }
}
