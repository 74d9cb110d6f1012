package hardproof.server.calendar;

import hardproof.core.estate.AcceptedException;
import hardproof.core.forecast.Forecast;
import hardproof.core.forecast.Forecaster;
import hardproof.core.programmes.Capacity;
import hardproof.core.wording.Wording;
import hardproof.server.programmes.CapacityStore;
import hardproof.server.programmes.Outlook;
import hardproof.server.programmes.Programme;
import hardproof.server.programmes.ProgrammeStore;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import hardproof.server.web.NotFound;
import io.swagger.v3.oas.annotations.Operation;
import java.security.Principal;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What is to come, for any calendar: an address of one's own, which can be ended. */
@RestController
class CalendarController {
  private final CalendarTokens tokens;
  private final ProgrammeStore programmes;
  private final CapacityStore capacities;
  private final Outlook ahead;
  private final Evaluations evaluations;
  private final Clock clock;

  CalendarController(
      CalendarTokens tokens,
      ProgrammeStore programmes,
      CapacityStore capacities,
      Outlook ahead,
      Evaluations evaluations,
      Clock clock) {
    this.tokens = tokens;
    this.programmes = programmes;
    this.capacities = capacities;
    this.ahead = ahead;
    this.evaluations = evaluations;
    this.clock = clock;
  }

  /**
   * One's own address.
   *
   * @param madeAt when it was made; absent when there is none
   * @param path of the address, told once, when it is made
   */
  record OwnCalendar(@Nullable Instant madeAt, @Nullable String path) {}

  @Operation(summary = "Whether one has a calendar address")
  @GetMapping("/api/own-calendar")
  OwnCalendar own(Principal person) {
    return new OwnCalendar(tokens.madeAt(person.getName()).orElse(null), null);
  }

  @Operation(summary = "Make one's calendar address, in place of the one before; it is told once")
  @PostMapping("/api/own-calendar")
  OwnCalendar make(Principal person) {
    Instant now = clock.instant();
    String token = tokens.make(person.getName(), now);
    return new OwnCalendar(now, "/calendars/" + token + ".ics");
  }

  @Operation(summary = "End one's calendar address")
  @DeleteMapping("/api/own-calendar")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void end(Principal person) {
    if (!tokens.end(person.getName())) {
      throw new NotFound("You have no calendar address.");
    }
  }

  /** Read by programs that can't sign in: the token is the proof. */
  @Operation(summary = "A calendar by its address")
  @GetMapping(value = "/calendars/{token}.ics", produces = "text/calendar;charset=UTF-8")
  String calendar(@PathVariable String token) {
    tokens.whose(token).orElseThrow(() -> new NotFound("There is no such calendar."));
    Evaluated facts = evaluations.now();
    Capacity capacity = capacities.at(facts.estate().asAt()).capacity();
    List<Programme> all = programmes.all();
    Forecast forecast = ahead.forecaster(facts, all).forecast(capacity, Forecaster.AHEAD);
    CalendarFile file = new CalendarFile("Hard Proof", facts.estate().asAt());
    all.stream().filter(p -> p.when().rule() != null).forEach(p -> rule(file, p));
    asNeeded(file, all, forecast, capacity);
    lapses(file, forecast);
    facts.estate().facts().exceptions().stream()
        .filter(e -> e.validAt(facts.estate().asAt()) && e.until() != null)
        .forEach(e -> exception(file, e));
    return file.text();
  }

  private void rule(CalendarFile file, Programme p) {
    Instant before = p.when().begins().minusMillis(1);
    p.terms()
        .timing()
        .rule()
        .nextAfter(before)
        .ifPresent(first -> file.recurring(
            "programme-" + p.key(),
            p.name(),
            "Drills " + p.scope().words() + ", shows " + p.how().showing().words() + ".",
            first,
            ZoneId.of(p.when().zone()),
            p.when().rule().replaceFirst("(?i)^RRULE:", "")));
  }

  private static void asNeeded(
      CalendarFile file, List<Programme> all, Forecast forecast, Capacity capacity) {
    Map<String, Programme> needed = all.stream()
        .filter(p -> p.when().rule() == null)
        .collect(Collectors.toMap(Programme::key, p -> p));
    Map<String, List<Forecast.Start>> nights = forecast.starts().stream()
        .filter(s -> needed.containsKey(s.programme()))
        .collect(Collectors.groupingBy(
            s -> s.programme() + " " + capacity.night(s.at()).opens(),
            TreeMap::new,
            Collectors.toList()));
    nights.forEach((night, starts) -> file.event(
        "night-" + night,
        needed.get(starts.get(0).programme()).name() + ": "
            + Wording.count(starts.size(), "drill", "drills"),
        starts.stream().map(Forecast.Start::resource).collect(Collectors.joining(", ")),
        starts.get(0).at(),
        Duration.between(starts.get(0).at(), capacity.night(starts.get(0).at()).closes())));
  }

  private static void lapses(CalendarFile file, Forecast forecast) {
    for (Forecast.Gap gap : forecast.gaps()) {
      if (gap.lapsing()) {
        file.event(
            "lapse-" + gap.resource() + "-" + gap.from(),
            "The proof of " + gap.name() + " lapses",
            gap.sentence(),
            gap.from(),
            null);
      }
    }
  }

  private static void exception(CalendarFile file, AcceptedException e) {
    file.event(
        "exception-" + e.key(),
        "The exception for " + e.scope().words() + " ends",
        e.reason(),
        e.until(),
        null);
  }
}
