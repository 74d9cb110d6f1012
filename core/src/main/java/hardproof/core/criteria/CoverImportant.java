package hardproof.core.criteria;

import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Paths;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Does a filter leave out what matters? */
final class CoverImportant extends ShippedCriterion {
  CoverImportant() {
    super(
        Group.COVER,
        "No important data left out",
        "No exclude filter of its policies hits a path that it calls important, or the whole of it.",
        List.of("NIST CP-9", "CIS 11.2"));
  }

  @Override
  Judgement judge(Subject s) {
    Resource parent = s.estate().resource(s.resource().parent());
    Optional<Estate.Exclusion> whole =
        parent == null ? Optional.empty() : s.estate().leftOutOf(parent, s.resource());
    List<String> hits = new ArrayList<>();
    List<FactRef> facts = new ArrayList<>();
    whole.ifPresent(e -> {
      hits.add("the exclude filter " + e.pattern() + " of " + e.policy().name() + " leaves all of "
          + s.resource().name() + " out of the image of " + parent.name());
      facts.add(new FactRef("policies", e.policy().key()));
    });
    int filters = 0;
    for (Policy policy : s.policies()) {
      for (String pattern : policy.exclude()) {
        filters++;
        for (String path : s.resource().importantPaths()) {
          if (Paths.hits(pattern, path)) {
            hits.add("the exclude filter " + pattern + " of " + policy.name() + " leaves out "
                + path + ", which is called important");
            facts.add(new FactRef("policies", policy.key()));
          }
        }
      }
    }
    if (hits.isEmpty() && s.resource().importantPaths().isEmpty()) {
      return Judgement.notAsked(
          "no path of it is called important, and no filter leaves out the whole of it");
    }
    return Judgement.of(
        OutcomeState.metIf(hits.isEmpty()),
        Measure.count(hits.size()),
        Measure.count(0),
        hits.isEmpty()
            ? (filters == 0
                ? "its policies leave nothing out"
                : "no exclude filter hits an important path")
            : String.join("; ", hits),
        "exclude filters that hit an important path or the whole = " + hits.size()
            + atMost(hits.isEmpty()) + "0",
        facts.stream().distinct().toList());
  }
}
