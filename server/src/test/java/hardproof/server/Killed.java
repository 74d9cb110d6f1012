package hardproof.server;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.server.installation.Installation;
import hardproof.server.storage.DataFolder;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.TimeUnit;

/** A second process over the folder of an estate, which halts without warning on its way. */
public final class Killed {
  /** As the kernel's own kill ends a process. */
  public static final int KILLED = 137;

  private Killed() {}

  /** Starts a main class that takes the data folder, a number and the instant; how the process ended. */
  public static int by(Class<?> victim, Estate estate, int number)
      throws IOException, InterruptedException {
    Process process = new ProcessBuilder(
            Path.of(System.getProperty("java.home"), "bin", "java").toString(),
            "-cp",
            System.getProperty("java.class.path"),
            victim.getName(),
            estate.installation.folder().root().toString(),
            Integer.toString(number),
            estate.clock.instant().toString())
        .redirectErrorStream(true)
        .start();
    String said = new String(process.getInputStream().readAllBytes());
    assertThat(process.waitFor(2, TimeUnit.MINUTES)).isTrue();
    assertThat(process.exitValue()).as(number + ": " + said).isIn(0, KILLED);
    return process.exitValue();
  }

  /** In the second process: the estate that it was started over, at the same instant. */
  public static Installation open(String[] args) throws IOException {
    return Installation.open(
        new DataFolder(Path.of(args[0])),
        new HandClock(Instant.parse(args[2])),
        List.of(Path.of(args[0]).getParent()));
  }

  /** Nothing is closed, written out or tidied up. */
  public static void halt() {
    Runtime.getRuntime().halt(KILLED);
  }
}
