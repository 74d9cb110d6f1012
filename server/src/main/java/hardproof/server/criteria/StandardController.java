package hardproof.server.criteria;

import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.OwnCriterion;
import hardproof.core.criteria.Parameter;
import hardproof.core.criteria.Standard;
import hardproof.core.proof.CriterionCount;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import hardproof.server.activity.Activity;
import hardproof.server.proof.Differences;
import hardproof.server.proof.Evaluated;
import hardproof.server.proof.Evaluations;
import hardproof.server.web.NotFound;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What people are held to: versions, trying a change, and criteria of one's own. */
@RestController
@RequestMapping("/api")
class StandardController {
  private final StandardStore standards;
  private final Evaluations evaluations;
  private final Activity activity;
  private final Clock clock;

  StandardController(
      StandardStore standards, Evaluations evaluations, Activity activity, Clock clock) {
    this.standards = standards;
    this.activity = activity;
    this.evaluations = evaluations;
    this.clock = clock;
  }

  /** All there is to choose from, and what a standard is made of. */
  record Standards(
      StandardName inForce,
      List<StandardStore.Version> versions,
      List<ParameterForm> parameters,
      List<CriterionForm> criteria,
      List<CelCriterion.Variable> variables) {}

  record StandardName(@NotBlank String name, int version) {}

  record ParameterForm(
      String code, String title, Parameter.Type type, boolean needed, List<String> choices) {}

  record CriterionForm(
      String code,
      String group,
      String title,
      String demand,
      List<String> references,
      List<String> parameters) {}

  @Operation(summary = "Standards, the one in force, and what they can demand")
  @GetMapping("/standards")
  Standards standards(@RequestParam(required = false) Instant asAt) {
    Standard inForce = standards.inForceAt(asAt == null ? clock.instant() : evaluations.been(asAt));
    return new Standards(
        new StandardName(inForce.name(), inForce.version()),
        standards.versions(),
        parameters(),
        criteria(),
        CelCriterion.offered());
  }

  private static List<StandardController.ParameterForm> parameters() {
    return Arrays.stream(Parameter.values())
        .map(p -> new ParameterForm(p.code(), p.title(), p.type(), p.needed(), choices(p)))
        .toList();
  }

  private static List<StandardController.CriterionForm> criteria() {
    return Arrays.stream(CriterionCode.values())
        .map(c -> new CriterionForm(
            c.code(),
            c.group(),
            c.title(),
            c.demand(),
            c.references(),
            c.parameters().stream().map(Parameter::code).toList()))
        .toList();
  }

  private static List<String> choices(Parameter p) {
    return switch (p.type()) {
      case RUNG -> codes(hardproof.core.ladder.Rung.values());
      case CONSISTENCY -> codes(hardproof.core.points.Consistency.values());
      case REDUNDANCY -> codes(hardproof.core.estate.Redundancy.values());
      case YES_NO -> List.of("yes", "no");
      default -> List.of();
    };
  }

  private static List<String> codes(Coded[] values) {
    return Arrays.stream(values).map(Coded::code).toList();
  }

  @Operation(summary = "One version of a standard")
  @GetMapping("/standards/{name}/{version}")
  StandardDraft standard(@PathVariable String name, @PathVariable int version) {
    return StandardDraft.of(find(name, version));
  }

  private Standard find(String name, int version) {
    return standards
        .find(name, version)
        .orElseThrow(
            () -> new NotFound("No standard '" + name + "' of version " + version + " is known."));
  }

  /** What a change would do to the outcomes of now; {@code counts} by criterion, those that differ. */
  record StandardTrial(Differences differences, List<CriterionCount> counts) {}

  /** Tries a changed standard on the facts of now. Saves nothing, although it is a POST. */
  @Operation(summary = "What a standard would change, before it is saved")
  @PostMapping("/standard-trials")
  StandardTrial tryOut(@Valid @RequestBody StandardDraft draft) {
    Evaluated now = evaluations.now();
    Evaluation before = now.evaluation();
    Evaluation after = Evaluator.evaluate(now.estate(), draft.standard());
    return new StandardTrial(Differences.of(before, after), CriterionCount.of(before, after));
  }

  /**
   * A version to be saved.
   *
   * @param basedOn the version that was changed; 0 for a new name
   */
  record StandardChange(
      @NotNull @Valid StandardDraft draft,
      int basedOn,
      @NotBlank @Size(max = 500) String note) {}

  /** Saves a new version. It holds when it is put in force. */
  @Operation(summary = "Save a standard as a new version")
  @PostMapping("/standards")
  @ResponseStatus(HttpStatus.CREATED)
  StandardName save(@Valid @RequestBody StandardChange change, Principal person) {
    Standard saved = standards.save(
        change.draft().standard(),
        change.basedOn(),
        change.note().strip(),
        person.getName(),
        clock.instant().truncatedTo(ChronoUnit.MILLIS));
    activity.record(
        person.getName(), "standard saved", saved.title(), change.note().strip());
    return new StandardName(saved.name(), saved.version());
  }

  @Operation(summary = "Put a version of a standard in force")
  @PutMapping("/standards/in-force")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void putInForce(@Valid @RequestBody StandardName name, Principal person) {
    standards.putInForce(
        find(name.name(), name.version()),
        person.getName(),
        clock.instant().truncatedTo(ChronoUnit.MILLIS));
    activity.record(
        person.getName(), "standard put in force", name.name() + " " + name.version(), "");
  }

  @Operation(summary = "What a criterion of your own comes to now")
  @PostMapping("/expression-trials")
  ExpressionTrial tryExpression(@Valid @RequestBody OwnForm form) {
    try {
      OwnCriterion own =
          CelCriterion.of(form.code(), form.title(), form.demand(), form.expression());
      return ExpressionTrial.of(own, evaluations.now());
    } catch (CelCriterion.WrongExpression e) {
      return ExpressionTrial.wrong(e.getMessage(), e.line(), e.column());
    } catch (WrongValue e) {
      return ExpressionTrial.wrong(e.getMessage(), null, null);
    }
  }
}
