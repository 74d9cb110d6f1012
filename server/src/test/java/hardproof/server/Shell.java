package hardproof.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;

/** Ordinary tools, as an outsider uses them. */
public final class Shell {
  private Shell() {}

  /** What a command prints; it has to end well. */
  public static String run(Path in, String... command) throws Exception {
    Process process = new ProcessBuilder(command)
        .directory(in.toFile())
        .redirectErrorStream(true)
        .start();
    String output = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(process.waitFor()).as(output).isZero();
    return output;
  }
}
