package hardproof.server.rehearsals;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.drills.RehearsalFact.Outcome;
import hardproof.core.estate.Selector;
import hardproof.core.forecast.Forecast;
import hardproof.core.forecast.Forecaster;
import hardproof.core.ladder.Rung;
import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.Limits;
import hardproof.core.programmes.PointChoice;
import hardproof.core.programmes.Showing;
import hardproof.core.wording.WrongValue;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.server.WithEstate;
import hardproof.server.programmes.Programme;
import hardproof.server.programmes.ProgrammeStore;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Programmes that bring whole workloads back. The workload w demands it; invented data. */
class ProgrammesRehearseTest extends WithEstate {
  private static final Showing WHOLE = new Showing(Showing.Way.REHEARSAL, null, null);
  private static final CopyChoice ANY = new CopyChoice(CopyChoice.Way.ANY, null);
  private RehearseWith rehearse;

  @BeforeEach
  void demandIt() throws IOException {
    estate.take("workloads.csv", "key,name,owner,tier,rung\nw,Wages,Somebody,3,rehearsed\n");
    estate
        .installation
        .checks()
        .keep(
            "db", List.of(new Check(CheckType.QUERY_AT_LEAST, "SELECT count(*) FROM entry", "1")));
    rehearse = new RehearseWith(estate);
  }

  private Programme programme(String rule, PointChoice point, CopyChoice copy) {
    Instant now = estate.clock.instant();
    return new Programme(
        "whole",
        "Whole workloads",
        Selector.EVERYTHING,
        null,
        new Programme.When(rule, "UTC", now, Duration.ofHours(4), null),
        new Programme.How(WHOLE, point, copy, null, Duration.ZERO),
        Limits.NONE,
        Programme.OnFailure.USUAL,
        Programme.Tell.FAILURES,
        new Programme.Version(now, "tester", now));
  }

  private void keep(Programme programme) {
    estate.installation.part(ProgrammeStore.class).add(programme);
  }

  private int start() {
    return estate.installation.programmes().startWhatIsDue(estate.clock.instant());
  }

  private List<Rehearsal> underWay() {
    return estate.installation.part(RehearsalStore.class).underWay();
  }

  @Test
  void whatIsDueIsRehearsedOnceForEachWorkload() {
    keep(programme("FREQ=DAILY;BYHOUR=11;BYMINUTE=0;BYSECOND=0", PointChoice.NEWEST, ANY));
    assertThat(start()).isZero();
    estate.clock.forward(Duration.ofHours(1));
    assertThat(start()).as("both members are of one workload").isEqualTo(1);
    assertThat(start()).as("once").isZero();
    Rehearsal queued = underWay().get(0);
    assertThat(queued.order().programme()).isEqualTo("whole");
    assertThat(queued.order().requestedBy()).isEqualTo("Whole workloads");
    assertThat(queued.members()).hasSize(2);
    estate.clock.forward(Duration.ofMinutes(1));
    Rehearsal open = rehearse.finish(queued.id());
    estate.clock.forward(Duration.ofMinutes(1));
    Rehearsal done = rehearse.finish(open.id());
    assertThat(done.result().outcome()).as(done.result().sentence()).isEqualTo(Outcome.PASSED);
    assertThat(
            estate.installation.evaluations().now().evaluation().workload("w").rung())
        .isEqualTo(Rung.REHEARSED);
  }

  @Test
  void asNeededItRenewsWhatIsNotProvenAndThenLeavesItAlone() {
    keep(programme(null, PointChoice.NEWEST, ANY));
    estate.clock.forward(Duration.ofHours(24));
    assertThat(start()).isEqualTo(1);
    rehearse.finish(underWay().get(0).id());
    estate.clock.forward(Duration.ofMinutes(1));
    String id = underWay().get(0).id();
    assertThat(rehearse.finish(id).result().outcome()).isEqualTo(Outcome.PASSED);
    estate.clock.forward(Duration.ofHours(24));
    assertThat(start()).as("proven for half a year").isZero();
  }

  @Test
  void oneThatFindsNoRoomInItsWindowIsMissed() {
    keep(programme("FREQ=DAILY;BYHOUR=11;BYMINUTE=0;BYSECOND=0", PointChoice.NEWEST, ANY));
    estate.clock.forward(Duration.ofHours(1));
    start();
    String id = underWay().get(0).id();
    estate.clock.forward(Duration.ofHours(4).plusMillis(1));
    rehearse.rehearsals().advance();
    assertThat(rehearse.find(id).result().sentence())
        .startsWith("missed: there was no room for it before its start window was over");
  }

  @Test
  void whatCanNotBeRehearsedIsSaidAndTakesNothing() throws IOException {
    estate.take(
        "workloads.csv", "key,name,owner,tier,rung,needs\nw,Wages,Somebody,3,rehearsed,gone\n");
    keep(programme("FREQ=DAILY;BYHOUR=11;BYMINUTE=0;BYSECOND=0", PointChoice.NEWEST, ANY));
    estate.clock.forward(Duration.ofHours(1));
    assertThat(start()).isZero();
    assertThat(underWay()).isEmpty();
    assertThat(estate
            .installation
            .part(hardproof.server.programmes.RefusedStore.class)
            .by(estate.clock.instant())
            .get("whole"))
        .containsOnlyKeys("share", "db")
        .allSatisfy(
            (k, why) -> assertThat(why).startsWith("it needs gone, of which nothing is known"));
  }

  @Test
  void theForecastCountsOnItAndOnNoDrillsAlone() {
    Programme whole = programme(null, PointChoice.NEWEST, ANY);
    assertThat(gaps(whole)).isEmpty();
    Programme alone = new Programme(
        whole.key(),
        whole.name(),
        whole.scope(),
        null,
        whole.when(),
        new Programme.How(Showing.STRONGEST, PointChoice.NEWEST, ANY, null, Duration.ZERO),
        whole.limits(),
        whole.onFailure(),
        whole.tell(),
        whole.version());
    assertThat(gaps(alone))
        .hasSize(2)
        .allSatisfy(g -> assertThat(g.why()).isEqualTo(Forecast.Why.TOO_WEAK));
  }

  /** Those that nothing closes. */
  private List<Forecast.Gap> gaps(Programme programme) {
    var now = estate.installation.evaluations().now();
    Forecast forecast = new Forecaster(
            now.estate(), now.evaluation(), List.of(programme.terms()), s -> true)
        .forecast(Capacity.usual(), Duration.ofDays(7));
    return forecast.gaps().stream().filter(g -> g.until() == null).toList();
  }

  @Test
  void otherPointsOrCopiesAreNoRehearsal() {
    assertThatThrownBy(
            () -> programme(null, new PointChoice(PointChoice.Way.OLDEST, null, null), ANY))
        .isInstanceOf(WrongValue.class)
        .hasMessageStartingWith("a rehearsal brings every member back from its newest point");
    assertThatThrownBy(() ->
            programme(null, PointChoice.NEWEST, new CopyChoice(CopyChoice.Way.NOT_LAST, null)))
        .isInstanceOf(WrongValue.class);
  }
}
