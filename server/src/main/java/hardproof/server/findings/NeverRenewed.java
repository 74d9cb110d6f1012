package hardproof.server.findings;

import hardproof.core.forecast.Forecast;
import hardproof.server.proof.Evaluated;
import java.util.List;

/** Tells which proofs that are demanded nothing will renew. */
public interface NeverRenewed {
  /** As foreseen at the instant of an evaluation, by the programmes of then. */
  List<Forecast.Gap> in(Evaluated evaluated);
}
