package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Fields;
import hardproof.core.Given;
import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyState;
import hardproof.core.estate.Policy;
import hardproof.core.feeds.FactKinds;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Promised copies at the edges: of the period, of the deadline, of what is known. Invented data. */
class CopiesDeadlineTest {
  private static final Duration DEADLINE = Duration.ofHours(4);

  private static Given promising(Policy.CopyTarget... targets) {
    Given g = Given.estate();
    g.policies.set(0, Given.policy("p", Duration.ofHours(24), targets));
    return g;
  }

  private static Given promisingFar() {
    return promising(new Policy.CopyTarget("far", DEADLINE));
  }

  /** A point that becomes available at an instant, without a copy. */
  private static Given available(Given g, String key, Instant at) {
    g.point(key, "r", Form.FULL, null, 1, PointOutcome.COMPLETE);
    int last = g.points.size() - 1;
    g.points.set(
        last,
        Fields.with(
            FactKinds.POINTS,
            g.points.get(last),
            "data_time",
            at.minusSeconds(60).toString(),
            "available",
            at.toString()));
    return g;
  }

  private static Given finished(Given g, String point, String store, Instant at) {
    g.copy(point, store);
    int last = g.copies.size() - 1;
    Copy copy = g.copies.get(last);
    g.copies.set(last, Fields.with(FactKinds.COPIES, copy, "finished", at.toString()));
    return g;
  }

  private static Outcome judged(Given g) {
    return g.outcome(CriterionCode.COPIES_DEADLINE);
  }

  /** The shipped standard judges thirty days. */
  @Test
  void aPointCountsFromTheBeginningOfThePeriodUpToNow() {
    Instant begin = NOW.minus(Standard.shipped().period());
    assertThat(judged(available(promisingFar(), "a", begin.minusMillis(1))).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(judged(available(promisingFar(), "a", begin)).state())
        .isEqualTo(OutcomeState.NOT_MET);
    Outcome now = judged(available(promisingFar(), "a", NOW));
    assertThat(now.state()).isEqualTo(OutcomeState.MET);
    assertThat(now.measured().words()).isEqualTo("0 s");
  }

  @Test
  void aCopyAtExactlyItsDeadlineIsInTime() {
    Instant at = NOW.minus(Duration.ofHours(10));
    Given g = available(promisingFar(), "a", at);
    assertThat(judged(finished(g, "a", "far", at.plus(DEADLINE))).state())
        .isEqualTo(OutcomeState.MET);
    g.copies.clear();
    Outcome late = judged(finished(g, "a", "far", at.plus(DEADLINE).plusMillis(1)));
    assertThat(late.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(late.sentence()).contains("came after");
  }

  @Test
  void oneThatIsNotThereHasUntilItsDeadline() {
    assertThat(judged(available(promisingFar(), "a", NOW.minus(DEADLINE))).state())
        .isEqualTo(OutcomeState.MET);
    Outcome missing = judged(available(promisingFar(), "a", NOW.minus(DEADLINE).minusMillis(1)));
    assertThat(missing.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(missing.sentence()).contains("is missing after");
  }

  /** Two stores, the second promised later: what is nearest to its deadline is what is measured. */
  @Test
  void theOneNearestToItsDeadlineIsMeasured() {
    Instant at = NOW.minus(Duration.ofHours(3));
    Given g = promising(
        new Policy.CopyTarget("near", Duration.ofHours(24)),
        new Policy.CopyTarget("far", DEADLINE));
    available(g, "a", at);
    finished(g, "a", "near", at.plus(Duration.ofHours(1)));
    assertThat(judged(g).demanded().words()).isEqualTo("4 h");
    assertThat(judged(g).measured().words()).isEqualTo("3 h");
  }

  /** Of two that are as near, the one that was promised first. */
  @Test
  void ofTwoThatAreAsNearTheFirstIsMeasured() {
    Instant at = NOW.minus(Duration.ofHours(3));
    Given g = promising(
        new Policy.CopyTarget("near", Duration.ofHours(2)), new Policy.CopyTarget("far", DEADLINE));
    available(g, "a", at);
    finished(g, "a", "near", at.plus(Duration.ofHours(1)));
    assertThat(judged(g).demanded().words()).isEqualTo("2 h");
  }

  /** A slow store: what has time now can't be there in time. One that is there already projects nothing. */
  @Test
  void whatCanNotComeInTimeIsSaidOfWhatIsNotThere() {
    Instant at = NOW.minus(Duration.ofHours(3));
    Given g = available(promisingFar(), "a", at);
    g.stores.set(1, Fields.with(FactKinds.STORES, g.stores.get(1), "throughput", "1 B"));
    g.points.set(0, Fields.with(FactKinds.POINTS, g.points.get(0), "size", "7200"));
    assertThat(judged(g).state()).isEqualTo(OutcomeState.MET);
    assertThat(judged(g).sentence()).contains("1 h after its deadline");
    g.copies.add(new Copy(
        "a",
        "far",
        NOW.plusSeconds(3600),
        CopyState.PRESENT,
        null,
        null,
        new Copy.Artifact(null, null, null, null),
        new Copy.ReadBack(null, null),
        NOW,
        "feed"));
    assertThat(judged(g).sentence()).contains("after its deadline");
    g.copies.clear();
    finished(g, "a", "far", at.plus(Duration.ofHours(1)));
    assertThat(judged(g).sentence()).doesNotContain("after its deadline");
  }

  @Test
  void whatIsFarthestOverIsNamedAndAtMostSomeAreListed() {
    Given g = promisingFar();
    for (int i = 0; i < 8; i++) {
      available(g, "p" + i, NOW.minus(Duration.ofHours(100 - 10L * i)));
    }
    Outcome o = judged(g);
    assertThat(o.sentence())
        .startsWith("8 of 8 promised copies were late or missing: the copy of p0");
    assertThat(o.facts()).hasSize(FactRef.ENOUGH);
    assertThat(o.facts())
        .isSubsetOf(List.of(
            new FactRef("points", "p0"),
            new FactRef("points", "p1"),
            new FactRef("points", "p2"),
            new FactRef("points", "p3"),
            new FactRef("points", "p4")));
  }
}
