package hardproof.core.discovery;

import hardproof.core.wording.WrongValue;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * How a name writes a time: {@code yyyyMMdd-HHmm}, with the letters that times are usually written by, and whatever
 * stands between them. {@code epoch} are seconds since 1970; a {@code Z} at its end says that it is UTC.
 */
public final class TimeStyle {
  static final String EPOCH = "epoch";
  private static final String LETTERS = "yMdHms";

  /** Of what names of backups are usually written like; a year before 1990 or after 2099 is some other number. */
  private static final Pattern USUAL = Pattern.compile(
      "(?<!\\d)(19[9]\\d|20\\d\\d)([-_.]?)(0[1-9]|1[0-2])\\2(0[1-9]|[12]\\d|3[01])"
          + "(?:([-_.T@ ]|--|__)?([01]\\d|2[0-3])([-_.:h]?)([0-5]\\d)(?:\\7([0-5]\\d))?(Z)?)?(?!\\d)");

  private static final Pattern SECONDS = Pattern.compile("(?<!\\d)(1[0-9]\\d{8})(?!\\d)");

  private final String text;
  private final String regex;
  private final List<Character> fields = new ArrayList<>();

  private TimeStyle(String text, String regex) {
    this.text = text;
    this.regex = regex;
  }

  /**
   * Of its text.
   *
   * @throws WrongValue where it writes no day
   */
  static TimeStyle of(String text) {
    if (text.equals(EPOCH)) {
      return new TimeStyle(text, "(1\\d{9})");
    }
    StringBuilder regex = new StringBuilder();
    List<Character> fields = new ArrayList<>();
    for (int i = 0; i < text.length(); ) {
      char c = text.charAt(i);
      int end = i;
      while (end < text.length() && text.charAt(end) == c) {
        end++;
      }
      if (LETTERS.indexOf(c) >= 0) {
        regex.append("(\\d{").append(end - i).append("})");
        fields.add(c);
      } else {
        regex.append(Pattern.quote(text.substring(i, end)));
      }
      i = end;
    }
    if (!fields.containsAll(List.of('y', 'M', 'd'))) {
      throw new WrongValue(
          "'{" + text
              + "}' is no place for a name or a time; write {resource}, {form}, {any}, or a time as {yyyyMMdd-HHmm}");
    }
    TimeStyle style = new TimeStyle(text, regex.toString());
    style.fields.addAll(fields);
    return style;
  }

  /** A time in a text, and how it is written there. */
  record Found(int from, int to, TimeStyle style) {}

  /** The last one; null where there is none. */
  static @Nullable Found last(String in) {
    Found last = null;
    for (Matcher m = USUAL.matcher(in); m.find(); ) {
      last = new Found(m.start(), m.end(), of(styleOf(m)));
    }
    if (last == null) {
      for (Matcher m = SECONDS.matcher(in); m.find(); ) {
        last = new Found(m.start(), m.end(), of(EPOCH));
      }
    }
    return last;
  }

  private static String styleOf(Matcher m) {
    String style = "yyyy" + m.group(2) + "MM" + m.group(2) + "dd";
    if (m.group(6) != null) {
      style += (m.group(5) == null ? "" : m.group(5)) + "HH" + m.group(7) + "mm"
          + (m.group(9) == null ? "" : m.group(7) + "ss")
          + (m.group(10) == null ? "" : "Z");
    }
    return style;
  }

  /** As in java.time; {@code epoch} for seconds since 1970. */
  String pattern() {
    if (text.equals(EPOCH)) {
      return text;
    }
    StringBuilder pattern = new StringBuilder();
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c == 'Z' && i == text.length() - 1) {
        pattern.append('X');
      } else if (Character.isLetter(c) && LETTERS.indexOf(c) < 0) {
        pattern.append('\'').append(c).append('\'');
      } else {
        pattern.append(c);
      }
    }
    return pattern.toString();
  }

  /** How many groups its expression has. */
  int groups() {
    return text.equals(EPOCH) ? 1 : fields.size();
  }

  String regex() {
    return regex;
  }

  /** Whether it says the hour. */
  boolean exact() {
    return text.equals(EPOCH) || fields.contains('H');
  }

  /**
   * The instant that a name says.
   *
   * @param zone of those that don't say which
   * @return null where there is no such day
   */
  @Nullable
  Instant instant(Matcher matched, int firstGroup, ZoneId zone) {
    if (text.equals(EPOCH)) {
      return Instant.ofEpochSecond(Long.parseLong(matched.group(firstGroup)));
    }
    int[] at = {0, 0, 0, 0, 0, 0};
    for (int i = 0; i < fields.size(); i++) {
      at[LETTERS.indexOf(fields.get(i))] = Integer.parseInt(matched.group(firstGroup + i));
    }
    try {
      LocalDateTime local = LocalDateTime.of(at[0], at[1], at[2], at[3], at[4], at[5]);
      return local.atZone(text.endsWith("Z") ? ZoneOffset.UTC : zone).toInstant();
    } catch (DateTimeException e) {
      return null;
    }
  }

  @Override
  public String toString() {
    return text;
  }
}
