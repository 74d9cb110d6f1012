package hardproof.server.programmes;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.drills.Method;
import hardproof.core.estate.Selector;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.PointChoice;
import hardproof.core.programmes.Showing;
import hardproof.server.Estate;
import hardproof.server.WithEstate;
import hardproof.server.storage.Database;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What is kept of a draw: enough to draw it again, and to find whoever changed it. */
class DrawStoreTest extends WithEstate {
  private static final Instant NEXT = Instant.parse("2026-11-24T11:00:00Z");

  /** A start of a programme that reads points which are chosen so. */
  private void draw(PointChoice point) {
    estate
        .installation
        .part(ProgrammeStore.class)
        .add(Programme.byRule(
            "p",
            "Nightly",
            Selector.EVERYTHING,
            "FREQ=DAILY;BYHOUR=11;BYMINUTE=0;BYSECOND=0",
            Duration.ofHours(4),
            Showing.by(Method.READ_THROUGH),
            point,
            CopyChoice.NOT_LAST,
            Estate.NOW));
    estate.clock.set(NEXT);
    estate.installation.programmes().startWhatIsDue(NEXT);
  }

  /** Drawn from what is kept, by whoever wants to: the same seed, list and points. */
  @Test
  void whatIsDrawnAtRandomCanBeDrawnAgain() {
    draw(new PointChoice(PointChoice.Way.RANDOM, Duration.ofDays(30)));
    DrawStore draws = estate.installation.part(DrawStore.class);
    DrawStore.Kept kept = draws.of("p", NEXT).orElseThrow();
    assertThat(kept.repeats()).isTrue();
    assertThat(kept.list().lines().count()).isGreaterThan(2);
    assertThat(kept.runs()).hasSize(2);
    assertThat(estate.installation.runs().underWay()).allSatisfy(r -> {
      assertThat(kept.runs()).containsKey(r.id());
      assertThat(kept.again().of(r.resource()).orElseThrow().point()).isEqualTo(r.point());
    });
    assertThat(estate.installation.part(ProgrammeStore.class).starts(1).get(0).drawn())
        .isTrue();
    assertThat(draws.of("p", NEXT.plusSeconds(1))).isEmpty();
  }

  /** Whoever changes what was kept is found by drawing it again. */
  @Test
  void aDrawThatWasChangedDoesNotRepeat() {
    draw(new PointChoice(PointChoice.Way.RANDOM, null));
    DrawStore draws = estate.installation.part(DrawStore.class);
    for (String column : List.of("seed", "digest", "known")) {
      String was = estate
          .installation
          .database()
          .reads()
          .sql("SELECT " + column + " FROM programme_draw")
          .query(String.class)
          .single();
      set(column, "0".repeat(64));
      assertThat(draws.of("p", NEXT).orElseThrow().repeats()).as(column).isFalse();
      set(column, was);
    }
    assertThat(draws.of("p", NEXT).orElseThrow().repeats()).isTrue();
  }

  /** Three of all points, whatever resource they are of; somebody who says afterwards that it was otherwise is found. */
  @Test
  void aSampleIsDrawnFromAllPoints() {
    draw(new PointChoice(PointChoice.Way.RANDOM, null, 3));
    DrawStore draws = estate.installation.part(DrawStore.class);
    DrawStore.Kept kept = draws.of("p", NEXT).orElseThrow();
    assertThat(kept.sample()).isEqualTo(3);
    assertThat(kept.drawnAgain())
        .hasSize(3)
        .containsExactlyInAnyOrderElementsOf(kept.again().ranked().subList(0, 3))
        .containsAll(kept.runs().values());
    String said =
        estate.installation.part(ProgrammeStore.class).starts(1).get(0).reason();
    assertThat(kept.runs()).as(said).hasSize(3);
    assertThat(kept.repeats()).isTrue();
    set("sample", 1);
    assertThat(draws.of("p", NEXT).orElseThrow().repeats()).isFalse();
    set("sample", null);
    assertThat(draws.of("p", NEXT).orElseThrow().sample()).isNull();
  }

  /** A run that was laid under a draw afterwards, to count as drawn. */
  @Test
  void aRunOfAnotherPointDoesNotCountAsDrawn() {
    draw(new PointChoice(PointChoice.Way.RANDOM, null));
    DrawStore draws = estate.installation.part(DrawStore.class);
    DrawStore.Kept kept = draws.of("p", NEXT).orElseThrow();
    String other = kept.again().ranked().stream()
        .filter(c -> !kept.drawnAgain().contains(c))
        .findFirst()
        .orElseThrow()
        .point();
    String run = kept.runs().keySet().iterator().next();
    write("UPDATE drill_run SET point = '" + other + "' WHERE id = '" + run + "'");
    assertThat(draws.of("p", NEXT).orElseThrow().repeats()).isFalse();
  }

  @Test
  void theNewestIsNotDrawn() {
    draw(PointChoice.NEWEST);
    assertThat(estate.installation.part(DrawStore.class).of("p", NEXT)).isEmpty();
    assertThat(estate.installation.part(ProgrammeStore.class).starts(1).get(0).drawn())
        .isFalse();
  }

  private void set(String column, Object value) {
    String text = value instanceof String s ? "'" + s + "'" : String.valueOf(value);
    write("UPDATE programme_draw SET " + column + " = " + text);
  }

  private void write(String sql) {
    Database database = estate.installation.database();
    database.write(() -> database.writes().sql(sql).update());
  }
}
