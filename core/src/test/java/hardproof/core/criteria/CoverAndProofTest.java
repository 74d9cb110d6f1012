package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.Given;
import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.drills.Method;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Selector;
import hardproof.core.proof.Verdict;
import hardproof.core.retention.Retention;
import java.time.Duration;
import java.time.Instant;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/** The rest of Cover and Proof, own criteria, and the values of a standard. */
class CoverAndProofTest {
  private static Resource resource(
      Instant lastSeen, Instant agentSeen, Instant missingSince, List<String> important) {
    return new Resource(
        "r",
        "R",
        Kind.FILE_SHARE,
        new Resource.Links("w", null, List.of()),
        new Resource.Place("A", "nordal", "production"),
        new Resource.Volume(null, null),
        new Resource.Seen(NOW.minus(Duration.ofDays(100)), lastSeen, agentSeen, missingSince),
        new Resource.Credentials(null, null),
        Map.of(),
        important,
        "feed");
  }

  private static Given with(Resource resource) {
    Given g = Given.estate().point("a", 5);
    g.resources.set(0, resource);
    return g;
  }

  @Test
  void whatListingsLeaveOutIsNotSeenSince() {
    Instant days60 = NOW.minus(Duration.ofDays(60));
    assertThat(with(resource(days60, null, null, List.of()))
            .outcome(CriterionCode.COVER_SEEN)
            .state())
        .as("exactly as long as is allowed")
        .isEqualTo(OutcomeState.MET);
    assertThat(with(resource(days60.minusMillis(1), null, null, List.of()))
            .outcome(CriterionCode.COVER_SEEN)
            .state())
        .isEqualTo(OutcomeState.NOT_MET);
    assertThat(with(resource(null, null, null, List.of()))
            .outcome(CriterionCode.COVER_SEEN)
            .state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(with(resource(NOW, null, NOW.minus(Duration.ofDays(2)), List.of()))
            .outcome(CriterionCode.COVER_SEEN)
            .sentence())
        .isEqualTo("the full listings of feed feed do not name R any more since 22 Nov 10:00");
  }

  @Test
  void anAgentThatChecksInNoMoreIsFound() {
    assertThat(with(resource(NOW, null, null, List.of()))
            .outcome(CriterionCode.COVER_AGENT)
            .state())
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
    Outcome o = with(resource(NOW, NOW.minus(Duration.ofDays(12)), null, List.of()))
        .outcome(CriterionCode.COVER_AGENT);
    assertThat(o.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(o.sentence())
        .isEqualTo("the agent on R last checked in 12 d ago, 5 d over the 7 d allowed");
  }

  private static Policy excluding(String... patterns) {
    return new Policy(
        "p",
        "Nightly",
        Selector.EVERYTHING,
        null,
        new Policy.JobWindow(null, null),
        Retention.NONE,
        null,
        null,
        null,
        List.of(),
        null,
        List.of(patterns));
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
    Given g = with(resource(NOW, null, null, List.of("/srv/letters")));
    g.policies.set(0, excluding(pattern));
    assertThat(g.outcome(CriterionCode.COVER_IMPORTANT).state())
        .isEqualTo(hits ? OutcomeState.NOT_MET : OutcomeState.MET);
  }

  @Test
  void withoutImportantPathsNothingIsAsked() {
    Given g = with(resource(NOW, null, null, List.of()));
    g.policies.set(0, excluding("*"));
    assertThat(g.outcome(CriterionCode.COVER_IMPORTANT).state())
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
  }

  /** A volume is protected by its machine's image, unless a filter leaves it out of that. */
  @Test
  void aVolumeLeftOutOfTheImageIsNotProtectedByIt() {
    Given g = Given.estate().point("a", 5);
    g.resources.add(Given.resource("data", Kind.VOLUME, "w", "r", Map.of()));
    g.policies.set(
        0,
        new Policy(
            "p",
            "Nightly",
            Selector.allOf(Selector.Condition.is("key", "r")),
            null,
            new Policy.JobWindow(null, null),
            Retention.NONE,
            null,
            null,
            null,
            List.of(),
            null,
            List.of("da*")));
    assertThat(g.evaluate().resource("data").verdict()).isEqualTo(Verdict.UNCOVERED);
    assertThat(g.evaluate().resource("data").causes().get(0).sentence())
        .endsWith("matches no policy and has no recovery point; the image of R leaves it out by the"
            + " exclude filter da* of Nightly");
    assertThat(
            g.evaluate().resource("data").outcome(CriterionCode.COVER_IMPORTANT).state())
        .isEqualTo(OutcomeState.NOT_MET);
    g.policies.set(0, excluding("other"));
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
    g.resources.set(0, Given.resource("r", Kind.FILE_SHARE, "w"));
    g.resources.set(
        0,
        new Resource(
            "r",
            "R",
            Kind.FILE_SHARE,
            new Resource.Links("w", null, List.of()),
            new Resource.Place("A", null, null),
            new Resource.Volume(null, null),
            new Resource.Seen(null, null, null, null),
            new Resource.Credentials(null, null),
            Map.of(),
            List.of(),
            "inventory"));
    assertThat(g.outcome(CriterionCode.FRESH_EXPOSURE_NOW).state())
        .as("the points come by the silent feed")
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(g.outcome(CriterionCode.COVER_OWNER).state())
        .as("the resource does not")
        .isEqualTo(OutcomeState.MET);
  }

  @Test
  void aReadBackOrADrillCountsAsReading() {
    Given g = Given.estate().point("a", 5);
    assertThat(g.outcome(CriterionCode.PROOF_READ_BACK).sentence())
        .isEqualTo("no copy of R was ever read back whole");
    g.copies.set(
        0,
        new Copy(
            "a",
            "near",
            NOW,
            CopyState.PRESENT,
            null,
            null,
            new Copy.Artifact(null, null, null, null),
            new Copy.ReadBack(NOW.minus(Duration.ofDays(180)), true),
            NOW,
            "feed"));
    assertThat(g.outcome(CriterionCode.PROOF_READ_BACK).state()).isEqualTo(OutcomeState.MET);
    g.copies.set(
        0,
        new Copy(
            "a",
            "near",
            NOW,
            CopyState.PRESENT,
            null,
            null,
            new Copy.Artifact(null, null, null, null),
            new Copy.ReadBack(NOW.minus(Duration.ofDays(181)), true),
            NOW,
            "feed"));
    assertThat(g.outcome(CriterionCode.PROOF_READ_BACK).state()).isEqualTo(OutcomeState.NOT_MET);
    g.drill("a", Method.READ_THROUGH, true, 1);
    assertThat(g.outcome(CriterionCode.PROOF_READ_BACK).state()).isEqualTo(OutcomeState.MET);
  }

  @Test
  void measuredRecoveryTimeIsHeldAgainstTheRto() {
    Given g = Given.estate().point("a", 5);
    assertThat(g.outcome(CriterionCode.PROOF_RECOVERY_TIME).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    g.drill("a", Method.FULL_RESTORE, true, 1);
    assertThat(g.outcome(CriterionCode.PROOF_RECOVERY_TIME).sentence())
        .contains("took 1 m for 1.00 kB read, 2 d 23 h inside the 3 d objective");
  }

  @Test
  void oneDrillComesFromTheOffSiteCopy() {
    Given g = Given.estate().point("a", 5);
    g.workloads.set(0, Given.workload("w", 1));
    g.drill("a", "near", Method.FULL_RESTORE, true, 1, null, null);
    assertThat(g.outcome(CriterionCode.PROOF_OFF_SITE).sentence())
        .isEqualTo("R was never drilled from a copy at another site than A");
    g.drill("a", "far", Method.FULL_RESTORE, true, 180, null, null);
    assertThat(g.outcome(CriterionCode.PROOF_OFF_SITE).state()).isEqualTo(OutcomeState.MET);
    assertThat(Given.estate().outcome(CriterionCode.PROOF_OFF_SITE).state())
        .as("tier 3 need not")
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
  }

  @Test
  void ownCriteriaComeAfterThoseThatShip() {
    OwnCriterion own = new OwnCriterion(
        "own-site",
        "At site A",
        "It stands at site A.",
        "site == 'A'",
        s -> Judgement.of(OutcomeState.NOT_MET, "it stands elsewhere", "site = B"));
    Standard base = Standard.shipped();
    Standard standard =
        new Standard("S", 2, base.period(), base.zone(), base.tiers(), Map.of(), List.of(own));
    Given g = Given.estate().point("a", 5);
    List<Outcome> outcomes =
        Criteria.evaluate(new Subject(g.at(NOW), standard, g.resources.get(0)));
    Outcome last = outcomes.get(outcomes.size() - 1);
    assertThat(last.criterion()).isEqualTo(own);
    assertThat(last.sentence()).isEqualTo("it stands elsewhere");
    assertThatThrownBy(() -> new OwnCriterion("site", "t", "d", "e", s -> null))
        .hasMessageContaining("'site' is no code for a criterion of your own");
    assertThatThrownBy(() -> new Standard(
            "S", 2, base.period(), base.zone(), base.tiers(), Map.of(), List.of(own, own)))
        .hasMessage("two criteria of your own have the same code");
  }

  @ParameterizedTest
  @EnumSource(Parameter.class)
  void everyValueIsReadBackAsItWasWritten(Parameter parameter) {
    for (Standard standard : List.of(ShippedStandards.sensible(), ShippedStandards.strict())) {
      for (TierDemand tier : standard.tiers()) {
        Long value = tier.value(parameter);
        if (value != null) {
          assertThat(parameter.read(parameter.write(value))).isEqualTo(value);
          assertThat(parameter.words(value)).isNotBlank();
        }
      }
    }
  }

  @ParameterizedTest
  @CsvSource(delimiter = '|', textBlock = """
      RPO|soon|RPO: 'soon' is not a duration; write it as PT4H, P14D, 4h or 14d
      RPO|0h|RPO: '0h' is nothing; give a length of time
      COPIES|-1|Copies, at least: '-1' is not a whole number from 0 to 1000000
      ATTAINMENT|1.01|RPO attainment, at least: '1.01' is more than 1, the whole of the time
      ATTAINMENT|most|RPO attainment, at least: 'most' is not a number such as 0.99
      RUNG|7|Demanded rung: '7' rung 7 does not exist: 0 to 5
      CONSISTENCY|fine|Consistency, at least: 'fine' is not one of unknown, file, crash, application
      ENCRYPTED|maybe|Encrypted: 'maybe' is neither yes nor no; use true/false, yes/no or 1/0
      """)
  void valuesThatCantBeRightAreRefused(Parameter parameter, String text, String reason) {
    assertThatThrownBy(() -> parameter.read(text)).hasMessage(reason);
  }

  @Test
  void whatIsNeededCantBeLeftEmpty() {
    Map<Parameter, Long> values =
        new EnumMap<>(Standard.shipped().tiers().get(0).values());
    values.remove(Parameter.RPO);
    assertThatThrownBy(() -> new TierDemand(values)).hasMessage("RPO needs a value in every tier");
    values.put(Parameter.RPO, 1L);
    values.remove(Parameter.REACH);
    assertThat(new TierDemand(values).duration(Parameter.REACH)).isNull();
  }

  private static Outcome credentials(Instant changed, Instant tested) {
    Given g = Given.estate();
    Resource r = g.resources.get(0);
    g.resources.set(
        0,
        new Resource(
            r.key(),
            r.name(),
            r.kind(),
            new Resource.Links(r.workload(), null, List.of()),
            new Resource.Place(null, null, null),
            new Resource.Volume(null, null),
            new Resource.Seen(null, null, null, null),
            new Resource.Credentials(changed, tested),
            Map.of(),
            List.of(),
            "feed"));
    return g.outcome(CriterionCode.COVER_CREDENTIALS);
  }

  @Test
  void credentialsAreTestedAfterTheyChanged() {
    Instant changed = NOW.minus(Duration.ofDays(6));
    assertThat(credentials(null, null).state()).isEqualTo(OutcomeState.NOT_APPLICABLE);
    assertThat(credentials(null, NOW).state()).isEqualTo(OutcomeState.NOT_APPLICABLE);
    assertThat(credentials(changed, changed.minusMillis(1)).state())
        .isEqualTo(OutcomeState.NOT_MET);
    assertThat(credentials(changed, changed).state()).isEqualTo(OutcomeState.MET);
    assertThat(credentials(changed, NOW).sentence()).endsWith("6 d after that");
    assertThat(credentials(changed, null).sentence())
        .endsWith("not known to have been tested: the next backup may not get in");
  }
}
