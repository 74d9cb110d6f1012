package hardproof.core.findings;

import hardproof.core.criteria.Outcome;
import hardproof.core.estate.Feed;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;

/** What is wrong with those who tell. */
final class FeedFindings {
  private static final int STORES_NAMED = 5;

  private FeedFindings() {}

  /** By the resource that asks for most: of several with the same, the first. */
  static Finding pace(String feed, List<Outcome> outcomes) {
    Outcome most = outcomes.stream()
        .min(Comparator.comparingDouble(o -> o.demanded().value()))
        .orElseThrow();
    return Finding.of(
        FindingCode.FEED_PACE,
        feed,
        most.sentence() + "; feed " + feed + " tells of "
            + Wording.count(outcomes.size(), "resource", "resources")
            + " with an objective or a copy deadline that is shorter than its rhythm",
        most.measured().words(),
        most.demanded().words(),
        Findings.over(most));
  }

  static Optional<Finding> overdue(Feed feed, Instant asAt) {
    if (!feed.overdueAt(asAt)) {
      return Optional.empty();
    }
    Duration silent = Duration.between(feed.lastReceived(), asAt);
    return Optional.of(Finding.of(
        FindingCode.FEED_OVERDUE,
        feed.key(),
        feed.overdueSentence(asAt) + "; what depends on it can't be judged",
        Wording.duration(silent),
        Wording.duration(feed.expectedEvery()),
        (double) silent.toMillis() / feed.expectedEvery().toMillis()));
  }

  /**
   * @param of what of the feed names others that are not known
   */
  static Optional<Finding> pending(Feed feed, Pending of) {
    long open = of.facts();
    if (open == 0) {
      return Optional.empty();
    }
    return Optional.of(Finding.of(
        FindingCode.FEED_PENDING,
        feed.key(),
        pendingSentence(feed, of, open),
        Long.toString(open),
        "0",
        1 + open));
  }

  private static String pendingSentence(Feed feed, Pending of, long open) {
    return Wording.count(open, "fact", "facts") + " of feed " + feed.key()
        + (open == 1 ? " names" : " name")
        + " another that is not known; "
        + (open == 1 ? "it is kept and joins" : "they are kept and join")
        + " when the other comes" + unknownStores(of.stores());
  }

  private static String unknownStores(List<String> stores) {
    if (stores.isEmpty()) {
      return "";
    }
    int more = stores.size() - STORES_NAMED;
    return "; " + (stores.size() == 1 ? "store " : "stores ")
        + (more > 0
            ? String.join(", ", stores.subList(0, STORES_NAMED)) + " and " + more + " more"
            : Wording.list(stores))
        + (stores.size() == 1 ? " is" : " are") + " not known, so no copy there can be read";
  }
}
