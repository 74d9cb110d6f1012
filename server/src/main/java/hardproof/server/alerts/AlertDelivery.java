package hardproof.server.alerts;

import hardproof.core.alerts.AlertKind;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Selector;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Estate;
import hardproof.server.alerts.MessageStore.Message;
import hardproof.server.alerts.MessageStore.What;
import hardproof.server.delivery.Outlet;
import hardproof.server.delivery.Parcel;
import hardproof.server.delivery.Tries;
import hardproof.server.outside.CloudEvent;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;

/** Makes messages of alerts as watches want them, and delivers them; again with growing waits where nobody takes one. */
public final class AlertDelivery {
  /** That an alert closed is told for as long as this. */
  private static final Duration LATELY = Duration.ofDays(1);

  private static final int CLOSED_LOOKED_AT = 1_000;

  private final AlertStore alerts;
  private final WatchStore watches;
  private final MessageStore messages;
  private final Map<Watch.How, Outlet> outlets;
  private final Supplier<Estate> estate;
  private volatile String address = "";

  public AlertDelivery(
      AlertStore alerts,
      WatchStore watches,
      MessageStore messages,
      Map<Watch.How, Outlet> outlets,
      Supplier<Estate> estate) {
    this.alerts = alerts;
    this.watches = watches;
    this.messages = messages;
    this.outlets = outlets;
    this.estate = estate;
  }

  /** Where others find this server. */
  public void at(String found) {
    address = found;
  }

  /** Makes what is to be told by now, and tries what is due. */
  public synchronized void run(Instant now) {
    List<Watch> telling = watches.all().stream()
        .filter(w -> w.active() && w.how() != Watch.How.BELL)
        .toList();
    if (!telling.isEmpty()) {
      Estate facts = estate.get();
      List<Alert> open = alerts.open();
      List<Alert> closed = alerts.closed(CLOSED_LOOKED_AT).stream()
          .filter(a -> a.closedAt().plus(LATELY).isAfter(now))
          .toList();
      for (Watch watch : telling) {
        open.forEach(a -> tell(watch, a, facts, now));
        closed.forEach(a -> tellClosed(watch, a, facts, now));
      }
    }
    messages.due(now).forEach(m -> deliver(m, now));
  }

  private void tell(Watch watch, Alert alert, Estate facts, Instant now) {
    if (!matches(watch, alert, facts) || alert.openedAt().plus(watch.after()).isAfter(now)) {
      return;
    }
    Optional<Message> last = messages.last(watch.id(), alert.id());
    if (last.isEmpty()) {
      add(watch, alert, What.OPENED, facts, now);
    } else if (watch.repeat() != null
        && alert.state() == Alert.State.OPEN
        && !last.get().madeAt().plus(watch.repeat()).isAfter(now)) {
      add(watch, alert, What.AGAIN, facts, now);
    }
  }

  /** Only whoever was told that it opened. */
  private void tellClosed(Watch watch, Alert alert, Estate facts, Instant now) {
    messages
        .last(watch.id(), alert.id())
        .filter(m -> m.what() != What.CLOSED)
        .ifPresent(m -> add(watch, alert, What.CLOSED, facts, now));
  }

  private void add(Watch watch, Alert alert, What what, Estate facts, Instant now) {
    Instant at = watch.quiet() == null ? now : watch.quiet().over(now);
    String recipient =
        watch.recipient().equals(Watch.OWNER) ? owner(alert, facts) : watch.recipient();
    messages.add(watch, alert, what, recipient, AlertWords.body(alert, what, address), now, at);
  }

  /** Whatever it is; that it is no address is found out when it is tried, and told. */
  private static String owner(Alert alert, Estate facts) {
    Workload workload = alert.workload() == null ? null : facts.workload(alert.workload());
    return workload == null || workload.owner() == null
        ? "the owner of " + alert.name() + ", who is not known"
        : workload.owner();
  }

  /**
   * Whether a watch is for an alert. One that is about no resource is told where the watch is for everything; that a
   * message could not be delivered is told on the bell only.
   */
  static boolean matches(Watch watch, Alert alert, Estate facts) {
    if (!watch.wants(alert.kind())
        || alert.kind() == AlertKind.NOT_DELIVERED && watch.how() != Watch.How.BELL) {
      return false;
    }
    return about(alert, watch.scope(), facts);
  }

  /** Whether an alert is about a resource that is selected; one that is about none is only where everything is. */
  public static boolean about(Alert alert, Selector scope, Estate facts) {
    if (scope.equals(Selector.EVERYTHING)) {
      return true;
    }
    Resource resource = facts.resource(alert.subject());
    List<Resource> about = resource != null
        ? List.of(resource)
        : alert.workload() == null ? List.of() : facts.membersOf(alert.workload());
    return about.stream().anyMatch(r -> scope.matches(r, facts.tierOf(r)));
  }

  private void deliver(Message message, Instant now) {
    Alert alert = alerts.find(message.alert()).orElseThrow();
    try {
      outlets.get(message.how()).deliver(parcel(message, alert, now), now);
      messages.ended(message, MessageStore.State.SENT, null, now);
    } catch (Outlet.NotTaken e) {
      Tries.next(message.tries(), now)
          .ifPresentOrElse(
              next -> messages.later(message, e.getMessage(), next),
              () -> messages.ended(message, MessageStore.State.FAILED, e.getMessage(), now));
    }
  }

  private static Parcel parcel(Message message, Alert alert, Instant now) {
    String id = "message-" + message.id();
    CloudEvent.Told told = new CloudEvent.Told(
        alert.kind().code(), message.what().code(), alert.subject(), alert.name(), alert.whole());
    return new Parcel(
        id,
        message.recipient(),
        message.subject(),
        message.body(),
        CloudEvent.alert(id, told, alert.openedAt(), now),
        List.of());
  }
}
