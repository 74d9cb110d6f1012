package hardproof.core.forecast;

import hardproof.core.programmes.Capacity;
import hardproof.core.schedule.HoursOfDay;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** What each night of a forecast is filled with. What goes on by day counts to the night before. */
final class NightBook {
  private final List<Entry> nights = new ArrayList<>();
  private int at;

  private static final class Entry {
    final HoursOfDay.Open open;
    final int atOnce;
    int drills;
    long bytes;
    double busyMs;

    Entry(HoursOfDay.Open open, int atOnce) {
      this.open = open;
      this.atOnce = atOnce;
    }

    Forecast.Night night() {
      return new Forecast.Night(
          open.opens(),
          open.closes(),
          drills,
          Duration.ofMillis(Math.round(busyMs)),
          open.length().multipliedBy(atOnce),
          bytes);
    }
  }

  NightBook(Capacity capacity, Instant from, Instant until) {
    HoursOfDay.Open open = capacity.night(from);
    do {
      nights.add(new Entry(open, capacity.atOnce()));
      open = capacity.night(open.closes());
    } while (open.opens().isBefore(until));
  }

  /** Time only goes on. */
  private Entry of(long instant) {
    while (at + 1 < nights.size() && nights.get(at + 1).open.opens().toEpochMilli() <= instant) {
      at++;
    }
    return nights.get(at);
  }

  void busy(long since, long to, int drills) {
    if (drills > 0) {
      // A stretch that goes over an opening counts to the night in which it began.
      of(since).busyMs += (double) (to - since) * drills;
    }
  }

  void begun(long instant, long bytes) {
    Entry night = of(instant);
    night.drills++;
    night.bytes += bytes;
  }

  List<Forecast.Night> nights() {
    return nights.stream().map(Entry::night).toList();
  }
}
