package hardproof.core.facts;

import static hardproof.core.Given.NOW;
import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.copies.CopyState;
import hardproof.core.drills.Method;
import hardproof.core.facts.Usability.Judged;
import hardproof.core.points.Consistency;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;

class UsabilityTest {
  private static Judged last(Given g) {
    var all = Usability.of(g.at(NOW), "r", Consistency.UNKNOWN).points();
    return all.get(all.size() - 1);
  }

  @Test
  void beginsWhenAvailableNotWhenCut() {
    Judged j = last(Given.estate().point("a", 5));
    Instant available = NOW.minus(Duration.ofMinutes(270));
    assertThat(j.usableAt(available.minusMillis(1))).isFalse();
    assertThat(j.usableAt(available)).isTrue();
    assertThat(j.usableAt(NOW)).isTrue();
    assertThat(j.whyNot()).isNull();
  }

  @Test
  void partialIsNeverEnough() {
    Judged j = last(
        Given.estate().point("a", "r", Form.FULL, null, 5, PointOutcome.PARTIAL).copy("a", "near"));
    assertThat(j.span().from()).isGreaterThanOrEqualTo(j.span().until());
    assertThat(j.whyNot()).isEqualTo("its outcome is partial");
  }

  @Test
  void consistencyIsComparedWithWhatIsAsked() {
    Given g = Given.estate().point("a", 5);
    assertThat(Usability.of(g.at(NOW), "r", Consistency.FILE).points().get(0).usableAt(NOW))
        .isTrue();
    Judged j = Usability.of(g.at(NOW), "r", Consistency.CRASH).points().get(0);
    assertThat(j.usableAt(NOW)).isFalse();
    assertThat(j.whyNot()).isEqualTo("its consistency is file, crash is demanded");
  }

  @Test
  void withoutACopyThereIsNothing() {
    assertThat(last(Given.estate().point("a", "r", Form.FULL, null, 5, PointOutcome.COMPLETE))
            .whyNot())
        .isEqualTo("no copy of it is known");
  }

  @Test
  void anIncrementalFallsWithItsFull() {
    Given g = Given.estate().point("f", "r", Form.FULL, null, 30, PointOutcome.COMPLETE);
    g.copy("f", "near", CopyState.DAMAGED, NOW.minusSeconds(600));
    g.point("i", "r", Form.INCREMENTAL, "f", 6, PointOutcome.COMPLETE).copy("i", "near");
    Judged j = last(g);
    assertThat(j.usableAt(NOW.minusSeconds(601))).isTrue();
    assertThat(j.usableAt(NOW)).isFalse();
    assertThat(j.whyNot()).isEqualTo("it hangs from f: the copy on NEAR is damaged");
  }

  @Test
  void anotherGoodCopyKeepsItUsable() {
    Given g = Given.estate().point("a", "r", Form.FULL, null, 5, PointOutcome.COMPLETE);
    g.copy("a", "near", CopyState.MISSING, NOW.minusSeconds(60)).copy("a", "far");
    assertThat(last(g).usableAt(NOW)).isTrue();
  }

  @Test
  void aFailedDrillEndsTheCopyFromThenOn() {
    Given g = Given.estate()
        .point("a", "r", Form.FULL, null, 50, PointOutcome.COMPLETE)
        .copy("a", "near");
    g.drill("a", Method.READ_THROUGH, false, 1);
    Judged j = last(g);
    assertThat(j.usableAt(NOW.minus(Duration.ofDays(1)).minusMillis(1))).isTrue();
    assertThat(j.usableAt(NOW.minus(Duration.ofDays(1)))).isFalse();
    assertThat(j.whyNot()).isEqualTo("the copy on NEAR failed the drill of 23 Nov 10:00");
  }

  @Test
  void aLaterPassOfTheSameCopyClearsIt() {
    Given g = Given.estate()
        .point("a", "r", Form.FULL, null, 50, PointOutcome.COMPLETE)
        .copy("a", "near");
    g.drill("a", Method.READ_THROUGH, false, 1).drill("a", Method.READ_THROUGH, true, 0.5);
    assertThat(last(g).usableAt(NOW)).isTrue();
  }

  @Test
  void aPointThatIsBadInsideIsBadWhereverItLies() {
    Given g = Given.estate().point("a", 50);
    g.drill("a", "near", Method.DATABASE, false, 1, "a", null);
    assertThat(last(g).usableAt(NOW)).isFalse();
    // Reading its bytes again shows nothing about what is inside.
    g.drill("a", "far", Method.READ_THROUGH, true, 0.5, null, null);
    assertThat(last(g).usableAt(NOW)).isFalse();
    g.drill("a", "far", Method.DATABASE, true, 0.4, null, null);
    assertThat(last(g).usableAt(NOW)).isTrue();
  }

  @Test
  void aCopyThatExpiredWasUsableUntilThen() {
    Given g = Given.estate().point("a", "r", Form.FULL, null, 100, PointOutcome.COMPLETE);
    g.copy("a", "near", CopyState.DELETED, NOW.minusSeconds(60));
    assertThat(last(g).usableAt(NOW.minusSeconds(61))).isTrue();
    assertThat(last(g).usableAt(NOW.minusSeconds(60))).isFalse();
  }
}
