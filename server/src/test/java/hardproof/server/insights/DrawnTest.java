package hardproof.server.insights;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.criteria.Standard;
import hardproof.core.drills.Method;
import hardproof.core.estate.Selector;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.DrawnDrills;
import hardproof.core.programmes.PointChoice;
import hardproof.core.programmes.Showing;
import hardproof.server.Estate;
import hardproof.server.WithEstate;
import hardproof.server.programmes.DrawStore;
import hardproof.server.programmes.Programme;
import hardproof.server.programmes.ProgrammeStore;
import java.time.Duration;
import java.time.Instant;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;

/** A start whose points are drawn, its drills carried out, and what they show. */
class DrawnTest extends WithEstate {
  private static final Instant DUE = Instant.parse("2026-11-24T11:00:00Z");

  private void draw(Integer sample, int runs) {
    draw(sample, runs, Showing.STRONGEST);
  }

  private void draw(Integer sample, int runs, Showing showing) {
    estate
        .installation
        .part(ProgrammeStore.class)
        .add(Programme.byRule(
            "p",
            "Nightly",
            Selector.EVERYTHING,
            "FREQ=DAILY;BYHOUR=11;BYMINUTE=0;BYSECOND=0",
            Duration.ofHours(4),
            showing,
            new PointChoice(PointChoice.Way.RANDOM, null, sample),
            CopyChoice.NOT_LAST,
            Estate.NOW));
    estate.clock.set(DUE);
    assertThat(estate.installation.programmes().startWhatIsDue(DUE)).isEqualTo(runs);
  }

  private void drill(int runs) throws InterruptedException {
    CountDownLatch ended = new CountDownLatch(runs);
    estate.installation.queue().onChange(id -> {
      if (estate.installation.runs().find(id).orElseThrow().ended()) {
        ended.countDown();
      }
    });
    estate.installation.queue().start(2);
    assertThat(ended.await(60, TimeUnit.SECONDS)).isTrue();
  }

  private DrawnDrills drawn(String about) {
    estate.clock.forward(Duration.ofMinutes(1));
    return new Drawn(estate.installation.part(DrawStore.class))
        .in(
            estate.installation.evaluations().now().estate(),
            Standard.shipped(),
            DUE.minus(Duration.ofDays(1)),
            key -> about == null || key.equals(about));
  }

  @Test
  void whatIsDrawnAndDrilledSaysSomethingOfTheOthers() throws InterruptedException {
    draw(null, 2);
    drill(2);
    DrawnDrills all = drawn(null);
    assertThat(all.whole().drawn()).isEqualTo(2);
    assertThat(all.whole().population()).isGreaterThan(2);
    assertThat(all.withoutResult()).isZero();
    assertThat(all.strata()).isNotEmpty();
    DrawnDrills one = drawn("db");
    assertThat(one.whole().drawn()).isEqualTo(1);
    assertThat(one.whole().population()).isLessThan(all.whole().population());
  }

  @Test
  void whatIsStillToComeIsNoResult() {
    draw(null, 2);
    DrawnDrills waiting = drawn(null);
    assertThat(waiting.whole().drawn()).isZero();
    assertThat(waiting.withoutResult()).isEqualTo(2);
  }

  /** That every byte is as it was written shows that nothing was lost, not that it can be restored. */
  @Test
  void whatWasOnlyReadIsNoResult() throws InterruptedException {
    draw(null, 2, Showing.by(Method.READ_THROUGH));
    drill(2);
    DrawnDrills read = drawn(null);
    assertThat(read.whole().drawn()).isZero();
    assertThat(read.withoutResult()).isEqualTo(2);
    assertThat(read.chosen()).isZero();
  }

  @Test
  void aDrawThatWasChangedSaysNothing() throws InterruptedException {
    draw(null, 2);
    drill(2);
    estate
        .installation
        .database()
        .write(() -> estate
            .installation
            .database()
            .writes()
            .sql("UPDATE programme_draw SET seed = 'chosen to suit'")
            .update());
    DrawnDrills changed = drawn(null);
    assertThat(changed.whole()).isEqualTo(new hardproof.core.programmes.Assurance(0, 0, 0));
    assertThat(changed.chosen()).as("its drills prove what they drilled").isEqualTo(2);
  }

  /** Each point had the same chance, whatever resource it is of; part of them is a sample of that part. */
  @Test
  void aSampleOfAllSpeaksOfThatManyPoints() throws InterruptedException {
    draw(3, 3);
    DrawnDrills waiting = drawn(null);
    assertThat(waiting.way()).isEqualTo(DrawnDrills.Way.SAMPLE);
    assertThat(waiting.withoutResult()).isEqualTo(3);
    drill(3);
    DrawnDrills all = drawn(null);
    assertThat(all.withoutResult()).isZero();
    assertThat(all.whole().drawn()).isEqualTo(3);
    assertThat(all.atLeast()).isEqualTo(all.whole().atLeast());
    int db = drawn("db").whole().drawn();
    int share = drawn("share").whole().drawn();
    assertThat(db + share).isEqualTo(3);
  }
}
