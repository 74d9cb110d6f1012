package hardproof.server.fetching;

import hardproof.core.wording.Coded;
import hardproof.core.wording.Wording;
import hardproof.core.wording.WrongValue;
import java.net.URI;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Where a feed is fetched, and how often.
 *
 * @param address by HTTPS
 * @param user for a password; null for a token or nothing
 * @param recipe name of the one that reads it; null for that of the feed's name, where there is one
 * @param file what it is called as a file, with its ending; null to go by what is answered
 */
public record Fetch(
    String feed,
    URI address,
    Way way,
    @Nullable String user,
    Duration every,
    @Nullable String recipe,
    @Nullable String file) {
  static final Duration LEAST = Duration.ofMinutes(1);
  static final Duration MOST = Duration.ofDays(366);
  private static final int LONGEST = 2000;

  /** How it is said there who asks. */
  public enum Way implements Coded {
    NOTHING,
    TOKEN,
    PASSWORD
  }

  /**
   * @throws WrongValue with what can't be right
   */
  public Fetch {
    if (!"https".equalsIgnoreCase(address.getScheme()) || address.getHost() == null) {
      throw new WrongValue("'" + address + "' is fetched from nowhere: write https://host/path");
    }
    if (address.getRawUserInfo() != null) {
      throw new WrongValue("what opens an address does not stand in it; give it apart");
    }
    if (every.compareTo(LEAST) < 0 || every.compareTo(MOST) > 0) {
      throw new WrongValue("a feed is fetched every " + Wording.duration(LEAST) + " to "
          + Wording.duration(MOST) + ", not every " + Wording.duration(every));
    }
    if (way == Way.PASSWORD && (user == null || user.isBlank() || user.contains(":"))) {
      throw new WrongValue("a password needs a user, whose name has no colon");
    }
    if (file != null && !file.matches("[^/\\\\\\p{Cntrl}]{1,200}")) {
      throw new WrongValue("'" + file + "' is no name of a file");
    }
  }

  static URI address(String text) {
    if (text.length() > LONGEST) {
      throw new WrongValue("an address has at most " + LONGEST + " characters");
    }
    try {
      return URI.create(text.strip());
    } catch (IllegalArgumentException e) {
      throw new WrongValue("'" + text + "' is no web address; write it as https://host/path", e);
    }
  }

  /**
   * How the newest try went.
   *
   * @param etag of what was taken last; null where none was given
   * @param said for people
   */
  public record Outcome(@Nullable String etag, Instant at, boolean failed, String said) {}
}
