package hardproof.server.people;

import hardproof.core.wording.Coded;
import hardproof.proving.checksums.Sha256;
import hardproof.server.activity.Activity;
import hardproof.server.web.Conflict;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import java.nio.charset.StandardCharsets;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import org.springframework.security.crypto.password.PasswordEncoder;

/**
 * Adds, changes and ends people. Nobody sets another's password: a link that works once does, and only its
 * checksum is kept. An administrator who can sign in always stays.
 */
public final class PeopleDesk {
  static final Duration LINK_LASTS = Duration.ofDays(7);

  private final PeopleStore people;
  private final PasswordEncoder passwords;
  private final Activity activity;
  private final Clock clock;
  private final SecureRandom random = new SecureRandom();

  public PeopleDesk(PeopleStore people, PasswordEncoder passwords, Activity activity, Clock clock) {
    this.people = people;
    this.passwords = passwords;
    this.activity = activity;
    this.clock = clock;
  }

  /** A link that sets a password: shown once, to who made it. */
  public record Link(String name, String token, Instant until) {
    /** Behind the address of the server. What follows the # is sent to nobody. */
    public String path() {
      return "/set-password#" + token;
    }
  }

  /** Everybody, those who have ended too, by name. */
  public List<Person> all() {
    return people.all();
  }

  /** The role of a name. */
  public static Role role(String code) {
    return Coded.find(Role.class, code)
        .orElseThrow(() -> new Refused(
            "'" + code + "' is no role; choose one of " + Coded.codes(Role.class) + "."));
  }

  static void checkName(String name) {
    if (!name.matches("[\\p{L}\\p{N}._@-]{1,64}")) {
      throw new Refused("The sign-in name may have letters, digits and . _ @ - only.");
    }
  }

  private Person known(String name) {
    return people
        .locked(name)
        .orElseThrow(() -> new NotFound("Nobody is called '" + name + "' here."));
  }

  private Person activePerson(String name) {
    Person person = known(name);
    if (!person.active()) {
      throw new Refused("'" + person.name() + "' has ended. Add them under another name, so that"
          + " what was done under this one stays theirs.");
    }
    return person;
  }

  /** Adds somebody who sets their own password by the link. */
  public Link add(String name, String fullName, Role role, String by) {
    checkName(name);
    String whole = wholeName(name, fullName);
    return people.decide(() -> {
      if (people.locked(name).isPresent()) {
        throw new Conflict("There is, or was, somebody called '" + name
            + "'. Choose another sign-in name: what was done under this one stays theirs.");
      }
      people.add(new Person(name, whole, role, Person.NO_PASSWORD, false));
      activity.record(by, "person added", name, role.code());
      return link(name, by);
    });
  }

  private static String wholeName(String name, String fullName) {
    String whole = fullName == null || fullName.isBlank() ? name : fullName.strip();
    if (whole.length() > 200 || whole.chars().anyMatch(Character::isISOControl)) {
      throw new Refused("The full name is one line of at most 200 characters.");
    }
    return whole;
  }

  /** Makes a link for somebody who has lost their password; the old one works no more. */
  public Link reset(String name, String by) {
    return reset(name, by, true);
  }

  /**
   * As {@link #reset}, also for the last administrator: for whoever has the data folder in hand, when the
   * last password is lost.
   */
  public Link resetEvenTheLast(String name, String by) {
    return reset(name, by, false);
  }

  private Link reset(String name, String by, boolean keepOne) {
    return people.decide(() -> {
      Person person = activePerson(name);
      if (keepOne) {
        keepOneAdministrator(person, "reset");
      }
      people.password(person.name(), Person.NO_PASSWORD);
      activity.record(by, "password reset", person.name(), "");
      return link(person.name(), by);
    });
  }

  private Link link(String name, String by) {
    byte[] secret = new byte[32];
    random.nextBytes(secret);
    String token = HexFormat.of().formatHex(secret);
    Instant now = clock.instant();
    Instant until = now.plus(LINK_LASTS);
    people.link(hash(token), name, by, now, until);
    return new Link(name, token, until);
  }

  private static String hash(String token) {
    return Sha256.of(token.getBytes(StandardCharsets.UTF_8));
  }

  /** Gives somebody another role. Their sessions end. */
  public void change(String name, Role role, String by) {
    people.decide(() -> {
      Person person = activePerson(name);
      if (role != Role.ADMINISTRATOR) {
        keepOneAdministrator(person, "made " + role.code());
      }
      people.role(person.name(), role);
      activity.record(
          by, "role changed", person.name(), person.role().code() + " to " + role.code());
      return null;
    });
  }

  /** Lets somebody sign in no more. What they did stays under their name. */
  public void end(String name, String by) {
    people.decide(() -> {
      Person person = activePerson(name);
      keepOneAdministrator(person, "ended");
      people.end(person.name(), clock.instant());
      activity.record(by, "person ended", person.name(), "");
      return null;
    });
  }

  private void keepOneAdministrator(Person person, String what) {
    if (person.role() == Role.ADMINISTRATOR && people.otherAdministrators(person.name()) == 0) {
      throw new Refused(
          "'" + person.name() + "' is the last administrator who can sign in, and can't be " + what
              + ". Make another person administrator first.");
    }
  }

  /** Whose password a link would set. */
  Optional<String> linked(String token) {
    return people.linked(hash(token), clock.instant());
  }

  /** Sets a password by a link, which works once. */
  String setByLink(String token, String password) {
    return people.decide(() -> {
      String name = nameLinked(token);
      Passwords.check(password, name);
      if (!people.use(hash(token), clock.instant())) {
        throw new Refused("This link was used just now.");
      }
      people.password(name, passwords.encode(password));
      activity.record(name, "password set", name, "by a link");
      return name;
    });
  }

  private String nameLinked(String token) {
    return people
        .linked(hash(token), clock.instant())
        .orElseThrow(() -> new Refused("This link was used, is older than "
            + LINK_LASTS.toDays()
            + " days, or was replaced by another. Ask an administrator for a"
            + " new one."));
  }

  /** Changes one's own password; other sessions of theirs end. */
  void changeOwn(String name, String old, String password) {
    Person person = activePerson(name);
    if (!passwords.matches(old, person.passwordHash())) {
      throw new Refused("The old password is wrong.");
    }
    Passwords.check(password, name);
    String hash = passwords.encode(password);
    people.decide(() -> {
      people.password(person.name(), hash);
      activity.record(name, "password changed", name, "");
      return null;
    });
  }

  private Person active(String name) {
    return people
        .find(name)
        .filter(Person::active)
        .orElseThrow(() -> new NotFound("Nobody is called '" + name + "'."));
  }
}
