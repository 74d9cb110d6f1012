package hardproof.core.criteria;

import static hardproof.core.Fields.ago;
import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Kind;
import hardproof.core.proof.Verdict;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The rest of the Cover group. */
class CoverTest {
  /** With a point; the resource has these fields. */
  private static Given seen(String... fields) {
    return Given.estate().point("a", 5).theResource(fields);
  }

  @Test
  void whatListingsLeaveOutIsNotSeenSince() {
    assertThat(seen("last_seen", ago("60d")).outcome(CriterionCode.COVER_SEEN).state())
        .as("exactly as long as is allowed")
        .isEqualTo(OutcomeState.MET);
    assertThat(seen("last_seen", NOW.minus(Duration.ofDays(60)).minusMillis(1).toString())
            .outcome(CriterionCode.COVER_SEEN)
            .state())
        .isEqualTo(OutcomeState.NOT_MET);
    assertThat(seen().outcome(CriterionCode.COVER_SEEN).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    Given g = seen("last_seen", NOW.toString());
    g.resources.set(0, g.resources.get(0).missing(NOW.minus(Duration.ofDays(2))));
    assertThat(g.outcome(CriterionCode.COVER_SEEN).sentence())
        .isEqualTo("the full listings of feed feed do not name R any more since 22 Nov 10:00");
  }

  @Test
  void anAgentThatChecksInNoMoreIsFound() {
    assertThat(
            seen("last_seen", NOW.toString()).outcome(CriterionCode.COVER_AGENT).state())
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
    Outcome o = seen("agent_seen", ago("12d")).outcome(CriterionCode.COVER_AGENT);
    assertThat(o.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(o.sentence())
        .isEqualTo("the agent on R last checked in 12 d ago, 5 d over the 7 d allowed");
  }

  @ParameterizedTest
  @CsvSource({
    "/srv/letters, true",
    "/srv/letters/, true",
    "/SRV/*, true",
    "/srv, true",
    "/srv/letters/2026, true",
    "/srv/let, false",
    "*.tmp, false",
    "/srv/letters-old, false"
  })
  void filtersThatHitImportantPathsAreFound(String pattern, boolean hits) {
    Given g = seen("important_paths", "/srv/letters");
    g.thePolicy("exclude", pattern);
    assertThat(g.outcome(CriterionCode.COVER_IMPORTANT).state())
        .isEqualTo(hits ? OutcomeState.NOT_MET : OutcomeState.MET);
  }

  @Test
  void withoutImportantPathsNothingIsAsked() {
    Given g = seen();
    g.thePolicy("exclude", "*");
    assertThat(g.outcome(CriterionCode.COVER_IMPORTANT).state())
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
  }

  /** A volume is protected by its machine's image, unless a filter leaves it out of that. */
  @Test
  void aVolumeLeftOutOfTheImageIsNotProtectedByIt() {
    Given g = Given.estate().point("a", 5);
    g.resources.add(Given.resource("data", Kind.VOLUME, "w", "r", Map.of()));
    g.thePolicy("name", "Nightly", "scope", "key=r", "exclude", "da*");
    assertThat(g.evaluate().resource("data").verdict()).isEqualTo(Verdict.UNCOVERED);
    assertThat(g.evaluate().resource("data").causes().get(0).sentence())
        .endsWith("matches no policy and has no recovery point; the image of R leaves it out by the"
            + " exclude filter da* of Nightly");
    assertThat(
            g.evaluate().resource("data").outcome(CriterionCode.COVER_IMPORTANT).state())
        .isEqualTo(OutcomeState.NOT_MET);
    g.thePolicy("scope", "", "exclude", "other");
    assertThat(g.evaluate().resource("data").verdict()).isNotEqualTo(Verdict.UNCOVERED);
    assertThat(
            g.evaluate().resource("data").outcome(CriterionCode.COVER_PROTECTED).sentence())
        .endsWith("1 recovery point, through the image of R");
  }

  @Test
  void theFeedOfThePointsCountsToo() {
    Given g = Given.estate().point("a", 5);
    assertThat(g.outcome(CriterionCode.COVER_FEED).state()).isEqualTo(OutcomeState.NOT_APPLICABLE);
    g.feeds.add(new Feed("feed", Duration.ofHours(24), NOW.minus(Duration.ofHours(24)), null));
    assertThat(g.outcome(CriterionCode.COVER_FEED).state()).isEqualTo(OutcomeState.MET);
    g.feeds.set(0, new Feed("feed", Duration.ofHours(24), NOW.minus(Duration.ofHours(25)), null));
    assertThat(g.outcome(CriterionCode.COVER_FEED).state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(g.outcome(CriterionCode.FRESH_EXPOSURE_NOW).state())
        .as("what depends on it can't be judged")
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    g.resources.set(0, Given.toldBy("inventory", g.resources.get(0)));
    assertThat(g.outcome(CriterionCode.FRESH_EXPOSURE_NOW).state())
        .as("the points come by the silent feed")
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(g.outcome(CriterionCode.COVER_OWNER).state())
        .as("the resource does not")
        .isEqualTo(OutcomeState.MET);
  }

  private static Outcome credentials(String... fields) {
    return Given.estate().theResource(fields).outcome(CriterionCode.COVER_CREDENTIALS);
  }

  @Test
  void credentialsAreTestedAfterTheyChanged() {
    Instant changed = NOW.minus(Duration.ofDays(6));
    String at = changed.toString();
    assertThat(credentials().state()).isEqualTo(OutcomeState.NOT_APPLICABLE);
    assertThat(credentials("credentials_tested", NOW.toString()).state())
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
    assertThat(credentials(
                "credentials_changed",
                at,
                "credentials_tested",
                changed.minusMillis(1).toString())
            .state())
        .isEqualTo(OutcomeState.NOT_MET);
    assertThat(credentials("credentials_changed", at, "credentials_tested", at).state())
        .isEqualTo(OutcomeState.MET);
    assertThat(credentials("credentials_changed", at, "credentials_tested", NOW.toString())
            .sentence())
        .endsWith("6 d after that");
    assertThat(credentials("credentials_changed", at).sentence())
        .endsWith("not known to have been tested: the next backup may not get in");
  }
}
