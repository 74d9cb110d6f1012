package hardproof.proving.databases;

import hardproof.proving.databases.RestoredDatabase.QueryFailed;
import hardproof.proving.sandboxes.Commands;
import java.io.Closeable;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** The database server of one drill while it runs: on a private socket, with no port. */
abstract class DatabaseServer implements Closeable {
  private static final Duration START_LIMIT = Duration.ofMinutes(1);
  private static final int END_OF_LOG = 400;

  private final String name;
  private final Path folder;
  private final Process process;
  private final Runnable stopIfCancelled;

  /**
   * Begins it.
   *
   * @param name as sentences call it
   * @param folder of the sandbox; its log is written there
   * @param stopIfCancelled throws where nobody waits for it any more
   */
  DatabaseServer(String name, List<String> command, Path folder, Runnable stopIfCancelled)
      throws IOException {
    this.name = name;
    this.folder = folder;
    this.stopIfCancelled = stopIfCancelled;
    ProcessBuilder builder = new ProcessBuilder(command);
    builder.redirectErrorStream(true).redirectOutput(log().toFile());
    Commands.cleanEnvironment(builder);
    this.process = builder.start();
  }

  /** The server as soon as it answers; one that doesn't is stopped. */
  static <S extends DatabaseServer> S answering(S begun) throws QueryFailed, IOException {
    try {
      begun.waitUntilItAnswers();
      return begun;
    } catch (QueryFailed | RuntimeException e) {
      begun.close();
      throw e;
    }
  }

  /** Whether its owner is let in. */
  abstract boolean answers() throws IOException;

  final void waitUntilItAnswers() throws QueryFailed, IOException {
    long end = System.nanoTime() + START_LIMIT.toNanos();
    while (System.nanoTime() - end < 0) {
      stopIfCancelled.run();
      if (!process.isAlive()) {
        throw new QueryFailed(name + " did not start: " + lastOfLog(), null);
      }
      if (answers()) {
        return;
      }
      pause();
    }
    throw new QueryFailed(name + " did not start within a minute: " + lastOfLog(), null);
  }

  private void pause() throws QueryFailed {
    try {
      TimeUnit.MILLISECONDS.sleep(100);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new QueryFailed("interrupted while " + name + " started", e);
    }
  }

  /** Where its data is, and what is noted of it. */
  final Path folder() {
    return folder;
  }

  private Path log() {
    return folder.resolve("server.log");
  }

  /** What it said last, in one line. */
  final String lastOfLog() throws IOException {
    String text = new String(Files.readAllBytes(log()), StandardCharsets.UTF_8);
    return text.substring(Math.max(0, text.length() - END_OF_LOG))
        .replaceAll("\\s+", " ")
        .strip();
  }

  /** Stops it, by force where it takes too long; its data stays in the sandbox. */
  @Override
  public void close() throws IOException {
    process.destroy();
    try {
      if (!process.waitFor(20, TimeUnit.SECONDS)) {
        process.descendants().forEach(ProcessHandle::destroyForcibly);
        process.destroyForcibly().waitFor();
      }
    } catch (InterruptedException e) {
      process.destroyForcibly();
      Thread.currentThread().interrupt();
    }
  }
}
