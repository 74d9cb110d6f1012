package hardproof.proving.stores;

import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.io.IOException;
import java.io.InputStream;
import java.io.InterruptedIOException;
import java.time.Duration;
import java.util.concurrent.TimeUnit;

/**
 * Bytes that come over a wire. A cut is taken up where it was; what ends before its time is never taken for the
 * whole. Where the way stays broken, nothing is said about the data.
 */
final class ResumedRead extends InputStream {
  /** So many times in a row without a byte; then the way counts as broken. */
  private static final int TRIES = 5;

  private final String place;
  private final long size;
  private final From from;
  private final Duration pause;
  private Body body;
  private long at;
  private int fruitless;

  /** Where the bytes from an offset on come from. */
  interface From {
    /**
     * @throws ArtifactUnreadable when there is no use in trying again
     * @throws IOException when there is
     */
    Body open(long offset) throws IOException;
  }

  /** Bytes under way. */
  interface Body {
    /** As {@link InputStream#read(byte[], int, int)}; never 0. */
    int read(byte[] to, int offset, int most) throws IOException;

    /**
     * Ends it at once, without fetching the rest.
     *
     * @param whole nothing is left of it
     */
    void drop(boolean whole);
  }

  /**
   * @param size as the store's list says it, in bytes
   * @param pause before the second try; twice as long before each other
   */
  ResumedRead(String place, long size, From from, Duration pause) {
    this.place = place;
    this.size = size;
    this.from = from;
    this.pause = pause;
  }

  /** Opens it, so that what is not there is noticed now. */
  ResumedRead opened() throws ArtifactUnreadable {
    while (body == null && size > 0) {
      open();
    }
    return this;
  }

  private void open() throws ArtifactUnreadable {
    try {
      body = from.open(at);
    } catch (ArtifactUnreadable e) {
      throw e;
    } catch (IOException e) {
      again(e);
    }
  }

  @Override
  public int read() throws IOException {
    byte[] one = new byte[1];
    return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
  }

  @Override
  public int read(byte[] to, int offset, int most) throws IOException {
    if (most == 0) {
      return 0;
    }
    if (at >= size) {
      return more() ? longer() : -1;
    }
    while (true) {
      if (body == null) {
        open();
      } else {
        int count = piece(to, offset, (int) Math.min(most, size - at));
        if (count > 0) {
          return count;
        }
      }
    }
  }

  /** Some bytes, or 0 when it was cut. */
  private int piece(byte[] to, int offset, int most) throws ArtifactUnreadable {
    try {
      int count = body.read(to, offset, most);
      if (count > 0) {
        at += count;
        fruitless = 0;
        return count;
      }
      again(new IOException("it ended after " + at + " of " + size + " bytes"));
    } catch (IOException e) {
      again(e);
    }
    return 0;
  }

  /** A byte beyond the size that the list says: it was changed since. */
  private boolean more() {
    try {
      return body != null && body.read(new byte[1], 0, 1) >= 0;
    } catch (IOException e) {
      return false; // What was promised has come.
    }
  }

  private int longer() throws ArtifactUnreadable {
    throw ArtifactUnreadable.unjudged(
        place, "changed while it was read: it is longer than " + size + " bytes now", null);
  }

  private void again(IOException why) throws ArtifactUnreadable {
    drop();
    if (++fruitless >= TRIES) {
      throw ArtifactUnreadable.unjudged(
          place,
          "could not be read on from byte " + at + " in " + TRIES + " tries (" + Away.reason(why)
              + ")",
          why);
    }
    try {
      TimeUnit.MILLISECONDS.sleep(pause.toMillis() << (fruitless - 1));
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      InterruptedIOException interrupted = new InterruptedIOException("interrupted");
      throw ArtifactUnreadable.unjudged(place, "was no longer wanted", interrupted);
    }
  }

  private void drop() {
    if (body != null) {
      body.drop(at >= size);
      body = null;
    }
  }

  @Override
  public long skip(long count) {
    long skipped = Math.max(0, Math.min(count, size - at));
    if (skipped > 0) {
      drop();
      at += skipped;
    }
    return skipped;
  }

  @Override
  public void close() {
    drop();
  }
}
