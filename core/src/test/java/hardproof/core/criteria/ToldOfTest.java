package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Fields;
import hardproof.core.Given;
import hardproof.core.copies.CopyState;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Job;
import hardproof.core.feeds.FactKinds;
import hardproof.core.points.RecoveryPoint;
import hardproof.core.retention.Retention;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Who tells of a resource, and what is said of outcomes, sizes, damage and slots in words. Invented data. */
class ToldOfTest {
  private static Feed feed(String key, Instant toldUntil) {
    return new Feed(key, Duration.ofHours(24), NOW, toldUntil);
  }

  /** The same point, told of by another feed. */
  private static void by(Given g, int at, String feed) {
    RecoveryPoint p = g.points.get(at);
    g.points.set(
        at,
        new RecoveryPoint(
            p.key(),
            p.resource(),
            p.policy(),
            p.form(),
            p.basedOn(),
            p.times(),
            p.outcome(),
            p.taken(),
            p.content(),
            feed));
  }

  private static Subject subject(Given g) {
    return new Subject(g.at(NOW), Standard.shipped(), g.resources.get(0));
  }

  @Test
  void theFeedOfTheNewestUsablePointSpeaks() {
    Given g = Given.estate().point("a", 30).point("b", 5);
    Instant early = NOW.minus(Duration.ofHours(20));
    g.feeds.addAll(List.of(feed("feed", NOW), feed("first", early), feed("second", NOW)));
    by(g, 0, "first");
    by(g, 1, "second");
    assertThat(subject(g).speaker().key()).isEqualTo("second");
    assertThat(subject(g).feeds()).extracting(Feed::key).containsExactly("feed", "second");
    g.points.set(1, Fields.with(FactKinds.POINTS, g.points.get(1), "outcome", "failed"));
    by(g, 1, "second");
    assertThat(subject(g).speaker().key()).isEqualTo("first");
    assertThat(subject(g).feeds()).extracting(Feed::key).containsExactly("feed", "second", "first");
    assertThat(subject(g).horizon()).isEqualTo(early);
  }

  /** Whoever told of a point has spoken up to when it was available, whatever the delivery says. */
  @Test
  void aPointMovesTheHorizonOn() {
    Given g = Given.estate().point("a", 5);
    g.feeds.add(feed("feed", NOW.minus(Duration.ofHours(20))));
    Instant available = g.points.get(0).available();
    assertThat(subject(g).horizon()).isEqualTo(available);
    g.feeds.set(0, feed("feed", NOW.minus(Duration.ofHours(1))));
    assertThat(subject(g).horizon()).isEqualTo(NOW.minus(Duration.ofHours(1)));
  }

  private static void job(
      Given g, String key, double hoursAgo, Job.Result outcome, String message) {
    Instant at = NOW.minusSeconds((long) (hoursAgo * 3600));
    g.jobs.add(Fields.with(
        FactKinds.JOBS,
        Fields.with(
            FactKinds.JOBS,
            new Job(key, Job.Type.BACKUP, "r", "p", null, at, at, outcome, null, null),
            "started",
            at.toString(),
            "ended",
            at.toString()),
        "message",
        message));
  }

  @Test
  void failuresInARowAreToldWithTheirCause() {
    Given g = Given.estate().point("a", 5);
    job(g, "j1", 30, Job.Result.FAILED, "no room");
    job(g, "j2", 20, Job.Result.FAILED, "no room");
    assertThat(g.outcome(CriterionCode.FRESH_LAST_OUTCOMES).sentence())
        .isEqualTo("the last 2 backups did not succeed, each time: no room");
    assertThat(g.outcome(CriterionCode.FRESH_LAST_OUTCOMES).measured().words()).isEqualTo("2");
    job(g, "j3", 10, Job.Result.FAILED, "no key");
    assertThat(g.outcome(CriterionCode.FRESH_LAST_OUTCOMES).sentence())
        .isEqualTo("the last 3 backups did not succeed, the newest: no key");
    g.jobs.remove(0);
    g.jobs.remove(0);
    assertThat(g.outcome(CriterionCode.FRESH_LAST_OUTCOMES).sentence())
        .isEqualTo("the last backup did not succeed: no key");
  }

  /** Without jobs the points tell; one that is not available yet has not succeeded yet. */
  @Test
  void withoutJobsThePointsTell() {
    Given g = Given.estate().point("a", 40).point("b", 20).point("c", 5);
    g.points.set(0, Fields.with(FactKinds.POINTS, g.points.get(0), "outcome", "failed"));
    g.points.set(1, Fields.with(FactKinds.POINTS, g.points.get(1), "outcome", "failed"));
    g.points.set(2, Fields.with(FactKinds.POINTS, g.points.get(2), "available", ""));
    Outcome o = g.outcome(CriterionCode.FRESH_LAST_OUTCOMES);
    assertThat(o.measured().words()).isEqualTo("2");
    assertThat(o.facts()).containsExactly(new FactRef("points", "b"), new FactRef("points", "a"));
  }

  @Test
  void damageNamesThePointsThatItIsIn() {
    Given g = Given.estate().point("a", 30).point("b", 5);
    assertThat(g.outcome(CriterionCode.COPIES_ZERO_ERRORS).facts()).isEmpty();
    g.copies.removeIf(c -> c.point().equals("a"));
    g.copy("a", "near", CopyState.DAMAGED, NOW.minusSeconds(60));
    Outcome o = g.outcome(CriterionCode.COPIES_ZERO_ERRORS);
    assertThat(o.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(o.facts()).containsExactly(new FactRef("points", "a"));
  }

  @Test
  void tooFewSizesSayHowMany() {
    Given g = Given.estate().point("a", 5);
    assertThat(g.outcome(CriterionCode.SOUND_SIZE).sentence())
        .startsWith("only 1 size of full points is known; ");
    g.point("b", 3);
    assertThat(g.outcome(CriterionCode.SOUND_SIZE).sentence())
        .startsWith("only 2 sizes of full points are known; ");
  }

  private static Given weekly(int weeks, String firstSeen) {
    Given g = Given.estate();
    g.policies.set(
        0,
        Fields.with(
            FactKinds.POLICIES, g.policies.get(0), "keep_last", "", "keep_weekly", "" + weeks));
    g.resources.set(
        0, Fields.with(FactKinds.RESOURCES, g.resources.get(0), "first_seen", firstSeen));
    return g;
  }

  @Test
  void slotsBeforeItWasThereCanNotBeAskedFor() {
    Given g = weekly(4, NOW.minus(Duration.ofDays(10)).toString()).point("a", 5);
    Outcome young = g.outcome(CriterionCode.HISTORY_SLOTS);
    assertThat(young.state()).isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(young.sentence())
        .startsWith("not enough history: Daily promises 4 slots back to ")
        .endsWith("; of the 2 since then 1 are held");
    Outcome unknown = weekly(4, "").point("a", 5).outcome(CriterionCode.HISTORY_SLOTS);
    assertThat(unknown.state()).isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(unknown.sentence()).contains("since when the resource is there is not known");
  }

  @Test
  void theNewestGapsAreNamedAndTheOthersCounted() {
    Given g = weekly(12, NOW.minus(Duration.ofDays(200)).toString()).point("a", 5);
    Outcome o = g.outcome(CriterionCode.HISTORY_SLOTS);
    assertThat(o.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(o.sentence()).startsWith("11 of the 12 slots").matches(".* and \\d+ before");
    assertThat(o.why()).contains("in UTC");
    assertThat(Retention.NONE.stated()).isFalse();
  }

  /** Where no point is usable, the feed of the newest one speaks. */
  @Test
  void aFeedOfPointsThatCantBeUsedSpeaksToo() {
    Given g = Given.estate().point("a", 30).point("b", 5);
    g.thePoint("a", "outcome", "failed").thePoint("b", "outcome", "failed");
    g.feeds.addAll(List.of(feed("feed", NOW), feed("first", NOW), feed("second", NOW)));
    by(g, 0, "first");
    by(g, 1, "second");
    assertThat(subject(g).speaker().key()).isEqualTo("second");
    assertThat(subject(g).feeds()).extracting(Feed::key).containsExactly("feed", "second");
    g.points.clear();
    assertThat(subject(g).speaker().key()).isEqualTo("feed");
    assertThat(subject(g).feeds()).extracting(Feed::key).containsExactly("feed");
  }
}
