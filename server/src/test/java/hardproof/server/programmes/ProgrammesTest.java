package hardproof.server.programmes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.drills.Method;
import hardproof.core.estate.Selector;
import hardproof.core.estate.Selector.Condition;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.PointChoice;
import hardproof.core.programmes.Showing;
import hardproof.server.Estate;
import hardproof.server.WithEstate;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.springframework.dao.DuplicateKeyException;

class ProgrammesTest extends WithEstate {
  private static final Instant NEXT = Instant.parse("2026-11-24T11:00:00Z");

  private void add(Selector scope, Method method) {
    add(scope, method, PointChoice.NEWEST, new CopyChoice(CopyChoice.Way.ANY, null));
  }

  private void add(Selector scope, Method method, PointChoice point, CopyChoice copy) {
    estate
        .installation
        .part(ProgrammeStore.class)
        .add(Programme.byRule(
            "p",
            "Nightly",
            scope,
            "FREQ=DAILY;BYHOUR=11;BYMINUTE=0;BYSECOND=0",
            Duration.ofHours(4),
            Showing.by(method),
            point,
            copy,
            Estate.NOW));
  }

  private int look(Instant at) {
    estate.clock.set(at);
    return estate.installation.programmes().startWhatIsDue(at);
  }

  @Test
  void itStartsWhatMatchesWhenDueAndOnlyOnce() {
    add(Selector.allOf(Condition.is("kind", "database")), null);
    assertThat(look(NEXT.minusMillis(1))).isZero();
    assertThat(look(NEXT)).isEqualTo(1);
    assertThat(look(NEXT.plusSeconds(5))).isZero();
    assertThat(estate.installation.runs().underWay()).singleElement().satisfies(r -> {
      assertThat(r.resource()).isEqualTo("db");
      assertThat(r.programme()).isEqualTo("p");
      assertThat(r.method()).isEqualTo(Method.DATABASE);
    });
  }

  @Test
  void itIsOnlyOnceAlsoAcrossARestart() {
    add(Selector.EVERYTHING, Method.READ_THROUGH);
    assertThat(look(NEXT)).isEqualTo(2);
    estate.reopen();
    assertThat(look(NEXT.plusSeconds(1))).isZero();
    assertThat(estate.installation.runs().underWay()).hasSize(2);
  }

  @Test
  void aMissedStartIsCaughtUpInsideItsWindow() {
    add(Selector.EVERYTHING, null);
    assertThat(look(NEXT.plus(Duration.ofHours(4)))).isEqualTo(2);
    assertThat(estate.installation.part(ProgrammeStore.class).starts(5))
        .singleElement()
        .satisfies(s -> assertThat(s.reason()).isEqualTo("caught up inside its start window"));
  }

  @Test
  void aStartWhoseWindowIsOverIsRecordedAsMissed() {
    add(Selector.EVERYTHING, null);
    assertThat(look(NEXT.plus(Duration.ofHours(4)).plusMillis(1))).isZero();
    assertThat(estate.installation.part(ProgrammeStore.class).starts(5))
        .singleElement()
        .satisfies(s -> {
          assertThat(s.started()).isFalse();
          assertThat(s.due()).isEqualTo(NEXT);
          assertThat(s.reason()).contains("not running in its start window");
        });
  }

  @Test
  void aResourceThatAppearsLaterIsInScopeAtOnceAndOneThatCanNotBeDrilledIsSaid()
      throws IOException {
    add(Selector.EVERYTHING, null);
    estate.take("resources.csv", "key,name,kind\nlate,LATE,volume\n");
    estate.take(
        "points.csv",
        "key,resource,form,data_time,available,outcome\n"
            + "late-1,late,full,2026-11-24T06:00:00Z,2026-11-24T07:00:00Z,failed\n");
    assertThat(look(NEXT)).isEqualTo(2);
    assertThat(estate.installation.part(ProgrammeStore.class).starts(5).get(0).reason())
        .contains("1 resource could not be drilled")
        .contains("LATE has no usable recovery point");
  }

  @Test
  void aResourceWhosePlanCanNotBeMadeHoldsUpNobodyElse() throws IOException {
    add(Selector.EVERYTHING, Method.READ_THROUGH);
    estate.take("stores.csv", "key,name,medium\nblind,BLIND,disk\n");
    estate.take("resources.csv", "key,name,kind\nfar,FAR,volume\n");
    estate.take(
        "points.csv",
        "key,resource,form,data_time,available,outcome\n"
            + "far-1,far,full,2026-11-24T06:00:00Z,2026-11-24T07:00:00Z,complete\n");
    // The store has a copy with a place, and no path to read it from.
    estate.take(
        "copies.csv",
        "point,store,finished,state,place\nfar-1,blind,2026-11-24T07:00:00Z,present,x\n");
    assertThat(look(NEXT)).isEqualTo(2);
    assertThat(estate.installation.part(ProgrammeStore.class).starts(5).get(0).reason())
        .contains("It is not known how BLIND is reached");
  }

  @Test
  void whatIsAheadIsListedSoonestFirst() {
    add(Selector.EVERYTHING, null);
    assertThat(estate
            .installation
            .part(Outlook.class)
            .ahead(
                estate.installation.part(ProgrammeStore.class).all(),
                Estate.NOW,
                Estate.NOW.plus(Duration.ofDays(3)),
                10))
        .extracting(Outlook.Ahead::due)
        .containsExactly(NEXT, NEXT.plus(Duration.ofDays(1)), NEXT.plus(Duration.ofDays(2)));
  }

  @Test
  void aKeyIsTakenOnce() {
    add(Selector.EVERYTHING, null);
    assertThatThrownBy(() -> add(Selector.EVERYTHING, null))
        .isInstanceOf(DuplicateKeyException.class);
    assertThat(estate.installation.part(ProgrammeStore.class).remove("p", Estate.NOW))
        .isTrue();
    assertThat(estate.installation.part(ProgrammeStore.class).remove("p", Estate.NOW))
        .isFalse();
  }

  @Test
  void aSampleIsDrawnByARuleOnly() {
    Programme.When needed = new Programme.When(null, "UTC", Estate.NOW, Duration.ofHours(4), null);
    Programme.How sampling = new Programme.How(
        Showing.DEMANDED,
        new PointChoice(PointChoice.Way.RANDOM, null, 59),
        CopyChoice.NOT_LAST,
        null,
        Duration.ZERO);
    assertThatThrownBy(() -> new Programme(
            "p",
            "P",
            Selector.EVERYTHING,
            null,
            needed,
            sampling,
            hardproof.core.programmes.Limits.NONE,
            Programme.OnFailure.USUAL,
            Programme.Tell.NOTHING,
            new Programme.Version(Estate.NOW, "", Estate.NOW)))
        .isInstanceOf(hardproof.core.wording.WrongValue.class)
        .hasMessageStartingWith("a sample of all points is drawn by a recurrence rule");
  }

  /** What a start could not drill is foretold no more, until a start can or the programme drills otherwise. */
  @Test
  void whatWasRefusedIsRemembered() throws IOException {
    estate.take("resources.csv", "key,name,kind\nlate,LATE,volume\n");
    estate.take(
        "points.csv",
        "key,resource,form,data_time,available,outcome\n"
            + "late-1,late,full,2026-11-24T06:00:00Z,2026-11-24T07:00:00Z,complete\n");
    estate.take(
        "copies.csv", "point,store,finished,state\nlate-1,near,2026-11-24T07:00:00Z,present\n");
    add(Selector.allOf(Condition.is("key", "late")), Method.READ_THROUGH);
    RefusedStore refused = estate.installation.part(RefusedStore.class);
    assertThat(look(NEXT)).isZero();
    assertThat(refused.by(NEXT.minusMillis(1))).isEmpty();
    assertThat(refused.by(NEXT).get("p").get("late"))
        .contains("No store holds every artifact of the chain of late-1");
    ProgrammeStore store = estate.installation.part(ProgrammeStore.class);
    store.remove("p", NEXT);
    assertThat(refused.by(NEXT)).isEmpty();
  }

  @Test
  void itRestoresFromTheCopyThatItIsToldOf() {
    add(
        Selector.EVERYTHING,
        Method.READ_THROUGH,
        new PointChoice(PointChoice.Way.OLDEST, null),
        new CopyChoice(CopyChoice.Way.STORE, "nowhere"));
    assertThat(look(NEXT)).isZero();
    assertThat(estate.installation.part(ProgrammeStore.class).starts(1).get(0).reason())
        .contains("2 resources could not be drilled", "asked for the copy on nowhere");
    Programme kept = estate.installation.part(ProgrammeStore.class).all().get(0);
    assertThat(kept.how().point()).isEqualTo(new PointChoice(PointChoice.Way.OLDEST, null));
    assertThat(kept.how().copy().store()).isEqualTo("nowhere");
  }
}
