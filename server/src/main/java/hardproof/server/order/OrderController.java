package hardproof.server.order;

import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.order.RecoveryOrder;
import hardproof.core.order.RecoveryOutlook;
import hardproof.core.recovery.TimeEstimates;
import hardproof.core.wording.WrongValue;
import hardproof.server.programmes.CapacityStore;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import hardproof.server.web.NotFound;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.Parameter;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** In which order a workload comes back. */
@RestController
@RequestMapping("/api")
class OrderController {
  private static final int MOST_AT_ONCE = 1000;

  private final Evaluations evaluations;
  private final CapacityStore capacities;

  OrderController(Evaluations evaluations, CapacityStore capacities) {
    this.evaluations = evaluations;
    this.capacities = capacities;
  }

  @Operation(
      summary =
          "In which order a workload comes back, how soon, and what would have it back sooner")
  @GetMapping("/workloads/{key}/order")
  OrderView order(
      @PathVariable String key,
      @Parameter(
              description =
                  "Restores that go on at once, 1 to 1000; as many as drills may where it is"
                      + " left out")
          @RequestParam(required = false)
          Integer atOnce,
      @ParameterObject AsAt asAt) {
    Evaluated evaluated = evaluations.at(asAt);
    Estate estate = evaluated.estate();
    Workload workload = estate.workload(key);
    if (workload == null) {
      throw new NotFound("No workload '" + key + "' is known"
          + (asAt.asAt() == null ? "." : " as at " + asAt.asAt() + "."));
    }
    int many = atOnce != null
        ? atOnce
        : Math.max(1, capacities.at(estate.asAt()).capacity().atOnce());
    if (many < 1 || many > MOST_AT_ONCE) {
      throw new WrongValue("restores at once are 1 to " + MOST_AT_ONCE + ", not " + many);
    }
    var standard = evaluated.evaluation().standard();
    RecoveryOrder order = RecoveryOrder.of(estate, standard, new TimeEstimates(estate), workload);
    return OrderView.of(
        estate,
        RecoveryOutlook.of(
            order, order.limits(many), standard.demandOn(workload).rto()),
        many);
  }
}
