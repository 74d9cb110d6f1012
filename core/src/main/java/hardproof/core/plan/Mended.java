package hardproof.core.plan;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Causes that have their place in a plan and whose mending has not been evaluated yet. */
final class Mended {
  private final List<PlanCause> causes = new ArrayList<>();

  void add(PlanCause cause) {
    causes.add(cause);
  }

  /** The same, those that are mended alike as one: facts are put together once for each kind. */
  List<PlanCause> together() {
    Map<String, PlanCause> alike = new LinkedHashMap<>();
    for (PlanCause cause : causes) {
      boolean joins = switch (cause.remedy()) {
        case DRILL, PROGRAMME, SCREEN, POINT, COPY -> true;
        default -> false;
      };
      alike.merge(joins ? cause.remedy().code() : cause.key(), cause, Mended::both);
    }
    return List.copyOf(alike.values());
  }

  private static PlanCause both(PlanCause a, PlanCause b) {
    List<hardproof.core.findings.Finding> roots = new ArrayList<>(a.roots());
    roots.addAll(b.roots());
    return new PlanCause(a.key(), a.sentence(), a.remedy(), a.todo(), roots, List.of());
  }

  void clear() {
    causes.clear();
  }
}
