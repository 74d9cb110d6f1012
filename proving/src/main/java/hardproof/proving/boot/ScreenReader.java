package hardproof.proving.boot;

import hardproof.core.wording.Wording;
import java.io.IOException;
import java.time.Duration;
import java.util.List;
import java.util.Locale;

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
  public record Reading(ScreenClass screenClass, String sentence, Screen decided) {
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
    switch (watched.ending()) {
      case NOTHING_TO_START -> {
        return new Reading(ScreenClass.NOT_BOOTABLE, watched.note());
      }
      case NOT_DECIDED -> {
        return new Reading(ScreenClass.NOT_DECIDED, watched.note());
      }
      case RESTARTED -> {
        return new Reading(ScreenClass.FATAL_STOP, "it restarted itself instead of coming up");
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
    return bad(text, expected) || expected.met(text);
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
    String fatal = Expectation.found(expected.fatal(), text);
    if (fatal != null) {
      return new Reading(ScreenClass.FATAL_STOP, "it shows " + quoted(line(text, fatal)) + where);
    }
    String nothing = Expectation.found(expected.notBootable(), text);
    if (nothing != null) {
      return new Reading(
          ScreenClass.NOT_BOOTABLE, "it shows " + quoted(line(text, nothing)) + where);
    }
    String repair = Expectation.found(expected.repair(), text);
    return repair == null
        ? null
        : new Reading(ScreenClass.REPAIR_PROMPT, "it shows " + quoted(line(text, repair)) + where);
  }

  private static String quoted(String text) {
    return "\"" + text.strip() + "\"";
  }

  /** The whole line that a word stands in. */
  private static String line(String text, String word) {
    return text.lines().filter(l -> l.contains(word)).findFirst().orElse(word);
  }

  private static Reading settled(Watched watched, Expectation expected, List<Accepted> accepted)
      throws IOException {
    Screen last = watched.last();
    if (last == null) {
      return new Reading(ScreenClass.BLANK, "nothing was seen on its screen");
    }
    if (last.lines() != null && expected.met(last.text())) {
      return stays(watched, expected);
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
    String text = screen.text();
    return text.isEmpty() ? "a picture" : text.substring(text.lastIndexOf('\n') + 1);
  }

  private static String ran(Watched watched) {
    return Wording.duration(Duration.ofMillis(watched.ranMs()));
  }

  private static Reading stays(Watched watched, Expectation expected) {
    long since = watched.ranMs();
    for (int i = watched.screens().size() - 1; i >= 0; i--) {
      Screen screen = watched.screens().get(i);
      if (screen.lines() == null || !expected.met(screen.text())) {
        break;
      }
      since = screen.atMs();
    }
    long stayed = watched.ranMs() - since;
    String shown = quoted(lastLine(watched.last()));
    return stayed >= STAYS_MS
        ? new Reading(ScreenClass.LOGIN_REACHED, "it shows " + shown + ", and stays so")
        : new Reading(
            ScreenClass.STALLED,
            "it shows " + shown + " for " + stayed + " ms only; " + STAYS_MS + " are asked");
  }

  private static Reading accepted(Screen last, List<Accepted> accepted) throws IOException {
    for (Accepted one : accepted) {
      if (last.lines() != null && one.lines() != null) {
        double differ = difference(last.lines(), one.lines());
        if (differ <= PictureHash.TILES_ALIKE) {
          return new Reading(
              ScreenClass.LOGIN_REACHED,
              "its screen is the one accepted by " + one.by() + " (" + Wording.share(differ)
                  + " of its signs differ)");
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

  /** Says how far it is from what was accepted, so that a person can judge. */
  private static String nearest(Screen last, List<Accepted> accepted) throws IOException {
    double least = 2;
    String by = "";
    for (Accepted one : accepted) {
      double differ = 2;
      if (last.lines() != null && one.lines() != null) {
        differ = difference(last.lines(), one.lines());
      } else if (last.lines() == null && one.lines() == null) {
        differ = PictureHash.of(last.png()).tileDistance(PictureHash.of(one.png()));
      }
      if (differ < least) {
        least = differ;
        by = one.by();
      }
    }
    return least > 1 ? "" : "; " + Wording.share(least) + " differ from the one accepted by " + by;
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
