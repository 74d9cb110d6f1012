package hardproof.server.proof;

import hardproof.core.criteria.Standard;
import hardproof.core.facts.Estate;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import java.time.Duration;

/** The facts at an instant with their evaluation, which is made when it is first asked for. */
public final class Evaluated {
  private final Estate estate;
  private final Standard standard;
  private final long changes;
  private Evaluation evaluation;
  private volatile Duration took = Duration.ZERO;

  /**
   * @param changes how many changes there had been before the facts were read
   */
  Evaluated(Estate estate, Standard standard, long changes) {
    this.estate = estate;
    this.standard = standard;
    this.changes = changes;
  }

  /** With an evaluation that was made already. */
  Evaluated(Estate estate, Evaluation evaluation, long changes) {
    this(estate, evaluation.standard(), changes);
    this.evaluation = evaluation;
  }

  public Estate estate() {
    return estate;
  }

  public Standard standard() {
    return standard;
  }

  /** Every change up to this one is in it; perhaps more are. */
  public long changes() {
    return changes;
  }

  /** How long evaluating took; nothing while it was not asked for. */
  Duration took() {
    return took;
  }

  /** Always the same one. */
  public synchronized Evaluation evaluation() {
    if (evaluation == null) {
      long begun = System.nanoTime();
      evaluation = Evaluator.evaluate(estate, standard);
      took = Duration.ofNanos(System.nanoTime() - begun);
    }
    return evaluation;
  }
}
