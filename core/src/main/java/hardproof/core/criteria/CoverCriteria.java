package hardproof.core.criteria;

import static hardproof.core.criteria.Criteria.metIf;
import static hardproof.core.criteria.Criteria.notAsked;
import static hardproof.core.criteria.Criteria.notDemanded;
import static hardproof.core.criteria.Criteria.outcome;
import static hardproof.core.criteria.Criteria.unknown;

import hardproof.core.estate.Feed;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.core.facts.Paths;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** Is it somebody's, and does anything protect it? */
final class CoverCriteria {
  private CoverCriteria() {}

  static Outcome owner(Subject s) {
    Workload workload = s.estate().workload(s.resource().workload());
    List<String> missing = new ArrayList<>();
    if (workload == null) {
      missing.add("no workload");
    } else {
      if (workload.owner() == null) {
        missing.add("no owner");
      }
      if (workload.tier() == null) {
        missing.add("no tier, so it is held to tier 1");
      }
    }
    String sentence = missing.isEmpty()
        ? workload.name() + " is owned by " + workload.owner() + " and is of tier "
            + workload.tier()
        : s.resource().name() + " has " + Wording.list(missing);
    List<FactRef> facts =
        new ArrayList<>(List.of(new FactRef("resources", s.resource().key())));
    if (workload != null) {
      facts.add(new FactRef("workloads", workload.key()));
    }
    return outcome(
        CriterionCode.COVER_OWNER,
        s,
        metIf(missing.isEmpty()),
        null,
        null,
        sentence,
        "owner and tier are both known",
        facts);
  }

  static Outcome covered(Subject s) {
    boolean policy = !s.policies().isEmpty();
    boolean point = !s.points().isEmpty();
    String name = s.resource().name();
    String through =
        s.throughParent() ? ", through the image of " + s.protector().name() : "";
    String sentence;
    if (policy && point) {
      sentence = name + " is in the scope of " + names(s) + " and has "
          + Wording.count(s.points().size(), "recovery point", "recovery points") + through;
    } else if (policy) {
      sentence = name + " is in the scope of " + names(s)
          + " but no recovery point has been made of it" + leftOut(s);
    } else if (point) {
      sentence = name + " has recovery points" + through
          + " but no policy has it in scope: nothing promises the next one";
    } else {
      sentence = name + seenSince(s) + " matches no policy and has no recovery point" + leftOut(s);
    }
    return outcome(
        CriterionCode.COVER_PROTECTED,
        s,
        metIf(policy && point),
        Measure.count(s.points().size()),
        Measure.count(1),
        sentence,
        "policies in scope = " + s.policies().size() + ", at least 1 demanded; points = "
            + s.points().size() + ", at least 1 demanded",
        List.of(new FactRef("resources", s.resource().key())));
  }

  private static String seenSince(Subject s) {
    return s.resource().firstSeen() == null
        ? ""
        : " was first seen "
            + Wording.duration(Duration.between(s.resource().firstSeen(), s.asAt())) + " ago,";
  }

  private static String names(Subject s) {
    return Wording.list(s.policies().stream().map(Policy::name).toList());
  }

  /** Why the image of what it lies in does not protect it. */
  private static String leftOut(Subject s) {
    Resource parent = s.estate().resource(s.resource().parent());
    return parent == null
        ? ""
        : s.estate()
            .leftOutOf(parent, s.resource())
            .map(e -> "; the image of " + parent.name() + " leaves it out by the exclude filter "
                + e.pattern() + " of " + e.policy().name())
            .orElse("");
  }

  static Outcome seen(Subject s) {
    CriterionCode code = CriterionCode.COVER_SEEN;
    Duration allowed = s.demand().duration(Parameter.SEEN_WITHIN);
    if (allowed == null) {
      return notDemanded(code, s);
    }
    Resource r = s.resource();
    if (r.missingSince() != null) {
      return outcome(
          code,
          s,
          OutcomeState.NOT_MET,
          r.lastSeen() == null ? null : Measure.of(Duration.between(r.lastSeen(), s.asAt())),
          Measure.of(allowed),
          "the full listings of feed " + r.feed() + " do not name " + r.name() + " any more since "
              + Wording.time(r.missingSince(), s.asAt()),
          "left out by a full listing at " + Wording.time(r.missingSince(), s.asAt()),
          List.of(new FactRef("resources", r.key())));
    }
    if (r.lastSeen() == null) {
      return unknown(code, s, "when it was last seen is not known", "last seen is not known");
    }
    return within(
        code,
        s,
        r.lastSeen(),
        allowed,
        r.name() + " was last seen",
        "last seen",
        new FactRef("resources", r.key()));
  }

  static Outcome agent(Subject s) {
    CriterionCode code = CriterionCode.COVER_AGENT;
    Duration allowed = s.demand().duration(Parameter.AGENT_WITHIN);
    if (allowed == null) {
      return notDemanded(code, s);
    }
    if (s.resource().agentSeen() == null) {
      return notAsked(code, s, "no agent on it is known");
    }
    return within(
        code,
        s,
        s.resource().agentSeen(),
        allowed,
        "the agent on " + s.resource().name() + " last checked in",
        "agent's last check-in",
        new FactRef("resources", s.resource().key()));
  }

  /** What was never known to change needs no new test. */
  static Outcome credentials(Subject s) {
    CriterionCode code = CriterionCode.COVER_CREDENTIALS;
    Instant changed = s.resource().credentialsChanged();
    Instant tested = s.resource().credentialsTested();
    if (changed == null) {
      return notAsked(code, s, "its credentials are not known to have changed");
    }
    boolean met = tested != null && !tested.isBefore(changed);
    String since = "its credentials changed on " + Wording.time(changed, s.asAt());
    return outcome(
        code,
        s,
        metIf(met),
        null,
        null,
        tested == null
            ? since + " and are not known to have been tested: the next backup may not get in"
            : since + "; they were last tested on " + Wording.time(tested, s.asAt()) + ", "
                + Wording.duration(Duration.between(changed, tested).abs())
                + (met ? " after that" : " before that: the next backup may not get in"),
        "credentials tested " + (tested == null ? "never" : Wording.time(tested, s.asAt()))
            + " ≥ credentials changed " + Wording.time(changed, s.asAt()),
        List.of(new FactRef("resources", s.resource().key())));
  }

  /** Something is at most so old. */
  static Outcome within(
      CriterionCode code,
      Subject s,
      Instant last,
      Duration allowed,
      String what,
      String term,
      FactRef fact) {
    Duration age = Duration.between(last, s.asAt());
    boolean met = age.compareTo(allowed) <= 0;
    return outcome(
        code,
        s,
        metIf(met),
        Measure.of(age),
        Measure.of(allowed),
        what + " " + Wording.duration(age) + " ago, "
            + Wording.duration(age.minus(allowed).abs())
            + (met ? " inside the " : " over the ") + Wording.duration(allowed) + " allowed",
        "as at − " + term + " " + Wording.time(last, s.asAt()) + " = " + Wording.duration(age)
            + " ≤ " + Wording.duration(allowed),
        List.of(fact));
  }

  static Outcome important(Subject s) {
    CriterionCode code = CriterionCode.COVER_IMPORTANT;
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
      return notAsked(
          code, s, "no path of it is called important, and no filter leaves out the whole of it");
    }
    return outcome(
        code,
        s,
        metIf(hits.isEmpty()),
        Measure.count(hits.size()),
        Measure.count(0),
        hits.isEmpty()
            ? (filters == 0
                ? "its policies leave nothing out"
                : "no exclude filter hits an important path")
            : String.join("; ", hits),
        "exclude filters that hit an important path or the whole = " + hits.size() + " ≤ 0",
        facts.stream().distinct().toList());
  }

  static Outcome feed(Subject s) {
    CriterionCode code = CriterionCode.COVER_FEED;
    List<Feed> feeds = s.feeds();
    Feed overdue = Criteria.firstOverdue(s);
    if (overdue != null) {
      return outcome(
          code,
          s,
          OutcomeState.NOT_MET,
          Measure.of(Duration.between(overdue.lastReceived(), s.asAt())),
          Measure.of(overdue.expectedEvery()),
          overdue.overdueSentence(s.asAt()),
          "as at − last received = "
              + Wording.duration(Duration.between(overdue.lastReceived(), s.asAt())) + " ≤ "
              + Wording.duration(overdue.expectedEvery()),
          List.of());
    }
    Feed nearest = feeds.stream()
        .filter(f -> f.expectedEvery() != null && f.lastReceived() != null)
        .min(Comparator.comparing(
            f -> f.expectedEvery().minus(Duration.between(f.lastReceived(), s.asAt()))))
        .orElse(null);
    if (nearest == null) {
      return notAsked(code, s, "nobody has said how often its feeds should come");
    }
    // In hindsight it may have come since.
    Duration silent = nearest.lastReceived().isAfter(s.asAt())
        ? Duration.ZERO
        : Duration.between(nearest.lastReceived(), s.asAt());
    return outcome(
        code,
        s,
        OutcomeState.MET,
        Measure.of(silent),
        Measure.of(nearest.expectedEvery()),
        "every feed that tells of it came within its rhythm; feed " + nearest.key()
            + " is the nearest to being overdue",
        "as at − last received = " + Wording.duration(silent) + " ≤ "
            + Wording.duration(nearest.expectedEvery()) + "; feeds overdue = 0 of " + feeds.size(),
        List.of());
  }
}
