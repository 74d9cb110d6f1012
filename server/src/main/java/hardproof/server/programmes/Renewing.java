package hardproof.server.programmes;

import hardproof.core.forecast.Forecast;
import hardproof.core.forecast.Forecaster;
import hardproof.server.findings.NeverRenewed;
import hardproof.server.proof.Evaluated;
import hardproof.server.storage.Database;
import hardproof.server.storage.Soon;
import java.time.Duration;
import java.time.Instant;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.WeakHashMap;
import org.jspecify.annotations.Nullable;

/**
 * Which proofs nothing will renew; worked out once for each evaluation. Whoever has to give an answer is answered from
 * the evaluation just before while it is worked out.
 */
public final class Renewing implements NeverRenewed {
  private static final Duration PATIENT = Duration.ofMillis(60);
  private static final Duration JUST_BEFORE = Duration.ofMinutes(10);

  private final ProgrammeStore programmes;
  private final CapacityStore capacities;
  private final Outlook ahead;
  private final Map<Evaluated, List<Forecast.Gap>> known =
      Collections.synchronizedMap(new WeakHashMap<>());
  private final Soon soon = new Soon("renewing", 1);
  private volatile @Nullable Last last;

  private record Last(Instant asAt, List<Forecast.Gap> gaps) {}

  public Renewing(ProgrammeStore programmes, CapacityStore capacities, Outlook ahead) {
    this.programmes = programmes;
    this.capacities = capacities;
    this.ahead = ahead;
  }

  @Override
  public List<Forecast.Gap> in(Evaluated evaluated) {
    List<Forecast.Gap> gaps = known.get(evaluated);
    if (gaps != null) {
      return gaps;
    }
    Last before = last;
    return Database.impatient() && before != null && justBefore(before, evaluated)
        ? soon.orBefore(() -> workedOut(evaluated), before.gaps(), PATIENT)
        : workedOut(evaluated);
  }

  private static boolean justBefore(Last before, Evaluated evaluated) {
    Duration apart = Duration.between(before.asAt(), evaluated.estate().asAt());
    return !apart.isNegative() && apart.compareTo(JUST_BEFORE) < 0;
  }

  private synchronized List<Forecast.Gap> workedOut(Evaluated evaluated) {
    List<Forecast.Gap> gaps = known.get(evaluated);
    if (gaps == null) {
      gaps = foreseen(evaluated);
      known.put(evaluated, gaps);
      Instant asAt = evaluated.estate().asAt();
      if (last == null || asAt.isAfter(last.asAt())) {
        last = new Last(asAt, gaps);
      }
    }
    return gaps;
  }

  private List<Forecast.Gap> foreseen(Evaluated evaluated) {
    Instant at = evaluated.estate().asAt();
    return ahead
        .forecaster(evaluated, programmes.at(at))
        .forecast(capacities.at(at).capacity(), Forecaster.AHEAD)
        .neverRenewed();
  }
}
