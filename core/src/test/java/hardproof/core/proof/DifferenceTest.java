package hardproof.core.proof;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Fields;
import hardproof.core.Given;
import hardproof.core.criteria.CriterionCode;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.criteria.Standard;
import hardproof.core.drills.Method;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Feed;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Selector;
import hardproof.core.feeds.FactKinds;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What changed between two evaluations, and what one says as a whole. Invented data. */
class DifferenceTest {
  /** One workload of each tier, each with a resource that has a point and, where it is asked, a drill. */
  private static Given four(boolean drilled) {
    Given g = Given.estate();
    g.workloads.clear();
    g.resources.clear();
    for (int tier = 1; tier <= 4; tier++) {
      g.workloads.add(Given.workload("w" + tier, tier));
      g.resources.add(Given.resource("r" + tier, Kind.FILE_SHARE, "w" + tier));
      g.point("p" + tier, "r" + tier, Form.FULL, null, 0.75, PointOutcome.COMPLETE)
          .copy("p" + tier, "near")
          .copy("p" + tier, "far");
      if (drilled) {
        g.drill("p" + tier, Method.FULL_RESTORE, true, 0.01);
      }
    }
    return g;
  }

  private static void fails(Given g, int tier) {
    g.drill("p" + tier, Method.FULL_RESTORE, false, 0);
  }

  /** Worst first; of those that are as bad the stricter tier first. What is new is neither better nor worse. */
  @Test
  void theWorstMovesComeFirst() {
    Given before = four(true);
    Given after = four(true);
    fails(after, 4);
    fails(after, 3);
    before.drills.clear();
    before
        .drill("p3", Method.FULL_RESTORE, true, 0.01)
        .drill("p4", Method.FULL_RESTORE, true, 0.01);
    after.workloads.add(Given.workload("w0", 1));
    List<Difference.Move> moves = Difference.moves(before.evaluate(), after.evaluate());
    assertThat(moves).extracting(Difference.Move::workload).startsWith("w3", "w4");
    assertThat(moves.subList(0, 2)).allMatch(Difference.Move::worse);
    assertThat(moves.subList(2, moves.size())).noneMatch(Difference.Move::worse);
    Difference.Move there =
        moves.stream().filter(m -> m.workload().equals("w0")).findFirst().orElseThrow();
    assertThat(there.from()).isNull();
    assertThat(there.because()).contains("has no resources");
    Difference.Move gone = Difference.moves(after.evaluate(), before.evaluate()).stream()
        .filter(m -> m.workload().equals("w0"))
        .findFirst()
        .orElseThrow();
    assertThat(gone.to()).isNull();
    assertThat(gone.because()).isEqualTo("it is not known any more");
    assertThat(gone.facts()).isEmpty();
    assertThat(Difference.moves(before.evaluate(), before.evaluate())).isEmpty();
  }

  /**
   * A move to a better word that is still bad comes after every move for the worse; of equal moves the stricter tier
   * comes first, with those of no known tier, and then the name.
   */
  @Test
  void movesAreInOneOrder() {
    Given before = four(true);
    Given after = four(true);
    for (Given g : List.of(before, after)) {
      g.workloads.set(2, Fields.with(FactKinds.WORKLOADS, g.workloads.get(2), "tier", ""));
      g.workloads.set(0, Fields.with(FactKinds.WORKLOADS, g.workloads.get(0), "name", "Zebra"));
    }
    before.points.removeIf(p -> p.key().equals("p2"));
    before.policies.clear();
    before.copies.removeIf(c -> c.point().equals("p2"));
    after.policies.clear();
    after.thePoint("p2", "data_time", Fields.ago("20d"), "available", Fields.ago("20d"));
    fails(after, 1);
    fails(after, 3);
    fails(after, 4);
    List<Difference.Move> moves = Difference.moves(before.evaluate(), after.evaluate());
    assertThat(moves)
        .extracting(m -> m.workload() + " " + m.to())
        .containsExactly("w3 DISPROVEN", "w1 DISPROVEN", "w4 DISPROVEN", "w2 EXPOSED");
    assertThat(moves.get(3).worse()).isFalse();
    assertThat(moves.get(3).from()).isEqualTo(Verdict.UNCOVERED);
  }

  /** What fails now comes first, what is met now last; each criterion is held to itself. */
  @Test
  void turnsAreOfOneCriterionEach() {
    Given before = four(true);
    Given after = four(true);
    after.drills.clear();
    after.copies.removeIf(c -> c.point().equals("p4") && c.store().equals("far"));
    before.points.set(0, Fields.with(FactKinds.POINTS, before.points.get(0), "outcome", "failed"));
    List<Difference.Turn> turns = Difference.turns(before.evaluate(), after.evaluate());
    assertThat(turns).isNotEmpty().allMatch(t -> t.from() != t.to());
    int firstBetter = 0;
    while (turns.get(firstBetter).worse()) {
      firstBetter++;
    }
    assertThat(firstBetter).isPositive();
    assertThat(turns.subList(firstBetter, turns.size()))
        .isNotEmpty()
        .allMatch(t -> t.to() != OutcomeState.NOT_MET);
    assertThat(turns.get(turns.size() - 1).to()).isEqualTo(OutcomeState.MET);
    assertThat(turns)
        .filteredOn(t -> t.resource().equals("r4"))
        .extracting(Difference.Turn::criterion)
        .contains("proof-age", "copies-off-site")
        .doesNotContain("cover-owner");
    assertThat(Difference.turns(after.evaluate(), after.evaluate())).isEmpty();
  }

  @Test
  void criteriaAreCountedBeforeAndAfterTheLargestChangeFirst() {
    Given before = four(true);
    Given after = four(true);
    after.drills.clear();
    after.copies.removeIf(c -> c.point().equals("p4") && c.store().equals("far"));
    List<CriterionCount> counts = CriterionCount.of(before.evaluate(), after.evaluate());
    CriterionCount first = counts.get(0);
    assertThat(first.criterion()).isEqualTo("proof-age");
    assertThat(first.notMetAfter() - first.notMetBefore()).isEqualTo(4);
    CriterionCount offSite = counts.stream()
        .filter(c -> c.criterion().equals("copies-off-site"))
        .findFirst()
        .orElseThrow();
    assertThat(offSite.title()).isEqualTo(CriterionCode.COPIES_OFF_SITE.title());
    assertThat(offSite.notMetBefore()).isZero();
    assertThat(offSite.notMetAfter()).isEqualTo(1);
    assertThat(counts).extracting(CriterionCount::criterion).doesNotContain("cover-owner");
    List<CriterionCount> back = CriterionCount.of(after.evaluate(), before.evaluate());
    assertThat(back.get(0).notMetBefore()).isEqualTo(first.notMetAfter());
    assertThat(CriterionCount.of(after.evaluate(), after.evaluate())).isEmpty();
  }

  @Test
  void anEvaluationCountsAndCanBeNarrowed() {
    Given g = four(true);
    fails(g, 2);
    Evaluation all = g.evaluate();
    assertThat(all.counts())
        .isEqualTo(Map.of(Verdict.DISPROVEN, 1, all.workload("w4").verdict(), 3));
    assertThat(all.asAt()).isEqualTo(NOW);
    assertThat(all.knownAt()).isEqualTo(NOW);
    Evaluation some = all.about(Set.of("r2", "r3"));
    assertThat(some.workloads())
        .extracting(w -> w.workload().key())
        .containsExactlyInAnyOrder("w2", "w3");
    assertThat(some.asAt()).isEqualTo(NOW);
    assertThat(some.knownAt()).isEqualTo(NOW);
    assertThat(some.standard()).isEqualTo(Standard.shipped());
    assertThat(all.about(Set.of()).workloads()).isEmpty();
  }

  /** A resource that is accepted to be left out rests on no feed. */
  @Test
  void theOldestHorizonIsOfWhatIsJudged() {
    Given g = four(true);
    g.feeds.add(new Feed("feed", null, NOW, NOW.minus(Duration.ofHours(1))));
    g.feeds.add(new Feed("old", null, NOW, NOW.minus(Duration.ofDays(9))));
    g.points.clear();
    g.resources.set(0, Given.toldBy("old", g.resources.get(0)));
    assertThat(g.evaluate().horizon()).isEqualTo(NOW.minus(Duration.ofDays(9)));
    g.exceptions.add(new AcceptedException(
        "e",
        Selector.allOf(Selector.Condition.is("key", "r1")),
        null,
        "retired",
        "nils",
        "eva",
        NOW.minus(Duration.ofDays(1)),
        NOW.plus(Duration.ofDays(1)),
        null));
    assertThat(g.evaluate().horizon()).isEqualTo(NOW.minus(Duration.ofHours(1)));
  }
}
