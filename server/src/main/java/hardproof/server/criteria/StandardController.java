package hardproof.server.criteria;

import hardproof.core.criteria.Criteria;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.Outcome;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.criteria.OwnCriterion;
import hardproof.core.criteria.Parameter;
import hardproof.core.criteria.Standard;
import hardproof.core.criteria.Subject;
import hardproof.core.criteria.TierDemand;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.feeds.Values;
import hardproof.core.proof.CriterionCount;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Evaluator;
import hardproof.core.wording.Coded;
import hardproof.core.wording.Wording;
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
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
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
  private static final int ROWS_SHOWN = 100;

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
        Arrays.stream(Parameter.values())
            .map(p -> new ParameterForm(p.code(), p.title(), p.type(), p.needed(), choices(p)))
            .toList(),
        Arrays.stream(CriterionCode.values())
            .map(c -> new CriterionForm(
                c.code(),
                c.group(),
                c.title(),
                c.demand(),
                c.references(),
                c.parameters().stream().map(Parameter::code).toList()))
            .toList(),
        CelCriterion.offered());
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

  /**
   * A standard as people edit it.
   *
   * @param period such as 30d
   * @param tiers by parameter, what tier 1 to 4 are held to; left out or empty is not demanded
   * @param regions by data class, where copies may lie
   */
  record StandardDraft(
      @NotBlank @Size(max = 60) String name,
      int version,
      @NotBlank String period,
      @NotBlank String zone,
      @NotNull List<Map<String, String>> tiers,
      @NotNull Map<String, List<String>> regions,
      @NotNull List<OwnForm> own) {
    static StandardDraft of(Standard s) {
      return new StandardDraft(
          s.name(),
          s.version(),
          Wording.typed(s.period()),
          s.zone().getId(),
          s.tiers().stream().map(StandardDraft::tier).toList(),
          s.regions(),
          s.own().stream()
              .map(o -> new OwnForm(o.code(), o.title(), o.demand(), o.expression()))
              .toList());
    }

    private static Map<String, String> tier(TierDemand demand) {
      Map<String, String> tier = new LinkedHashMap<>();
      demand.values().forEach((p, v) -> tier.put(p.code(), text(p, v)));
      return tier;
    }

    private static String text(Parameter p, long value) {
      return p.type() == Parameter.Type.DURATION
          ? Wording.typed(Duration.ofMillis(value))
          : p.write(value);
    }

    /** @throws WrongValue naming the tier and the value that can't be right */
    Standard standard() {
      List<TierDemand> demands = new ArrayList<>();
      for (int i = 0; i < tiers.size(); i++) {
        try {
          Map<Parameter, Long> values = new EnumMap<>(Parameter.class);
          tiers.get(i).forEach((code, text) -> {
            Parameter parameter = Coded.of(Parameter.class, code);
            if (text != null && !text.isBlank()) {
              values.put(parameter, parameter.read(text));
            }
          });
          demands.add(new TierDemand(values));
        } catch (WrongValue e) {
          throw new WrongValue("tier " + (i + 1) + ": " + e.getMessage(), e);
        }
      }
      try {
        return new Standard(
            name.strip(),
            Math.max(1, version),
            Values.duration(period.strip()),
            ZoneId.of(zone.strip()),
            demands,
            regions,
            own.stream()
                .map(o -> CelCriterion.of(o.code(), o.title(), o.demand(), o.expression()))
                .toList());
      } catch (DateTimeException e) {
        throw new WrongValue("'" + zone + "' is no time zone; write it as Europe/Oslo or UTC", e);
      }
    }
  }

  record OwnForm(
      @NotBlank String code,
      @NotBlank String title,
      @NotBlank String demand,
      @NotBlank String expression) {}

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

  /**
   * What an expression comes to on the facts of now.
   *
   * @param problem why the expression can't be right, with {@code line} and {@code column} from 1;
   *     absent when it can
   */
  record ExpressionTrial(
      @Nullable String problem,
      @Nullable Integer line,
      @Nullable Integer column,
      int met,
      int notMet,
      int notEnoughData,
      List<ExpressionRow> rows) {}

  record ExpressionRow(String resource, String name, OutcomeState state, String sentence) {}

  @Operation(summary = "What a criterion of your own comes to now")
  @PostMapping("/expression-trials")
  ExpressionTrial tryExpression(@Valid @RequestBody OwnForm form) {
    OwnCriterion own;
    try {
      own = CelCriterion.of(form.code(), form.title(), form.demand(), form.expression());
    } catch (CelCriterion.WrongExpression e) {
      return new ExpressionTrial(e.getMessage(), e.line(), e.column(), 0, 0, 0, List.of());
    } catch (WrongValue e) {
      return new ExpressionTrial(e.getMessage(), null, null, 0, 0, 0, List.of());
    }
    Evaluated now = evaluations.now();
    Standard base = now.evaluation().standard();
    Standard with = new Standard(
        base.name(),
        base.version(),
        base.period(),
        base.zone(),
        base.tiers(),
        base.regions(),
        List.of(own));
    Estate estate = now.estate();
    int[] counts = new int[OutcomeState.values().length];
    List<ExpressionRow> rows = new ArrayList<>();
    for (Resource resource : estate.facts().resources()) {
      List<Outcome> outcomes = Criteria.evaluate(new Subject(estate, with, resource));
      Outcome outcome = outcomes.get(outcomes.size() - 1);
      counts[outcome.state().ordinal()]++;
      rows.add(
          new ExpressionRow(resource.key(), resource.name(), outcome.state(), outcome.sentence()));
    }
    rows.sort(Comparator.comparing((ExpressionRow r) -> r.state() == OutcomeState.NOT_MET ? 0 : 1)
        .thenComparing(r -> r.state().code())
        .thenComparing(ExpressionRow::name));
    return new ExpressionTrial(
        null,
        null,
        null,
        counts[OutcomeState.MET.ordinal()],
        counts[OutcomeState.NOT_MET.ordinal()] + counts[OutcomeState.EXCEPTED.ordinal()],
        counts[OutcomeState.NOT_ENOUGH_DATA.ordinal()],
        rows.stream().limit(ROWS_SHOWN).toList());
  }
}
