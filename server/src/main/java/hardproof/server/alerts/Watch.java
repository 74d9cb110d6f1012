package hardproof.server.alerts;

import hardproof.core.alerts.AlertKind;
import hardproof.core.estate.Selector;
import hardproof.core.wording.Coded;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Who is told of what, and how.
 *
 * @param kinds of alerts; empty for all
 * @param scope of the resources that they are about; an alert of none is only told where it is everything
 * @param recipient of the bell {@code everybody}, a role, or {@code @} with the
 *     name of one person; of mail an address or {@code owner}; of a webhook its address
 * @param after how long an alert is open before it is told
 * @param repeat how often it is told again while nobody acknowledges it; null for once
 * @param quiet when nothing is sent; null for never
 */
public record Watch(
    long id,
    String name,
    Set<AlertKind> kinds,
    Selector scope,
    How how,
    String recipient,
    Duration after,
    @Nullable Duration repeat,
    @Nullable Quiet quiet,
    boolean active) {
  public static final String EVERYBODY = "everybody";
  public static final String OWNER = "owner";
  static final String PERSON = "@";

  /** How somebody is told. */
  public enum How implements Coded {
    BELL,
    MAIL,
    WEBHOOK
  }

  /** Hours of the day in which nothing is sent; over midnight where they end before they begin. */
  public record Quiet(LocalTime from, LocalTime until, ZoneId zone) {
    /** The first instant from then on at which something may be sent. */
    Instant over(Instant at) {
      ZonedDateTime local = at.atZone(zone);
      LocalTime time = local.toLocalTime();
      boolean overnight = !from.isBefore(until);
      boolean within = overnight
          ? !time.isBefore(from) || time.isBefore(until)
          : !time.isBefore(from) && time.isBefore(until);
      if (!within) {
        return at;
      }
      boolean tomorrow = overnight && !time.isBefore(from);
      return local
          .toLocalDate()
          .plusDays(tomorrow ? 1 : 0)
          .atTime(until)
          .atZone(zone)
          .toInstant();
    }
  }

  /** How one person is named on the bell. */
  static String person(String name) {
    return PERSON + name;
  }

  /** Whether it rings for a person. */
  boolean ringsFor(String name, String role) {
    return how == How.BELL
        && (recipient.equals(EVERYBODY)
            || recipient.equals(role)
            || recipient.equals(person(name)));
  }

  boolean wants(AlertKind kind) {
    return kinds.isEmpty() || kinds.contains(kind);
  }
}
