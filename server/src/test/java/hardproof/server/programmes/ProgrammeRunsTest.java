package hardproof.server.programmes;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.contains;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.ArgumentMatchers.isNull;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.verifyNoMoreInteractions;

import hardproof.core.drills.RestoreState;
import hardproof.core.estate.Selector;
import hardproof.core.ladder.Rung;
import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.Held;
import hardproof.core.programmes.Limits;
import hardproof.core.programmes.PointChoice;
import hardproof.core.programmes.Showing;
import hardproof.core.schedule.HoursOfDay;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.server.Estate;
import hardproof.server.WithEstate;
import hardproof.server.activity.Activity;
import hardproof.server.delivery.MailDrop;
import hardproof.server.runs.Run;
import hardproof.server.runs.WaitingStore;
import hardproof.server.searches.PointSearches;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What programmes do beyond starting by a rule: as needed, inside hours and limits, again, and after a failure. */
class ProgrammeRunsTest extends WithEstate {
  private static final Instant OPENS = Instant.parse("2026-11-24T22:00:00Z");
  private static final Programme.OnFailure THREE =
      new Programme.OnFailure(3, Duration.ofMinutes(30), true);

  @BeforeEach
  void nights() {
    say(Capacity.usual().with(HoursOfDay.parse("22:00-06:00")));
  }

  private void say(Capacity capacity) {
    CapacityStore store = estate.installation.part(CapacityStore.class);
    Instant now = estate.clock.instant();
    assertThat(store.say(capacity, store.at(now.plusSeconds(9)).since(), "tester", now))
        .isTrue();
  }

  private ProgrammeStore programmes() {
    return estate.installation.part(ProgrammeStore.class);
  }

  private void add(
      Limits limits, Programme.OnFailure onFailure, Programme.Tell tell, Check... own) {
    programmes()
        .add(new Programme(
            "p",
            "As needed",
            Selector.EVERYTHING,
            Rung.RESTORED,
            new Programme.When(null, "UTC", Estate.NOW, Duration.ofHours(4), null),
            new Programme.How(
                Showing.DEMANDED,
                PointChoice.NEWEST,
                CopyChoice.NOT_LAST,
                own.length == 0 ? null : List.of(own),
                Duration.ofHours(1)),
            limits,
            onFailure,
            tell,
            new Programme.Version(Estate.NOW, "tester", Estate.NOW)));
  }

  private void add() {
    add(Limits.NONE, Programme.OnFailure.USUAL, Programme.Tell.FAILURES);
  }

  private int look(Instant at) {
    estate.clock.set(at);
    return estate.installation.programmes().startWhatIsDue(at);
  }

  private List<Run> runs() {
    return estate.installation.runs().underWay();
  }

  private boolean runOne() {
    return estate.installation.queue().runOne();
  }

  private Run ended(String resource) {
    return estate.installation.runs().endedOf(resource, 1).get(0);
  }

  @Test
  void asNeededItStartsWhenItsHoursBeginAndNotBefore() {
    add();
    assertThat(look(OPENS.minusMillis(1))).isZero();
    assertThat(look(OPENS)).isEqualTo(2);
    assertThat(look(OPENS.plusSeconds(5))).isZero();
    assertThat(programmes().starts(5)).singleElement().satisfies(s -> {
      assertThat(s.due()).isEqualTo(OPENS);
      assertThat(s.reason()).isEmpty();
    });
    assertThat(runs())
        .allSatisfy(r -> assertThat(r.holding().hold()).isEqualTo(Duration.ofHours(1)));
    while (runOne()) {}
    assertThat(estate.installation.runs().ended(9))
        .hasSize(2)
        .allMatch(r -> r.fact().passed());
  }

  /** What was proven last night is not drilled again tonight: nothing is needed. */
  @Test
  void asNeededItDrillsNothingThatIsProven() {
    add();
    look(OPENS);
    while (runOne()) {}
    assertThat(look(OPENS.plus(Duration.ofDays(1)))).isZero();
    assertThat(programmes().starts(1).get(0).reason()).isEqualTo("nothing was needed");
  }

  /** What comes first has no manifest to compare with; what there is room for then is what comes next. */
  @Test
  void whatCanNotBeDrilledTakesNoRoomFromWhatCan() throws IOException {
    long room = Files.size(estate.store().resolve("db-1.sqlite.gz"));
    estate.take("resources.csv", "key,name,kind,workload,site\na,A,file-share,w,A\n");
    estate.take(
        "points.csv",
        "key,resource,form,data_time,available,outcome,size\n"
            + "a-1,a,full,2026-11-24T04:00:00Z,2026-11-24T04:30:00Z,complete,9\n");
    estate.take(
        "copies.csv",
        "point,store,finished,state,format,place\n"
            + "a-1,near,2026-11-24T05:00:00Z,present,tar.gz,share-1.tar.gz\n");
    add(new Limits(null, room, null, null), Programme.OnFailure.USUAL, Programme.Tell.NOTHING);
    assertThat(look(OPENS)).isEqualTo(1);
    assertThat(runs()).singleElement().satisfies(r -> assertThat(r.resource()).isEqualTo("db"));
    assertThat(programmes().starts(1).get(0).reason())
        .contains(
            "1 resource could not be drilled: A: no manifest was recorded for share-1.tar.gz");
  }

  @Test
  void aStartThatWasMissedIsCaughtUpUntilTheNightIsOver() {
    add();
    assertThat(look(OPENS.plus(Duration.ofHours(8)))).isEqualTo(2);
    assertThat(programmes().starts(1).get(0).reason())
        .isEqualTo("caught up inside its start window");
    // The hours are over now, and the night with them: nothing begins, and it is said to be missed.
    estate.clock.set(OPENS.plus(Duration.ofHours(8)).plusMillis(1));
    assertThat(runOne()).isFalse();
    assertThat(estate.installation.runs().ended(9)).hasSize(2).allSatisfy(r -> {
      assertThat(r.restore()).isEqualTo(RestoreState.INTERRUPTED);
      assertThat(r.sentence()).startsWith("missed: there was no room for it");
    });
    assertThat(estate.installation.part(FollowUps.class).tryAgain(estate.clock.instant()))
        .isZero();
  }

  @Test
  void withNoCapacityNothingOfAProgrammeBegins() {
    add();
    say(Capacity.usual().with(0));
    assertThat(look(Instant.parse("2026-11-25T00:00:00Z"))).isZero();
    assertThat(programmes().starts(1).get(0).reason())
        .isEqualTo("2 more are due, and the night has no room");
    assertThat(runOne()).isFalse();
  }

  /** Both are queued; the one that has begun leaves no room for the other. */
  @Test
  void onlyAsManyOfItsOwnBeginAtOnceAsItMay() {
    add(new Limits(1, null, null, null), Programme.OnFailure.USUAL, Programme.Tell.FAILURES);
    assertThat(look(OPENS)).isEqualTo(2);
    WaitingStore waiting = estate.installation.part(WaitingStore.class);
    String first = waiting.inTurn().get(0).id();
    estate.installation.runs().claim(first, OPENS);
    assertThat(runOne()).isFalse();
    assertThat(estate.installation.queue().held()).hasSize(1).containsValue(Held.PROGRAMME_AT_ONCE);
    assertThat(waiting.underWay()).hasSize(1);
  }

  /** What it read tonight counts from the opening, also when it is over; tomorrow it may read again. */
  @Test
  void itReadsNoMoreInANightThanItMay() {
    add();
    look(OPENS);
    WaitingStore waiting = estate.installation.part(WaitingStore.class);
    long first = waiting.inTurn().get(0).readBytes();
    assertThat(first).isPositive();
    change(new Limits(null, first, null, null));
    assertThat(runOne()).isTrue();
    assertThat(runOne()).isFalse();
    assertThat(estate.installation.queue().held()).containsValue(Held.NIGHT_BYTES);
    change(new Limits(null, first * 1000, null, null));
    assertThat(runOne()).isTrue();
  }

  private void change(Limits limits) {
    Programme p = programmes().find("p").orElseThrow();
    Programme other = new Programme(
        p.key(),
        p.name(),
        p.scope(),
        p.demanding(),
        p.when(),
        p.how(),
        limits,
        p.onFailure(),
        p.tell(),
        p.version());
    assertThat(programmes().change(other, p.version().recordedAt(), estate.clock.instant()))
        .isTrue();
  }

  @Test
  void itSpendsNoMoreInAMonthThanItMay() {
    Capacity nights = Capacity.usual().with(HoursOfDay.parse("22:00-06:00"));
    say(new Capacity(nights.hours(), nights.zone(), 2, null, null, new Capacity.Prices(5, 0)));
    add(new Limits(null, null, 9.99, null), Programme.OnFailure.USUAL, Programme.Tell.FAILURES);
    look(OPENS);
    assertThat(runOne()).isTrue();
    assertThat(runOne()).isFalse();
    assertThat(estate.installation.queue().held()).containsValue(Held.MONTH_COST);
  }

  /** Half of what the store is said to read: that is what its drills ask for, and how fast they go. */
  @Test
  void itAsksItsStoreForNoMoreThanItsShare() throws IOException {
    estate.take(
        "stores.csv",
        "key,name,site,medium,failure_domain,online,throughput,path\nnear,NEAR,A,disk,array,yes,1 MB,"
            + estate.store() + "\n");
    add(new Limits(null, null, null, 0.5), Programme.OnFailure.USUAL, Programme.Tell.NOTHING);
    look(OPENS);
    assertThat(runs())
        .hasSize(2)
        .allSatisfy(r -> assertThat(r.options().bytesPerSecond()).isEqualTo(500_000));
    while (runOne()) {}
    assertThat(estate.installation.runs().ended(9)).allMatch(r -> r.fact().passed());
  }

  @Test
  void aScopeThatMatchesNothingIsSaid() {
    programmes()
        .add(Programme.byRule(
            "none",
            "None",
            Selector.allOf(Selector.Condition.is("kind", "tape")),
            "FREQ=DAILY;BYHOUR=11;BYMINUTE=0;BYSECOND=0",
            Duration.ofHours(4),
            Showing.DEMANDED,
            PointChoice.NEWEST,
            CopyChoice.NOT_LAST,
            Estate.NOW));
    assertThat(look(Instant.parse("2026-11-24T11:00:00Z"))).isZero();
    assertThat(programmes().starts(1).get(0).reason())
        .isEqualTo("nothing matches it that has a recovery point");
  }

  @Test
  void itsOwnChecksAreAskedWhereTheySuit() {
    Check files = new Check(CheckType.FILES_AT_LEAST, "*", "1");
    add(Limits.NONE, Programme.OnFailure.USUAL, Programme.Tell.NOTHING, files);
    look(OPENS);
    assertThat(runs()).anySatisfy(r -> {
      assertThat(r.resource()).isEqualTo("share");
      assertThat(r.checksAsked()).contains(files);
    });
    while (runOne()) {}
    assertThat(ended("share").fact().passed()).isTrue();
  }

  /** Cut off it says nothing, and is tried again when its pause is over, three times in all. */
  @Test
  void whatWasCutOffIsTriedAgainAsOftenAsItMay() throws IOException {
    add(Limits.NONE, THREE, Programme.Tell.NOTHING);
    look(OPENS);
    Instant at = OPENS;
    for (int attempt = 1; attempt <= 3; attempt++) {
      cutOff("db");
      FollowUps after = estate.installation.part(FollowUps.class);
      at = at.plus(Duration.ofMinutes(30));
      assertThat(after.tryAgain(at.minusMillis(1))).as("too soon").isZero();
      estate.clock.set(at);
      assertThat(after.tryAgain(at)).as("after try %d", attempt).isEqualTo(attempt < 3 ? 1 : 0);
      assertThat(after.tryAgain(at)).as("once").isZero();
    }
    assertThat(estate.installation.runs().endedOf("db", 9)).hasSize(3);
    assertThat(estate.installation.runs().endedOf("db", 9).get(0).reason())
        .startsWith("try 3 of 3 after: interrupted: the application stopped");
  }

  private void cutOff(String resource) throws IOException {
    String id = runs().stream()
        .filter(r -> r.resource().equals(resource))
        .findFirst()
        .orElseThrow()
        .id();
    estate.installation.runs().claim(id, estate.clock.instant());
    estate.reopen();
    estate.installation.queue().recover();
  }

  @Test
  void whatAPersonCancelledIsNotTriedAgain() throws IOException {
    add(Limits.NONE, THREE, Programme.Tell.NOTHING);
    look(OPENS);
    assertThat(estate.installation.runs().askToCancel(runs().get(0).id())).isTrue();
    cutOff(runs().get(0).resource());
    Instant later = OPENS.plus(Duration.ofHours(2));
    assertThat(estate.installation.part(FollowUps.class).tryAgain(later)).isZero();
  }

  /** It is never drilled until it passes; but what is still good is looked for. */
  @Test
  void whatFailedIsNotTriedAgainAndTheLastGoodPointIsLookedFor() throws IOException {
    damage();
    add(Limits.NONE, THREE, Programme.Tell.FAILURES);
    look(OPENS);
    assertThat(runOne()).isTrue();
    assertThat(runOne()).isTrue();
    assertThat(ended("share").fact().failed()).isTrue();
    Instant later = OPENS.plus(Duration.ofHours(2));
    assertThat(estate.installation.part(FollowUps.class).tryAgain(later)).isZero();
    assertThat(estate.installation.part(PointSearches.class).underWay("share")).isTrue();
    assertThat(estate.installation.part(PointSearches.class).underWay("db")).isFalse();
    assertThat(estate.installation.part(Activity.class).newest(9)).anySatisfy(a -> {
      assertThat(a.what()).isEqualTo("nobody was told");
      assertThat(a.detail())
          .startsWith("its owner 'Somebody' is no mail address; the drill failed");
    });
  }

  private void damage() throws IOException {
    Path artifact = estate.store().resolve("share-2.tar.gz");
    byte[] bytes = Files.readAllBytes(artifact);
    bytes[bytes.length / 2] ^= 1;
    Files.write(artifact, bytes);
  }

  /** The owner is told by mail of what failed, and of what passed only where everything is asked. */
  @Test
  void anOwnerWithAnAddressIsTold() throws IOException {
    estate.take("workloads.csv", "key,name,owner,tier\nw,Wages,ann@example.org,3\n");
    damage();
    add(Limits.NONE, new Programme.OnFailure(1, Duration.ZERO, false), Programme.Tell.FAILURES);
    look(OPENS);
    MailDrop mail = mail();
    while (runOne()) {}
    verify(mail, times(1))
        .leave(
            eq("ann@example.org"),
            eq("The drill of SHARE failed"),
            contains("share-2"),
            isNull(),
            any());
    verifyNoMoreInteractions(mail);
  }

  @Test
  void whoAsksForEverythingHearsOfWhatPassedToo() throws IOException {
    estate.take("workloads.csv", "key,name,owner,tier\nw,Wages,ann@example.org,3\n");
    add(Limits.NONE, Programme.OnFailure.USUAL, Programme.Tell.EVERYTHING);
    look(OPENS);
    MailDrop mail = mail();
    while (runOne()) {}
    verify(mail)
        .leave(eq("ann@example.org"), eq("The drill of SHARE passed"), any(), isNull(), any());
    verify(mail).leave(eq("ann@example.org"), eq("The drill of DB passed"), any(), isNull(), any());
  }

  private MailDrop mail() {
    MailDrop mail = mock(MailDrop.class);
    FollowUps told = new FollowUps(
        programmes(),
        estate.installation.runs(),
        estate.installation.part(WaitingStore.class),
        estate.installation.part(PointSearches.class),
        mail,
        estate.installation.part(Activity.class),
        () -> estate.installation.evaluations().now().estate(),
        estate.clock);
    estate.installation.queue().onChange(told::changed);
    return mail;
  }

  /** What was foretold before the night is laid beside what happened in it. */
  @Test
  void aForecastIsHeldToAccount() throws IOException {
    add();
    Foretelling foretelling = estate.installation.part(Foretelling.class);
    estate.clock.set(OPENS.minusSeconds(60));
    foretelling.foretell(estate.clock.instant());
    assertThat(foretelling.past(estate.clock.instant())).isEmpty();
    look(OPENS);
    estate
        .installation
        .runs()
        .askToCancel(runs().stream()
            .filter(r -> r.resource().equals("db"))
            .findFirst()
            .orElseThrow()
            .id());
    String share = runs().stream()
        .filter(r -> r.resource().equals("share"))
        .findFirst()
        .orElseThrow()
        .id();
    estate.installation.runs().claim(share, OPENS);
    Instant next = OPENS.plus(Duration.ofDays(1));
    assertThat(foretelling.past(next.minusMillis(1))).isEmpty();
    assertThat(foretelling.past(next)).singleElement().satisfies(p -> {
      assertThat(p.opens()).isEqualTo(OPENS);
      assertThat(p.begun()).containsExactly("share");
      assertThat(p.notBegun()).containsExactly("db");
      assertThat(p.unforeseen()).isEmpty();
    });
  }

  /** As at an instant a programme is what it was then; of two editors one is refused. */
  @Test
  void aProgrammeIsKnownAsItStoodAtAnyInstant() {
    add();
    Programme before = programmes().find("p").orElseThrow();
    estate.clock.forward(Duration.ofHours(1));
    change(new Limits(1, null, null, null));
    assertThat(programmes().change(before, before.version().recordedAt(), estate.clock.instant()))
        .isFalse();
    assertThat(programmes().at(Estate.NOW.minusMillis(1))).isEmpty();
    assertThat(programmes().at(Estate.NOW)).containsExactly(before);
    Instant changed = Estate.NOW.plus(Duration.ofHours(1));
    assertThat(programmes().at(changed.minusMillis(1)).get(0).limits()).isEqualTo(Limits.NONE);
    assertThat(programmes().at(changed).get(0).limits().atOnce()).isEqualTo(1);
    assertThat(programmes().remove("p", changed.plusSeconds(1))).isTrue();
    assertThat(programmes().at(changed.plusSeconds(1))).isEmpty();
    assertThat(programmes().at(changed)).hasSize(1);
  }
}
