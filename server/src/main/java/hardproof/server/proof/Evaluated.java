package hardproof.server.proof;

import hardproof.core.facts.Estate;
import hardproof.core.proof.Evaluation;

/** An evaluation with the facts it rests on. */
public record Evaluated(Estate estate, Evaluation evaluation) {}
