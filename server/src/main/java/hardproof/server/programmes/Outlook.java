package hardproof.server.programmes;

import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.forecast.Forecaster;
import hardproof.core.forecast.Renewals;
import hardproof.core.programmes.Admission;
import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.ProgrammeTerms;
import hardproof.core.schedule.Recurrence;
import hardproof.server.drills.DrillOrders;
import hardproof.server.proof.Evaluated;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Collectors;

/** What programmes are going to do: their starts, the nights ahead, and which drill that waits begins next. */
public final class Outlook {
  private final ProgrammeStore store;
  private final CapacityStore capacities;
  private final RefusedStore refused;
  private final DrillOrders orders;

  public Outlook(
      ProgrammeStore store, CapacityStore capacities, RefusedStore refused, DrillOrders orders) {
    this.store = store;
    this.capacities = capacities;
    this.refused = refused;
    this.orders = orders;
  }

  /** Decides which of the runs that wait begins next, by the programmes and the capacity of now. */
  public Admission admission(Instant now) {
    return new Admission(
        capacities.at(now).capacity(),
        store.all().stream().collect(Collectors.toMap(Programme::key, Programme::terms)));
  }

  /** Whether a store, by key, can be read from here; each is looked at once. */
  public Predicate<String> readable(Estate estate) {
    Map<String, Boolean> known = new ConcurrentHashMap<>();
    return key -> known.computeIfAbsent(key, k -> {
      Store of = estate.store(k);
      return of != null && orders.reachable(of);
    });
  }

  /** Looks ahead from what is known now. */
  public Forecaster forecaster(Evaluated of, List<Programme> programmes) {
    return forecasting(of).apply(programmes.stream().map(Programme::terms).toList());
  }

  /** The same, by what programmes are said to be. What one could not drill may do when it drills in another way. */
  public Function<List<ProgrammeTerms>, Forecaster> forecasting(Evaluated of) {
    Map<String, Map<String, String>> known = refused.by(of.estate().asAt());
    Map<String, ProgrammeTerms> tried = store.at(of.estate().asAt()).stream()
        .filter(p -> known.containsKey(p.key()))
        .collect(Collectors.toMap(Programme::key, Programme::terms));
    Predicate<String> readable = readable(of.estate());
    return terms -> new Forecaster(
        of.estate(),
        of.evaluation(),
        terms,
        readable,
        (programme, resource) -> programme.drillsLike(tried.get(programme.key()))
            ? known.get(programme.key()).get(resource)
            : null);
  }

  /** When a programme starts: by its rule, or whenever its hours begin. */
  public static Recurrence starts(ProgrammeTerms terms, Capacity capacity) {
    return terms.asNeeded()
        ? Renewals.openings(capacity, terms)
        : terms.timing().rule();
  }

  /** A start that is to come. */
  public record Ahead(Programme programme, Instant due) {}

  /** The starts by rule that are due in (now, until], soonest first, at most {@code atMost} a programme. */
  public List<Ahead> ahead(List<Programme> of, Instant now, Instant until, int atMost) {
    List<Ahead> ahead = new ArrayList<>();
    Capacity capacity = capacities.at(now).capacity();
    for (Programme programme : of) {
      Recurrence recurrence = starts(programme.terms(), capacity);
      Instant at = now;
      for (int i = 0; i < atMost; i++) {
        Optional<Instant> next = recurrence.nextAfter(at);
        if (next.isEmpty() || next.get().isAfter(until)) {
          break;
        }
        at = next.get();
        ahead.add(new Ahead(programme, at));
      }
    }
    ahead.sort(Comparator.comparing(Ahead::due));
    return ahead;
  }
}
