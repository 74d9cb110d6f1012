package hardproof.core.discovery;

import hardproof.core.points.Form;
import hardproof.core.wording.WrongValue;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * How the places of a kind of backups are written: {@code {resource}/{yyyyMMdd-HHmm}-{form}.tar.gz}. Several {@code
 * {resource}} belong together; {@code {any}} is what differs and says nothing. None of them reaches over a /. One that
 * ends with a / is of folders, each with all that lies in it.
 */
public final class PlacePattern {
  private static final int LONGEST = 500;

  /** Each more makes what fits nothing take many times as long to be found out. */
  private static final int MOST_OPEN = 5;

  private static final String FORMS = "(?i:full|incremental|incr|inc|differential|diff|log)";

  private final String text;
  private final Pattern regex;
  private final List<Integer> resources = new ArrayList<>();
  private @Nullable TimeStyle time;
  private int timeGroup;
  private int formGroup;
  private int open;

  private PlacePattern(String text) {
    this.text = text;
    this.regex = Pattern.compile(compiled());
  }

  /**
   * As a person writes it.
   *
   * @throws WrongValue saying what is wrong with it
   */
  public static PlacePattern of(String text) {
    String clean = text.strip();
    if (clean.isEmpty() || clean.length() > LONGEST) {
      throw new WrongValue("a pattern of places has 1 to " + LONGEST + " characters");
    }
    PlacePattern pattern = new PlacePattern(clean);
    if (pattern.resources.isEmpty()) {
      throw new WrongValue("'" + clean
          + "' does not say whose backups they are; write {resource} where that stands");
    }
    return pattern;
  }

  /** What a pattern says of a place. */
  public enum Part {
    RESOURCE,
    FORM,
    TIME
  }

  /**
   * Expressions in RE2, each with one group: that part of a place; several of {@code RESOURCE} belong together, in their
   * order. None where the pattern does not say it.
   */
  public List<String> expressions(Part part) {
    List<String> written = new ArrayList<>();
    int many = part == Part.RESOURCE ? resources.size() : 1;
    for (int i = 0; i < many; i++) {
      String expression = expression(part, i);
      if (expression != null) {
        written.add(expression);
      }
    }
    return written;
  }

  private @Nullable String expression(Part part, int number) {
    StringBuilder all = new StringBuilder("^");
    boolean said = false;
    int at = 0;
    int names = 0;
    while (at < text.length()) {
      int begin = text.indexOf('{', at);
      all.append(literal(text.substring(at, begin < 0 ? text.length() : begin)));
      if (begin < 0) {
        break;
      }
      int end = text.indexOf('}', begin);
      String what = text.substring(begin + 1, end);
      Part is = switch (what) {
        case "resource" -> Part.RESOURCE;
        case "form" -> Part.FORM;
        case "any" -> null;
        default -> Part.TIME;
      };
      boolean meant = is == part && (is != Part.RESOURCE || names++ == number);
      said |= meant;
      String inner = is == null || is == Part.RESOURCE
          ? is == null ? "[^/]*?" : "[^/]+?"
          : is == Part.FORM ? FORMS : time.regex().replaceAll("\\((?!\\?)", "(?:");
      all.append(meant ? "(" : "(?:").append(inner).append(')');
      at = end + 1;
    }
    return said ? all.append('$').toString() : null;
  }

  private static String literal(String text) {
    return text.replaceAll("([\\\\.\\[\\]{}()*+?^$|])", "\\\\$1");
  }

  /** How its times are written, as in java.time; null where it says none, {@code epoch} for seconds since 1970. */
  public @Nullable String timePattern() {
    return time == null ? null : time.pattern();
  }

  private String compiled() {
    StringBuilder all = new StringBuilder();
    int group = 0;
    int at = 0;
    while (at < text.length()) {
      int open = text.indexOf('{', at);
      int close = open < 0 ? -1 : text.indexOf('}', open);
      if (open >= 0 && close < 0) {
        throw new WrongValue("'" + text + "' opens { and does not close it");
      }
      all.append(Pattern.quote(text.substring(at, open < 0 ? text.length() : open)));
      if (open < 0) {
        break;
      }
      group += add(all, text.substring(open + 1, close), group + 1);
      at = close + 1;
    }
    return all.toString();
  }

  /** How many groups it adds. */
  private int add(StringBuilder all, String what, int group) {
    if ((what.equals("resource") || what.equals("any")) && ++open > MOST_OPEN) {
      throw new WrongValue("'" + text + "' has more than " + MOST_OPEN
          + " places for a name or for anything; write out what is always the same");
    }
    switch (what) {
      case "resource" -> {
        all.append("([^/]+?)");
        resources.add(group);
        return 1;
      }
      case "any" -> {
        all.append("[^/]*?");
        return 0;
      }
      case "form" -> {
        all.append('(').append(FORMS).append(')');
        formGroup = group;
        return 1;
      }
      default -> {
        if (time != null) {
          throw new WrongValue("'" + text + "' says the time twice");
        }
        time = TimeStyle.of(what);
        timeGroup = group;
        all.append(time.regex());
        return time.groups();
      }
    }
  }

  /**
   * What a place says by this pattern.
   *
   * @param artifact the place, or that of the folder that it lies in
   * @param time null where the name says none; {@code exact} whether it says the hour
   * @param form null where the name says none
   */
  public record Said(
      String artifact,
      String resource,
      @Nullable Instant time,
      boolean exact,
      @Nullable Form form) {}

  /** Null where it does not fit, or says a day that there is not. */
  public @Nullable Said of(String place, ZoneId zone) {
    Matcher m = regex.matcher(place);
    if (!(ofFolders() ? m.lookingAt() : m.matches())) {
      return null;
    }
    Instant at = time == null ? null : time.instant(m, timeGroup, zone);
    if (time != null && at == null) {
      return null;
    }
    List<String> names = resources.stream().map(m::group).toList();
    return new Said(
        ofFolders() ? place.substring(0, m.end() - 1) : place,
        String.join("/", names),
        at,
        time != null && time.exact(),
        formGroup == 0 ? null : form(m.group(formGroup)));
  }

  private static Form form(String word) {
    return switch (word.toLowerCase(Locale.ROOT)) {
      case "full" -> Form.FULL;
      case "differential", "diff" -> Form.DIFFERENTIAL;
      case "log" -> Form.LOG;
      default -> Form.INCREMENTAL;
    };
  }

  /** Whether what it fits are whole folders. */
  public boolean ofFolders() {
    return text.endsWith("/");
  }

  public boolean saysTime() {
    return time != null;
  }

  public boolean saysForm() {
    return formGroup > 0;
  }

  @Override
  public String toString() {
    return text;
  }
}
