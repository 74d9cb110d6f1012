package hardproof.server.people;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Somebody who is known here.
 *
 * @param passwordHash {@link #NO_PASSWORD} until one is set by a link
 * @param demo shown on the sign-in page of the demo estate
 * @param endedAt since when they can't sign in any more; null while they can
 */
public record Person(
    String name,
    String fullName,
    Role role,
    String passwordHash,
    boolean demo,
    @Nullable Instant endedAt) {
  /** No password has this hash. */
  static final String NO_PASSWORD = "!";

  public Person(String name, String fullName, Role role, String passwordHash, boolean demo) {
    this(name, fullName, role, passwordHash, demo, null);
  }

  public boolean active() {
    return endedAt == null;
  }

  boolean hasPassword() {
    return !passwordHash.equals(NO_PASSWORD);
  }
}
