package hardproof.server.evidence;

import hardproof.core.controls.ControlResult;
import hardproof.core.controls.ControlState;
import hardproof.core.controls.Controls;
import hardproof.core.controls.Watched;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.estate.Selector;
import hardproof.core.evidence.Tables;
import hardproof.core.proof.Evaluation;
import hardproof.server.facts.SelectorJson;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import io.swagger.v3.oas.annotations.Operation;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The outcomes by public control, as an assessor asks for them. */
@RestController
@RequestMapping("/api")
class ControlController {
  private final Evaluations evaluations;
  private final PackHistories histories;

  ControlController(Evaluations evaluations, PackHistories histories) {
    this.evaluations = evaluations;
    this.histories = histories;
  }

  /**
   * Which outcomes are put to controls.
   *
   * @param from begin of the period that shares of time are of; null for a quarter of a year before
   * @param asAt null for now
   * @param knownAt then, now or an instant; null for what was known then
   * @param selector which resources, as JSON; null for all
   */
  record Asked(
      @Nullable Instant from,
      @Nullable Instant asAt,
      @Nullable String knownAt,
      @Nullable String selector) {}

  /** A tier's part of a control. */
  record TierTally(
      int tier, Map<String, Integer> outcomes, @Nullable Double shareMet) {}

  /** A criterion that serves a control. */
  record Serving(String code, String title) {}

  /**
   * A control.
   *
   * @param shareMet share of the time in which nothing of it was found broken, 0 to 1; absent where nobody looked
   * @param notLookedAt what of it nothing here looks at
   */
  record ControlView(
      String reference,
      String publication,
      String title,
      ControlState state,
      String words,
      Map<String, Integer> outcomes,
      @Nullable Double shareMet,
      List<TierTally> tiers,
      List<Serving> criteria,
      String notLookedAt) {
    static ControlView of(ControlResult c) {
      return new ControlView(
          c.control().reference(),
          c.control().framework().title(),
          c.control().title(),
          c.state(),
          c.state().words(),
          outcomes(c.whole().outcomes()),
          c.whole().shareMet(),
          c.tiers().entrySet().stream()
              .map(t -> new TierTally(
                  t.getKey(), outcomes(t.getValue().outcomes()), t.getValue().shareMet()))
              .toList(),
          c.criteria().stream().map(k -> new Serving(k.code(), k.title())).toList(),
          c.control().notLookedAt());
    }

    private static Map<String, Integer> outcomes(Map<OutcomeState, Integer> counts) {
      Map<String, Integer> outcomes = new LinkedHashMap<>();
      counts.forEach((state, n) -> outcomes.put(state.code(), n));
      return outcomes;
    }
  }

  /**
   * All of them.
   *
   * @param watchedSince when this installation began to look; absent where it never did
   */
  record ControlsView(
      Instant from, Instant asAt, @Nullable Instant watchedSince, List<ControlView> controls) {}

  private record Worked(Watched watched, Evaluation evaluation, List<ControlResult> controls) {}

  @Operation(summary = "Outcomes by public control")
  @GetMapping("/controls")
  ControlsView controls(@ParameterObject Asked asked) {
    Worked worked = work(asked);
    return new ControlsView(
        worked.watched().from(),
        worked.evaluation().asAt(),
        worked.watched().since(),
        worked.controls().stream().map(ControlView::of).toList());
  }

  @Operation(summary = "Outcomes by public control as CSV")
  @GetMapping(path = "/controls.csv", produces = "text/csv")
  ResponseEntity<byte[]> table(@ParameterObject Asked asked) {
    return ResponseEntity.ok()
        .contentType(new MediaType("text", "csv", StandardCharsets.UTF_8))
        .body(Tables.controls(work(asked).controls()).getBytes(StandardCharsets.UTF_8));
  }

  private Worked work(Asked asked) {
    Evaluated evaluated = evaluations.at(new AsAt(asked.asAt(), asked.knownAt()));
    Instant asAt = evaluated.evaluation().asAt();
    Instant from = PackBuilder.begin(asked.from(), asAt);
    Selector scope = SelectorJson.asked(asked.selector());
    Set<String> resources = evaluated.estate().matching(scope);
    Evaluation evaluation = scope.equals(Selector.EVERYTHING)
        ? evaluated.evaluation()
        : evaluated.evaluation().about(resources);
    Watched watched = histories.watched(from, asAt, resources);
    return new Worked(watched, evaluation, Controls.of(evaluation, watched));
  }
}
