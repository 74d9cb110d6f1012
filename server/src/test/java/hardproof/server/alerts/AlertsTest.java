package hardproof.server.alerts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.doNothing;
import static org.mockito.Mockito.doThrow;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;

import hardproof.core.alerts.AlertKind;
import hardproof.core.drills.Method;
import hardproof.core.estate.Selector;
import hardproof.core.estate.Selector.Condition;
import hardproof.core.wording.WrongValue;
import hardproof.server.WithEstate;
import hardproof.server.delivery.Outlet;
import hardproof.server.delivery.Parcel;
import hardproof.server.delivery.Tries;
import hardproof.server.drills.DrillWith;
import hardproof.server.web.Conflict;
import hardproof.server.web.NotFound;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.mockito.ArgumentCaptor;

/** Alerts from opening to closing, and their messages. What takes messages is mocked. */
class AlertsTest extends WithEstate {
  private final Outlet outlet = mock(Outlet.class);
  private AlertStore alerts;
  private AlertDesk desk;
  private WatchStore watches;
  private MessageStore messages;
  private AlertDelivery delivery;

  @BeforeEach
  void parts() {
    alerts = estate.installation.part(AlertStore.class);
    desk = estate.installation.part(AlertDesk.class);
    watches = estate.installation.part(WatchStore.class);
    messages = estate.installation.part(MessageStore.class);
    delivery = new AlertDelivery(
        alerts,
        watches,
        messages,
        Map.of(Watch.How.MAIL, outlet, Watch.How.WEBHOOK, outlet),
        () -> estate.installation.evaluations().now().estate());
    delivery.at("https://proof.example");
    look();
  }

  private void look() {
    estate.installation.logFindings(estate.installation.evaluations().now());
  }

  private Instant now() {
    return estate.clock.instant();
  }

  /** Breaks the artifacts of SHARE, so that its drill fails. */
  private void failedDrill() throws Exception {
    for (Path artifact : artifacts()) {
      Files.copy(artifact, folder.resolve(artifact.getFileName().toString()));
      Files.write(artifact, new byte[] {1, 2, 3});
    }
    drill();
  }

  /** Puts them back: another drill passes. */
  private void mended() throws Exception {
    for (Path artifact : artifacts()) {
      Files.copy(
          folder.resolve(artifact.getFileName().toString()),
          artifact,
          StandardCopyOption.REPLACE_EXISTING);
    }
    drill();
  }

  private void drill() {
    new DrillWith(estate)
        .run("share", "share-1", Method.FULL_RESTORE, Duration.ZERO, List.of(), null);
    estate.clock.forward(Duration.ofMinutes(1));
    look();
  }

  private List<Path> artifacts() throws IOException {
    try (var all = Files.list(estate.store())) {
      return all.filter(p -> p.getFileName().toString().startsWith("share")).toList();
    }
  }

  private Watch watch(Duration after, @Nullable Duration repeat, Selector scope) {
    return watches.put(
        new Watch(
            0,
            "Ours",
            Set.of(AlertKind.DRILL_FAILED),
            scope,
            Watch.How.MAIL,
            "ops@example.org",
            after,
            repeat,
            null,
            true),
        "ana",
        now());
  }

  private Watch watch() {
    return watch(Duration.ZERO, null, Selector.EVERYTHING);
  }

  @Test
  void aDrillThatFailedOpensOneAlertHoweverOftenOneLooks() throws Exception {
    assertThat(alerts.open()).isEmpty();
    failedDrill();
    look();
    look();
    assertThat(alerts.open()).singleElement().satisfies(a -> {
      assertThat(a.kind()).isEqualTo(AlertKind.DRILL_FAILED);
      assertThat(a.subject()).isEqualTo("share");
      assertThat(a.state()).isEqualTo(Alert.State.OPEN);
      assertThat(a.link()).isEqualTo("/board?w=w");
    });
    estate.reopen();
    parts();
    assertThat(alerts.open()).hasSize(1);
    assertThat(alerts.events(alerts.open().get(0).id()))
        .extracting(AlertStore.AlertEvent::event)
        .containsExactly("opened");
  }

  @Test
  void itClosesByItselfWhenItsCauseIsGone() throws Exception {
    failedDrill();
    long id = alerts.open().get(0).id();
    mended();
    assertThat(alerts.open()).isEmpty();
    assertThat(alerts.find(id).orElseThrow().state()).isEqualTo(Alert.State.CLOSED);
    assertThat(alerts.events(id))
        .extracting(AlertStore.AlertEvent::event)
        .containsExactly("opened", "closed");
    assertThatThrownBy(() -> desk.acknowledge(id, "bo", "on it"))
        .isInstanceOf(Conflict.class)
        .hasMessageContaining("closed by itself");
  }

  @Test
  void somebodyAcknowledgesItOnceAndWithANote() throws Exception {
    failedDrill();
    long id = alerts.open().get(0).id();
    assertThatThrownBy(() -> desk.acknowledge(id, "bo", "  ")).isInstanceOf(WrongValue.class);
    assertThatThrownBy(() -> desk.acknowledge(id, "bo", "x".repeat(1_001)))
        .isInstanceOf(WrongValue.class);
    assertThat(desk.acknowledge(id, "Bo", " ordered a new disk ").state())
        .isEqualTo(Alert.State.ACKNOWLEDGED);
    assertThatThrownBy(() -> desk.acknowledge(id, "Cy", "me too"))
        .isInstanceOf(Conflict.class)
        .hasMessage("Bo has acknowledged it already: ordered a new disk");
    assertThatThrownBy(() -> desk.acknowledge(99, "Cy", "x")).isInstanceOf(NotFound.class);
  }

  @Test
  void aWatchTellsOnceThatItOpenedAndOnceThatItClosed() throws Exception {
    watch();
    failedDrill();
    delivery.run(now());
    delivery.run(now().plusSeconds(10));
    ArgumentCaptor<Parcel> sent = ArgumentCaptor.forClass(Parcel.class);
    verify(outlet).deliver(sent.capture(), any());
    assertThat(sent.getValue().recipient()).isEqualTo("ops@example.org");
    assertThat(sent.getValue().subject()).isEqualTo("A drill failed or took too long: SHARE");
    assertThat(sent.getValue().body()).contains("Tier 3.", "https://proof.example/board?w=w");
    mended();
    delivery.run(now());
    delivery.run(now());
    verify(outlet, times(2)).deliver(sent.capture(), any());
    assertThat(sent.getValue().subject()).isEqualTo("Over: A drill failed or took too long: SHARE");
    assertThat(messages.newest(10))
        .extracting(MessageStore.Message::state)
        .containsOnly(MessageStore.State.SENT);
  }

  /** Just under how soon, and at it. */
  @Test
  void itWaitsAsLongAsTheWatchSays() throws Exception {
    watch(Duration.ofMinutes(15), null, Selector.EVERYTHING);
    failedDrill();
    Instant opened = alerts.open().get(0).openedAt();
    delivery.run(opened.plus(Duration.ofMinutes(15)).minusMillis(1));
    verify(outlet, never()).deliver(any(), any());
    delivery.run(opened.plus(Duration.ofMinutes(15)));
    verify(outlet).deliver(any(), any());
  }

  @Test
  void whatClosesBeforeIsNeverTold() throws Exception {
    watch(Duration.ofMinutes(15), null, Selector.EVERYTHING);
    failedDrill();
    mended();
    delivery.run(now().plus(Duration.ofHours(1)));
    verify(outlet, never()).deliver(any(), any());
  }

  @Test
  void itIsToldAgainUntilSomebodyAcknowledgesIt() throws Exception {
    watch(Duration.ZERO, Duration.ofHours(1), Selector.EVERYTHING);
    failedDrill();
    Instant first = now();
    delivery.run(first);
    delivery.run(first.plus(Duration.ofMinutes(59)));
    verify(outlet, times(1)).deliver(any(), any());
    delivery.run(first.plus(Duration.ofMinutes(60)));
    verify(outlet, times(2)).deliver(any(), any());
    assertThat(messages.newest(1).get(0).subject()).startsWith("Still: ");
    desk.acknowledge(alerts.open().get(0).id(), "Bo", "on it");
    delivery.run(first.plus(Duration.ofHours(5)));
    verify(outlet, times(2)).deliver(any(), any());
  }

  @Test
  void aWatchIsForItsResourcesOnly() throws Exception {
    watch(Duration.ZERO, null, Selector.allOf(Condition.is("name", "DB")));
    failedDrill();
    delivery.run(now());
    verify(outlet, never()).deliver(any(), any());
    watch(Duration.ZERO, null, Selector.allOf(Condition.is("name", "SHARE")));
    delivery.run(now());
    verify(outlet).deliver(any(), any());
  }

  /** Tried after one, five, thirty minutes, two and six hours; then it is given up, and the bell says so. */
  @Test
  void whatNobodyTakesIsTriedAgainWithGrowingWaitsAndThenIsAnAlertItself() throws Exception {
    Watch watch = watch();
    failedDrill();
    doThrow(new Outlet.NotTaken("550 no such mailbox")).when(outlet).deliver(any(), any());
    Instant at = now();
    delivery.run(at);
    for (int i = 0; i < Tries.WAITS.size(); i++) {
      Instant next = at.plus(Tries.WAITS.get(i));
      delivery.run(next.minusMillis(1));
      verify(outlet, times(i + 1)).deliver(any(), any());
      at = next;
      delivery.run(at);
    }
    assertThat(messages.newest(1).get(0)).satisfies(m -> {
      assertThat(m.state()).isEqualTo(MessageStore.State.FAILED);
      assertThat(m.tries()).isEqualTo(6);
      assertThat(m.problem()).isEqualTo("550 no such mailbox");
    });
    look();
    assertThat(alerts.open())
        .filteredOn(a -> a.kind() == AlertKind.NOT_DELIVERED)
        .singleElement()
        .satisfies(
            a -> assertThat(a.sentence()).contains("ops@example.org", "550 no such mailbox"));
    // The next that is taken shows that it delivers again.
    doNothing().when(outlet).deliver(any(), any());
    messages.add(
        watch, alerts.open().get(0), MessageStore.What.AGAIN, "ops@example.org", "b", at, at);
    delivery.run(at);
    look();
    assertThat(alerts.open()).noneMatch(a -> a.kind() == AlertKind.NOT_DELIVERED);
  }

  @Test
  void whatWaitsOfAWatchThatIsRemovedIsNotSentAndNoLaterWatchIsTakenForIt() throws Exception {
    Watch watch = watch();
    failedDrill();
    doThrow(new Outlet.NotTaken("busy")).when(outlet).deliver(any(), any());
    delivery.run(now());
    watches.remove(watch.id(), now());
    delivery.run(now().plus(Duration.ofHours(1)));
    verify(outlet, times(1)).deliver(any(), any());
    assertThat(messages.newest(1).get(0).problem()).isEqualTo("its watch was removed");
    look();
    assertThat(alerts.open()).noneMatch(a -> a.kind() == AlertKind.NOT_DELIVERED);
    assertThat(watch().id()).isGreaterThan(watch.id());
    doNothing().when(outlet).deliver(any(), any());
    delivery.run(now().plus(Duration.ofHours(1)));
    verify(outlet, times(2)).deliver(any(), any());
  }

  @Test
  void aMessageThatWaitsIsDeliveredAfterARestart() throws Exception {
    watch();
    failedDrill();
    doThrow(new Outlet.NotTaken("busy")).when(outlet).deliver(any(), any());
    delivery.run(now());
    estate.reopen();
    parts();
    doNothing().when(outlet).deliver(any(), any());
    delivery.run(now().plus(Duration.ofMinutes(1)));
    assertThat(messages.newest(1).get(0).state()).isEqualTo(MessageStore.State.SENT);
  }

  @Test
  void aLedgerThatDiffersIsAnAlert() {
    estate.installation.database().write(() -> {
      estate
          .installation
          .database()
          .writes()
          .sql("DROP TRIGGER ledger_entry_is_never_changed")
          .update();
      estate
          .installation
          .database()
          .writes()
          .sql("UPDATE ledger_entry SET body = replace(body, '\"', '\"') || ' ' WHERE number = 0")
          .update();
      return null;
    });
    estate.installation.part(hardproof.server.ledger.LedgerDesk.class).check();
    look();
    assertThat(alerts.open()).extracting(Alert::kind).contains(AlertKind.LEDGER_DIFFERS);
  }
}
