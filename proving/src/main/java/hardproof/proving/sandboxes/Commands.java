package hardproof.proving.sandboxes;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;

/** Runs programs of the machine: by argument lists, never a shell, with little of our environment. */
public final class Commands {
  private static final int OUTPUT_MAX_BYTES = 4 << 20;
  private static final List<String> KEPT =
      List.of("PATH", "HOME", "LANG", "TMPDIR", "LD_LIBRARY_PATH");

  private Commands() {}

  /** What a program printed (both ways, cut off at 4 MiB) and its exit code. */
  public record Result(int exit, String output) {
    /** The end of what was printed, on one line. */
    public String lastLines() {
      String line = output.strip().replaceAll("\\s+", " ");
      return line.substring(Math.max(0, line.length() - 300));
    }
  }

  /** Keeps nothing of our environment that could lead the program elsewhere. */
  public static void cleanEnvironment(ProcessBuilder builder) {
    Map<String, String> environment = builder.environment();
    environment.keySet().retainAll(KEPT);
    environment.put("LC_ALL", "C.UTF-8");
  }

  /**
   * @throws IOException when it can't be started or does not end in time
   */
  public static Result run(List<String> command, Duration limit) throws IOException {
    ProcessBuilder builder = new ProcessBuilder(command).redirectErrorStream(true);
    cleanEnvironment(builder);
    Process process = builder.start();
    process.getOutputStream().close();
    CompletableFuture<String> output = CompletableFuture.supplyAsync(() -> read(process));
    int exit = waitFor(process, limit, () -> {});
    return new Result(exit, output.join());
  }

  private static String read(Process process) {
    try (InputStream in = process.getInputStream()) {
      String text = new String(in.readNBytes(OUTPUT_MAX_BYTES), StandardCharsets.UTF_8);
      in.transferTo(java.io.OutputStream.nullOutputStream());
      return text;
    } catch (IOException e) {
      return "";
    }
  }

  /**
   * Waits for the end of a program; ends it when it takes too long, or when {@code stopIfCancelled}
   * throws.
   */
  public static int waitFor(Process process, Duration limit, Runnable stopIfCancelled)
      throws IOException {
    long end = System.nanoTime() + limit.toNanos();
    try {
      while (!process.waitFor(100, TimeUnit.MILLISECONDS)) {
        stopIfCancelled.run();
        if (System.nanoTime() - end > 0) {
          throw new IOException("a program did not end within " + limit.toSeconds() + " s");
        }
      }
      return process.exitValue();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IOException("interrupted while a program ran", e);
    } finally {
      if (process.isAlive()) {
        process.descendants().forEach(ProcessHandle::destroyForcibly);
        process.destroyForcibly();
      }
    }
  }
}
