package hardproof.core.criteria;

import static hardproof.core.Given.NOW;

import hardproof.core.Given;

/** One file share of a workload of tier 1, held to the strict standard. */
abstract class HeldToStrict {
  final Given g = Given.estate().theWorkload("tier", "1");
  Standard standard = ShippedStandards.strict();

  final Outcome outcome(CriterionCode code) {
    Subject subject = new Subject(g.at(NOW), standard, g.resources.get(0));
    return Criteria.evaluate(subject).stream()
        .filter(o -> o.criterion() == code)
        .findFirst()
        .orElseThrow();
  }

  /** A point of application consistency with what only some have, and with two copies. */
  final void point(String key, double hoursAgo, String... fields) {
    g.point(key, hoursAgo).thePoint(key, "consistency", "application").thePoint(key, fields);
  }

  final void sized(String key, double hoursAgo, long size) {
    point(key, hoursAgo, "size", Long.toString(size));
  }
}
