package hardproof.core.recipes;

import hardproof.core.wording.WrongValue;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** How the times of a report are written. */
final class TimeGuess {
  /** Another machine's clock may be ahead. */
  private static final Duration AHEAD = Duration.ofDays(1);

  private static final Instant FIRST = Instant.parse("1990-01-01T00:00:00Z");

  /** Usual ways, common practice, no source; an empty one is RFC 3339 or local time that is written so. */
  private static final List<String> WAYS = List.of(
      "",
      "yyyy-M-d H:mm[:ss][.SSS]",
      "yyyy-M-d H:mm:ss[.SSSSSS] xxx",
      "yyyy-M-d H:mm:ss[.SSSSSS] xx",
      "yyyy-M-d H:mm:ss[.SSSSSS]x",
      "d.M.yyyy H:mm[:ss]",
      "d.M.yyyy[,] H:mm[:ss]",
      "d/M/yyyy H:mm[:ss]",
      "M/d/yyyy H:mm[:ss]",
      "d/M/yyyy h:mm[:ss] a",
      "M/d/yyyy h:mm[:ss] a",
      "d-M-yyyy H:mm[:ss]",
      "d-MMM-yyyy H:mm[:ss]",
      "d MMM yyyy H:mm[:ss]",
      "d MMM yyyy[,] H:mm[:ss]",
      "MMM d, yyyy h:mm[:ss] a",
      "MMM d, yyyy H:mm[:ss]",
      "EEE MMM d H:mm:ss yyyy",
      "EEE, d MMM yyyy H:mm:ss xx",
      "yyyy/M/d H:mm[:ss]",
      "yyyyMMdd HHmm[ss]",
      "yyyyMMdd'T'HHmmssX",
      "yyyyMMddHHmmss",
      "yyyy-M-d",
      "d.M.yyyy",
      "d/M/yyyy",
      "M/d/yyyy",
      TimeReading.SECONDS,
      TimeReading.MILLISECONDS);

  private TimeGuess() {}

  /**
   * @param other that fits too, and means other times; null where there is none
   */
  record Guessed(TimeReading reading, @Nullable TimeReading other) {}

  /**
   * Null where no way reads all of them. Where days and months can't be told apart, the way that puts them closer together
   * is taken, and none that lies in the future: reports tell of a short time.
   */
  static @Nullable Guessed of(List<String> values, ZoneId zone, Instant now) {
    record Fit(TimeReading reading, Duration span, boolean future, List<Instant> times) {}
    List<Fit> fits = new ArrayList<>();
    for (String way : values.isEmpty() ? List.<String>of() : WAYS) {
      TimeReading reading = reading(way, zone);
      List<Instant> times = read(values, reading);
      if (times != null) {
        Instant first = times.stream().min(Instant::compareTo).orElseThrow();
        Instant last = times.stream().max(Instant::compareTo).orElseThrow();
        fits.add(
            new Fit(reading, Duration.between(first, last), last.isAfter(now.plus(AHEAD)), times));
      }
    }
    Fit best = null;
    for (Fit fit : fits) {
      boolean better = best == null
          || best.future() && !fit.future()
          || best.future() == fit.future() && fit.span().compareTo(best.span()) < 0;
      best = better ? fit : best;
    }
    if (best == null) {
      return null;
    }
    Fit chosen = best;
    TimeReading other = fits.stream()
        .filter(f -> !f.times().equals(chosen.times()))
        .map(Fit::reading)
        .findFirst()
        .orElse(null);
    return new Guessed(chosen.reading(), other);
  }

  private static TimeReading reading(String way, ZoneId zone) {
    boolean all = way.startsWith("epoch-") || !way.isEmpty() && TimeReading.saysOffset(way);
    return new TimeReading(all ? null : zone.getId(), way.isEmpty() ? null : way);
  }

  private static @Nullable List<Instant> read(List<String> values, TimeReading reading) {
    List<Instant> times = new ArrayList<>();
    for (String value : values) {
      try {
        Instant at = reading.instant(value);
        if (at.isBefore(FIRST)) {
          return null;
        }
        times.add(at);
      } catch (WrongValue e) {
        return null;
      }
    }
    return times;
  }

  /** Whether all are times by one way. */
  static boolean times(List<String> values) {
    return of(values, java.time.ZoneOffset.UTC, Instant.MAX.minus(Duration.ofDays(2))) != null;
  }
}
