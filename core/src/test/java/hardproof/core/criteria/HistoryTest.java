package hardproof.core.criteria;

import static hardproof.core.Fields.ago;
import static hardproof.core.Fields.ahead;
import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;

/** The History group. Tier 3: reach 14 d. */
class HistoryTest {
  /** The policy of the estate; keeps nothing, runs never, but for what these fields say. */
  private static Given withPolicy(String... fields) {
    return Given.estate()
        .thePolicy("name", "Nightly", "schedule", "", "keep_last", "")
        .thePolicy(fields);
  }

  @Test
  void reachIsTheAgeOfTheOldestUsablePoint() {
    Given g = Given.estate().point("old", 14 * 24).point("new", 5);
    assertThat(g.outcome(CriterionCode.HISTORY_REACH).state())
        .as("exactly the reach")
        .isEqualTo(OutcomeState.MET);
    Given short0 = Given.estate().point("old", 14 * 24 - 1).point("new", 5);
    Outcome o = short0.outcome(CriterionCode.HISTORY_REACH);
    assertThat(o.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(o.sentence())
        .isEqualTo("the oldest usable point is from 10 Nov 11:00: it reaches back 13 d 23 h, 1 h"
            + " short of the 14 d demanded");
    assertThat(short0
            .theResource("first_seen", ago("9d"))
            .outcome(CriterionCode.HISTORY_REACH)
            .sentence())
        .isEqualTo("not enough history: it was first seen 9 d ago, 14 d of reach are demanded");
    assertThat(short0.outcome(CriterionCode.HISTORY_REACH).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(short0
            .theResource("first_seen", "")
            .outcome(CriterionCode.HISTORY_REACH)
            .state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(Given.estate().outcome(CriterionCode.HISTORY_REACH).state())
        .isEqualTo(OutcomeState.NOT_MET);
  }

  @Test
  void missingSlotsAreNamed() {
    Given g = withPolicy("schedule", "24h", "keep_for", "4d")
        .point("a", 5)
        .point("b", 29)
        .point("c", 77);
    Outcome o = g.outcome(CriterionCode.HISTORY_SLOTS);
    assertThat(o.sentence())
        .isEqualTo("1 of the 4 slots that Nightly promises hold no usable point: 2026-11-22");
    assertThat(o.state()).isEqualTo(OutcomeState.NOT_MET);
    g.point("d", 53);
    assertThat(g.outcome(CriterionCode.HISTORY_SLOTS).state()).isEqualTo(OutcomeState.MET);
    assertThat(g.theResource("first_seen", ago("2d"))
            .outcome(CriterionCode.HISTORY_SLOTS)
            .state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
    assertThat(Given.estate().point("a", 5).outcome(CriterionCode.HISTORY_SLOTS).state())
        .as("the last 14 names no day")
        .isEqualTo(OutcomeState.NOT_APPLICABLE);
  }

  /** A schedule changed to 12 h halves the reach of the same 14 points. */
  @Test
  void reachOnPaperHalvesWithTheInterval() {
    Given g = withPolicy("schedule", "24h", "keep_last", "14").point("a", 5);
    assertThat(g.outcome(CriterionCode.HISTORY_ON_PAPER).state()).isEqualTo(OutcomeState.MET);
    g.thePolicy("schedule", "12h");
    Outcome o = g.outcome(CriterionCode.HISTORY_ON_PAPER);
    assertThat(o.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(o.sentence())
        .isEqualTo("Nightly keeps the last 14 with 12 h between starts, which reaches 7 d back, 7 d"
            + " short of the 14 d demanded");
    g.thePolicy("keep_last", "");
    assertThat(g.outcome(CriterionCode.HISTORY_ON_PAPER).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
  }

  private static Given copy(Given g, String store, String... fields) {
    return g.copy("a", store).theCopy("a", store, fields);
  }

  @Test
  void everyPointLivesLongEnough() {
    Given g = Given.estate().point("a", "r", Form.FULL, null, 5, PointOutcome.COMPLETE);
    Instant available = NOW.minus(Duration.ofMinutes(270));
    copy(g, "near", "expires", available.plus(Duration.ofDays(2)).toString());
    copy(g, "far", "expires", available.plus(Duration.ofDays(7)).toString());
    assertThat(g.outcome(CriterionCode.HISTORY_LIFETIME).state())
        .as("one copy for exactly the lifetime is enough")
        .isEqualTo(OutcomeState.MET);
    g.copies.remove(1);
    assertThat(g.outcome(CriterionCode.HISTORY_LIFETIME).sentence())
        .isEqualTo("1 of 1 point of the last 30 d is kept for less than 7 d, a for 2 d only");
    g.copies.clear();
    assertThat(g.outcome(CriterionCode.HISTORY_LIFETIME).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
  }

  @Test
  void aCopyThatVanishedBeforeItsTimeIsFound() {
    Given g = Given.estate().point("a", 5);
    assertThat(g.outcome(CriterionCode.HISTORY_GONE_EARLY).state()).isEqualTo(OutcomeState.MET);
    copy(g, "third", "state", "deleted", "expires", NOW.toString());
    assertThat(g.outcome(CriterionCode.HISTORY_GONE_EARLY).state())
        .as("gone at its expiry is not early")
        .isEqualTo(OutcomeState.MET);
    copy(g, "fourth", "state", "missing", "expires", ahead("3d"));
    Outcome o = g.outcome(CriterionCode.HISTORY_GONE_EARLY);
    assertThat(o.state()).isEqualTo(OutcomeState.NOT_MET);
    assertThat(o.sentence())
        .isEqualTo("1 copy vanished early: the one of a on fourth was found missing at 24 Nov"
            + " 10:00, 3 d before it expires");
    assertThat(Given.estate().outcome(CriterionCode.HISTORY_GONE_EARLY).state())
        .isEqualTo(OutcomeState.NOT_ENOUGH_DATA);
  }
}
