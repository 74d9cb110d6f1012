package hardproof.core.criteria;

import hardproof.core.estate.Feed;
import hardproof.core.estate.Policy;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;

/** What changes faster than its feed comes is not seen in time, however good it is. */
final class FreshPace extends ShippedCriterion {
  FreshPace() {
    super(
        Group.FRESHNESS,
        "Feed keeps pace",
        "The feed that tells of its points comes at least as often as its RPO and copy deadlines ask.",
        List.of("NIST CP-9", "CSF PR.DS-11"),
        Parameter.RPO);
  }

  @Override
  Judgement judge(Subject s) {
    Feed feed = s.speaker();
    if (feed == null) {
      return Judgement.notAsked("nothing is told of it by a feed that is known");
    }
    Duration rpo = s.demand().rpo();
    Duration deadline = shortestDeadline(s);
    boolean byDeadline = deadline != null && deadline.compareTo(rpo) < 0;
    Duration smallest = byDeadline ? deadline : rpo;
    String asked = byDeadline ? "copy deadline " : "RPO ";
    if (feed.expectedEvery() == null) {
      return rhythmUnknown(feed, smallest, asked);
    }
    return judged(feed, byDeadline, smallest, asked);
  }

  private static Duration shortestDeadline(Subject s) {
    return s.policies().stream()
        .flatMap(p -> p.copyTo().stream())
        .map(Policy.CopyTarget::deadline)
        .min(Comparator.naturalOrder())
        .orElse(null);
  }

  private static Judgement rhythmUnknown(Feed feed, Duration smallest, String asked) {
    return Judgement.of(
        OutcomeState.NOT_ENOUGH_DATA,
        null,
        Measure.of(smallest),
        "nobody has said how often the feed " + feed.key() + " comes; to show that "
            + Wording.duration(smallest) + " are kept it has to come at least as often",
        "rhythm of feed " + feed.key() + " is not known; " + asked + Wording.duration(smallest),
        List.of(new FactRef("feeds", feed.key())));
  }

  private static Judgement judged(Feed feed, boolean byDeadline, Duration smallest, String asked) {
    boolean met = feed.expectedEvery().compareTo(smallest) <= 0;
    return Judgement.of(
        OutcomeState.metIf(met),
        Measure.of(feed.expectedEvery()),
        Measure.of(smallest),
        "a feed every " + Wording.duration(feed.expectedEvery()) + (met ? " can" : " can't")
            + " show that " + Wording.duration(smallest) + " are kept"
            + (byDeadline ? ", the deadline of a copy" : ""),
        "rhythm of feed " + feed.key() + " " + Wording.duration(feed.expectedEvery()) + atMost(met)
            + asked + Wording.duration(smallest),
        List.of(new FactRef("feeds", feed.key())));
  }
}
