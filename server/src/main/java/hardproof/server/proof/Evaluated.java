package hardproof.server.proof;

import hardproof.core.criteria.Standard;
import hardproof.core.facts.Estate;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;

/** The facts at an instant with their evaluation, which is made when it is first asked for. */
public final class Evaluated {
  private final Estate estate;
  private final Standard standard;
  private Evaluation evaluation;

  Evaluated(Estate estate, Standard standard) {
    this.estate = estate;
    this.standard = standard;
  }

  public Estate estate() {
    return estate;
  }

  /** Always the same one. */
  public synchronized Evaluation evaluation() {
    if (evaluation == null) {
      evaluation = Evaluator.evaluate(estate, standard);
    }
    return evaluation;
  }
}
