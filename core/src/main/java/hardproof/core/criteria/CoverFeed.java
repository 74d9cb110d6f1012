package hardproof.core.criteria;

import hardproof.core.estate.Feed;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.Comparator;
import java.util.List;

/** Did those who tell of it come? */
final class CoverFeed extends ShippedCriterion {
  CoverFeed() {
    super(
        Group.COVER,
        "Feed in time",
        "The feeds that tell of it came within their rhythm.",
        List.of("NIST CP-9", "CSF PR.DS-11"));
  }

  @Override
  Basis basis() {
    return Basis.OURS;
  }

  @Override
  Judgement judge(Subject s) {
    List<Feed> feeds = s.feeds();
    Feed overdue = Criteria.firstOverdue(s);
    if (overdue != null) {
      return overdue(s, overdue);
    }
    Feed nearest = nearestToOverdue(s, feeds);
    if (nearest == null) {
      return Judgement.notAsked("nobody has said how often its feeds should come");
    }
    // In hindsight it may have come since.
    Duration silent = silence(s, nearest);
    return allInTime(feeds, nearest, silent);
  }

  private static Judgement overdue(Subject s, Feed overdue) {
    return Judgement.of(
        OutcomeState.NOT_MET,
        Measure.of(Duration.between(overdue.lastReceived(), s.asAt())),
        Measure.of(overdue.expectedEvery()),
        overdue.overdueSentence(s.asAt()),
        "as at − last received = "
            + Wording.duration(Duration.between(overdue.lastReceived(), s.asAt())) + atMost(false)
            + Wording.duration(overdue.expectedEvery()),
        List.of(new FactRef("feeds", overdue.key())));
  }

  private static Feed nearestToOverdue(Subject s, List<Feed> feeds) {
    return feeds.stream()
        .filter(f -> f.expectedEvery() != null && f.lastReceived() != null)
        .min(Comparator.comparing(
            f -> f.expectedEvery().minus(Duration.between(f.lastReceived(), s.asAt()))))
        .orElse(null);
  }

  private static Duration silence(Subject s, Feed nearest) {
    return nearest.lastReceived().isAfter(s.asAt())
        ? Duration.ZERO
        : Duration.between(nearest.lastReceived(), s.asAt());
  }

  private static Judgement allInTime(List<Feed> feeds, Feed nearest, Duration silent) {
    return Judgement.of(
        OutcomeState.MET,
        Measure.of(silent),
        Measure.of(nearest.expectedEvery()),
        "every feed that tells of it came within its rhythm; feed " + nearest.key()
            + " is the nearest to being overdue",
        "as at − last received = " + Wording.duration(silent) + atMost(true)
            + Wording.duration(nearest.expectedEvery()) + "; feeds overdue = 0 of " + feeds.size(),
        List.of());
  }
}
