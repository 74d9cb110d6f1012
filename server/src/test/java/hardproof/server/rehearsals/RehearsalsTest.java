package hardproof.server.rehearsals;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.drills.CleanupState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RehearsalFact.Outcome;
import hardproof.core.ladder.Rung;
import hardproof.core.losses.Loss;
import hardproof.core.rehearsals.MemberState;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.server.WithEstate;
import hardproof.server.drills.DrillWith;
import hardproof.server.runs.Run;
import hardproof.server.web.Refused;
import hardproof.standins.artifacts.Databases;
import hardproof.standins.artifacts.Machines;
import java.io.IOException;
import java.nio.file.Files;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Whole workloads brought back in their order, by real drills of the test estate: SHARE needs DB. */
class RehearsalsTest extends WithEstate {
  private RehearseWith rehearse;

  @BeforeEach
  void shareNeedsDatabase() throws IOException {
    estate.take("resources.csv", """
        key,name,kind,workload,site,environment,first_seen,needs
        share,SHARE,file-share,w,A,production,2026-10-01T00:00:00Z,db
        db,DB,database,w,A,production,2026-10-01T00:00:00Z,
        """);
    keep("db", new Check(CheckType.QUERY_AT_LEAST, "SELECT count(*) FROM entry", "1"));
    rehearse = new RehearseWith(estate);
  }

  private void keep(String resource, Check... checks) {
    estate.installation.checks().keep(resource, List.of(checks));
  }

  private static Map<String, MemberState> states(Rehearsal r) {
    return r.members().stream()
        .collect(Collectors.toMap(Rehearsal.Member::resource, Rehearsal.Member::state));
  }

  private List<Run> runs(Rehearsal r) {
    return r.members().stream()
        .filter(m -> m.run() != null)
        .map(m -> estate.installation.runs().find(m.run()).orElseThrow())
        .toList();
  }

  private Rung rungOf(String workload) {
    return estate.installation.evaluations().now().evaluation().workloads().stream()
        .filter(w -> w.workload().key().equals(workload))
        .findFirst()
        .orElseThrow()
        .rung();
  }

  @Test
  void whatIsNeededIsUpFirstAndThenAllIsRehearsed() throws IOException {
    String id = rehearse.queue("w");
    rehearse.rehearsals().advance();
    assertThat(states(rehearse.find(id)))
        .as("SHARE waits although there is room")
        .isEqualTo(Map.of("db", MemberState.RUNNING, "share", MemberState.WAITING));
    assertThat(estate.installation.queue().runOne()).isTrue();
    rehearse.rehearsals().advance();
    assertThat(states(rehearse.find(id)))
        .isEqualTo(Map.of("db", MemberState.UP, "share", MemberState.RUNNING));
    assertThat(runs(rehearse.find(id)).get(0).cleanup())
        .as("what is up stays")
        .isEqualTo(CleanupState.HOLDING);
    assertThat(rungOf("w")).as("half of it is no rehearsal").isNotEqualTo(Rung.REHEARSED);

    Rehearsal done = rehearse.finish(id);
    assertThat(done.result().outcome()).isEqualTo(Outcome.PASSED);
    assertThat(done.result().sentence())
        .startsWith("all 2 members were back in their order in 0 s, ")
        .contains("inside the RTO");
    assertThat(runs(done)).extracting(Run::cleanup).containsOnly(CleanupState.DONE);
    assertThat(estate.installation.sandboxes().present()).isEmpty();
    assertThat(rungOf("w")).isEqualTo(Rung.REHEARSED);
  }

  /** As somebody asks who looks back: it was not rehearsed before it had ended. */
  @Test
  void beforeItsEndNothingWasRehearsed() throws IOException {
    Instant before = estate.clock.instant();
    String id = rehearse.queue("w");
    estate.clock.forward(Duration.ofMinutes(5));
    rehearse.finish(id);
    assertThat(estate.installation.evaluations().at(before).evaluation().workloads())
        .allSatisfy(w -> assertThat(w.rung()).isNotEqualTo(Rung.REHEARSED));
    assertThat(rungOf("w")).isEqualTo(Rung.REHEARSED);
  }

  @Test
  void aFailureStopsWhatDependsOnItAndLetsTheRestFinish() throws IOException {
    Files.write(
        estate.store().resolve("db-1.sqlite.gz"),
        Databases.corrupt(7, Instant.parse("2026-11-24T05:00:00Z")).bytes());
    estate.take("resources.csv", """
        key,name,kind,workload,site,environment,first_seen,needs
        share,SHARE,file-share,w,A,production,2026-10-01T00:00:00Z,db
        db,DB,database,w,A,production,2026-10-01T00:00:00Z,
        """);
    new DrillWith(estate).machine("gate", Machines.Fate.BOOTS);
    Rehearsal done = rehearse.finish(rehearse.queue("w"));
    assertThat(states(done))
        .isEqualTo(Map.of(
            "db", MemberState.FAILED, "share", MemberState.NOT_BEGUN, "gate", MemberState.UP));
    assertThat(done.result().outcome()).isEqualTo(Outcome.FAILED);
    assertThat(done.result().sentence())
        .startsWith("DB: ")
        .contains("1 member that needs it never began; 1 of 3 members came up");
    assertThat(done.members())
        .filteredOn(m -> m.resource().equals("share"))
        .allSatisfy(m -> assertThat(m.sentence()).isEqualTo("DB, which it needs, did not come up"));
    assertThat(estate.installation.sandboxes().present()).isEmpty();
  }

  /** "A member that starts and dies after a minute." */
  @Test
  void aMachineThatDoesNotStayUpFailsItAndIsNoBadPoint() throws IOException {
    new DrillWith(estate).machine("gate", Machines.Fate.DIES_LATER);
    Rehearsal done = rehearse.finish(rehearse.queue("w"));
    assertThat(states(done)).containsEntry("gate", MemberState.FAILED);
    assertThat(done.result().outcome()).isEqualTo(Outcome.FAILED);
    assertThat(done.result().sentence())
        .startsWith(
            "gate: it came up and did not stay up: it stopped for good, it shows \"Kernel panic")
        .endsWith("2 of 3 members came up");
    Run run =
        runs(done).stream().filter(r -> r.resource().equals("gate")).findFirst().orElseThrow();
    assertThat(run.fact().passed()).as("by itself it reached its login").isTrue();
  }

  @Test
  void membersAskOneAnotherAndWhatDisagreesIsBlamedOnNeither() throws IOException {
    keep(
        "share",
        new Check(CheckType.FILES_AT_LEAST, "**", "1"),
        new Check(
            CheckType.NEEDED_ANSWERS,
            "db :: SELECT count(*) FROM entry",
            Integer.toString(Databases.ROWS)));
    Rehearsal agreed = rehearse.finish(rehearse.queue("w"));
    assertThat(agreed.result().outcome()).isEqualTo(Outcome.PASSED);

    keep("share", new Check(CheckType.NEEDED_ANSWERS, "DB :: SELECT count(*) FROM entry", "17"));
    Rehearsal disagreed = rehearse.finish(rehearse.queue("w"));
    assertThat(disagreed.result().outcome()).isEqualTo(Outcome.FAILED);
    assertThat(disagreed.result().sentence())
        .startsWith(
            "SHARE: DB: SELECT count(*) FROM entry gave " + Databases.ROWS + ", 17 was expected");
    assertThat(runs(disagreed)).allSatisfy(r -> assertThat(r.fact().failed()).isFalse());
    assertThat(runs(disagreed)).extracting(Run::blamedPoint).containsOnlyNulls();
  }

  @Test
  void alsoAShareAndADatabaseCanAgreeOrNot() throws IOException {
    estate.take("resources.csv", """
        key,name,kind,workload,site,environment,first_seen,needs
        share,SHARE,file-share,w,A,production,2026-10-01T00:00:00Z,
        db,DB,database,w,A,production,2026-10-01T00:00:00Z,share
        """);
    keep("db", new Check(CheckType.AGREES, "SELECT count(*) FROM entry", "SHARE :: no/such/file"));
    Rehearsal done = rehearse.finish(rehearse.queue("w"));
    assertThat(done.result().outcome()).isEqualTo(Outcome.FAILED);
    assertThat(done.result().sentence())
        .startsWith("DB: SHARE: no/such/file is no file that is there");
  }

  @Test
  void whatNobodyAsksIsNotSaidToBeUp() throws IOException {
    keep("db");
    assertThat(rehearse.plan("w", null, Loss.NONE, 2).notes())
        .anySatisfy(n -> assertThat(n).startsWith("nothing shows DB running"));
    Rehearsal done = rehearse.finish(rehearse.queue("w"));
    assertThat(done.result().outcome()).isEqualTo(Outcome.INTERRUPTED);
    assertThat(done.result().sentence())
        .isEqualTo(
            "all came back, but nothing was asked of DB, so whether it is up is not known: give it"
                + " a check");
    assertThat(rungOf("w")).isNotEqualTo(Rung.REHEARSED);
  }

  @Test
  void overTheObjectiveItIsRunningAndTheCriterionSaysByHowMuch() throws IOException {
    estate.take("workloads.csv", "key,name,owner,tier,rto,rung\nw,Wages,Somebody,3,1s,rehearsed\n");
    String id = rehearse.queue("w");
    rehearse.rehearsals().advance();
    estate.clock.forward(Duration.ofMinutes(3));
    estate.installation.queue().runOne();
    Rehearsal done = rehearse.finish(id);
    assertThat(done.result().outcome()).isEqualTo(Outcome.PASSED);
    assertThat(done.result().sentence()).contains("over the RTO of 1 s");
    assertThat(rungOf("w")).isEqualTo(Rung.RUNNING);
    assertThat(estate
            .installation
            .evaluations()
            .now()
            .evaluation()
            .workloads()
            .get(0)
            .sentence())
        .contains("had the whole workload back in 3 m, 2 m 59 s over the 1 s objective");
  }

  @Test
  void aCancelledOneSaysNothingAndLeavesNothing() throws IOException {
    String id = rehearse.queue("w");
    rehearse.rehearsals().advance();
    estate.installation.queue().runOne();
    rehearse.rehearsals().advance();
    assertThat(rehearse.rehearsals().cancel(id)).isTrue();
    Rehearsal done = rehearse.finish(id);
    assertThat(done.result().outcome()).isEqualTo(Outcome.INTERRUPTED);
    assertThat(done.result().sentence())
        .startsWith("it was cancelled; 1 of 2 members came up")
        .endsWith("it says nothing about the data");
    assertThat(estate.installation.sandboxes().present()).isEmpty();
    assertThat(rehearse.rehearsals().cancel(id)).as("it has ended").isFalse();
    assertThat(rehearse.rehearsals().cancel("none")).isFalse();
  }

  @Test
  void oneThatLosesItsProcessIsOverAndLeavesNothing() throws IOException {
    String id = rehearse.queue("w");
    rehearse.rehearsals().advance();
    estate.installation.queue().runOne();
    rehearse.rehearsals().advance();
    estate.reopen();
    Rehearsal done = rehearse.find(id);
    assertThat(done.result().outcome()).isEqualTo(Outcome.INTERRUPTED);
    assertThat(done.result().sentence())
        .startsWith("interrupted: the application stopped while it went on");
    estate.installation.queue().recover();
    estate.installation.queue().cleanUp();
    assertThat(estate.installation.sandboxes().present()).isEmpty();
    assertThat(rehearse.finish(rehearse.queue("w")).result().outcome())
        .as("and another can be held")
        .isEqualTo(Outcome.PASSED);
  }

  @Test
  void oneOfAWorkloadAtATime() throws IOException {
    rehearse.queue("w");
    assertThatThrownBy(() -> rehearse.queue("w"))
        .isInstanceOf(Refused.class)
        .hasMessage(
            "A rehearsal of Wages waits or goes on already. Wait for its end, or cancel it.");
  }

  @Test
  void otherDrillsLeaveItItsTurns() throws IOException {
    DrillWith drills = new DrillWith(estate);
    String other = drills.queue("share", null, Method.READ_THROUGH, Duration.ZERO, List.of(), null);
    String id = rehearse.queue("w");
    rehearse.rehearsals().advance();
    estate.installation.queue().runOne();
    assertThat(drills.find(other).startedAt()).as("the rehearsal comes first").isNull();
    assertThat(estate.installation.queue().held().get(other).words())
        .isEqualTo("a rehearsal goes on or is next, and other drills leave it its turns");
    assertThat(rehearse.finish(id).result().outcome()).isEqualTo(Outcome.PASSED);
    estate.installation.queue().runOne();
    assertThat(drills.find(other).ended()).as("then it is its turn").isTrue();
  }

  @Test
  void fromWhatIsLeftOnly() throws IOException {
    assertThat(rehearse.plan("w", null, Loss.ofStores(Set.of("near")), 2).refusal())
        .startsWith("DB and SHARE have no usable point of then on a store that is left");
    Files.createDirectories(folder.resolve("far"));
    for (String file : List.of(
        "share-1.tar.gz",
        "share-1.tar.gz.sha256",
        "share-2.tar.gz",
        "share-2.tar.gz.sha256",
        "db-1.sqlite.gz")) {
      Files.copy(estate.store().resolve(file), folder.resolve("far").resolve(file));
    }
    estate.take(
        "stores.csv",
        "key,name,site,medium,failure_domain,online,path\nfar,FAR,B,tape,shelf,no,"
            + folder.resolve("far") + "\n");
    estate.take("copies.csv", """
        point,store,finished,state,format,place,manifest
        share-1,far,2026-11-24T06:40:00Z,present,tar.gz,share-1.tar.gz,MAN1
        share-2,far,2026-11-24T06:40:00Z,present,tar.gz,share-2.tar.gz,MAN2
        db-1,far,2026-11-24T06:40:00Z,present,sqlite.gz,db-1.sqlite.gz,
        """.replace("MAN1", sha256("share-1.tar.gz.sha256"))
        .replace("MAN2", sha256("share-2.tar.gz.sha256")));
    Loss site = Loss.ofSite("A");
    Rehearsal done = rehearse.finish(rehearse.queue("w", site));
    assertThat(done.result().outcome()).as(done.result().sentence()).isEqualTo(Outcome.PASSED);
    assertThat(runs(done)).extracting(Run::store).containsOnly("far");
    assertThat(done.order().lossWords()).isEqualTo("site A");
  }

  private String sha256(String file) throws IOException {
    return hardproof.proving.checksums.Sha256.of(estate.store().resolve(file));
  }

  @Test
  void aMomentTakesWhatWasNewestThen() throws IOException {
    RehearsalOrders.Ready then =
        rehearse.plan("w", Instant.parse("2026-11-24T04:30:00Z"), Loss.NONE, 2);
    assertThat(then.refusal()).startsWith("DB has no usable point of then");
    RehearsalOrders.Ready now = rehearse.plan("w", null, Loss.NONE, 2);
    assertThat(now.plan().spread()).contains(Duration.ofHours(1));
    assertThat(now.members().get("share").order().point()).isEqualTo("share-2");
  }

  @Test
  void oneThatIsTooLargeIsRefusedWithWhatFits() throws IOException {
    RehearsalOrders.Ready ready = rehearse.plan("w", null, Loss.NONE, 2);
    long room = ready.members().get("db").plan().spaceBytes();
    assertThat(ready.spaceBytes()).isGreaterThan(room);
    var capacities = estate.installation.part(hardproof.server.programmes.CapacityStore.class);
    var said = capacities.at(estate.clock.instant());
    assertThat(capacities.say(
            said.capacity().withRoom(room), said.since(), "tester", estate.clock.instant()))
        .isTrue();
    assertThat(rehearse.plan("w", null, Loss.NONE, 2).refusal())
        .startsWith("all members stay up until the end: together they need ")
        .contains("In their order DB would fit.");
    assertThatThrownBy(() -> rehearse.queue("w")).isInstanceOf(Refused.class);
  }

  @Test
  void whatIsHeldStaysForAsLongAsWasAsked() throws IOException {
    Rehearsal done = rehearse.holding(Duration.ofHours(1)).finish(rehearse.queue("w"));
    assertThat(runs(done)).extracting(Run::cleanup).containsOnly(CleanupState.HOLDING);
    estate.clock.forward(Duration.ofMinutes(59));
    estate.installation.queue().cleanUp();
    assertThat(estate.installation.sandboxes().present()).hasSize(2);
    estate.clock.forward(Duration.ofMinutes(1));
    estate.installation.queue().cleanUp();
    assertThat(estate.installation.sandboxes().present()).isEmpty();
  }

  @Test
  void allStayUpTogetherForAsLongAsWasAsked() throws IOException {
    String id = rehearse.staying(Duration.ofMinutes(1)).queue("w");
    Rehearsal open = rehearse.finish(id);
    assertThat(open.ended()).isFalse();
    assertThat(states(open).values()).containsOnly(MemberState.UP);
    estate.clock.forward(Duration.ofSeconds(60));
    Rehearsal done = rehearse.finish(id);
    assertThat(done.result().outcome()).isEqualTo(Outcome.PASSED);
    assertThat(done.result().clock()).as("only until the last check").isEqualTo(Duration.ZERO);
  }
}
