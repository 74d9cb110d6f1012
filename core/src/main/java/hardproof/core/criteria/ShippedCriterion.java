package hardproof.core.criteria;

import java.util.List;

/**
 * A criterion that ships: what it says of itself and how it judges. One class each, named by its code; the code
 * itself and the order are in {@link CriterionCode}.
 */
abstract class ShippedCriterion {
  private final Group group;
  private final String title;
  private final String demand;
  private final List<String> references;
  private final List<Parameter> parameters;

  /**
   * @param demand in one sentence
   * @param references public controls it serves
   * @param parameters what of a tier's demands it reads
   */
  ShippedCriterion(
      Group group, String title, String demand, List<String> references, Parameter... parameters) {
    this.group = group;
    this.title = title;
    this.demand = demand;
    this.references = references;
    this.parameters = List.of(parameters);
  }

  abstract Judgement judge(Subject s);

  /** Whose word it rests on. */
  Basis basis() {
    return group.basis();
  }

  /** Whether it says that something is wrong with the data itself now, and not with plans and habits. */
  boolean urgent() {
    return false;
  }

  /** What a working puts between a figure and the most it may be: what is so, not what should be. */
  static String atMost(boolean met) {
    return met ? " ≤ " : " > ";
  }

  /** What a working puts between a figure and the least it must be. */
  static String atLeast(boolean met) {
    return met ? " ≥ " : " < ";
  }

  final Group group() {
    return group;
  }

  final String title() {
    return title;
  }

  final String demand() {
    return demand;
  }

  final List<String> references() {
    return references;
  }

  final List<Parameter> parameters() {
    return parameters;
  }
}
