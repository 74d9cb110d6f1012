package hardproof.core.proof;

import hardproof.core.copies.CopyCount;
import hardproof.core.criteria.Criterion;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.FactRef;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.criteria.Proof;
import hardproof.core.criteria.ProvenLoss;
import hardproof.core.criteria.Standard;
import hardproof.core.criteria.TierDemand;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.ladder.Rung;
import java.util.ArrayList;
import java.util.List;

/** The result of a resource that could not be judged by a fault of ours: neither good nor bad. */
final class NotJudged {
  private NotJudged() {}

  static ResourceResult of(Estate estate, Standard standard, Resource resource, Throwable fault) {
    String sentence = resource.name() + " was not judged: a fault of ours (" + where(fault)
        + "); everything else was judged";
    List<FactRef> facts = List.of(new FactRef("resources", resource.key()));
    List<Criterion> criteria = new ArrayList<>(List.of(CriterionCode.values()));
    criteria.addAll(standard.own());
    List<Outcome> outcomes = criteria.stream()
        .map(c -> new Outcome(
            c,
            resource.key(),
            OutcomeState.NOT_ENOUGH_DATA,
            null,
            null,
            sentence,
            "not worked out",
            facts,
            null))
        .toList();
    TierDemand demand = standard.demandOn(estate.workload(resource.workload()));
    Rung demanded = resource.kind().demanded(demand.rung());
    return new ResourceResult(
        resource,
        resource,
        demand,
        List.of(),
        CopyCount.of(resource, List.of(), 0, estate::store, estate.asAt()),
        outcomes,
        new Proof(null, demanded, null, null, null, ProvenLoss.NOTHING),
        sentence,
        null,
        new ResourceResult.Told(estate.asAt(), null),
        List.of(new Cause(Verdict.UNKNOWN, resource.key(), sentence, facts)),
        List.of(
            new Action(Action.Type.REPORT, resource.key(), null, null, "report this fault to us")));
  }

  /** Enough to find it: what it was, and where in our code. No value of a fact is among it. */
  private static String where(Throwable fault) {
    String at = fault.getStackTrace().length == 0
        ? ""
        : " at " + simple(fault.getStackTrace()[0].getClassName()) + ":"
            + fault.getStackTrace()[0].getLineNumber();
    return simple(fault.getClass().getName()) + at;
  }

  private static String simple(String name) {
    return name.substring(name.lastIndexOf('.') + 1);
  }
}
