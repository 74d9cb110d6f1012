package hardproof.proving.boot;

import hardproof.proving.sandboxes.Commands;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * Reads the text of a picture of a screen by Tesseract, where that is installed. Phrases are read well, names
 * of hosts not always: so it finds panics and prompts, and nothing that has to be exact rests on it.
 */
public final class Ocr {
  private static final Duration LIMIT = Duration.ofSeconds(30);

  private final List<String> prefix;

  private Ocr(List<String> prefix) {
    this.prefix = prefix;
  }

  /**
   * @param prefix of commands that run with fewer rights
   * @return null where it is not installed
   */
  public static Ocr find(List<String> prefix) {
    try {
      List<String> version = List.of("tesseract", "--version");
      return Commands.run(version, Duration.ofSeconds(20)).exit() == 0 ? new Ocr(prefix) : null;
    } catch (IOException e) {
      return null;
    }
  }

  /** What stands on a picture; empty where nothing can be read. */
  public String read(Path png) throws IOException {
    List<String> command = new ArrayList<>(prefix);
    command.addAll(List.of("tesseract", png.toString(), "stdout", "--psm", "6"));
    Commands.Result result = Commands.run(command, LIMIT);
    return result.exit() == 0
        ? result.output().lines().filter(l -> !l.isBlank()).reduce("", (a, b) -> a + b + "\n")
        : "";
  }
}
