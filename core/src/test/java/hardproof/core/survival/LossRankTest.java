package hardproof.core.survival;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Medium;
import hardproof.core.evidence.SurvivalTable;
import hardproof.core.losses.Loss;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Losses beside each other, of the estates of {@link SurvivalTest}. */
class LossRankTest {
  @Test
  void whatHurtsMostComesFirst() {
    Given g = Given.estate().point("a", 5);
    g.stores.add(Given.store("third", "B", Medium.DISK, "array", true));
    g.workloads.add(Given.workload("first", 1));
    g.resources.add(Given.resource("db", Kind.DATABASE, "first"));
    g.point("db-1", "db", Form.FULL, null, 1, PointOutcome.COMPLETE).copy("db-1", "third");
    List<LossRank> ranks = Tried.of(g).ranking();
    assertThat(ranks.get(0).loss()).isEqualTo(Loss.ofRegion("nordal"));
    assertThat(ranks.get(0).lost()).hasSize(2);
    LossRank third = ranks.stream()
        .filter(r -> r.loss().equals(Loss.ofStores(Set.of("third"))))
        .findFirst()
        .orElseThrow();
    assertThat(third.lost()).containsExactly("first");
    // The pair that takes w too is there; the pair that takes no more than its one is not.
    assertThat(ranks)
        .extracting(LossRank::loss)
        .contains(Loss.ofStores(Set.of("near", "far")))
        .doesNotContain(Loss.ofStores(Set.of("near", "third")));
    LossRank none = ranks.stream()
        .filter(r -> r.loss().equals(Loss.ofStores(Set.of("near"))))
        .findFirst()
        .orElseThrow();
    assertThat(none.weight()).isZero();
  }

  /** The ranking counts what is lost because it needs what is. */
  @Test
  void whatNeedsWhatIsLostCountsToo() {
    Given g = Given.estate().point("a", 5).theResource("needs", "names");
    g.workloads.add(Given.workload("late", 4));
    g.resources.add(Given.resource("names", Kind.FILE_SHARE, "late"));
    g.point("names-1", "names", Form.FULL, null, 2, PointOutcome.COMPLETE).copy("names-1", "far");
    assertThat(Tried.of(g).ranking())
        .filteredOn(r -> r.loss().equals(Loss.ofSite("B")))
        .singleElement()
        .extracting(r -> r.lost().size())
        .isEqualTo(2);
  }

  /** One row a workload that is lost or late, one a loss that does neither, in the order of the facts. */
  @Test
  void theTableOfSingleLosses() {
    Given g = Given.estate().point("old", 60).point("new", 5);
    g.copies.removeIf(c -> c.point().equals("new") && c.store().equals("far"));
    g.copies.removeIf(c -> c.point().equals("old") && c.store().equals("near"));
    assertThat(SurvivalTable.of(Tried.of(g).singles()).split("\r\n"))
        .containsExactly(
            "loss,fate,workload",
            "store near,late,w",
            "store far,survives,",
            "site A,late,w",
            "site B,survives,",
            "region nordal,lost,w",
            "failure domain array,late,w",
            "all that an administrator could delete,late,w");
  }
}
