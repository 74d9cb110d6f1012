package hardproof.server.drills;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.drills.Transitions.ImpossibleTransition;
import hardproof.core.ladder.Rung;
import hardproof.core.programmes.QueuedDrill;
import hardproof.core.proof.Verdict;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.proving.drills.StepState;
import hardproof.server.Estate;
import hardproof.server.WithEstate;
import hardproof.server.installation.Installation;
import hardproof.server.outside.OutsideChecks;
import hardproof.server.runs.BaselineStore;
import hardproof.server.runs.Run;
import hardproof.server.runs.RunNeeds;
import hardproof.server.runs.RunOrder;
import hardproof.server.runs.RunStore;
import hardproof.server.runs.ScreenStore;
import hardproof.server.runs.WaitingStore;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;

class RunQueueTest extends WithEstate {
  private RunStore runs() {
    return estate.installation.runs();
  }

  private static RunOrder order(String resource, Method method, Duration hold) {
    return new RunOrder(resource, null, null, method, null, "a test", hold);
  }

  private String queue(RunOrder order) {
    var facts = estate.installation.evaluations().now().estate();
    RunOrder complete = estate.installation.orders().complete(facts, order);
    return runs()
        .queue(
            complete,
            estate.installation.orders().plan(facts, complete).reaches(),
            RunNeeds.of(0, 0),
            null,
            "tester",
            estate.clock.instant());
  }

  /** A list that took a second connection for each of its rows stood still once as many asked as there are. */
  @Test
  void manyMoreThanThereAreConnectionsMayAskForRunsAtOnce() throws Exception {
    for (int i = 0; i < 5; i++) {
      queue(order("share", null, null));
    }
    int crowd = 40;
    ExecutorService threads = Executors.newFixedThreadPool(crowd);
    CountDownLatch begin = new CountDownLatch(crowd);
    try {
      List<Callable<Integer>> work = Collections.nCopies(crowd, () -> {
        begin.countDown();
        begin.await();
        int seen = 0;
        for (int i = 0; i < 20; i++) {
          seen += runs().underWay().size() + runs().ended(10).size();
        }
        return seen;
      });
      for (Future<Integer> done : threads.invokeAll(work, 1, TimeUnit.MINUTES)) {
        assertThat(done.isCancelled()).isFalse();
        assertThat(done.get()).isEqualTo(100);
      }
    } finally {
      threads.shutdownNow();
    }
  }

  private Run drill(RunOrder order) {
    String id = queue(order);
    assertThat(estate.installation.queue().runOne()).isTrue();
    return runs().find(id).orElseThrow();
  }

  private Path sandbox(String run) {
    return estate.installation.folder().sandboxes().resolve(run);
  }

  @Test
  void aRunIsRecordedStepByStepAndCountsWhenItHasEnded() {
    List<String> changed = new ArrayList<>();
    estate.installation.queue().onChange(changed::add);
    Run run = drill(order("share", null, null));
    assertThat(run.method()).isEqualTo(Method.FULL_RESTORE);
    assertThat(run.point()).isEqualTo("share-2");
    assertThat(run.restore()).isEqualTo(RestoreState.DONE);
    assertThat(run.checks()).isEqualTo(ChecksState.PASSED);
    assertThat(run.cleanup()).isEqualTo(CleanupState.DONE);
    assertThat(run.steps()).extracting(Run.Step::state).containsOnly(StepState.DONE);
    assertThat(run.steps())
        .extracting(Run.Step::name)
        .containsExactly(
            "Restore share-1.tar.gz",
            "Restore share-2.tar.gz",
            "Compare with the manifest",
            "Remove the restored data");
    assertThat(changed).contains(run.id());
    assertThat(sandbox(run.id())).doesNotExist();
    assertThat(runs().facts(estate.clock.instant()))
        .singleElement()
        .satisfies(d -> assertThat(d.rung()).isEqualTo(Rung.RESTORED));
  }

  @Test
  void drillingEveryMemberProvesTheWorkloadAndAFlippedBitDisprovesIt() throws IOException {
    drill(order("share", null, null));
    estate
        .installation
        .checks()
        .keep(
            "db", List.of(new Check(CheckType.QUERY_EQUALS, "SELECT count(*) FROM entry", "3000")));
    Run database = drill(order("db", null, null));
    assertThat(database.method()).isEqualTo(Method.DATABASE);
    assertThat(database.reaches()).isEqualTo(Rung.RUNNING);
    assertThat(verdict()).isEqualTo(Verdict.PROVEN);

    Path artifact = estate.store().resolve("share-1.tar.gz");
    byte[] bytes = Files.readAllBytes(artifact);
    bytes[bytes.length / 2] ^= 1;
    Files.write(artifact, bytes);
    estate.clock.forward(Duration.ofHours(1));
    Run failed = drill(order("share", Method.READ_THROUGH, null));
    assertThat(failed.checks()).isEqualTo(ChecksState.FAILED);
    assertThat(failed.blamedPoint()).isEqualTo("share-1");
    assertThat(failed.sentence()).contains("the copy is damaged");
    // Both points hang from the damaged full, and there is no other copy.
    assertThat(verdict()).isEqualTo(Verdict.EXPOSED);
  }

  private Verdict verdict() {
    return estate.installation.evaluations().now().evaluation().workload("w").verdict();
  }

  /** Whatever goes wrong in the middle, a claimed run does not stay under way. */
  @Test
  void aRunThatAFaultOfOursEndsIsInterruptedAtOnce() {
    Installation i = estate.installation;
    String id = queue(order("share", null, null));
    RunQueue faulty = new RunQueue(
        runs(),
        i.part(WaitingStore.class),
        i.orders(),
        i.part(ScreenStore.class),
        new BaselineStore(i.database()),
        i.part(OutsideChecks.class),
        i.runner(),
        i.sandboxes(),
        () -> {
          throw new OutOfMemoryError("heap");
        },
        i.clock());
    assertThat(faulty.runOne()).isTrue();
    Run run = runs().find(id).orElseThrow();
    assertThat(run.restore()).isEqualTo(RestoreState.INTERRUPTED);
    assertThat(run.sentence()).contains("fault of the application").doesNotContain("Error");
    assertThat(sandbox(id)).doesNotExist();
  }

  /** As when our own database has no room: it is written down as soon as there is. */
  @Test
  void aRunWhoseEndCouldNotBeWrittenEndsWhenItCan() {
    var database = estate.installation.database();
    String id = queue(order("share", null, null));
    database.writes().sql("""
            CREATE TRIGGER no_room BEFORE UPDATE ON drill_run WHEN new.ended_at IS NOT NULL
            BEGIN SELECT RAISE(ABORT, 'no room'); END
            """).update();
    assertThat(estate.installation.queue().runOne()).isTrue();
    assertThat(runs().find(id).orElseThrow().ended()).isFalse();
    assertThat(sandbox(id)).as("what was restored makes room first").doesNotExist();
    database.writes().sql("DROP TRIGGER no_room").update();
    estate.installation.queue().cleanUp();
    Run run = runs().find(id).orElseThrow();
    assertThat(run.ended()).isTrue();
    assertThat(run.sentence())
        .isEqualTo("what it found was written down; its end could not be written at once");
    assertThat(run.cleanup()).isEqualTo(CleanupState.DONE);
    assertThat(runs().facts(estate.clock.instant())).as("it was found").hasSize(1);
  }

  @Test
  void heldDataStaysUntilItsTimeIsOver() {
    Run run = drill(order("share", null, Duration.ofHours(2)));
    assertThat(run.cleanup()).isEqualTo(CleanupState.HOLDING);
    assertThat(run.holdUntil()).isEqualTo(Estate.NOW.plus(Duration.ofHours(2)));
    estate.clock.forward(Duration.ofHours(2).minusMillis(1));
    estate.installation.queue().cleanUp();
    assertThat(sandbox(run.id()).resolve("restored")).isDirectory();
    estate.clock.forward(Duration.ofMillis(1));
    estate.installation.queue().cleanUp();
    assertThat(sandbox(run.id())).doesNotExist();
    assertThat(runs().find(run.id()).orElseThrow().cleanup()).isEqualTo(CleanupState.DONE);
  }

  @Test
  void aRunWhoseProcessStoppedIsInterruptedAndItsSandboxRemoved() throws IOException {
    String id = queue(order("share", null, null));
    runs().claim(id, estate.clock.instant());
    runs().steps().plan(id, List.of("first", "second"));
    runs().restore(id, RestoreState.RUNNING);
    runs().steps().started(id, 0, 10, estate.clock.instant());
    Files.createDirectories(sandbox(id).resolve("restored/deep"));
    Files.writeString(sandbox(id).resolve("restored/deep/file"), "half of it");
    String waiting = queue(order("db", null, null));

    estate.reopen();
    estate.installation.queue().recover();

    Run run = runs().find(id).orElseThrow();
    assertThat(run.ended()).isTrue();
    assertThat(run.restore()).isEqualTo(RestoreState.INTERRUPTED);
    assertThat(run.checks()).isEqualTo(ChecksState.NOT_ASKED);
    assertThat(run.cleanup()).isEqualTo(CleanupState.DONE);
    assertThat(run.steps())
        .extracting(Run.Step::state)
        .containsExactly(StepState.FAILED, StepState.SKIPPED);
    assertThat(run.sentence()).contains("says nothing about the data");
    assertThat(run.fact().failed()).isFalse();
    assertThat(sandbox(id)).doesNotExist();
    // What only waited goes on.
    assertThat(runs().find(waiting).orElseThrow().restore()).isEqualTo(RestoreState.WAITING);
    assertThat(estate.installation.queue().runOne()).isTrue();
    assertThat(runs().find(waiting).orElseThrow().restore()).isEqualTo(RestoreState.DONE);
  }

  @Test
  void cancellingARunThatWaitsEndsItWithoutReading() {
    String id = queue(order("share", null, null));
    assertThat(runs().askToCancel(id)).isTrue();
    estate.installation.queue().runOne();
    Run run = runs().find(id).orElseThrow();
    assertThat(run.restore()).isEqualTo(RestoreState.INTERRUPTED);
    assertThat(run.sentence()).isEqualTo("cancelled before it began");
    assertThat(runs().askToCancel(id)).isFalse();
  }

  @Test
  void aClosedQueueTakesNothingMoreAndLetsWhatEndedBe() {
    Run ended = drill(order("share", null, null));
    estate.installation.queue().start(1);
    estate.installation.queue().close();
    String waiting = queue(order("db", null, null));
    estate.installation.queue().wake();
    assertThat(runs().find(waiting).orElseThrow()).satisfies(r -> {
      assertThat(r.restore()).isEqualTo(RestoreState.WAITING);
      assertThat(r.startedAt()).isNull();
    });
    assertThat(runs().find(ended.id())).contains(ended);
    assertThat(runs().cancelAsked(ended.id())).isFalse();
  }

  @Test
  void anotherProcessThatOpensAndClosesTheFolderLeavesARunAlone() throws IOException {
    String id = queue(order("share", null, null));
    runs().claim(id, estate.clock.instant());
    try (Installation other =
        Installation.open(estate.installation.folder(), estate.clock, List.of(estate.folder))) {
      assertThat(other.runs().underWay()).hasSize(1);
    }
    assertThat(runs().cancelAsked(id)).isFalse();
  }

  @Test
  void theOldestIsTakenFirstAndOnce() {
    String first = queue(order("share", Method.PRESENCE, null));
    estate.clock.forward(Duration.ofSeconds(1));
    String second = queue(order("share", Method.PRESENCE, null));
    WaitingStore waiting = estate.installation.part(WaitingStore.class);
    assertThat(waiting.inTurn()).extracting(QueuedDrill::id).containsExactly(first, second);
    assertThat(runs().claim(second, estate.clock.instant())).isPresent();
    assertThat(runs().claim(second, estate.clock.instant())).isEmpty();
    assertThat(waiting.inTurn()).extracting(QueuedDrill::id).containsExactly(first);
    assertThat(waiting.underWay()).extracting(QueuedDrill::id).containsExactly(second);
  }

  @Test
  void anImpossibleChangeIsRefusedAndNotWritten() {
    String id = queue(order("share", null, null));
    assertThatThrownBy(() -> runs().restore(id, RestoreState.DONE))
        .isInstanceOf(ImpossibleTransition.class)
        .hasMessageContaining("WAITING to DONE");
    assertThat(runs().find(id).orElseThrow().restore()).isEqualTo(RestoreState.WAITING);
  }

  @Test
  void ordersThatCanNotBeCarriedOutAreRefusedWithWhatToDo() throws IOException {
    refused(
        new RunOrder("nobody", null, null, null, null, "", null), "There is no resource 'nobody'");
    refused(
        new RunOrder("share", "db-1", null, null, null, "", null),
        "'db-1' is no recovery point of SHARE");
    refused(
        new RunOrder("share", null, null, Method.DATABASE, null, "", null),
        "does not suit a file share");
    estate.take(
        "points.csv",
        "key,resource,form,based_on,data_time,available,outcome\n"
            + "lone,share,incremental,gone,2026-11-24T06:00:00Z,2026-11-24T07:00:00Z,complete\n");
    refused(
        new RunOrder("share", "lone", null, null, null, "", null), "No store holds every artifact");
    estate.take("resources.csv", "key,name,kind\nempty,EMPTY,volume\n");
    refused(
        new RunOrder("empty", null, null, null, null, "", null),
        "EMPTY has no usable recovery point");
  }

  private void refused(RunOrder order, String message) {
    assertThatThrownBy(() -> estate
            .installation
            .orders()
            .complete(estate.installation.evaluations().now().estate(), order))
        .isInstanceOf(DrillOrders.OrderRefused.class)
        .hasMessageContaining(message);
  }

  @Test
  void aStoreThatWentAwayMakesTheRunRefusedAndBlamesNobody() throws IOException {
    String id = queue(order("share", Method.READ_THROUGH, null));
    Files.move(estate.store(), folder.resolve("elsewhere"));
    estate.installation.queue().runOne();
    Run run = runs().find(id).orElseThrow();
    assertThat(run.restore()).isEqualTo(RestoreState.REFUSED);
    assertThat(run.sentence()).contains("can't be reached").contains("Mount it");
    assertThat(run.fact().failed()).isFalse();
  }
}
