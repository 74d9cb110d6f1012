package hardproof.server.integrity;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.integrity.Tally;
import hardproof.core.proof.Verdict;
import hardproof.server.WithEstate;
import hardproof.server.web.Refused;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

class SweepsTest extends WithEstate {
  private Sweeps sweeps() {
    return estate.installation.part(Sweeps.class);
  }

  private Sweep sweep(long id) {
    return estate.installation.part(SweepStore.class).find(id).orElseThrow();
  }

  private Sweep begin() {
    return sweeps().begin("near", null, "tester", "monthly");
  }

  private void readAll() {
    while (sweeps().readNext()) {
      estate.clock.forward(Duration.ofSeconds(1));
    }
  }

  private void flip(String place) throws IOException {
    Path file = estate.store().resolve(place);
    byte[] bytes = Files.readAllBytes(file);
    bytes[bytes.length / 2] ^= 1;
    Files.write(file, bytes);
  }

  private IntegrityView integrity() {
    return IntegrityView.of(
        estate.installation.evaluations().now().estate(),
        estate.installation.orders().stores());
  }

  @Test
  void everythingIsReadAndRemembered() {
    assertThat(integrity().stores().get(0).read().readEver()).isZero();
    Sweep begun = begin();
    assertThat(begun.items()).isEqualTo(3);
    readAll();
    Sweep ended = sweep(begun.id());
    assertThat(ended.state()).isEqualTo(Sweep.State.DONE);
    assertThat(ended.sentence()).startsWith("3 artifacts read (").endsWith(", all as recorded");
    Tally near = integrity().stores().get(0).read();
    assertThat(near.readEver()).isEqualTo(3);
    assertThat(near.readFresh()).isEqualTo(3);
    assertThat(near.freshBytes()).isEqualTo(near.bytes());
    assertThat(integrity().damaged()).isEmpty();
  }

  /** What was read least recently comes first, what never was before everything. */
  @Test
  void thePlanBeginsWithWhatWasReadLeastRecently() {
    begin();
    sweeps().readNext();
    estate.clock.forward(Duration.ofHours(1));
    List<Sweep.Item> plan = Sweeps.plan(estate.installation.evaluations().now().estate(), "near");
    assertThat(plan).extracting(Sweep.Item::point).containsExactly("share-2", "db-1", "share-1");
  }

  @Test
  void oneFlippedBitIsFoundWithWhatHangsFromIt() throws IOException {
    flip("share-1.tar.gz");
    Sweep begun = begin();
    readAll();
    assertThat(sweep(begun.id()).sentence()).endsWith("1 is damaged or not there");
    IntegrityView.Damage damage = integrity().damaged().get(0);
    assertThat(damage.point()).isEqualTo("share-1");
    assertThat(damage.store()).isEqualTo("near");
    assertThat(damage.sentence()).contains("the copy is damaged");
    assertThat(damage.loss().hangingPoints()).containsExactly("share-1", "share-2");
    assertThat(damage.otherGood()).isEmpty();
    assertThat(damage.loss().lostFrom()).isEqualTo(Instant.parse("2026-11-23T04:00:00Z"));
    assertThat(damage.loss().lostTo()).isEqualTo(Instant.parse("2026-11-24T04:00:00Z"));
    assertThat(damage.olderGood()).isNull();
    var evaluation = estate.installation.evaluations().now().evaluation();
    assertThat(evaluation.workload("w").verdict()).isIn(Verdict.EXPOSED, Verdict.DISPROVEN);
  }

  @Test
  void aMissingFileIsFoundAndARepairedOneIsTakenBack() throws IOException {
    Path file = estate.store().resolve("db-1.sqlite.gz");
    byte[] bytes = Files.readAllBytes(file);
    Files.delete(file);
    begin();
    readAll();
    assertThat(integrity().damaged())
        .extracting(IntegrityView.Damage::sentence)
        .containsExactly("db-1.sqlite.gz is not on the store (NEAR)");
    Files.write(file, bytes);
    estate.clock.forward(Duration.ofHours(1));
    begin();
    readAll();
    assertThat(integrity().damaged()).as("read whole again since").isEmpty();
  }

  /** The newest word of each copy counts at any past instant as it did then. */
  @Test
  void whatWasKnownThenIsKnownStill() throws IOException {
    begin();
    readAll();
    Instant before = estate.clock.instant();
    flip("db-1.sqlite.gz");
    estate.clock.forward(Duration.ofHours(1));
    begin();
    readAll();
    assertThat(integrity().damaged()).hasSize(1);
    assertThat(IntegrityView.of(
                estate.installation.evaluations().at(before).estate(),
                estate.installation.orders().stores())
            .damaged())
        .isEmpty();
  }

  @Test
  void aPausedSweepGoesOnWhereItWasAlsoAfterARestart() {
    Sweep begun = begin();
    assertThat(sweeps().readNext()).isTrue();
    sweeps().pause(begun.id(), "tester");
    assertThat(sweeps().readNext()).isFalse();
    estate.reopen();
    assertThat(sweep(begun.id()).state()).isEqualTo(Sweep.State.PAUSED);
    assertThat(sweep(begun.id()).done()).isEqualTo(1);
    sweeps().resume(begun.id());
    readAll();
    assertThat(sweep(begun.id()).state()).isEqualTo(Sweep.State.DONE);
    assertThat(sweep(begun.id()).done()).isEqualTo(3);
  }

  @Test
  void aStoreThatGoesAwayPausesTheSweepAndBlamesNothing() throws IOException {
    Sweep begun = begin();
    sweeps().readNext();
    Path away = estate.store().resolveSibling("away");
    Files.move(estate.store(), away);
    sweeps().readNext();
    assertThat(sweep(begun.id()).state()).isEqualTo(Sweep.State.PAUSED);
    assertThat(sweep(begun.id()).sentence()).startsWith("paused by itself: NEAR can't be reached");
    Files.move(away, estate.store());
    sweeps().resume(begun.id());
    readAll();
    assertThat(sweep(begun.id()).failed()).isZero();
  }

  @Test
  void whatMakesNoSenseIsRefused() {
    assertThatThrownBy(() -> sweeps().begin("nowhere", null, "t", "r"))
        .isInstanceOf(Refused.class)
        .hasMessage("There is no store 'nowhere'.");
    Sweep begun = begin();
    assertThatThrownBy(this::begin).hasMessageStartingWith("A sweep of NEAR is under way already");
    sweeps().cancel(begun.id(), "tester");
    assertThat(sweep(begun.id()).state()).isEqualTo(Sweep.State.CANCELLED);
    assertThatThrownBy(() -> sweeps().resume(begun.id())).hasMessageContaining("has ended");
    assertThatThrownBy(() -> sweeps().limit(begun.id(), 5000L)).isInstanceOf(Refused.class);
    assertThat(sweeps().readNext()).isFalse();
  }

  @Test
  void theLimitIsKept() {
    SweepWatcher watcher =
        new SweepWatcher(new Sweep.Item(1, 0, "r", "p", 1_000_000), 1_000_000L, () -> false);
    long begun = System.nanoTime();
    watcher.progressed(1, 300_000);
    assertThat(Duration.ofNanos(System.nanoTime() - begun))
        .as("300 kB at 1 MB a second")
        .isBetween(Duration.ofMillis(280), Duration.ofSeconds(5));
    watcher.limit(null);
    begun = System.nanoTime();
    watcher.progressed(1, 900_000_000);
    assertThat(Duration.ofNanos(System.nanoTime() - begun)).isLessThan(Duration.ofMillis(250));
    assertThat(new SweepWatcher(new Sweep.Item(1, 0, "r", "p", 1), null, () -> true).cancelled())
        .isTrue();
  }

  @Test
  void whatCameWithoutAChecksumIsABaselineFirst() throws IOException {
    Files.writeString(estate.store().resolve("bare.sqlite"), "SQLite format 3\0 and so on");
    estate.take(
        "points.csv",
        "key,resource,form,data_time,available,outcome\n"
            + "bare-1,db,full,2026-11-24T06:00:00Z,2026-11-24T06:30:00Z,complete\n");
    estate.take(
        "copies.csv",
        "point,store,finished,state,format,place\n"
            + "bare-1,near,2026-11-24T06:40:00Z,present,sqlite,bare.sqlite\n");
    begin();
    readAll();
    assertThat(integrity().damaged()).isEmpty();
    Files.writeString(estate.store().resolve("bare.sqlite"), "SQLite format 3\0 and so on!");
    estate.clock.forward(Duration.ofHours(1));
    begin();
    readAll();
    assertThat(integrity().damaged())
        .singleElement()
        .satisfies(d -> assertThat(d.sentence()).contains("bytes long"));
  }
}
