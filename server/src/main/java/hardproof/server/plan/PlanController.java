package hardproof.server.plan;

import hardproof.core.evidence.CsvCell;
import hardproof.core.facts.Estate;
import hardproof.core.plan.Plan;
import hardproof.core.plan.PlanCause;
import hardproof.core.plan.Remedy;
import hardproof.server.calendar.CalendarFile;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluations;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What to do first, and the whole of it to hand over. */
@RestController
@RequestMapping("/api/plan")
class PlanController {
  private static final int SHOWN = 300;
  private static final int BEHIND_SHOWN = 40;

  private final PlanDesk desk;
  private final Evaluations evaluations;

  PlanController(PlanDesk desk, Evaluations evaluations) {
    this.desk = desk;
    this.evaluations = evaluations;
  }

  /**
   * The plan, or how far it is.
   *
   * @param done of {@code all} what has been worked out
   * @param problem why there is none
   * @param steps the first thing first, at most 300; empty until it is complete
   */
  record PlanView(
      Instant asAt,
      boolean complete,
      int done,
      int all,
      @Nullable String problem,
      int causes,
      int findings,
      List<StepView> steps) {}

  /**
   * A step.
   *
   * @param key of the cause
   * @param what is wrong
   * @param effect what doing it comes to, in words
   * @param night by whose end its drills are done
   * @param resources that it is about
   * @param behind the findings that lie behind it, the first 40; those that follow from others say so
   */
  record StepView(
      String key,
      String what,
      Remedy remedy,
      String todo,
      String effect,
      @Nullable Instant night,
      int tier,
      List<PlanResource> resources,
      int findings,
      List<BehindView> behind) {}

  record PlanResource(String key, String name) {}

  /** A finding behind a cause. */
  record BehindView(String key, String name, String title, String sentence, boolean follows) {}

  @Operation(
      summary = "What to do first: causes, effects and their order, or how far that is worked out")
  @GetMapping
  PlanView plan(@ParameterObject AsAt when) {
    PlanDesk.Work work = desk.plan(evaluations.at(when));
    Plan plan = work.plan();
    Estate estate = work.of().estate();
    return new PlanView(
        estate.asAt(),
        plan != null,
        work.done(),
        work.all(),
        plan == null ? work.problem() : null,
        plan == null ? 0 : plan.causes(),
        plan == null ? 0 : plan.findings(),
        plan == null
            ? List.of()
            : plan.steps().stream().limit(SHOWN).map(s -> step(estate, s)).toList());
  }

  private static StepView step(Estate estate, Plan.Step step) {
    PlanCause cause = step.cause();
    List<BehindView> behind = java.util.stream.Stream.concat(
            cause.roots().stream().map(f -> behind(f, false)),
            cause.follows().stream().map(f -> behind(f, true)))
        .limit(BEHIND_SHOWN)
        .toList();
    return new StepView(
        cause.key(),
        cause.sentence(),
        cause.remedy(),
        cause.todo(),
        step.effect().words(),
        step.night(),
        cause.tier(),
        cause.resources().stream()
            .map(estate::resource)
            .filter(Objects::nonNull)
            .map(r -> new PlanResource(r.key(), r.name()))
            .toList(),
        cause.findings(),
        behind);
  }

  private static BehindView behind(hardproof.core.findings.Finding f, boolean follows) {
    return new BehindView(f.key(), f.about().name(), f.concern().title(), f.sentence(), follows);
  }

  @Operation(summary = "Stop working the plan out")
  @DeleteMapping
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void stop() {
    desk.stop();
  }

  private Plan complete(AsAt when) {
    Plan plan = desk.plan(evaluations.at(when)).plan();
    if (plan == null) {
      throw new Refused("The plan is being worked out; ask again in a moment.");
    }
    return plan;
  }

  @Operation(summary = "The plan as a table")
  @GetMapping(value = "/table", produces = "text/csv;charset=UTF-8")
  String table(@ParameterObject AsAt when) {
    StringBuilder csv = new StringBuilder(
        CsvCell.row("place", "todo", "why", "effect", "night", "tier", "findings", "resources"));
    int place = 0;
    for (Plan.Step step : complete(when).steps()) {
      PlanCause cause = step.cause();
      csv.append(CsvCell.row(
          ++place,
          cause.todo(),
          cause.sentence(),
          step.effect().words(),
          step.night(),
          cause.tier(),
          cause.findings(),
          String.join(" ", cause.resources())));
    }
    return csv.toString();
  }

  @Operation(
      summary = "The plan as a calendar: what has a night stands in it, the rest is to be done")
  @GetMapping(value = "/calendar", produces = "text/calendar;charset=UTF-8")
  String calendar(@ParameterObject AsAt when) {
    Instant asAt = evaluations.at(when).estate().asAt();
    CalendarFile file = new CalendarFile("Plan of Hard Proof", asAt);
    for (Plan.Step step : complete(when).steps()) {
      PlanCause cause = step.cause();
      String why = cause.sentence() + "\n" + step.effect().words();
      if (step.night() == null) {
        file.todo("plan-" + cause.key(), cause.todo(), why);
      } else {
        file.event("plan-" + cause.key(), cause.todo(), why, step.night(), null);
      }
    }
    return file.text();
  }
}
