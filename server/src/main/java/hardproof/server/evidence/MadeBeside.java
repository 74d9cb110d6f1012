package hardproof.server.evidence;

import hardproof.proving.bags.BagWriter.Body;
import java.io.IOException;
import java.io.InterruptedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;

/**
 * The two files of a pack that take longest, made on a thread of their own while the others are packed: the facts as
 * tables, and the PDF, which is packed last.
 */
final class MadeBeside implements AutoCloseable {
  private static final long STOP_SECONDS = 60;

  private final ExecutorService thread = Executors.newSingleThreadExecutor(r -> {
    Thread made = new Thread(r, "pack-files");
    made.setDaemon(true);
    return made;
  });
  private final Path file;
  private final Future<Path> tables;
  private final Future<byte[]> pdf;

  /**
   * @param page the report
   */
  MadeBeside(FactsJson facts, String page) throws IOException {
    file = Files.createTempFile("facts-", ".sqlite");
    tables = thread.submit(() -> FactsTables.make(facts, file));
    pdf = thread.submit(() -> ReportPdf.of(page, facts.asAt()));
  }

  /** Waits for them when it is written. */
  Body tables() {
    return to -> Files.copy(made(tables), to);
  }

  /** As {@link #tables}. */
  Body pdf() {
    return to -> to.write(made(pdf));
  }

  private static <T> T made(Future<T> future) throws IOException {
    try {
      return future.get();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new InterruptedIOException("the program is being stopped");
    } catch (ExecutionException e) {
      if (e.getCause() instanceof RuntimeException unexpected) {
        throw unexpected;
      }
      throw new IOException(e.getCause().getMessage(), e.getCause());
    }
  }

  /** Stops what is not made yet, and leaves nothing behind. */
  @Override
  public void close() throws IOException {
    thread.shutdownNow();
    try {
      thread.awaitTermination(STOP_SECONDS, TimeUnit.SECONDS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
    Files.deleteIfExists(file);
  }
}
