package hardproof.proving.boot;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import hardproof.core.wording.Wording;
import java.io.IOException;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Tells what a machine came to by what it showed. */
public final class ScreenReader {
  /** So long the expected screen must stay: some machines fail right after it. */
  static final long STAYS_MS = 3_000;

  private ScreenReader() {}

  /**
   * A screen that a person accepted for this machine.
   *
   * @param by who accepted it, and when: for the sentence
   */
  public record Accepted(String by, List<String> lines, byte[] png) {}

  /**
   * What was concluded, with the words it rests on.
   *
   * @param decided the screen that decided; null where it was the last, or none
   */
  public record Reading(
      ScreenClass screenClass, String sentence, @Nullable Screen decided) {
    Reading(ScreenClass screenClass, String sentence) {
      this(screenClass, sentence, null);
    }
  }

  /** Concludes; bad words always win, and what is not known never passes. */
  public static Reading read(Watched watched, Expectation expected, List<Accepted> accepted)
      throws IOException {
    for (Screen screen : watched.screens()) {
      Reading bad = bad(screen.text(), expected, "");
      if (bad != null) {
        return new Reading(bad.screenClass(), bad.sentence(), screen);
      }
    }
    Reading bad = bad(watched.serial(), expected, " on the serial line");
    if (bad != null) {
      return bad;
    }
    return decided(watched, expected, accepted);
  }

  private static Reading decided(Watched watched, Expectation expected, List<Accepted> accepted)
      throws IOException {
    switch (watched.ending()) {
      case NOTHING_TO_START -> {
        return new Reading(ScreenClass.NOT_BOOTABLE, watched.note());
      }
      case NOT_DECIDED, WORKING -> {
        return new Reading(ScreenClass.NOT_DECIDED, watched.note());
      }
      case RESTARTED -> {
        return new Reading(
            ScreenClass.FATAL_STOP, "it restarted itself again and again instead of coming up");
      }
      case OFF -> {
        return new Reading(ScreenClass.FATAL_STOP, "it switched itself off instead of coming up");
      }
      default -> {
        return settled(watched, expected, accepted);
      }
    }
  }

  /** Whether a text already shows what came of it, good or bad. */
  public static boolean decisive(String text, Expectation expected) {
    return bad(text, expected) || repair(text, expected, "") != null || expected.met(text);
  }

  /** Whether a text alone shows that the machine did not come up. */
  public static boolean bad(String text, Expectation expected) {
    return bad(text, expected, "") != null;
  }

  private static Reading bad(String shown, Expectation expected, String where) {
    String text = expected.withoutBenign(shown);
    String never = Expectation.found(expected.never(), text);
    if (never != null) {
      return new Reading(
          ScreenClass.FATAL_STOP, quoted(never) + " came" + where + ", which must never be");
    }
    Reading fatal = found(Expectation.FATAL, text, ScreenClass.FATAL_STOP, where);
    return fatal != null
        ? fatal
        : found(Expectation.NOT_BOOTABLE, text, ScreenClass.NOT_BOOTABLE, where);
  }

  /** What waits for somebody to repair it, at the end of a text. */
  private static Reading repair(String shown, Expectation expected, String where) {
    String end = Expectation.end(expected.withoutBenign(shown));
    return found(Expectation.REPAIR, end, ScreenClass.REPAIR_PROMPT, where);
  }

  private static Reading found(
      Pattern pattern, String text, ScreenClass screenClass, String where) {
    Matcher matcher = pattern.matcher(text);
    return matcher.find()
        ? new Reading(
            screenClass,
            "it shows " + quoted(Expectation.lineAround(text, matcher.start())) + where)
        : null;
  }

  private static String quoted(String text) {
    return "\"" + text.strip() + "\"";
  }

  private static Reading settled(Watched watched, Expectation expected, List<Accepted> accepted)
      throws IOException {
    Screen last = watched.last();
    if (last == null) {
      return new Reading(ScreenClass.BLANK, "nothing was seen on its screen");
    }
    Reading repair = repair(last.text(), expected, "");
    if (repair == null) {
      repair = repair(watched.serial(), expected, " on the serial line");
    }
    if (repair != null) {
      return repair;
    }
    if (expected.met(last.text())) {
      return stays(watched, expected);
    }
    if (expected.met(watched.serial()) && watched.serialStillMs() >= STAYS_MS) {
      return new Reading(
          ScreenClass.LOGIN_REACHED,
          "it shows " + quoted(expected.deciding(watched.serial()))
              + " on the serial line, and stays so");
    }
    Reading known = accepted(last, accepted);
    if (known != null) {
      return known;
    }
    boolean blank = last.lines() == null
        ? last.png() != null && PictureHash.of(last.png()).blank()
        : last.blank();
    if (blank) {
      return new Reading(ScreenClass.BLANK, "its screen is blank after " + ran(watched));
    }
    boolean firmwareOnly =
        last.lines() != null && last.text().lines().allMatch(ScreenReader::firmware);
    if (watched.ending() == Ending.BUSY || watched.ending() == Ending.HALTED || firmwareOnly) {
      return new Reading(
          ScreenClass.STALLED,
          watched.note() + "; after " + ran(watched) + " it still shows " + quoted(lastLine(last)));
    }
    return new Reading(
        ScreenClass.UNKNOWN,
        "it waits with a screen that nobody has accepted yet"
            + (last.lines() == null ? "" : ": " + quoted(lastLine(last)))
            + nearest(last, accepted));
  }

  private static boolean firmware(String line) {
    String l = line.strip().toLowerCase(Locale.ROOT);
    return l.isEmpty()
        || l.startsWith("booting from")
        || l.startsWith("seabios")
        || l.startsWith("ipxe")
        || l.startsWith("press esc for boot menu");
  }

  private static String lastLine(Screen screen) {
    String line = Expectation.lastLine(screen.text());
    return line.isEmpty() ? "a picture" : line;
  }

  private static String ran(Watched watched) {
    return Wording.duration(Duration.ofMillis(watched.ranMs()));
  }

  private static Reading stays(Watched watched, Expectation expected) {
    long stayed = stayed(watched, expected);
    String shown = quoted(expected.deciding(watched.last().text()))
        + (watched.last().lines() == null ? ", as OCR reads it" : "");
    return stayed >= STAYS_MS
        ? new Reading(ScreenClass.LOGIN_REACHED, "it shows " + shown + ", and stays so")
        : new Reading(
            ScreenClass.STALLED,
            "it shows " + shown + " for " + stayed + " ms only; " + STAYS_MS + " are asked");
  }

  private static long stayed(Watched watched, Expectation expected) {
    long since = watched.ranMs();
    for (int i = watched.screens().size() - 1; i >= 0; i--) {
      Screen screen = watched.screens().get(i);
      if (!expected.met(screen.text())) {
        break;
      }
      since = screen.atMs();
    }
    return watched.ranMs() - since;
  }

  private static Reading accepted(Screen last, List<Accepted> accepted) throws IOException {
    for (Accepted one : accepted) {
      if (last.lines() != null && one.lines() != null) {
        if (sameButForNumbers(last.lines(), one.lines())) {
          double differ = difference(last.lines(), one.lines());
          return new Reading(
              ScreenClass.LOGIN_REACHED,
              "its screen is the one accepted by " + one.by()
                  + (differ == 0
                      ? ""
                      : " (" + Wording.share(differ)
                          + " of its signs differ, digits all of them)"));
        }
      } else if (last.lines() == null && one.lines() == null) {
        PictureHash a = PictureHash.of(last.png());
        PictureHash b = PictureHash.of(one.png());
        double tiles = a.tileDistance(b);
        int hash = a.hashDistance(b);
        if (tiles <= PictureHash.TILES_ALIKE && hash <= PictureHash.HASH_ALIKE) {
          return new Reading(
              ScreenClass.LOGIN_REACHED,
              "its screen is the one accepted by " + one.by() + " (" + Wording.share(tiles)
                  + " of its tiles and " + hash + " of 63 bits of its hash differ)");
        }
      }
    }
    return null;
  }

  /** A clock or a counter may have gone on, digit by digit; a new word asks a person. */
  static boolean sameButForNumbers(List<String> a, List<String> b) {
    for (int row = 0; row < Math.max(a.size(), b.size()); row++) {
      String one = row < a.size() ? a.get(row).stripTrailing() : "";
      String two = row < b.size() ? b.get(row).stripTrailing() : "";
      if (one.length() != two.length()) {
        return false;
      }
      for (int i = 0; i < one.length(); i++) {
        char x = one.charAt(i);
        char y = two.charAt(i);
        if (x != y && !(Character.isDigit(x) && Character.isDigit(y))) {
          return false;
        }
      }
    }
    return true;
  }

  /** Says how far it is from what was accepted, so that a person can judge. */
  private static String nearest(Screen last, List<Accepted> accepted) throws IOException {
    double least = 2;
    String by = "";
    for (Accepted one : accepted) {
      double differ = differ(last, one);
      if (differ < least) {
        least = differ;
        by = one.by();
      }
    }
    return least > 1 ? "" : "; " + Wording.share(least) + " differ from the one accepted by " + by;
  }

  private static double differ(Screen last, Accepted one) throws IOException {
    double differ = 2;
    if (last.lines() != null && one.lines() != null) {
      differ = difference(last.lines(), one.lines());
    } else if (last.lines() == null && one.lines() == null) {
      differ = PictureHash.of(last.png()).tileDistance(PictureHash.of(one.png()));
    }
    return differ;
  }

  /** Share of the cells with a sign in either text that are not the same in both. */
  static double difference(List<String> a, List<String> b) {
    int either = 0;
    int differ = 0;
    for (int row = 0; row < Math.max(a.size(), b.size()); row++) {
      String one = row < a.size() ? a.get(row) : "";
      String two = row < b.size() ? b.get(row) : "";
      for (int i = 0; i < Math.max(one.length(), two.length()); i++) {
        char x = i < one.length() ? one.charAt(i) : ' ';
        char y = i < two.length() ? two.charAt(i) : ' ';
        either += x != ' ' || y != ' ' ? 1 : 0;
        differ += x != y ? 1 : 0;
      }
    }
    return either == 0 ? 0 : (double) differ / either;
  }
}
