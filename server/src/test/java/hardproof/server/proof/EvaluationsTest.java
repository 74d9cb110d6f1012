package hardproof.server.proof;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.criteria.Judgement;
import hardproof.core.criteria.OutcomeState;
import hardproof.core.criteria.OwnCriterion;
import hardproof.core.criteria.Standard;
import hardproof.core.proof.Verdict;
import hardproof.server.Estate;
import hardproof.server.WithEstate;
import hardproof.server.storage.Database;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;

class EvaluationsTest extends WithEstate {
  private Evaluations evaluations() {
    return estate.installation.evaluations();
  }

  @Test
  void unchangedFactsAreEvaluatedOnceAndANewFactAtOnce() throws IOException {
    Evaluated first = evaluations().now();
    assertThat(evaluations().now()).isSameAs(first);
    estate.take("workloads.csv", "key,name,owner,tier\nw,Wages,Somebody else,3\n");
    assertThat(evaluations().now()).isNotSameAs(first);
    assertThat(evaluations().now().estate().workload("w").owner()).isEqualTo("Somebody else");
  }

  /** Whoever has to give an answer has what was worked out before, also while the next is worked out. */
  @Test
  void anAnswerIsNotHeldUpByAnEvaluationUnderWay() throws Exception {
    CountDownLatch entered = new CountDownLatch(1);
    CountDownLatch released = new CountDownLatch(1);
    AtomicBoolean slow = new AtomicBoolean();
    Standard shipped = Standard.shipped();
    OwnCriterion own = new OwnCriterion("own-slow", "Slow", "Takes its time.", "true", s -> {
      if (slow.get()) {
        entered.countDown();
        await(released);
      }
      return Judgement.of(OutcomeState.MET, "it is", "true");
    });
    Standard standard = new Standard(
        "S", 1, shipped.period(), shipped.zone(), shipped.tiers(), shipped.regions(), List.of(own));
    Evaluations evaluations = new Evaluations(
        estate.installation.database(),
        estate.installation.facts(),
        at -> standard,
        estate.clock,
        Duration.ZERO.minusNanos(1));
    evaluations.keepFresh();
    Evaluated before = evaluations.now();
    slow.set(true);
    estate.clock.forward(Evaluations.NOW_LASTS);
    Thread refreshing = new Thread(evaluations::keepFresh);
    refreshing.start();
    await(entered);
    CompletableFuture<Evaluated> answer = CompletableFuture.supplyAsync(() -> {
      Database.impatient(true);
      try {
        Evaluated given = evaluations.now();
        given.evaluation();
        return given;
      } finally {
        Database.impatient(false);
      }
    });
    assertThat(answer.get(1, TimeUnit.MINUTES)).isSameAs(before);
    released.countDown();
    refreshing.join();
    assertThat(evaluations.now()).isNotSameAs(before);
  }

  /** What changes while facts are worked out is not taken for worked out: it is told of by itself. */
  @Test
  void aChangeThatComesMeanwhileIsToldByItself() {
    Database database = estate.installation.database();
    AtomicBoolean meanwhile = new AtomicBoolean(true);
    Evaluations evaluations = new Evaluations(
        database,
        estate.installation.facts(),
        at -> {
          if (meanwhile.getAndSet(false)) {
            database.change(() -> null);
          }
          return Standard.shipped();
        },
        estate.clock);
    List<Long> told = new ArrayList<>();
    evaluations.onFresh(e -> told.add(e.changes()));
    long before = database.changes();
    evaluations.keepFresh();
    evaluations.keepFresh();
    evaluations.keepFresh();
    assertThat(told).containsExactly(before, before + 1);
  }

  private static void await(CountDownLatch latch) {
    try {
      assertThat(latch.await(1, TimeUnit.MINUTES)).isTrue();
    } catch (InterruptedException e) {
      throw new IllegalStateException(e);
    }
  }

  @Test
  void nowMovesOnWithTheClock() {
    Evaluated first = evaluations().now();
    estate.clock.forward(Evaluations.NOW_LASTS.minusMillis(1));
    assertThat(evaluations().now()).isSameAs(first);
    estate.clock.forward(Duration.ofMillis(1));
    assertThat(evaluations().now().estate().asAt()).isEqualTo(estate.clock.instant());
  }

  @Test
  void anInstantThatHasBeenComesOutTheSameAfterMoreBecameKnown() throws IOException {
    var asAt = Estate.NOW;
    estate.clock.forward(Duration.ofHours(1));
    Verdict before = evaluations().at(asAt).evaluation().workload("w").verdict();
    estate.take(
        "points.csv",
        "key,resource,form,data_time,available,outcome\n"
            + "share-3,share,full,2026-11-24T09:00:00Z,2026-11-24T09:30:00Z,failed\n");
    assertThat(evaluations().at(asAt).evaluation().workload("w").verdict()).isEqualTo(before);
    assertThat(evaluations().at(asAt).estate().point("share", "share-3")).isNull();
    assertThat(evaluations().now().estate().point("share", "share-3")).isNotNull();
  }

  @Test
  void anInstantThatIsToComeIsRefused() {
    assertThatThrownBy(() -> evaluations().at(Estate.NOW.plusMillis(1)))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("is still to come");
  }

  private static String outcomes(Evaluated evaluated) {
    return hardproof.core.evidence.Tables.workloads(evaluated.evaluation())
        + hardproof.core.evidence.Tables.findings(evaluated.evaluation());
  }

  /** As if evaluating everything always took too long. */
  @Test
  void whereItIsCostlyOnlyWhatFactsTouchIsJudgedAgain() throws IOException {
    Evaluations costly = new Evaluations(
        estate.installation.database(),
        estate.installation.facts(),
        at -> hardproof.core.criteria.Standard.shipped(),
        estate.clock,
        Duration.ZERO.minusNanos(1));
    Evaluated before = costly.now();
    var share = before.evaluation().resource("share");
    estate.take(
        "points.csv",
        "key,resource,form,data_time,available,outcome\n"
            + "db-2,db,full,2026-11-24T05:10:00Z,2026-11-24T05:30:00Z,failed\n");
    Evaluated after = costly.now();
    assertThat(after).isNotSameAs(before);
    assertThat(after.evaluation().resource("share")).as("not touched").isSameAs(share);
    assertThat(after.evaluation().resource("db"))
        .isNotSameAs(before.evaluation().resource("db"));
    assertThat(outcomes(after)).isEqualTo(outcomes(evaluations().now()));
    estate.take("workloads.csv", "key,name,tier\nw,Wages,1\n");
    assertThat(costly.now().evaluation().resource("share"))
        .as("a workload touches everything")
        .isNotSameAs(share);
    assertThat(outcomes(costly.now())).isEqualTo(outcomes(evaluations().now()));
  }

  @Test
  void whatWasShownCanBeAskedForAgainWhenTheClockWasSetBack() {
    Instant shown = evaluations().now().estate().asAt();
    estate.clock.set(shown.minus(Duration.ofHours(1)));
    assertThat(evaluations().at(shown).estate().asAt()).isEqualTo(shown);
  }
}
