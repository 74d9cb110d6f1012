package hardproof.e2e;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;

/** The packaged application, running as its own process. */
final class Application implements AutoCloseable {
  private static final Duration START = Duration.ofMinutes(10);
  private static final String ADDRESS = "Hard Proof is at ";
  private static final String CODE = "one-time code ";

  private final Process process;
  private final List<String> console = new ArrayList<>();
  private final CompletableFuture<String> address = new CompletableFuture<>();

  private Application(Process process) {
    this.process = process;
    Thread reader = new Thread(this::read, "console");
    reader.setDaemon(true);
    reader.start();
  }

  /** The product as people start it, as a command with arguments. */
  static List<String> command(String... arguments) {
    List<String> command = new ArrayList<>(List.of(System.getProperty("hardproof.command")));
    command.addAll(List.of(arguments));
    return command;
  }

  /** The demo estate as it was first made; its stores are only read, so that copies of it share them. */
  private static Path made;

  /**
   * Starts the server on any free port; with the demo estate or empty. Making the estate takes a while, so
   * later starts get a copy of the first.
   */
  static Application start(Path data, boolean demo, Path... stores) throws IOException {
    List<String> command = command("serve", "--port", "0", "--data", data.toString());
    for (Path store : stores) {
      command.addAll(List.of("--stores", store.toString()));
    }
    if (demo) {
      copy(demoEstate(), data);
      // Its stores are shared with others, and what a journey counts must stay what it is.
      command.addAll(List.of("--demo", "--still"));
    }
    Application application = new Application(process(command));
    application.address();
    return application;
  }

  /** As a service starts it, without a locale. */
  private static Process process(List<String> command) throws IOException {
    ProcessBuilder builder = new ProcessBuilder(command).redirectErrorStream(true);
    builder.environment().put("LC_ALL", "C");
    return builder.start();
  }

  private static synchronized Path demoEstate() throws IOException {
    if (made == null) {
      Path folder = Files.createTempDirectory("hard-proof-demo-");
      Runtime.getRuntime().addShutdownHook(new Thread(() -> remove(folder)));
      Path data = folder.resolve("data");
      List<String> command =
          command("serve", "--port", "0", "--demo", "--still", "--data", data.toString());
      try (Application application = new Application(process(command))) {
        application.address();
      }
      made = data;
    }
    return made;
  }

  private static void copy(Path from, Path to) throws IOException {
    try (Stream<Path> walk = Files.walk(from)) {
      for (Path path : walk.filter(p -> !p.startsWith(from.resolve("demo"))).toList()) {
        Path target = to.resolve(from.relativize(path).toString());
        if (Files.isDirectory(path, LinkOption.NOFOLLOW_LINKS)) {
          Files.createDirectories(target);
        } else {
          Files.copy(path, target, LinkOption.NOFOLLOW_LINKS, StandardCopyOption.COPY_ATTRIBUTES);
        }
      }
    }
    // What serves its stores by a wire looks for them here.
    Files.createSymbolicLink(to.resolve("demo"), from.resolve("demo"));
  }

  private static void remove(Path folder) {
    try (Stream<Path> walk = Files.walk(folder)) {
      walk.sorted(Comparator.reverseOrder()).forEach(p -> p.toFile().delete());
    } catch (IOException e) {
      // The system removes what is left in its temporary folder.
    }
  }

  private void read() {
    try (BufferedReader lines = new BufferedReader(
        new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8))) {
      String line;
      while ((line = lines.readLine()) != null) {
        synchronized (console) {
          console.add(line);
        }
        if (line.contains(ADDRESS)) {
          address.complete(
              line.substring(line.indexOf(ADDRESS) + ADDRESS.length()).strip());
        }
      }
    } catch (IOException e) {
      // The process has ended; what it said until then is kept.
    }
    address.completeExceptionally(new IllegalStateException("it did not start:\n" + said()));
  }

  String address() {
    try {
      return address.get(START.toSeconds(), TimeUnit.SECONDS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    } catch (Exception e) {
      close();
      throw new IllegalStateException("the application did not come up:\n" + said(), e);
    }
  }

  /** Runs a garbage collection in the server, as will happen sooner or later. */
  void collectGarbage() throws IOException, InterruptedException {
    String jcmd = Path.of(System.getProperty("java.home"), "bin", "jcmd").toString();
    int code = new ProcessBuilder(jcmd, Long.toString(process.pid()), "GC.run")
        .redirectErrorStream(true)
        .redirectOutput(ProcessBuilder.Redirect.DISCARD)
        .start()
        .waitFor();
    if (code != 0) {
      throw new IOException("jcmd ended with " + code);
    }
  }

  private String said() {
    synchronized (console) {
      return String.join("\n", console);
    }
  }

  /** The one-time code that an empty installation prints. */
  String oneTimeCode() {
    synchronized (console) {
      return console.stream()
          .filter(l -> l.contains(CODE))
          .map(l -> l.substring(l.indexOf(CODE) + CODE.length()).strip())
          .findFirst()
          .orElseThrow();
    }
  }

  @Override
  public void close() {
    process.destroy();
    try {
      if (!process.waitFor(20, TimeUnit.SECONDS)) {
        process.destroyForcibly();
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      process.destroyForcibly();
    }
  }
}
