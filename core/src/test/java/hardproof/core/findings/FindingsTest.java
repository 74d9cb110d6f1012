package hardproof.core.findings;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.criteria.Concern;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.FactRef;
import hardproof.core.drills.Method;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Selector;
import hardproof.core.estate.Selector.Condition;
import hardproof.core.forecast.Forecaster;
import hardproof.core.programmes.Capacity;
import hardproof.core.proof.Difference;
import hardproof.core.proof.Evaluation;
import hardproof.core.proof.Verdict;
import hardproof.core.wording.Wording;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class FindingsTest {
  private static List<Finding> findings(Given g) {
    return Findings.of(g.evaluate(), g.at(NOW), Map.of());
  }

  @Test
  void theUnprotectedComeFirstThenTheWorstTier() {
    Given g = Given.estate().point("a", 30);
    g.workloads.add(Given.workload("w4", 4));
    g.resources.add(Given.resource("bare", Kind.DATABASE, "w4"));
    g.policies.set(0, g.policies.get(0).withScope(Selector.allOf(Condition.is("key", "r"))));
    List<Finding> all = findings(g);
    assertThat(all.get(0).about().subject()).isEqualTo("bare");
    assertThat(all.get(0).unprotected()).isTrue();
    assertThat(all.get(1).about().tier()).isEqualTo(3);
    assertThat(all).extracting(Finding::key).doesNotHaveDuplicates();
  }

  private static Finding of(
      Concern concern, String name, Integer tier, boolean bare, double over, String exception) {
    About about =
        new About(SubjectType.RESOURCE, name, name, null, null, null, tier, null, List.of());
    return new Finding(concern, about, bare, "s", null, null, over, List.of(), exception);
  }

  /** Each comes before the next by one thing alone, however the things after it stand. */
  @Test
  void whatMattersMostComesFirst() {
    List<Finding> wanted = List.of(
        of(CriterionCode.FRESH_EXPOSURE_NOW, "z", 4, true, 1, null),
        of(CriterionCode.FRESH_ATTAINMENT, "a", 1, false, 1, null),
        of(CriterionCode.FRESH_EXPOSURE_NOW, "z", 2, false, 1, null),
        of(CriterionCode.FRESH_ATTAINMENT, "z", 2, false, 9, null),
        of(CriterionCode.FRESH_ATTAINMENT, "a", 2, false, 8, null),
        of(CriterionCode.FRESH_ATTAINMENT, "b", 2, false, 8, null),
        of(CriterionCode.FRESH_ATTAINMENT, "a", 4, false, Double.POSITIVE_INFINITY, null),
        of(CriterionCode.FRESH_EXPOSURE_NOW, "a", 1, true, 9, "x"));
    List<Finding> mixed = new ArrayList<>(wanted);
    Collections.reverse(mixed);
    mixed.sort(Findings.IN_ORDER);
    assertThat(mixed).isEqualTo(wanted);
  }

  private static AcceptedException exception(String criterion, Instant until) {
    return new AcceptedException(
        "x",
        Selector.allOf(Condition.is("key", "r")),
        criterion,
        "agreed",
        "ana",
        "bo",
        null,
        until,
        null);
  }

  @Test
  void whatIsExceptedKeepsItsArithmeticAndComesLast() {
    Given g = Given.estate().point("a", 30);
    g.exceptions.add(exception("fresh-exposure-now", null));
    List<Finding> all = findings(g);
    Finding last = all.get(all.size() - 1);
    assertThat(last.code()).isEqualTo("fresh-exposure-now");
    assertThat(last.open()).isFalse();
    assertThat(last.measured()).isEqualTo("30 h");
    assertThat(all.subList(0, all.size() - 1)).allMatch(Finding::open);
  }

  @Test
  void whatIsLeftOutWholeHasNoFindings() {
    Given g = Given.estate();
    g.exceptions.add(exception(null, null));
    assertThat(findings(g)).isEmpty();
  }

  @Test
  void exceptionsThatEndSoonOrEndedLatelyAreFindings() {
    Given g = Given.estate();
    g.exceptions.add(exception("copies-number", NOW.plus(Findings.ENDS_SOON)));
    assertThat(findings(g)).extracting(Finding::code).contains("exception-ending");
    g.exceptions.set(0, exception("copies-number", NOW.plus(Findings.ENDS_SOON).plusMillis(1)));
    assertThat(findings(g)).extracting(Finding::code).doesNotContain("exception-ending");
    g.exceptions.set(0, exception("copies-number", NOW));
    assertThat(findings(g)).extracting(Finding::code).contains("exception-ended");
    g.exceptions.set(
        0, exception("copies-number", NOW.minus(Findings.ENDED_LATELY).minusMillis(1)));
    assertThat(findings(g)).extracting(Finding::code).doesNotContain("exception-ended");
  }

  private static List<String> ofStores(Given g) {
    return findings(g).stream()
        .filter(f -> f.about().type() == SubjectType.STORE)
        .map(Finding::key)
        .toList();
  }

  @Test
  void whatLiesOnAStoreAndNoFeedTellsOfIsAFinding() {
    Given g = Given.estate().listing("near", NOW.minus(Duration.ofHours(5)), true, 40, 0);
    assertThat(ofStores(g)).isEmpty();
    g.listings.clear();
    g.listing("near", NOW.minus(Duration.ofHours(5)), true, 40, 1);
    assertThat(findings(g))
        .filteredOn(f -> f.code().equals("store-untold"))
        .singleElement()
        .satisfies(f -> {
          assertThat(f.sentence())
              .isEqualTo("1 of 40 files on NEAR is told of by no feed (1.00 kB), by the list at "
                  + Wording.time(NOW.minus(Duration.ofHours(5)), NOW)
                  + ": a backup that nobody told of, or something that should not be there");
          assertThat(f.about().name()).isEqualTo("NEAR");
          assertThat(f.facts()).containsExactly(new FactRef("stores", "near"));
        });
  }

  @Test
  void aListThatFailedIsAFindingUntilOneIsWhole() {
    Given g = Given.estate().listing("near", NOW.minus(Duration.ofHours(5)), false, 3, 0);
    assertThat(ofStores(g)).containsExactly("store-not-listed:near");
    assertThat(findings(g))
        .filteredOn(f -> f.code().equals("store-not-listed"))
        .singleElement()
        .satisfies(f -> assertThat(f.sentence())
            .contains("failed: it broke off. It has never been listed whole"));
    g.listing("near", NOW.minus(Duration.ofHours(30)), true, 40, 2);
    assertThat(ofStores(g)).containsExactlyInAnyOrder("store-not-listed:near", "store-untold:near");
    assertThat(findings(g))
        .filteredOn(f -> f.code().equals("store-not-listed"))
        .singleElement()
        .satisfies(f -> assertThat(f.measured()).isEqualTo("30 h"));
    g.listing("near", NOW.minus(Duration.ofHours(1)), true, 40, 0);
    assertThat(ofStores(g)).isEmpty();
    g.listing("gone", NOW.minus(Duration.ofHours(1)), false, 40, 0);
    assertThat(ofStores(g)).as("of a store that nobody tells of any more").isEmpty();
  }

  @Test
  void silentFeedsAndThoseThatNameUnknownThingsAreFindings() {
    Given g = Given.estate().point("a", 5);
    g.feeds.add(new Feed("feed", Duration.ofHours(1), NOW.minus(Duration.ofHours(2)), null));
    List<Finding> all =
        Findings.of(g.evaluate(), g.at(NOW), Map.of("feed", new Pending(3, List.of("a", "b"))));
    assertThat(all).extracting(Finding::code).contains("feed-overdue", "feed-pending");
    assertThat(all)
        .filteredOn(f -> f.code().equals("feed-pending"))
        .extracting(Finding::sentence)
        .containsExactly(
            "3 facts of feed feed name another that is not known; they are kept and join"
                + " when the other comes; stores a and b are not known, so no copy there can be"
                + " read");
    for (var named : Map.of(
            List.of("a"), "; store a is not known, so",
            List.of("a", "b", "c", "d", "e"), "; stores a, b, c, d and e are not known",
            List.of("a", "b", "c", "d", "e", "f"),
                "; stores a, b, c, d, e and 1 more are not known")
        .entrySet()) {
      assertThat(
              Findings.of(g.evaluate(), g.at(NOW), Map.of("feed", new Pending(3, named.getKey()))))
          .extracting(Finding::sentence)
          .anyMatch(s -> s.contains(named.getValue()));
    }
  }

  @Test
  void aMoveNamesTheFactThatMovedIt() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 1);
    Evaluation before = g.evaluate();
    g.drill("a", Method.FULL_RESTORE, false, 0.1);
    Evaluation after = g.evaluate();
    List<Difference.Move> moves = Difference.moves(before, after);
    assertThat(moves).hasSize(1);
    Difference.Move move = moves.get(0);
    assertThat(move.from()).isEqualTo(Verdict.PROVEN);
    assertThat(move.to()).isEqualTo(Verdict.DISPROVEN);
    assertThat(move.facts().get(0).kind()).isEqualTo("drills");
    assertThat(move.worse()).isTrue();
    assertThat(Difference.moves(before, before)).isEmpty();
    assertThat(Difference.turns(before, after))
        .filteredOn(Difference.Turn::worse)
        .extracting(Difference.Turn::criterion)
        .contains("proof-last-drill");
    assertThat(Difference.moves(after, before).get(0).worse()).isFalse();
  }

  @Test
  void workloadsThatComeAndGoAreMoves() {
    Given g = Given.estate().point("a", 5);
    Evaluation before = g.evaluate();
    g.workloads.add(Given.workload("new", 1));
    assertThat(Difference.moves(before, g.evaluate()))
        .extracting(Difference.Move::from)
        .containsOnlyNulls();
    assertThat(Difference.moves(g.evaluate(), before).get(0).because())
        .isEqualTo("it is not known any more");
  }

  /** By the forecast of the very evaluation: a programme that would renew it takes the finding away. */
  @Test
  void whatNothingRenewsIsAFinding() {
    Given g = Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 170);
    Evaluation evaluation = g.evaluate();
    Forecaster without = new Forecaster(g.at(NOW), evaluation, List.of(), s -> true);
    List<Finding> findings = Findings.of(
        evaluation,
        g.at(NOW),
        Map.of(),
        without.forecast(Capacity.usual(), Forecaster.AHEAD).neverRenewed());
    Finding found = findings.stream()
        .filter(f -> f.code().equals("proof-not-renewed"))
        .findFirst()
        .orElseThrow();
    assertThat(found.sentence())
        .isEqualTo(
            "the proof of R lapses in 10 d and nothing will renew it: no programme drills it");
    assertThat(found.demanded()).isEqualTo("restored every 180 d");
    assertThat(found.about().workload()).isEqualTo("w");
    assertThat(found.open()).isTrue();
    assertThat(found.concern().group()).isEqualTo("Proof");
    g.resources.clear();
    g.resources.add(Given.resource("r", Kind.FILE_SHARE, "nowhere"));
    Evaluation alone = g.evaluate();
    assertThat(alone.workloadOf(alone.resource("r")).unassigned()).isTrue();
  }
}
