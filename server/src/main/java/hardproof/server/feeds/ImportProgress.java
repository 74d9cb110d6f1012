package hardproof.server.feeds;

/** How far an import has come, and whether it is to stop. Written by one thread, read by others. */
public class ImportProgress {
  /** For imports that nobody watches. */
  static final ImportProgress UNWATCHED = new ImportProgress();

  private volatile String file = "";
  private volatile long rows;
  private volatile long bytes;
  private volatile long totalBytes;
  private volatile boolean cancelled;

  void begin(String name, long size) {
    file = name;
    rows = 0;
    bytes = 0;
    totalBytes = size;
  }

  void row(long number) {
    rows = number;
    stopIfCancelled();
  }

  void stopIfCancelled() {
    if (cancelled) {
      throw new ImportCancelled();
    }
  }

  void read(long position) {
    bytes = position;
  }

  public String file() {
    return file;
  }

  public long rows() {
    return rows;
  }

  public long bytes() {
    return bytes;
  }

  public long totalBytes() {
    return totalBytes;
  }

  /** Asks it to stop: what was not finished leaves nothing behind. */
  public void cancel() {
    cancelled = true;
  }

  /** Somebody asked it to stop. */
  public static final class ImportCancelled extends RuntimeException {
    private static final long serialVersionUID = 1L;

    ImportCancelled() {
      super("cancelled; nothing of the file that was being read was kept");
    }
  }
}
