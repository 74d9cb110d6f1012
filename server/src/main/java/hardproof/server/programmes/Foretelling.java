package hardproof.server.programmes;

import hardproof.core.forecast.Forecast;
import hardproof.core.programmes.Capacity;
import hardproof.core.schedule.HoursOfDay;
import hardproof.server.proof.Evaluated;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Supplier;
import java.util.stream.Collectors;

/** Holds the forecast to account: what it says of a night is kept before it begins, and laid beside what happened. */
public final class Foretelling {
  /** What is foretold is made anew so often until the night begins. */
  private static final Duration ANEW = Duration.ofHours(1);

  private static final Duration FAR = Duration.ofDays(3);

  private static final int NIGHTS = 14;

  private final ForetoldStore store;
  private final ProgrammeStore programmes;
  private final CapacityStore capacities;
  private final Outlook ahead;
  private final Supplier<Evaluated> evaluated;

  public Foretelling(
      ForetoldStore store,
      ProgrammeStore programmes,
      CapacityStore capacities,
      Outlook ahead,
      Supplier<Evaluated> evaluated) {
    this.store = store;
    this.programmes = programmes;
    this.capacities = capacities;
    this.ahead = ahead;
    this.evaluated = evaluated;
  }

  /**
   * A night that is over.
   *
   * @param begun resources that were drilled as foretold, by key
   * @param notBegun foretold and not drilled
   * @param unforeseen drilled and not foretold
   */
  public record Past(
      Instant opens, Set<String> begun, Set<String> notBegun, Set<String> unforeseen) {}

  /** Keeps what is foretold of the night to come, unless that was done a short while ago. */
  public void foretell(Instant now) {
    Capacity capacity = capacities.at(now).capacity();
    HoursOfDay.Open night = nightAfter(capacity, now);
    boolean fresh = store
        .of(night.opens())
        .filter(f -> Duration.between(f.madeAt(), now).compareTo(ANEW) < 0)
        .isPresent();
    if (!fresh) {
      Evaluated facts = evaluated.get();
      Duration far = Duration.between(facts.estate().asAt(), night.opens()).plus(FAR);
      Forecast forecast = ahead.forecaster(facts, programmes.all()).forecast(capacity, far);
      Instant until = nightAfter(capacity, night.opens()).opens();
      store.keep(new ForetoldStore.Foretold(
          night.opens(), now, begunIn(forecast.starts(), night.opens(), until), until));
    }
  }

  private static HoursOfDay.Open nightAfter(Capacity capacity, Instant at) {
    HoursOfDay.Open night = capacity.night(at);
    return night.opens().isAfter(at) ? night : capacity.night(night.closes());
  }

  private static Set<String> begunIn(List<Forecast.Start> starts, Instant from, Instant until) {
    return starts.stream()
        .filter(s -> !s.at().isBefore(from) && s.at().isBefore(until))
        .map(Forecast.Start::resource)
        .collect(Collectors.toCollection(TreeSet::new));
  }

  /** The last nights that are over, newest first. */
  public List<Past> past(Instant now) {
    Capacity capacity = capacities.at(now).capacity();
    return store.last(now, NIGHTS + 1).stream()
        .filter(f -> !until(f, capacity).isAfter(now))
        .limit(NIGHTS)
        .map(f -> past(f, until(f, capacity)))
        .toList();
  }

  /** As it was to be when it was foretold: hours that were changed since cut nothing of a night that is over. */
  private static Instant until(ForetoldStore.Foretold foretold, Capacity capacity) {
    return foretold.until() == null
        ? nightAfter(capacity, foretold.opens()).opens()
        : foretold.until();
  }

  private Past past(ForetoldStore.Foretold foretold, Instant until) {
    Set<String> happened = store.begun(foretold.opens(), until);
    Set<String> both = new TreeSet<>(foretold.resources());
    both.retainAll(happened);
    Set<String> notBegun = new TreeSet<>(foretold.resources());
    notBegun.removeAll(happened);
    happened.removeAll(foretold.resources());
    return new Past(foretold.opens(), both, notBegun, happened);
  }
}
