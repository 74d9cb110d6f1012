package hardproof.proving.databases;

import hardproof.proving.formats.WithoutContent;
import hardproof.proving.sandboxes.Commands;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * One psql that lines of a dump are sent to, as many as the dump has, so that a line it names is found again;
 * it takes no command from them.
 */
final class PostgresSession implements AutoCloseable {
  private static final Pattern ERROR = Pattern.compile(
      "psql:<stdin>:(\\d+): (?:error: )?(?:(?:ERROR|FATAL|PANIC):  ([0-9A-Z]{5}): )?(.*)");

  private final Process psql;
  private final Writer to;
  private final Path errors;
  private final int firstLine;
  private final Runnable stopIfCancelled;

  /** The server, or psql, refused something. */
  static final class Refused extends Exception {
    private static final long serialVersionUID = 1L;
    private final int line;
    private final String state;
    private final String said;

    Refused(int line, String state, String said) {
      super((state == null ? "" : "ERROR:  ") + WithoutContent.of(said));
      this.line = line;
      this.state = state == null ? "" : state;
      this.said = said;
    }

    /** Of the dump. */
    int line() {
      return line;
    }

    /** SQLSTATE; empty when psql itself refused. */
    String state() {
      return state;
    }

    /** What is missing here, for people; null when the data is at fault. */
    String missing() {
      return PostgresMissing.of(state, said);
    }

    String said() {
      return said;
    }
  }

  /**
   * @param firstLine of the dump, that is sent first
   */
  PostgresSession(List<String> command, Path errors, int firstLine, Runnable stopIfCancelled)
      throws IOException {
    this.errors = errors;
    this.firstLine = firstLine;
    this.stopIfCancelled = stopIfCancelled;
    ProcessBuilder builder = new ProcessBuilder(command);
    builder.redirectOutput(ProcessBuilder.Redirect.DISCARD).redirectError(errors.toFile());
    Commands.cleanEnvironment(builder);
    this.psql = builder.start();
    // What is sent keeps its bytes, whatever their encoding: each char is one byte.
    this.to = new BufferedWriter(
        new OutputStreamWriter(psql.getOutputStream(), StandardCharsets.ISO_8859_1), 1 << 16);
  }

  Writer writer() {
    return to;
  }

  /**
   * Waits for the server to have taken everything.
   *
   * @throws Refused when something was refused
   */
  void finish() throws Refused, IOException {
    IOException broken = null;
    try {
      to.close();
    } catch (IOException e) {
      // When psql has ended by an error, writing on fails: its own words are better.
      broken = e;
    }
    int exit = Commands.waitFor(psql, Duration.ofHours(12), stopIfCancelled);
    if (exit != 0) {
      throw refused();
    }
    if (broken != null) {
      throw broken;
    }
  }

  private Refused refused() throws IOException {
    String said = new String(Files.readAllBytes(errors), StandardCharsets.UTF_8);
    for (String line : said.split("\n")) {
      Matcher error = ERROR.matcher(line);
      boolean one =
          error.matches() && !line.matches("psql:<stdin>:\\d+: (NOTICE|WARNING|INFO|LOG):.*");
      if (one) {
        return new Refused(
            firstLine + Integer.parseInt(error.group(1)) - 1, error.group(2), error.group(3));
      }
    }
    return new Refused(firstLine, null, said.isBlank() ? "psql ended" : said.strip());
  }

  @Override
  public void close() {
    if (psql.isAlive()) {
      psql.destroyForcibly();
    }
  }
}
