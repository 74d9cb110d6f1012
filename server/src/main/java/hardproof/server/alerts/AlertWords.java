package hardproof.server.alerts;

import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Locale;

/** What a message says. */
final class AlertWords {
  private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern(
          "d MMM yyyy HH:mm 'UTC'", Locale.ENGLISH)
      .withZone(ZoneOffset.UTC);

  private AlertWords() {}

  /** One line, whatever things are called. */
  static String subject(Alert alert, MessageStore.What what) {
    String begin = switch (what) {
      case OPENED -> "";
      case AGAIN -> "Still: ";
      case CLOSED -> "Over: ";
    };
    return (begin + alert.kind().words() + ": " + alert.name()).replaceAll("\\p{Cntrl}+", " ");
  }

  /**
   * @param address of this server, as others find it
   */
  static String body(Alert alert, MessageStore.What what, String address) {
    StringBuilder body = new StringBuilder(alert.whole()).append("\n\n");
    if (what == MessageStore.What.CLOSED) {
      body.append("Its cause is gone; it closed by itself.\n");
    }
    body.append("Open since ").append(TIME.format(alert.openedAt())).append(".\n");
    if (alert.tier() != null) {
      body.append("Tier ").append(alert.tier()).append(".\n");
    }
    return body.append('\n').append(address).append(alert.link()).append('\n').toString();
  }
}
