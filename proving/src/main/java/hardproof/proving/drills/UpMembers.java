package hardproof.proving.drills;

import hardproof.proving.checks.Answer;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.proving.checks.Restored;
import java.io.IOException;
import java.math.BigDecimal;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * What came up in a rehearsal and stays up until its end: databases, directories and applications that can be asked,
 * machines that run. Members ask one another by name. For many threads; each member is asked one question at a time.
 */
public final class UpMembers implements AutoCloseable {
  private final Map<String, Member> up = new LinkedHashMap<>();
  private final Map<String, String> disagreements = new TreeMap<>();
  private boolean closed;

  /** One that is up. */
  private record Member(String name, Restored restored, Stays stays) {}

  /**
   * Of a member that came up.
   *
   * @param judged false where nothing tells whether it is up
   * @param why in words that follow its name
   */
  public record Fallen(boolean judged, String why) {}

  /** What keeps a member up besides what can be asked of it. */
  interface Stays {
    /** Why it is not up any more; null as long as it is. */
    @Nullable
    Fallen fallen() throws IOException;

    /** Lets it go. */
    void end();
  }

  /**
   * A member came up.
   *
   * @param key of the resource
   * @param stays null where nothing runs but what is asked
   */
  synchronized void add(String key, String name, Restored restored, @Nullable Stays stays)
      throws IOException {
    Member member = new Member(name, restored, stays == null ? new Asked(restored) : stays);
    if (closed) {
      close(member);
      throw new Cancelled("the rehearsal had ended before it came up");
    }
    up.put(key, member);
  }

  /** One that stays up by itself, as long as it answers. */
  private record Asked(Restored restored) implements Stays {
    @Override
    public @Nullable Fallen fallen() throws IOException {
      String why = restored.fallen();
      return why == null ? null : new Fallen(true, why);
    }

    @Override
    public void end() {
      // What is asked is closed with it.
    }
  }

  /** What speaks against a member beside those that it needs, although nothing does against its own data. */
  synchronized void disagrees(String key, String sentence) {
    disagreements.merge(key, sentence, (a, b) -> a + "; " + b);
  }

  /** As it was told; null where nothing was. */
  public synchronized @Nullable String disagreement(String key) {
    return disagreements.get(key);
  }

  /** Whether a member is up. */
  public synchronized boolean has(String key) {
    return up.containsKey(key);
  }

  /**
   * Answers a check that a member has of what it needs.
   *
   * @param needed names of the members that may be asked, by their keys
   */
  Answer ask(Check check, Restored own, Map<String, String> needed) throws IOException {
    Check.Needed asked = check.needed();
    Member other = member(asked.name(), needed);
    if (other == null) {
      return Answer.notJudged(asked.name() + " is not up beside it");
    }
    String expected;
    try {
      expected = check.type() == CheckType.AGREES ? own.value(check.subject()) : check.expected();
    } catch (Restored.Unanswered e) {
      return Answer.of(false, line(check.subject()) + " " + e.getMessage());
    }
    try {
      String found;
      synchronized (other) {
        found = other.restored().value(asked.question());
      }
      boolean equal = equal(found, expected);
      return Answer.of(
          equal,
          other.name() + ": " + line(asked.question()) + " gave " + line(found)
              + (equal
                  ? ", as " + (check.type() == CheckType.AGREES ? "here" : "expected")
                  : check.type() == CheckType.AGREES
                      ? "; here it is " + line(expected)
                      : ", " + line(expected) + " was expected"));
    } catch (Restored.Unanswered e) {
      return Answer.of(false, other.name() + ": " + line(asked.question()) + " " + e.getMessage());
    }
  }

  private static boolean equal(String found, String expected) {
    try {
      return new BigDecimal(found.strip()).compareTo(new BigDecimal(expected.strip())) == 0;
    } catch (NumberFormatException e) {
      return found.equals(expected);
    }
  }

  private static String line(String text) {
    String line = text.replaceAll("\\s+", " ");
    return line.length() > 80 ? line.substring(0, 79) + "…" : line;
  }

  private synchronized @Nullable Member member(String name, Map<String, String> needed) {
    String wanted = name.toLowerCase(Locale.ROOT);
    return needed.entrySet().stream()
        .filter(e -> e.getKey().toLowerCase(Locale.ROOT).equals(wanted)
            || e.getValue().toLowerCase(Locale.ROOT).equals(wanted))
        .map(e -> up.get(e.getKey()))
        .filter(Objects::nonNull)
        .findFirst()
        .orElse(null);
  }

  /** Those that came up and are not up any more, by key, with why. Each is asked. */
  public Map<String, Fallen> fallen() {
    Map<String, Member> all;
    synchronized (this) {
      all = new LinkedHashMap<>(up);
    }
    Map<String, Fallen> fallen = new LinkedHashMap<>();
    all.forEach((key, member) -> {
      try {
        Fallen why;
        synchronized (member) {
          why = member.stays().fallen();
        }
        if (why != null) {
          fallen.put(key, why);
        }
      } catch (IOException | RuntimeException e) {
        fallen.put(
            key, new Fallen(false, "whether it stayed up can't be told (" + e.getMessage() + ")"));
      }
    });
    return fallen;
  }

  /** Lets all of them go. */
  @Override
  public void close() {
    Map<String, Member> all;
    synchronized (this) {
      closed = true;
      all = new LinkedHashMap<>(up);
      up.clear();
    }
    all.values().forEach(UpMembers::close);
  }

  private static void close(Member member) {
    member.stays().end();
    try {
      member.restored().close();
    } catch (IOException e) {
      // Its sandbox is removed with whatever is left in it.
    }
  }
}
