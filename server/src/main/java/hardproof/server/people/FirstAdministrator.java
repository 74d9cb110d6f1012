package hardproof.server.people;

import hardproof.server.web.Refused;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.SecureRandom;
import org.springframework.security.crypto.password.PasswordEncoder;

/**
 * Makes the first administrator from a one-time code that only whoever sees the console knows. The
 * code lives as long as the process and works once.
 */
public final class FirstAdministrator {
  private static final String LETTERS = "ABCDEFGHJKMNPQRSTUVWXYZ23456789";
  private static final int CODE_LENGTH = 12;

  private final PeopleStore people;
  private final PasswordEncoder passwords;
  private final String code;

  public FirstAdministrator(PeopleStore people, PasswordEncoder passwords) {
    this.people = people;
    this.passwords = passwords;
    SecureRandom random = new SecureRandom();
    StringBuilder made = new StringBuilder();
    for (int i = 0; i < CODE_LENGTH; i++) {
      made.append(i > 0 && i % 4 == 0 ? "-" : "")
          .append(LETTERS.charAt(random.nextInt(LETTERS.length())));
    }
    code = made.toString();
  }

  /** Nobody can sign in yet. */
  public boolean needed() {
    return people.all().isEmpty();
  }

  /** For the console, and only there. */
  public String code() {
    return code;
  }

  /**
   * @throws Refused when the code is wrong, the password too short, or there is somebody already
   */
  public void make(String givenCode, String name, String fullName, String password) {
    byte[] given =
        givenCode.strip().toUpperCase(java.util.Locale.ROOT).getBytes(StandardCharsets.UTF_8);
    if (!MessageDigest.isEqual(given, code.getBytes(StandardCharsets.UTF_8))) {
      throw new Refused(
          "That is not the code. It stands on the console of the process that was started last.");
    }
    PeopleDesk.checkName(name);
    Passwords.check(password, name);
    Person person = administrator(name, fullName, password);
    if (!people.addFirst(person)) {
      throw new Refused("There is an administrator already; sign in.");
    }
  }

  private Person administrator(String name, String fullName, String password) {
    return new Person(
        name,
        fullName.isBlank() ? name : fullName.strip(),
        Role.ADMINISTRATOR,
        passwords.encode(password),
        false);
  }
}
