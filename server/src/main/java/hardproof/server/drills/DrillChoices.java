package hardproof.server.drills;

import hardproof.core.drills.Method;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Usability;
import hardproof.core.points.Consistency;
import hardproof.core.points.Form;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.programmes.Pick;
import hardproof.proving.checks.Aspect;
import hardproof.proving.drills.DrillRunner;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What can be chosen for a resource. */
record DrillChoices(
    String resource,
    String name,
    List<MethodChoice> methods,
    List<PointChoice> points,
    List<RunView.CheckView> checks) {
  private static final int POINTS_OFFERED = 60;

  /** A method; {@code aspects} are what checks can be asked of after it. */
  record MethodChoice(
      Method method, String words, int reaches, boolean needsSandbox, List<String> aspects) {
    static MethodChoice of(Method m, DrillRunner runner) {
      return new MethodChoice(
          m,
          m.words(),
          m.rung().number(),
          m.needsSandbox(),
          runner.aspects(m).stream().map(Aspect::code).sorted().toList());
    }
  }

  /** A point, with the stores that hold all of its chain. */
  record PointChoice(
      String point,
      Form form,
      Instant dataTime,
      boolean usable,
      @Nullable String whyNot,
      List<StoreChoice> stores) {
    static PointChoice of(Estate facts, Usability.Judged j) {
      RecoveryPoint p = j.point();
      return new PointChoice(
          p.key(),
          p.form(),
          p.dataTime(),
          j.usableAt(facts.asAt()),
          j.whyNot(),
          Pick.holding(facts, p).stream()
              .map(s -> new StoreChoice(s, facts.storeName(s)))
              .toList());
    }
  }

  record StoreChoice(String store, String name) {}

  /**
   * @param kept the checks that are kept for the resource
   */
  static DrillChoices of(
      Estate facts, Resource resource, DrillRunner runner, List<RunView.CheckView> kept) {
    List<PointChoice> points = newestFirst(facts, resource);
    return new DrillChoices(
        resource.key(),
        resource.name(),
        Method.suiting(resource.kind()).stream()
            .map(m -> MethodChoice.of(m, runner))
            .toList(),
        points.stream().limit(POINTS_OFFERED).toList(),
        kept);
  }

  private static List<PointChoice> newestFirst(Estate facts, Resource resource) {
    List<PointChoice> points = new ArrayList<>();
    for (Usability.Judged j :
        Usability.of(facts, resource.key(), Consistency.UNKNOWN).points()) {
      points.add(PointChoice.of(facts, j));
    }
    Collections.reverse(points);
    return points;
  }
}
