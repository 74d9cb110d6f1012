package hardproof.proving.databases;

import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.regex.Pattern;

/** Times as databases hold them. What names no zone is taken as UTC. */
final class DataTimes {
  private static final Pattern SHORT_OFFSET = Pattern.compile("[+-]\\d\\d$");

  private DataTimes() {}

  /**
   * RFC 3339, {@code 2026-11-24 09:00:00.123}, {@code 2026-11-24 09:00:00+00} as PostgreSQL writes it, a
   * date, or epoch seconds or milliseconds; null when it is none of these.
   */
  static Instant read(String text) {
    String t = text.strip();
    try {
      if (t.matches("-?\\d{1,15}(\\.\\d+)?")) {
        return sinceEpoch(t);
      }
      if (t.matches("\\d{4}-\\d\\d-\\d\\d")) {
        return LocalDate.parse(t).atStartOfDay(ZoneOffset.UTC).toInstant();
      }
      return iso(t);
    } catch (DateTimeException e) {
      return null;
    }
  }

  private static Instant sinceEpoch(String t) {
    long whole = Long.parseLong(t.contains(".") ? t.substring(0, t.indexOf('.')) : t);
    // Seconds until the year 5138; beyond that it can only be milliseconds.
    return Math.abs(whole) < 100_000_000_000L
        ? Instant.ofEpochSecond(whole)
        : Instant.ofEpochMilli(whole);
  }

  private static Instant iso(String t) {
    String iso = t.replace(' ', 'T');
    if (SHORT_OFFSET.matcher(iso).find() && iso.length() > 13) {
      iso += ":00";
    }
    return iso.matches(".*(Z|[+-]\\d\\d:\\d\\d)$")
        ? OffsetDateTime.parse(iso).toInstant()
        : LocalDateTime.parse(iso).toInstant(ZoneOffset.UTC);
  }
}
