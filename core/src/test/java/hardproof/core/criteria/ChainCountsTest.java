package hardproof.core.criteria;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Fields;
import hardproof.core.Given;
import hardproof.core.copies.Copy;
import hardproof.core.copies.CopyCount;
import hardproof.core.copies.CopyState;
import hardproof.core.estate.Medium;
import hardproof.core.feeds.FactKinds;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import java.time.Duration;
import org.junit.jupiter.api.Test;

/**
 * A restore takes the whole chain: a point's figures are at most those of the weakest it hangs from. Common
 * practice, no source; production counts as one copy. Invented data.
 */
class ChainCountsTest {
  private static CopyCount count(Given g) {
    return new Subject(g.at(NOW), Standard.shipped(), g.resources.get(0)).copyCount();
  }

  private static Given increment(
      Given g, String key, String base, double hoursAgo, String... stores) {
    g.point(key, "r", Form.INCREMENTAL, base, hoursAgo, PointOutcome.COMPLETE);
    for (String store : stores) {
      g.copy(key, store);
    }
    return g;
  }

  private static Given full(String... stores) {
    return full(30, stores);
  }

  private static Given full(double hoursAgo, String... stores) {
    Given g = Given.estate();
    g.stores.add(Given.store("third", "C", Medium.OBJECT, "account", true));
    g.point("full", "r", Form.FULL, null, hoursAgo, PointOutcome.COMPLETE);
    for (String store : stores) {
      g.copy("full", store);
    }
    return g;
  }

  @Test
  void anIncrementIsHeldDownByItsBase() {
    CopyCount c = count(increment(full("near"), "inc", "full", 10, "near", "far", "third"));
    assertThat(c.copies()).isEqualTo(2);
    assertThat(c.offSite()).isZero();
    assertThat(c.heldDown(CopyCount.Figure.COPIES)).contains("full");
  }

  @Test
  void whatHangsFromAsManyIsNotHeldDown() {
    CopyCount c = count(increment(full("near", "far"), "inc", "full", 10, "near", "far"));
    assertThat(c.copies()).isEqualTo(3);
    assertThat(c.heldDown(CopyCount.Figure.COPIES)).isEmpty();
  }

  /** Two chains; the better one's figure counts, and who holds that one down is named. */
  @Test
  void theBestOfSeveralChainsCounts() {
    Given g = increment(full("near"), "inc", "full", 20, "near", "far");
    g.point("other", "r", Form.FULL, null, 15, PointOutcome.COMPLETE)
        .copy("other", "near")
        .copy("other", "far");
    increment(g, "more", "other", 10, "near", "far", "third");
    CopyCount c = count(g);
    assertThat(c.copies()).isEqualTo(3);
    assertThat(c.heldDown(CopyCount.Figure.COPIES)).doesNotContain("full");
  }

  /** Nothing of the two together stands on three stores: the one that hangs on is held at the base's number. */
  @Test
  void asManyAsTheWholeOnesIsStillHeldDown() {
    Given g = increment(full("near"), "inc", "full", 10, "near", "far");
    CopyCount c = count(g);
    assertThat(c.copies()).isEqualTo(2);
    assertThat(c.heldDown(CopyCount.Figure.COPIES)).contains("full");
    assertThat(c.heldDown(CopyCount.Figure.OFF_SITE)).contains("full");
  }

  /** The weakest may lie in the middle of a chain; the full is too old to count by itself. */
  @Test
  void theWeakestOfAChainIsNamedWhereverItIs() {
    Given g = increment(full(20 * 24, "near", "far"), "mid", "full", 20, "near");
    increment(g, "top", "mid", 10, "near", "far");
    CopyCount c = count(g);
    assertThat(c.heldDown(CopyCount.Figure.OFF_SITE)).contains("mid").doesNotContain("full");
  }

  /** Of two that are as weak the upper one is named: it has to be copied in any case. */
  @Test
  void ofTwoThatAreAsWeakTheUpperIsNamed() {
    Given g = increment(full("near"), "mid", "full", 20, "near");
    increment(g, "top", "mid", 10, "near", "far");
    assertThat(count(g).heldDown(CopyCount.Figure.COPIES)).contains("mid").doesNotContain("full");
  }

  @Test
  void errorsOfAChainCountEachOnce() {
    Given g = full("near");
    g.copy("full", "far", CopyState.DAMAGED, NOW.minusSeconds(60));
    increment(g, "one", "full", 20, "near");
    increment(g, "two", "full", 10, "near");
    assertThat(count(g).errors()).isEqualTo(1);
  }

  /** A base that is too old to be judged by itself still counts for what hangs from it. */
  @Test
  void errorsBelowFreshPointsCount() {
    Given g = Given.estate();
    g.point("full", "r", Form.FULL, null, 20 * 24, PointOutcome.COMPLETE).copy("full", "near");
    g.copy("full", "far", CopyState.DAMAGED, NOW.minusSeconds(60));
    increment(g, "inc", "full", 10, "near");
    assertThat(count(g).errors()).isEqualTo(1);
  }

  @Test
  void aChainInACircleComesToAnEnd() {
    Given g = Given.estate();
    increment(g, "a", "b", 20, "near");
    increment(g, "b", "a", 10, "near");
    g.copy("a", "far", CopyState.DAMAGED, NOW.minusSeconds(60));
    assertThat(count(g).errors()).isEqualTo(1);
  }

  /** One copy on each store, and the locked one where there is any. */
  @Test
  void aLockedCopyCountsBesideOneThatIsNot() {
    Given g = Given.estate().point("a", 20).point("b", 10);
    Copy open = g.copies.get(2);
    String until = NOW.plus(Duration.ofDays(5)).toString();
    g.copies.set(2, Fields.with(FactKinds.COPIES, open, "locked_until", until));
    Subject s = new Subject(g.at(NOW), Standard.shipped(), g.resources.get(0));
    assertThat(s.readableCopies())
        .filteredOn(c -> c.store().equals("near"))
        .extracting(Copy::point)
        .containsExactly("a", "b");
    assertThat(s.readableCopies()).filteredOn(c -> c.store().equals("far")).hasSize(1);
    assertThat(s.copyCount().copies()).isEqualTo(3);
    assertThat(s.copyCount().offlineOrLocked()).isEqualTo(2);
  }

  /** Its full is too old to be counted by itself; what hangs from it stands on its own copies. */
  @Test
  void anIncrementOfAnOldFullCounts() {
    CopyCount c = count(increment(full(24 * 20, "near", "far"), "inc", "full", 10, "near", "far"));
    assertThat(c.copies()).isEqualTo(3);
    assertThat(c.media()).isEqualTo(2);
    assertThat(c.offSite()).isEqualTo(1);
    assertThat(c.offlineOrLocked()).isEqualTo(1);
    assertThat(c.heldDown(CopyCount.Figure.COPIES)).isEmpty();
  }
}
