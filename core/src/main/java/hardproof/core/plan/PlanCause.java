package hardproof.core.plan;

import hardproof.core.findings.Finding;
import hardproof.core.findings.SubjectType;
import hardproof.core.wording.Wording;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Something that is wrong and that one decision would mend, however many findings say so.
 *
 * @param key stays the same while it lasts
 * @param sentence what is wrong, for people
 * @param remedy what can be decided about it
 * @param todo the same in words
 * @param roots the findings that are the cause, the worst first; never empty
 * @param follows findings that follow from those
 */
public record PlanCause(
    String key,
    String sentence,
    Remedy remedy,
    String todo,
    List<Finding> roots,
    List<Finding> follows) {
  private static final int NAMED = 3;

  /** So many findings lie behind it. */
  public int findings() {
    return roots.size() + follows.size();
  }

  /** Keys of the resources that it is about, in the order of its findings. */
  public List<String> resources() {
    return roots.stream()
        .filter(f -> f.about().type() == SubjectType.RESOURCE)
        .map(f -> f.about().subject())
        .distinct()
        .toList();
  }

  /** The most important tier that it is about; 1 where that is not known. */
  public int tier() {
    return roots.stream()
        .mapToInt(f -> f.about().tier() == null ? 1 : f.about().tier())
        .min()
        .orElse(1);
  }

  /** Where no drill waits for anybody's word. */
  public static List<PlanCause> of(List<Finding> findings) {
    return of(findings, Set.of());
  }

  /**
   * The causes of what is open, in the order of the worst finding of each.
   *
   * @param findings in order; those that are accepted are left out
   * @param waiting keys of the resources of which a drill waits for a person's word on a screen
   */
  public static List<PlanCause> of(List<Finding> findings, Set<String> waiting) {
    Grouped grouped = new Grouped(waiting);
    List<Finding> open = findings.stream().filter(Finding::open).toList();
    Map<Finding, List<Finding>> folded = Folding.of(open);
    Map<String, List<Finding>> groups = new LinkedHashMap<>();
    open.stream()
        .filter(folded::containsKey)
        .forEach(
            f -> groups.computeIfAbsent(grouped.key(f), k -> new ArrayList<>()).add(f));
    List<PlanCause> causes = new ArrayList<>();
    groups.forEach((key, roots) -> causes.add(cause(grouped, key, roots, folded)));
    // Groups are made in the order of their first finding, which is the worst of each.
    return causes;
  }

  private static PlanCause cause(
      Grouped grouped, String key, List<Finding> roots, Map<Finding, List<Finding>> folded) {
    List<Finding> follows = roots.stream().flatMap(f -> folded.get(f).stream()).toList();
    Remedy remedy = grouped.remedy(roots.get(0));
    return new PlanCause(
        key, sentence(roots), remedy, Grouped.todo(remedy, roots), List.copyOf(roots), follows);
  }

  private static String sentence(List<Finding> roots) {
    Finding first = roots.get(0);
    return roots.size() == 1
        ? first.sentence()
        : first.concern().title() + ": " + names(roots) + "; the first: " + first.sentence();
  }

  /** {@code payroll-db, seat-db, fleet-db and 4 more}. */
  static String names(List<Finding> roots) {
    List<String> names = roots.stream().map(f -> f.about().name()).distinct().toList();
    return names.size() <= NAMED + 1
        ? Wording.list(names)
        : String.join(", ", names.subList(0, NAMED)) + " and " + (names.size() - NAMED) + " more";
  }
}
