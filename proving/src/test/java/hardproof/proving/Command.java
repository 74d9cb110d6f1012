package hardproof.proving;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;

/** Runs an ordinary tool of the system, for checks against something outside the project. */
public record Command(int exit, String output) {
  public static Command run(Path folder, String... command)
      throws IOException, InterruptedException {
    ProcessBuilder builder =
        new ProcessBuilder(command).directory(folder.toFile()).redirectErrorStream(true);
    builder.environment().put("LC_ALL", "C.UTF-8");
    Process process = builder.start();
    String output = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    if (!process.waitFor(60, TimeUnit.SECONDS)) {
      process.destroyForcibly();
      throw new IOException(command[0] + " did not end");
    }
    return new Command(process.exitValue(), output);
  }

  /** Whether a program is on this machine; tests that compare with it are skipped, and say so, if not. */
  public static boolean there(String program) {
    try {
      return run(Path.of("."), "sh", "-c", "command -v " + program).exit() == 0;
    } catch (IOException | InterruptedException e) {
      return false;
    }
  }
}
