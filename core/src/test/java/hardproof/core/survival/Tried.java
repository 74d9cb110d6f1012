package hardproof.core.survival;

import static hardproof.core.Given.NOW;

import hardproof.core.Given;
import hardproof.core.criteria.Standard;
import hardproof.core.facts.Estate;
import hardproof.core.losses.Loss;
import hardproof.core.proof.Evaluator;
import hardproof.core.survival.Aftermath.Line;

/** Losses being tried on estates of tests. */
final class Tried {
  private Tried() {}

  static Survival of(Given g) {
    Estate estate = g.at(NOW);
    return Survival.of(estate, Evaluator.evaluate(estate, Standard.shipped()));
  }

  static Line line(Given g, Loss loss) {
    return of(g).after(loss, 4).lines().stream()
        .filter(l -> l.workload().key().equals("w"))
        .findFirst()
        .orElseThrow();
  }

  static Fate fate(Given g, Loss loss) {
    return line(g, loss).fate();
  }
}
