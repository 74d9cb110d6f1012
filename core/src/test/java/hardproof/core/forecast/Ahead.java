package hardproof.core.forecast;

import static hardproof.core.Given.NOW;

import hardproof.core.Given;
import hardproof.core.criteria.Standard;
import hardproof.core.drills.Method;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Selector;
import hardproof.core.facts.Estate;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.Limits;
import hardproof.core.programmes.PointChoice;
import hardproof.core.programmes.ProgrammeTerms;
import hardproof.core.programmes.Showing;
import hardproof.core.proof.Evaluator;
import hardproof.core.schedule.HoursOfDay;
import hardproof.core.schedule.Recurrence;
import java.time.Duration;
import java.util.List;

/** An estate of resources that were drilled, and programmes that look ahead on it. Invented data. */
final class Ahead {
  static final Capacity NIGHTS = Capacity.usual().with(HoursOfDay.parse("22:00-06:00"));

  static ProgrammeTerms programme(Recurrence rule, Showing showing, Limits limits) {
    return new ProgrammeTerms(
        "p",
        "P",
        Selector.EVERYTHING,
        null,
        new ProgrammeTerms.Timing(rule, Duration.ofHours(4), null),
        showing,
        PointChoice.NEWEST,
        CopyChoice.NOT_LAST,
        Duration.ZERO,
        limits);
  }

  static ProgrammeTerms asNeeded() {
    return programme(null, Showing.DEMANDED, Limits.NONE);
  }

  static Forecaster forecaster(Given g, ProgrammeTerms... programmes) {
    Estate estate = g.at(NOW);
    return new Forecaster(
        estate,
        Evaluator.evaluate(estate, Standard.shipped()),
        List.of(programmes),
        store -> !store.equals("gone"));
  }

  static Forecast forecast(Given g, Capacity capacity, ProgrammeTerms... programmes) {
    return forecaster(g, programmes).forecast(capacity, Forecaster.AHEAD);
  }

  /** The resources r0, r1, … of which each was drilled so many days ago and took so long. */
  static Given drilled(int count, double daysAgo, Duration took) {
    Given g = Given.estate();
    g.resources.clear();
    for (int i = 0; i < count; i++) {
      g.resources.add(Given.resource("r" + i, Kind.FILE_SHARE, "w"));
      g.point("a" + i, "r" + i, Form.FULL, null, 5, PointOutcome.COMPLETE).copy("a" + i, "near");
      g.drill("a" + i, Method.FULL_RESTORE, true, daysAgo).took(took, 1000);
    }
    return g;
  }

  static Given one(double daysAgo) {
    return drilled(1, daysAgo, Duration.ofMinutes(1));
  }

  private Ahead() {}
}
