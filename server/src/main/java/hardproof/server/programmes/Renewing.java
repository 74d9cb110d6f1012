package hardproof.server.programmes;

import hardproof.core.forecast.Forecast;
import hardproof.core.forecast.Forecaster;
import hardproof.server.findings.NeverRenewed;
import hardproof.server.proof.Evaluated;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.WeakHashMap;

/** Which proofs nothing will renew; worked out once for each evaluation. */
public final class Renewing implements NeverRenewed {
  private final ProgrammeStore programmes;
  private final CapacityStore capacities;
  private final Outlook ahead;
  private final Map<Evaluated, List<Forecast.Gap>> known = new WeakHashMap<>();

  public Renewing(ProgrammeStore programmes, CapacityStore capacities, Outlook ahead) {
    this.programmes = programmes;
    this.capacities = capacities;
    this.ahead = ahead;
  }

  @Override
  public synchronized List<Forecast.Gap> in(Evaluated evaluated) {
    return known.computeIfAbsent(evaluated, this::foreseen);
  }

  private List<Forecast.Gap> foreseen(Evaluated evaluated) {
    Instant at = evaluated.estate().asAt();
    return ahead
        .forecaster(evaluated, programmes.at(at))
        .forecast(capacities.at(at).capacity(), Forecaster.AHEAD)
        .neverRenewed();
  }
}
