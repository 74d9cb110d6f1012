package hardproof.core.wording;

import java.util.Locale;

/** What somebody calls a thing of ours, such as a pack or a watch: a line that reads as it is written. */
public final class Title {
  private static final int LONGEST = 200;

  private Title() {}

  /**
   * The title without blanks around it.
   *
   * @throws WrongValue where it is empty, too long, or holds what can't be seen or turns the order of letters
   */
  public static String of(String text) {
    String title = text.strip();
    if (title.isEmpty()) {
      throw new WrongValue("a title is asked for");
    }
    int length = title.codePointCount(0, title.length());
    if (length > LONGEST) {
      throw new WrongValue(
          "a title has at most " + LONGEST + " characters, and this one has " + length);
    }
    title.codePoints().filter(Title::unseen).findFirst().ifPresent(c -> {
      throw new WrongValue(String.format(
          Locale.ROOT, "the title holds a character that can't be seen, U+%04X; leave it out", c));
    });
    return title;
  }

  /** Control and format characters, halves of pairs, and what is no character. */
  private static boolean unseen(int c) {
    return switch (Character.getType(c)) {
      case Character.CONTROL,
          Character.FORMAT,
          Character.SURROGATE,
          Character.UNASSIGNED,
          Character.LINE_SEPARATOR,
          Character.PARAGRAPH_SEPARATOR -> true;
      default -> false;
    };
  }
}
