package hardproof.core.controls;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import hardproof.core.Given;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.drills.Method;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Selector;
import hardproof.core.insights.Stretch;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class ControlsTest {
  private static final Instant FROM = NOW.minus(Duration.ofDays(10));
  private static final Watched NOTHING = new Watched(FROM, null, List.of());

  private static ControlResult of(Given g, PublicControl control, Watched watched) {
    return Controls.of(g.evaluate(), watched).stream()
        .filter(c -> c.control() == control)
        .findFirst()
        .orElseThrow();
  }

  private static Given drilled() {
    return Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 10);
  }

  /** A criterion that names a control nobody lists would be asked of nobody. */
  @Test
  void whateverACriterionNamesIsAControl() {
    var known = Arrays.stream(PublicControl.values())
        .map(PublicControl::reference)
        .collect(Collectors.toSet());
    for (CriterionCode code : CriterionCode.values()) {
      assertThat(known).as(code.code()).containsAll(code.references());
    }
    assertThat(known).hasSameSizeAs(PublicControl.values());
  }

  @Test
  void whatNoCriterionServesIsNotLookedAtAndSaysSo() {
    ControlResult dual = of(drilled(), PublicControl.CP_9_7, NOTHING);
    assertThat(dual.state()).isEqualTo(ControlState.NOT_LOOKED_AT);
    assertThat(dual.criteria()).isEmpty();
    assertThat(dual.whole().outcomes()).isEmpty();
    assertThat(dual.control().notLookedAt()).startsWith("all of it");
  }

  @Test
  void theWorstOutcomeDecidesAndSilenceIsNoPass() {
    assertThat(of(drilled(), PublicControl.CP_10_4, NOTHING).state())
        .isEqualTo(ControlState.SATISFIED);
    Given silent = Given.estate().point("a", 5);
    assertThat(of(silent, PublicControl.CIS_11_5, NOTHING).state())
        .isEqualTo(ControlState.OTHER_THAN_SATISFIED);
    for (OutcomeState state : OutcomeState.values()) {
      assertThat(ControlState.of(new java.util.TreeMap<>(java.util.Map.of(state, 1))))
          .isEqualTo(
              switch (state) {
                case MET -> ControlState.SATISFIED;
                case NOT_MET -> ControlState.OTHER_THAN_SATISFIED;
                case NOT_ENOUGH_DATA -> ControlState.NOT_ENOUGH_DATA;
                case EXCEPTED -> ControlState.EXCEPTED;
                case NOT_APPLICABLE -> ControlState.NOT_APPLICABLE;
              });
    }
  }

  @Test
  void oneThatIsNotMetOutweighsAnyNumberThatAreAndNoDataOutweighsAnException() {
    var all = new java.util.TreeMap<OutcomeState, Integer>();
    all.put(OutcomeState.MET, 1000);
    all.put(OutcomeState.EXCEPTED, 10);
    assertThat(ControlState.of(all)).isEqualTo(ControlState.EXCEPTED);
    all.put(OutcomeState.NOT_ENOUGH_DATA, 1);
    assertThat(ControlState.of(all)).isEqualTo(ControlState.NOT_ENOUGH_DATA);
    all.put(OutcomeState.NOT_MET, 1);
    assertThat(ControlState.of(all)).isEqualTo(ControlState.OTHER_THAN_SATISFIED);
  }

  @Test
  void outcomesAreCountedByTierAndTheUnknownTierIsTheStrictest() {
    Given g = drilled();
    g.workloads.add(Given.workload("v", 1));
    g.resources.add(Given.resource("s", Kind.FILE_SHARE, "v"));
    g.resources.add(Given.resource("t", Kind.FILE_SHARE, null));
    ControlResult c = of(g, PublicControl.CIS_11_1, NOTHING);
    assertThat(c.tiers()).containsOnlyKeys(1, 3);
    int whole = c.whole().outcomes().values().stream().mapToInt(n -> n).sum();
    assertThat(whole).isEqualTo(3 * c.criteria().size());
    assertThat(c.tiers().get(1).outcomes().values().stream().mapToInt(n -> n).sum())
        .isEqualTo(2 * c.criteria().size());
  }

  @Test
  void whatIsLeftOutIsNotCounted() {
    Given g = drilled();
    g.exceptions.add(new AcceptedException(
        "x", Selector.EVERYTHING, null, "agreed", "ana", "bo", null, null, null));
    ControlResult c = of(g, PublicControl.CP_9, NOTHING);
    assertThat(c.whole().outcomes()).isEmpty();
    assertThat(c.state()).isEqualTo(ControlState.NOT_APPLICABLE);
  }

  private static Stretch open(CriterionCode code, int fromDays, @Nullable Integer toDays) {
    return new Stretch(
        code.code() + ":r",
        3,
        NOW.minus(Duration.ofDays(fromDays)),
        toDays == null ? null : NOW.minus(Duration.ofDays(toDays)));
  }

  private static Double share(@Nullable Instant since, Stretch... stretches) {
    return of(drilled(), PublicControl.CP_10_4, new Watched(FROM, since, List.of(stretches)))
        .whole()
        .shareMet();
  }

  /** One criterion of one resource over ten days; worked out by hand. */
  @Test
  void theShareOfTheTimeIsWithoutTheTimeInWhichItWasFoundBroken() {
    CriterionCode code = PublicControl.CP_10_4.criteria().get(0);
    Instant long_ago = FROM.minus(Duration.ofDays(100));
    assertThat(share(null)).as("nobody looked").isNull();
    assertThat(share(NOW)).as("nobody looked yet").isNull();
    assertThat(share(long_ago)).isEqualTo(1);
    assertThat(share(long_ago, open(code, 4, 2))).isEqualTo(0.8, within(1e-12));
    assertThat(share(long_ago, open(code, 4, null))).isEqualTo(0.6, within(1e-12));
    assertThat(share(long_ago, open(code, 20, 9))).isEqualTo(0.9, within(1e-12));
    assertThat(share(long_ago, open(code, 20, null))).isEqualTo(0);
    assertThat(share(long_ago, open(code, 9, 8), open(code, 3, 1))).isEqualTo(0.7, within(1e-12));
    assertThat(share(NOW.minus(Duration.ofDays(5)), open(code, 4, 2)))
        .as("of the five days since anybody looked")
        .isEqualTo(0.6, within(1e-12));
  }

  /** Its finding is of the feed, so that nothing of a resource would ever speak against it. */
  @Test
  void thePaceOfAFeedHasNoShareOfTime() {
    Given g = drilled();
    g.feeds.add(new hardproof.core.estate.Feed("f", Duration.ofDays(9), NOW, NOW));
    g.resources.set(0, Given.toldBy("f", g.resources.get(0)));
    Watched watched = new Watched(FROM, FROM, List.of());
    ControlResult with = of(g, PublicControl.PR_DS_11, watched);
    assertThat(with.whole().count(OutcomeState.NOT_MET))
        .as("the pace is not kept")
        .isPositive();
    CriterionCode other = PublicControl.PR_DS_11.criteria().stream()
        .filter(c -> c == CriterionCode.FRESH_EXPOSURE_NOW)
        .findFirst()
        .orElseThrow();
    long judged = g.evaluate().workload("w").members().get(0).outcomes().stream()
        .filter(o -> PublicControl.PR_DS_11.criteria().contains(o.criterion()))
        .filter(o -> o.criterion() != CriterionCode.FRESH_PACE)
        .filter(o -> o.state() == OutcomeState.MET || o.state() == OutcomeState.NOT_MET)
        .count();
    // One of the judged others was broken all the time: its part of the share is exact.
    assertThat(of(
                g, PublicControl.PR_DS_11, new Watched(FROM, FROM, List.of(open(other, 20, null))))
            .whole()
            .shareMet())
        .isEqualTo(1 - 1.0 / judged, within(1e-12));
  }

  @Test
  void aResourceCountsFromWhenItWasFirstSeen() {
    CriterionCode code = PublicControl.CP_10_4.criteria().get(0);
    Given g = drilled().theResource("first_seen", NOW.minus(Duration.ofDays(4)).toString());
    Watched watched = new Watched(FROM, FROM, List.of(open(code, 4, 3)));
    assertThat(of(g, PublicControl.CP_10_4, watched).whole().shareMet())
        .isEqualTo(0.75, within(1e-12));
  }
}
