package hardproof.server.demo;

import hardproof.core.wording.Coded;
import hardproof.proving.sandboxes.Sandboxes;
import java.io.BufferedReader;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.stereotype.Component;

/**
 * A demo beside this installation, for whoever wants to walk through one before there is anything of their own: another
 * process with a folder and a port of its own, on this machine only. It ends with this one, and leaves nothing behind.
 */
@Component
public final class DemoWalk implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(DemoWalk.class);
  private static final Pattern ADDRESS = Pattern.compile("Hard Proof is at http://[^:]+:(\\d+)");
  private static final Pattern LOGGED = Pattern.compile("\\d{4}-\\d\\d-\\d\\dT");
  private static final Pattern OF_OUR_JVM =
      Pattern.compile("-X(?!log|runjdwp|debug).*|-D.*|--add-.*");

  private static final int PATIENCE_SECONDS = 20;

  private final Beginning beginning;
  private @Nullable Process process;
  private @Nullable Path folder;
  private State state = State.NONE;
  private String sentence = "";
  private int port;

  /** How far it is. */
  public enum State implements Coded {
    NONE,
    STARTING,
    RUNNING,
    FAILED
  }

  /** How a demo is begun over an empty folder. */
  interface Beginning {
    Process begin(Path folder) throws IOException;
  }

  /**
   * How it goes.
   *
   * @param sentence what it does, or why it failed
   * @param port where it is on this machine; 0 until it runs
   */
  public record Walk(State state, String sentence, int port) {}

  @Autowired
  DemoWalk() {
    this(DemoWalk::ofThisProgram);
  }

  DemoWalk(Beginning beginning) {
    this.beginning = beginning;
  }

  private static Process ofThisProgram(Path folder) throws IOException {
    List<String> command = new ArrayList<>();
    command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    ManagementFactory.getRuntimeMXBean().getInputArguments().stream()
        .filter(a -> OF_OUR_JVM.matcher(a).matches())
        .forEach(command::add);
    command.addAll(List.of(
        "-cp",
        System.getProperty("java.class.path"),
        "hardproof.server.HardProof",
        "serve",
        "--demo",
        "--port",
        "0",
        "--data",
        folder.toString(),
        "--beside",
        String.valueOf(ProcessHandle.current().pid())));
    return new ProcessBuilder(command).redirectErrorStream(true).start();
  }

  /** How it goes now. */
  public synchronized Walk now() {
    return new Walk(state, sentence, port);
  }

  /** Begins one; one that is there stays. */
  public synchronized Walk begin() {
    if (state == State.STARTING || state == State.RUNNING) {
      return now();
    }
    try {
      folder = Files.createTempDirectory("hard-proof-demo-");
      process = beginning.begin(folder);
      state = State.STARTING;
      sentence = "it is being made";
      Process begun = process;
      Thread reader = new Thread(() -> follow(begun), "demo-walk");
      reader.setDaemon(true);
      reader.start();
    } catch (IOException e) {
      LOG.warn("the demo could not be begun", e);
      removed(folder);
      folder = null;
      state = State.FAILED;
      sentence = "it could not be begun: " + e.getMessage();
    }
    return now();
  }

  private void follow(Process begun) {
    try (BufferedReader lines = begun.inputReader(StandardCharsets.UTF_8)) {
      for (String line = lines.readLine(); line != null; line = lines.readLine()) {
        said(begun, line);
      }
    } catch (IOException e) {
      LOG.debug("the demo says nothing more", e);
    }
    ended(begun);
  }

  private synchronized void said(Process by, String line) {
    Matcher address = ADDRESS.matcher(line);
    if (by != process || line.isBlank()) {
      return;
    } else if (address.find()) {
      port = Integer.parseInt(address.group(1));
      state = State.RUNNING;
      sentence = "it runs";
    } else if (state == State.STARTING && !LOGGED.matcher(line).lookingAt()) {
      sentence = line.strip();
    }
  }

  private synchronized void ended(Process which) {
    if (which == process) {
      String last = state == State.STARTING ? ": " + sentence : "";
      clear();
      state = State.FAILED;
      sentence = "it ended by itself" + last;
    }
  }

  /** Ends it; what it kept is gone. */
  public synchronized Walk end() {
    clear();
    state = State.NONE;
    sentence = "";
    return now();
  }

  /** What is over when it has ended and its folder is gone. */
  private CompletableFuture<Void> clear() {
    Process running = process;
    Path kept = folder;
    process = null;
    folder = null;
    port = 0;
    if (running == null) {
      return CompletableFuture.completedFuture(null);
    }
    running.destroy();
    return running.onExit().thenRun(() -> removed(kept));
  }

  private static void removed(@Nullable Path folder) {
    try {
      if (folder != null) {
        Sandboxes.removeTree(folder);
      }
    } catch (IOException e) {
      LOG.warn("the folder {} of a demo that ended can't be taken away", folder, e);
    }
  }

  @Override
  public void close() {
    Process running;
    CompletableFuture<Void> gone;
    synchronized (this) {
      running = process;
      gone = clear();
      state = State.NONE;
      sentence = "";
    }
    try {
      // This process must not be gone before the folder is.
      gone.get(PATIENCE_SECONDS, TimeUnit.SECONDS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    } catch (TimeoutException e) {
      LOG.warn("the demo does not end by itself, and is ended");
      running.destroyForcibly();
      gone.join();
    } catch (ExecutionException e) {
      LOG.warn("the demo did not end as it should", e);
    }
  }
}
