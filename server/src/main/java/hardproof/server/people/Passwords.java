package hardproof.server.people;

import hardproof.server.web.Refused;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * What a password must be (NIST SP 800-63B section 5.1.1.2): long enough, none of those that are tried
 * first, not one's own name; no rule about its characters.
 */
final class Passwords {
  static final int LEAST = 12;

  /** The hash takes no more bytes than these (bcrypt). */
  private static final int MOST_BYTES = 72;

  private static final Set<String> COMMON = common();

  private Passwords() {}

  private static Set<String> common() {
    try (BufferedReader lines = new BufferedReader(new InputStreamReader(
        Passwords.class.getResourceAsStream("/people/common-passwords.txt"),
        StandardCharsets.UTF_8))) {
      return lines.lines().collect(Collectors.toUnmodifiableSet());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /**
   * @throws Refused with what is wrong with it
   */
  static void check(String password, String name) {
    String small = password.toLowerCase(Locale.ROOT);
    if (password.codePointCount(0, password.length()) < LEAST) {
      throw new Refused("The password is too short: at least " + LEAST + " characters.");
    }
    if (password.getBytes(StandardCharsets.UTF_8).length > MOST_BYTES) {
      throw new Refused("The password is too long: at most " + MOST_BYTES + " bytes.");
    }
    boolean few = small.chars().distinct().count() < 4;
    if (few || COMMON.contains(small)) {
      throw new Refused("This password is one of those that are tried first; choose another.");
    }
    if (name.length() > 2 && small.contains(name.toLowerCase(Locale.ROOT))) {
      throw new Refused("The password holds the sign-in name; choose another.");
    }
  }
}
