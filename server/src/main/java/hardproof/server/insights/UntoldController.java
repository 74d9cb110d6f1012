package hardproof.server.insights;

import hardproof.core.criteria.CriterionCode;
import hardproof.core.insights.Untold;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import io.swagger.v3.oas.annotations.Operation;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What feeds never tell, and what can't be judged therefore. */
@RestController
@RequestMapping("/api/feeds/untold")
class UntoldController {
  private final Evaluations evaluations;

  /** Of the evaluation that was asked about last. */
  private @Nullable Known known;

  private record Known(Evaluated of, List<UntoldView> untold) {}

  UntoldController(Evaluations evaluations) {
    this.evaluations = evaluations;
  }

  /**
   * What a feed never tells.
   *
   * @param told kinds of rows that it told of: resources, points, copies
   * @param lacks fields that none of its rows has
   * @param unjudged criteria that come to not enough data for every resource that it tells of
   */
  record UntoldView(
      String feed, List<String> told, List<LackView> lacks, List<UnjudgedView> unjudged) {}

  /** Fields of a kind of rows. */
  record LackView(String kind, List<String> fields) {}

  /** A criterion with its title. */
  record UnjudgedView(String criterion, String title) {}

  @Operation(summary = "What feeds never tell, and which criteria can't be judged therefore")
  @GetMapping
  List<UntoldView> untold(@ParameterObject AsAt asAt) {
    return of(evaluations.at(asAt));
  }

  /** Worked out once, however many ask for it together. */
  private synchronized List<UntoldView> of(Evaluated evaluated) {
    Known last = known;
    if (last == null || last.of() != evaluated) {
      last = new Known(
          evaluated,
          Untold.of(evaluated.estate(), evaluated.evaluation()).stream()
              .map(UntoldController::view)
              .toList());
      known = last;
    }
    return last.untold();
  }

  private static UntoldView view(Untold u) {
    return new UntoldView(
        u.feed(),
        u.told(),
        u.lacks().stream().map(l -> new LackView(l.kind(), l.fields())).toList(),
        u.unjudged().stream().map(UntoldController::view).toList());
  }

  private static UnjudgedView view(CriterionCode c) {
    return new UnjudgedView(c.code(), c.title());
  }
}
