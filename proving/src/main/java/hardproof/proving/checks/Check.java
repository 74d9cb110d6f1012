package hardproof.proving.checks;

import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.LDAPException;
import hardproof.core.feeds.Values;
import hardproof.core.wording.WrongValue;
import java.math.BigDecimal;
import java.net.URI;
import java.time.Duration;
import java.util.Locale;
import java.util.function.Function;

/**
 * A question about restored data, kept with a resource.
 *
 * @param subject what is asked about, as the type says; never blank but for a marker on a screen
 * @param expected what it is held to; empty where the type needs nothing
 */
public record Check(CheckType type, String subject, String expected) {
  private static final int LONGEST = 4000;
  private static final Duration OUTSIDE_AT_MOST = Duration.ofDays(7);

  /**
   * @throws WrongValue saying which field is wrong and what should be there
   */
  public Check {
    if (type == null) {
      throw new WrongValue("a check needs a type");
    }
    subject = subject == null ? "" : subject.strip();
    expected = expected == null || type.expected() == null ? "" : expected.strip();
    requireTexts(type, subject, expected);
    readSubject(type, subject, expected);
    readExpected(type, expected);
  }

  private static void requireTexts(CheckType type, String subject, String expected) {
    if (subject.isEmpty()) {
      throw new WrongValue("the check \"" + type.words() + "\" needs: " + type.subject());
    }
    if (expected.isEmpty() && type.expected() != null) {
      throw new WrongValue("the check \"" + type.words() + "\" needs: " + type.expected());
    }
    if (subject.length() > LONGEST || expected.length() > LONGEST) {
      throw new WrongValue("a check is longer than " + LONGEST + " characters");
    }
  }

  private static void readSubject(CheckType type, String subject, String expected) {
    switch (type) {
      case QUERY_EQUALS, QUERY_AT_LEAST, NEWEST_WITHIN -> query(subject);
      case FILE_EQUALS -> read(expected, Values::sha256);
      case ENTRY_EQUALS -> attribute(subject);
      case SCREEN_SHOWS, SCREEN_NEVER_SHOWS, BENIGN_MESSAGE -> pattern(subject);
      // Refused when it is written: a drill that fails by a mistake in its question would blame the
      // data.
      case FILES_AT_LEAST -> PathPattern.of(subject);
      case ENTRIES_AT_LEAST, ATTRIBUTES_KEPT -> filter(subject);
      case OUTSIDE -> address(subject);
      case NEEDED_ANSWERS -> Needed.of(subject);
      default -> {
        // The subject is any text.
      }
    }
  }

  private static void readExpected(CheckType type, String expected) {
    switch (type) {
      case FILES_AT_LEAST, ENTRIES_AT_LEAST, QUERY_AT_LEAST -> number(expected);
      case AGREES -> Needed.of(expected);
      case FILE_NEWER, NEWEST_WITHIN -> read(expected, Values::duration);
      case OUTSIDE -> {
        Duration limit = read(expected, Values::duration);
        if (limit.isNegative() || limit.isZero() || limit.compareTo(OUTSIDE_AT_MOST) > 0) {
          throw new WrongValue("the time-out must be more than nothing and at most 7 days");
        }
      }
      default -> {
        // The expectation is any text.
      }
    }
  }

  /** Between the name of what is asked and the question. */
  private static final String OF = " :: ";

  /** Whether it is asked of what the resource needs, which is up beside it in a rehearsal only. */
  public boolean ofNeeded() {
    return type.aspects().contains(Aspect.NEEDED);
  }

  /**
   * A question to what is needed, for a check that is asked of it.
   *
   * @param name of what is asked
   */
  public record Needed(String name, String question) {
    private static Needed of(String text) {
      int of = text.indexOf(OF);
      if (of < 1 || text.substring(of + OF.length()).isBlank()) {
        throw new WrongValue("\"" + text
            + "\" says not what is asked for what: write NAME :: question, Harbour DB :: SELECT count(*)"
            + " FROM berth for example");
      }
      return new Needed(
          text.substring(0, of).strip(), text.substring(of + OF.length()).strip());
    }
  }

  /** What is asked of what is needed. */
  public Needed needed() {
    return Needed.of(type == CheckType.AGREES ? expected : subject);
  }

  /** Whether somebody outside answers it, not what was restored here. */
  public boolean outside() {
    return type == CheckType.OUTSIDE;
  }

  /** A check of a type that has nothing to expect. */
  public static Check of(CheckType type, String subject) {
    return new Check(type, subject, "");
  }

  /** The core's readers say what is wrong; the value is put before it. */
  private static <T> T read(String text, Function<String, T> reader) {
    try {
      return reader.apply(text);
    } catch (WrongValue e) {
      throw new WrongValue("\"" + text + "\" " + e.getMessage(), e);
    }
  }

  private static void query(String text) {
    String sql =
        text.contains(" :: ") ? text.substring(text.indexOf(" :: ") + 4).strip() : text;
    if (!sql.toLowerCase(Locale.ROOT).matches("(?s)(select|with)\\b.*")) {
      throw new WrongValue("the query must begin with SELECT or WITH");
    }
  }

  private static void attribute(String text) {
    int at = text.indexOf('@');
    if (at < 1 || at == text.length() - 1) {
      throw new WrongValue(
          "name the attribute and its entry as attribute@dn, mail@uid=nils,ou=people,dc=example for example");
    }
  }

  private static Pattern pattern(String text) {
    try {
      return Pattern.compile(text, Pattern.CASE_INSENSITIVE | Pattern.MULTILINE);
    } catch (PatternSyntaxException e) {
      throw new WrongValue("\"" + text + "\" is no regular expression: " + e.getDescription(), e);
    }
  }

  private static void filter(String text) {
    try {
      Filter.create(text);
    } catch (LDAPException e) {
      throw new WrongValue(
          "\"" + text + "\" is no filter (RFC 4515): " + e.getMessage()
              + " Write it as (objectClass=person) for example",
          e);
    }
  }

  private static void address(String text) {
    try {
      URI uri = URI.create(text);
      boolean web = "http".equals(uri.getScheme()) || "https".equals(uri.getScheme());
      if (!web || uri.getHost() == null || uri.getUserInfo() != null) {
        throw new IllegalArgumentException();
      }
    } catch (IllegalArgumentException e) {
      throw new WrongValue(
          "\"" + text + "\" is no web address without a name or password in it (https://host/path)",
          e);
    }
  }

  private static BigDecimal number(String text) {
    try {
      return new BigDecimal(text);
    } catch (NumberFormatException e) {
      throw new WrongValue("the value to be at least is not a number: " + text, e);
    }
  }

  /** The expression of a check on the screen. */
  public Pattern pattern() {
    return pattern(subject);
  }

  /** The expected value as a duration. */
  public Duration duration() {
    return Values.duration(expected);
  }

  /** {@code query: SELECT count(*) FROM entry} for the name of a step. */
  public String title() {
    String line = subject.replaceAll("\\s+", " ");
    String shown = line.length() > 80 ? line.substring(0, 79) + "…" : line;
    return type.words() + ": " + shown;
  }

  /**
   * Whether a found value is the one expected, or at least it; numbers are compared as numbers. A value of
   * none never passes.
   */
  public boolean accepts(String found) {
    if (found == null) {
      return false;
    }
    boolean atLeast = type.name().endsWith("AT_LEAST");
    try {
      int order = new BigDecimal(found.strip()).compareTo(new BigDecimal(expected));
      return atLeast ? order >= 0 : order == 0;
    } catch (NumberFormatException e) {
      return !atLeast && found.equals(expected);
    }
  }
}
