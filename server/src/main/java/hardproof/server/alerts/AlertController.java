package hardproof.server.alerts;

import hardproof.core.alerts.AlertKind;
import hardproof.core.facts.Estate;
import hardproof.server.activity.Activity;
import hardproof.server.outside.OutsideHosts;
import hardproof.server.people.PeopleStore;
import hardproof.server.people.Person;
import hardproof.server.web.NotFound;
import io.swagger.v3.oas.annotations.Operation;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The bell, who is told of what, and what was sent. */
@RestController
@RequestMapping("/api")
class AlertController {
  private static final int SHOWN = 200;

  private final AlertStore alerts;
  private final AlertDesk desk;
  private final WatchStore watches;
  private final MessageStore messages;
  private final OutsideHosts hosts;
  private final PeopleStore people;
  private final Activity activity;
  private final Supplier<Estate> estate;
  private final Clock clock;

  AlertController(
      AlertStore alerts,
      AlertDesk desk,
      WatchStore watches,
      MessageStore messages,
      OutsideHosts hosts,
      PeopleStore people,
      Activity activity,
      Supplier<Estate> estate,
      Clock clock) {
    this.alerts = alerts;
    this.desk = desk;
    this.watches = watches;
    this.messages = messages;
    this.hosts = hosts;
    this.people = people;
    this.activity = activity;
    this.estate = estate;
    this.clock = clock;
  }

  /**
   * An alert.
   *
   * @param link where its case is, within the page
   * @param rings whether it is on the bell of whoever asks
   */
  record AlertView(
      long id,
      AlertKind kind,
      String words,
      String name,
      String sentence,
      @Nullable Integer tier,
      Alert.State state,
      Instant openedAt,
      @Nullable Instant closedAt,
      @Nullable String acknowledgedBy,
      @Nullable Instant acknowledgedAt,
      @Nullable String note,
      String link,
      boolean rings) {
    static AlertView of(Alert a, boolean rings) {
      return new AlertView(
          a.id(),
          a.kind(),
          a.kind().words(),
          a.name(),
          a.whole(),
          a.tier(),
          a.state(),
          a.openedAt(),
          a.closedAt(),
          a.acknowledgedBy(),
          a.acknowledgedAt(),
          a.note(),
          a.link(),
          rings);
    }
  }

  /**
   * All that are open, and those that closed last.
   *
   * @param bell how many ring for whoever asks: open, and acknowledged by nobody
   */
  record AlertsView(int bell, List<AlertView> open, List<AlertView> closed) {}

  @Operation(summary = "Alerts that are open, and those that closed last")
  @GetMapping("/alerts")
  AlertsView alerts(Principal person) {
    String role = people.find(person.getName()).map(p -> p.role().code()).orElse("");
    List<Watch> bells = watches.all().stream()
        .filter(w -> w.active() && w.ringsFor(person.getName(), role))
        .toList();
    Instant now = clock.instant();
    Estate facts = estate.get();
    List<AlertView> open = alerts.open().stream()
        .map(a -> AlertView.of(a, rings(a, bells, facts, now)))
        .toList();
    return new AlertsView(
        (int) open.stream().filter(AlertView::rings).count(),
        open,
        alerts.closed(SHOWN).stream().map(a -> AlertView.of(a, false)).toList());
  }

  private static boolean rings(Alert alert, List<Watch> bells, Estate facts, Instant now) {
    return alert.state() == Alert.State.OPEN
        && bells.stream()
            .anyMatch(w -> AlertDelivery.matches(w, alert, facts)
                && !alert.openedAt().plus(w.after()).isAfter(now));
  }

  @Operation(summary = "What happened to an alert")
  @GetMapping("/alerts/{id}/events")
  List<AlertStore.AlertEvent> events(@PathVariable long id) {
    return alerts.events(known(id).id());
  }

  private Alert known(long id) {
    return alerts.find(id).orElseThrow(() -> new NotFound("There is no alert " + id + "."));
  }

  /** What is being done about it. */
  record Note(@Nullable String note) {}

  @Operation(summary = "Acknowledge an alert with a note")
  @PostMapping("/alerts/{id}/acknowledgement")
  AlertView acknowledge(@PathVariable long id, @RequestBody Note note, Principal person) {
    String by = people.find(person.getName()).map(Person::fullName).orElse(person.getName());
    Alert alert = desk.acknowledge(id, by, note.note() == null ? "" : note.note());
    activity.record(by, "acknowledged an alert", alert.name(), alert.note());
    return AlertView.of(alert, false);
  }

  /** A watch with its number. */
  record WatchView(long id, WatchDraft watch) {
    static WatchView of(Watch w) {
      return new WatchView(w.id(), WatchDraft.of(w));
    }
  }

  /** A kind of alert. */
  record KindView(AlertKind kind, String words) {}

  @Operation(summary = "Kinds of alerts")
  @GetMapping("/alert-kinds")
  List<KindView> kinds() {
    return Arrays.stream(AlertKind.values())
        .map(k -> new KindView(k, k.words()))
        .toList();
  }

  @Operation(summary = "Who is told of what, and how")
  @GetMapping("/watches")
  List<WatchView> watches() {
    return watches.all().stream().map(WatchView::of).toList();
  }

  @Operation(summary = "Add a watch")
  @PostMapping("/watches")
  @ResponseStatus(HttpStatus.CREATED)
  WatchView add(@RequestBody WatchDraft draft, Principal person) {
    Watch watch =
        watches.put(draft.watch(0, hosts, this::canSignIn), person.getName(), clock.instant());
    activity.record(person.getName(), "added a watch", watch.name(), watch.recipient());
    return WatchView.of(watch);
  }

  @Operation(summary = "Change a watch")
  @PutMapping("/watches/{id}")
  WatchView change(@PathVariable long id, @RequestBody WatchDraft draft, Principal person) {
    Watch before = watch(id);
    Watch watch =
        watches.put(draft.watch(id, hosts, this::canSignIn), person.getName(), clock.instant());
    activity.record(person.getName(), "changed a watch", watch.name(), before + " became " + watch);
    return WatchView.of(watch);
  }

  @Operation(summary = "Remove a watch; what it sent stays in the list")
  @DeleteMapping("/watches/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable long id, Principal person) {
    Watch watch = watch(id);
    watches.remove(id, clock.instant());
    activity.record(person.getName(), "removed a watch", watch.name(), watch.recipient());
  }

  private boolean canSignIn(String name) {
    return people.find(name).filter(Person::active).isPresent();
  }

  private Watch watch(long id) {
    return watches.find(id).orElseThrow(() -> new NotFound("There is no watch " + id + "."));
  }

  @Operation(
      summary = "Messages that were made of alerts, the newest first, with what became of each")
  @GetMapping("/messages")
  List<MessageStore.Message> messages() {
    return messages.newest(SHOWN);
  }
}
