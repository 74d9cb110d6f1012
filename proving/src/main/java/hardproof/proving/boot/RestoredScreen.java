package hardproof.proving.boot;

import hardproof.proving.checks.Answer;
import hardproof.proving.checks.Aspect;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.proving.checks.Restored;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** What a machine showed and said, kept in its sandbox so that it can be asked later too. */
public final class RestoredScreen implements Restored {
  private static final String LAST = "screen-last.txt";
  private static final String ALL = "screen-all.txt";
  private static final String SERIAL = "serial.txt";
  private static final String NONCE = "nonce.txt";

  private final String last;
  private final String all;
  private final String serial;
  private final String nonce;

  private RestoredScreen(String last, String all, String serial, String nonce) {
    this.last = last;
    this.all = all;
    this.serial = serial;
    this.nonce = nonce;
  }

  /** Writes down what was seen. */
  public static void keep(Path sandbox, Watched watched, String nonce) throws IOException {
    List<String> texts = watched.screens().stream().map(Screen::text).toList();
    Files.writeString(
        sandbox.resolve(LAST), watched.last() == null ? "" : watched.last().text());
    Files.writeString(sandbox.resolve(ALL), String.join("\n", texts));
    Files.writeString(sandbox.resolve(SERIAL), watched.serial(), StandardCharsets.UTF_8);
    Files.writeString(sandbox.resolve(NONCE), nonce);
  }

  public static RestoredScreen open(Path sandbox) throws IOException {
    return new RestoredScreen(
        Files.readString(sandbox.resolve(LAST)),
        Files.readString(sandbox.resolve(ALL)),
        Files.readString(sandbox.resolve(SERIAL)),
        Files.readString(sandbox.resolve(NONCE)));
  }

  @Override
  public Set<Aspect> aspects() {
    return Set.of(Aspect.SCREEN);
  }

  @Override
  public Answer ask(Check check, Instant dataTime) {
    return switch (check.type()) {
      case SCREEN_SHOWS -> {
        boolean shows = check.pattern().matcher(last).find();
        yield Answer.of(
            shows, "the last screen " + (shows ? "shows " : "does not show ") + check.subject());
      }
      case SCREEN_NEVER_SHOWS -> {
        boolean shown = check.pattern().matcher(all).find()
            || check.pattern().matcher(serial).find();
        yield Answer.of(!shown, check.subject() + (shown ? " was shown" : " was never shown"));
      }
      case SERVICE_ANSWERS -> {
        Map<String, String> results = ServiceReports.of(serial, nonce);
        String result = results.get(check.subject());
        yield Answer.of(
            "ok".equals(result),
            result == null
                ? "the machine said nothing of its service " + check.subject()
                : "the machine said of its service " + check.subject() + ": " + result);
      }
      case BENIGN_MESSAGE -> Answer.of(true, check.subject() + " is known to be harmless");
      case MARKER_THERE, MARKER_ABSENT -> {
        boolean there = all.contains(check.expected()) || serial.contains(check.expected());
        yield Answer.of(
            there == (check.type() == CheckType.MARKER_THERE),
            "the marker " + check.expected() + (there ? " was shown" : " was not shown"));
      }
      default -> throw new IllegalArgumentException(check.type() + " is not asked of a screen");
    };
  }
}
