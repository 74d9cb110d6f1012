package hardproof.server.programmes;

import hardproof.core.drills.Method;
import hardproof.core.estate.Selector;
import hardproof.core.feeds.Values;
import hardproof.core.ladder.Rung;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.Limits;
import hardproof.core.programmes.PointChoice;
import hardproof.core.programmes.Showing;
import hardproof.core.schedule.HoursOfDay;
import hardproof.core.wording.Wording;
import hardproof.core.wording.WrongValue;
import hardproof.proving.checks.Check;
import hardproof.server.drills.RunView.CheckView;
import hardproof.server.facts.SelectorJson;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A programme as people write it; what is empty is as usual.
 *
 * @param scope a selector as JSON; empty for every resource
 * @param demanding only resources of which at least that rung is demanded
 * @param checks asked besides those that are kept with each resource
 */
record ProgrammeDraft(
    @NotBlank @Size(max = 80) String name,
    @Nullable String scope,
    @Nullable Rung demanding,
    @Nullable WhenDraft when,
    @Nullable HowDraft how,
    @Nullable List<CheckView> checks,
    @Nullable LimitsDraft limits,
    @Nullable FailureDraft onFailure,
    Programme.@Nullable Tell tell) {
  private static final Duration START_WINDOW = Duration.ofHours(4);

  ProgrammeDraft {
    when = when == null ? new WhenDraft(null, null, null, null) : when;
    how = how == null ? new HowDraft(null, null, null, null, null, null, null, null, null) : how;
  }

  /**
   * When it drills.
   *
   * @param rule RFC 5545; empty to drill as needed
   * @param startWindow a duration such as 4h
   * @param hours such as 22:00-06:00, in the zone of the installation; empty for its hours
   */
  record WhenDraft(
      @Nullable String rule,
      @Nullable String zone,
      @Nullable String startWindow,
      @Nullable String hours) {}

  /**
   * How it drills.
   *
   * @param within a duration such as 30d: how old what is drawn at random may be
   * @param sample so many points of all that match are drawn at random; empty for one of each resource
   * @param store whose copy it is, where one store is asked for
   * @param hold a duration such as 8h
   */
  record HowDraft(
      Showing.@Nullable Way showing,
      @Nullable Method method,
      @Nullable Rung rung,
      PointChoice.@Nullable Way point,
      @Nullable String within,
      @Nullable Integer sample,
      CopyChoice.@Nullable Way copy,
      @Nullable String store,
      @Nullable String hold) {}

  /**
   * What it may take.
   *
   * @param nightBytes such as 500 GB
   */
  record LimitsDraft(
      @Nullable Integer atOnce,
      @Nullable String nightBytes,
      @Nullable Double monthCost,
      @Nullable Double storeShare) {}

  /**
   * What it does when a drill does not come to an end, or fails.
   *
   * @param pause between two tries, a duration such as 30m
   */
  record FailureDraft(int tries, @Nullable String pause, boolean look) {}

  /** As it is written where {@code p} is said. */
  static ProgrammeDraft of(Programme p) {
    return new ProgrammeDraft(
        p.name(),
        SelectorJson.write(p.scope()),
        p.demanding(),
        new WhenDraft(
            p.when().rule(),
            p.when().zone(),
            Wording.typed(p.when().startWindow()),
            p.when().hours() == null ? null : p.when().hours().text()),
        how(p.how()),
        p.how().checks() == null
            ? List.of()
            : p.how().checks().stream().map(CheckView::of).toList(),
        new LimitsDraft(
            p.limits().atOnce(),
            p.limits().nightBytes() == null ? null : p.limits().nightBytes().toString(),
            p.limits().monthCost(),
            p.limits().storeShare()),
        new FailureDraft(
            p.onFailure().tries(), typed(p.onFailure().pause()), p.onFailure().look()),
        p.tell());
  }

  private static HowDraft how(Programme.How how) {
    return new HowDraft(
        how.showing().way(),
        how.showing().method(),
        how.showing().rung(),
        how.point().way(),
        how.point().within() == null ? null : Wording.typed(how.point().within()),
        how.point().sample(),
        how.copy().way(),
        how.copy().store(),
        typed(how.hold()));
  }

  private static @Nullable String typed(Duration duration) {
    return duration.isZero() ? null : Wording.typed(duration);
  }

  /**
   * What it says.
   *
   * @throws WrongValue saying what of it can't be
   */
  Programme programme(String key, Programme.When since, Programme.Version version) {
    return new Programme(
        key,
        name.strip(),
        blank(scope) ? Selector.EVERYTHING : SelectorJson.read(scope),
        demanding,
        new Programme.When(
            blank(when.rule()) ? null : when.rule().strip(),
            blank(when.zone()) ? "UTC" : when.zone().strip(),
            since.begins(),
            blank(when.startWindow())
                ? START_WINDOW
                : duration("the start window", when.startWindow()),
            blank(when.hours()) ? null : hours(when.hours())),
        readHow(),
        readLimits(),
        failure(),
        tell == null ? Programme.Tell.FAILURES : tell,
        version);
  }

  private static HoursOfDay hours(String text) {
    try {
      return HoursOfDay.parse(text);
    } catch (WrongValue e) {
      throw new WrongValue("'" + text + "' " + e.getMessage(), e);
    }
  }

  private Programme.How readHow() {
    boolean aged = !blank(how.within());
    Showing.Way way = how.showing();
    Showing showing = way == null
        ? how.method() == null ? Showing.DEMANDED : Showing.by(how.method())
        : new Showing(way, how.method(), how.rung());
    return new Programme.How(
        showing,
        new PointChoice(
            how.point() == null ? PointChoice.Way.NEWEST : how.point(),
            aged ? duration("the age of the points", how.within()) : null,
            how.sample()),
        new CopyChoice(
            how.copy() == null ? CopyChoice.Way.NOT_LAST : how.copy(),
            blank(how.store()) ? null : how.store()),
        readChecks(),
        blank(how.hold()) ? Duration.ZERO : duration("the time that it is held", how.hold()));
  }

  private @Nullable List<Check> readChecks() {
    return checks == null || checks.isEmpty()
        ? null
        : checks.stream().map(CheckView::check).toList();
  }

  private Limits readLimits() {
    return limits == null
        ? Limits.NONE
        : new Limits(
            limits.atOnce(),
            blank(limits.nightBytes()) ? null : bytes(limits.nightBytes()),
            limits.monthCost(),
            limits.storeShare());
  }

  private static long bytes(String text) {
    try {
      return Values.size(text);
    } catch (WrongValue e) {
      throw new WrongValue("the bytes of a night: '" + text + "' " + e.getMessage(), e);
    }
  }

  private Programme.OnFailure failure() {
    return onFailure == null
        ? Programme.OnFailure.USUAL
        : new Programme.OnFailure(
            onFailure.tries(),
            blank(onFailure.pause())
                ? Duration.ZERO
                : duration("the wait between two tries", onFailure.pause()),
            onFailure.look());
  }

  static Duration duration(String what, String text) {
    try {
      return Values.duration(text);
    } catch (WrongValue e) {
      throw new WrongValue(what + " " + e.getMessage(), e);
    }
  }

  private static boolean blank(@Nullable String text) {
    return text == null || text.isBlank();
  }
}
