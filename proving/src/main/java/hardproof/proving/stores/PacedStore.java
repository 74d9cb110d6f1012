package hardproof.proving.stores;

import hardproof.proving.archives.SpecialEntry;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InterruptedIOException;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;

/** A store that is read no faster than it may be, by everything that reads through this one together. */
public final class PacedStore implements ArtifactStore {
  private static final long SECOND = 1_000_000_000L;

  /** No single wait is longer, so that whoever cancels is heard. */
  private static final long LONGEST_MS = 200;

  private final ArtifactStore store;
  private final long bytesPerSecond;
  private long dueNanos = -1;

  /**
   * @param bytesPerSecond at least 1
   */
  public PacedStore(ArtifactStore store, long bytesPerSecond) {
    if (bytesPerSecond < 1) {
      throw new IllegalArgumentException("a store that may not be read at all");
    }
    this.store = store;
    this.bytesPerSecond = bytesPerSecond;
  }

  @Override
  public String where() {
    return store.where();
  }

  @Override
  public String refusal() {
    return store.refusal();
  }

  @Override
  public String away() {
    return store.away();
  }

  @Override
  public void list(Consumer<Listed> each) throws ArtifactUnreadable {
    store.list(each);
  }

  @Override
  public Protection protection(String place) throws ArtifactUnreadable {
    return store.protection(place);
  }

  @Override
  public long size(String place) throws ArtifactUnreadable {
    return store.size(place);
  }

  @Override
  public InputStream open(String place) throws ArtifactUnreadable {
    return new Paced(store.open(place));
  }

  @Override
  public Folder folder(String place) throws ArtifactUnreadable {
    return new PacedFolder(store.folder(place));
  }

  /** So many bytes were read; waits until they may have been. */
  private void took(long bytes) throws IOException {
    long wait = 0;
    synchronized (this) {
      long now = System.nanoTime();
      // What was not read while nobody wanted to is not made up for.
      long from = dueNanos < 0 ? now : Math.max(dueNanos, now);
      dueNanos = from + (long) ((double) bytes / bytesPerSecond * SECOND);
      wait = TimeUnit.NANOSECONDS.toMillis(dueNanos - now);
    }
    while (wait > 0) {
      try {
        TimeUnit.MILLISECONDS.sleep(Math.min(wait, LONGEST_MS));
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new InterruptedIOException("interrupted while the store was read slowly");
      }
      wait -= LONGEST_MS;
    }
  }

  private final class Paced extends FilterInputStream {
    Paced(InputStream in) {
      super(in);
    }

    @Override
    public int read() throws IOException {
      int one = in.read();
      if (one >= 0) {
        took(1);
      }
      return one;
    }

    @Override
    public int read(byte[] to, int from, int most) throws IOException {
      // No more at once than a tenth of a second's worth: what waits long in one piece can't be
      // watched.
      int piece = (int) Math.max(1, Math.min(most, bytesPerSecond / 10));
      int count = in.read(to, from, Math.min(most, piece));
      if (count > 0) {
        took(count);
      }
      return count;
    }

    @Override
    public long skip(long count) throws IOException {
      return in.skip(count);
    }
  }

  private final class PacedFolder implements Folder {
    private final Folder folder;

    PacedFolder(Folder folder) {
      this.folder = folder;
    }

    @Override
    public List<String> files() {
      return folder.files();
    }

    @Override
    public List<String> folders() {
      return folder.folders();
    }

    @Override
    public Attributes attributes(String file) throws ArtifactUnreadable {
      return folder.attributes(file);
    }

    @Override
    public List<SpecialEntry> specials() {
      return folder.specials();
    }

    @Override
    public InputStream open(String file) throws ArtifactUnreadable {
      return new Paced(folder.open(file));
    }
  }
}
