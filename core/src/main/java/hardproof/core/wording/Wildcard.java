package hardproof.core.wording;

/**
 * Patterns in which {@code *} stands for any characters, none too. Every piece between two stars is
 * looked for once, from where the one before it ended, so that no pattern takes long, however many stars
 * it has.
 */
public final class Wildcard {
  private Wildcard() {}

  /** Whether the whole text fits the pattern, letter for letter. */
  public static boolean matches(String pattern, String text) {
    int star = pattern.indexOf('*');
    if (star < 0) {
      return pattern.equals(text);
    }
    int last = pattern.lastIndexOf('*');
    String begin = pattern.substring(0, star);
    String end = pattern.substring(last + 1);
    if (text.length() < begin.length() + end.length()
        || !text.startsWith(begin)
        || !text.endsWith(end)) {
      return false;
    }
    int at = begin.length();
    int limit = text.length() - end.length();
    for (String piece : pattern.substring(star, last).split("\\*")) {
      if (piece.isEmpty()) {
        continue;
      }
      int found = text.indexOf(piece, at);
      if (found < 0 || found + piece.length() > limit) {
        return false;
      }
      at = found + piece.length();
    }
    return true;
  }
}
