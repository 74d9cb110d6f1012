package hardproof.server.events;

import hardproof.core.facts.Estate;
import hardproof.server.drills.RunQueue;
import hardproof.server.drills.RunStore;
import hardproof.server.drills.RunView;
import hardproof.server.integrity.Sweeps;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.util.LinkedHashSet;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/**
 * One stream for each open screen: {@code run} with a drill run as it stands, {@code facts} when an
 * evaluation would come out differently. Sent on a thread of its own, so that a slow screen never
 * holds up a drill; changes of one run that come faster than they can be sent are sent once.
 */
@RestController
class EventController {
  private static final long KEEP_ALIVE_SECONDS = 20;

  private final RunStore runs;
  private final Supplier<Estate> estate;
  private final CopyOnWriteArrayList<SseEmitter> screens = new CopyOnWriteArrayList<>();
  private final Set<String> changed = new LinkedHashSet<>();
  private final ScheduledExecutorService sender = Executors.newSingleThreadScheduledExecutor(r -> {
    Thread thread = new Thread(r, "events");
    thread.setDaemon(true);
    return thread;
  });

  EventController(RunStore runs, Supplier<Estate> estate, RunQueue queue, Sweeps sweeps) {
    this.runs = runs;
    this.estate = estate;
    queue.onChange(this::runChanged);
    sweeps.onChange(() -> sender.execute(() -> send("sweep", "")));
    sender.scheduleWithFixedDelay(
        () -> send("alive", ""), KEEP_ALIVE_SECONDS, KEEP_ALIVE_SECONDS, TimeUnit.SECONDS);
  }

  @GetMapping(path = "/api/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  SseEmitter events() throws IOException {
    SseEmitter screen = new SseEmitter(0L);
    screens.add(screen);
    screen.onCompletion(() -> screens.remove(screen));
    screen.onError(e -> screens.remove(screen));
    screen.send(SseEmitter.event().name("alive").data(""));
    return screen;
  }

  private void runChanged(String run) {
    boolean first;
    synchronized (changed) {
      first = changed.isEmpty();
      changed.add(run);
    }
    if (first) {
      sender.execute(this::sendChanged);
    }
  }

  private void sendChanged() {
    Set<String> now;
    synchronized (changed) {
      now = Set.copyOf(changed);
      changed.clear();
    }
    if (screens.isEmpty()) {
      return;
    }
    for (String id : now) {
      runs.find(id).ifPresent(run -> {
        send("run", RunView.of(run, estate.get()));
        if (run.ended()) {
          send("facts", "");
        }
      });
    }
  }

  private void send(String name, Object data) {
    for (SseEmitter screen : screens) {
      try {
        screen.send(SseEmitter.event().name(name).data(data));
      } catch (IOException | IllegalStateException e) {
        screens.remove(screen);
      }
    }
  }

  @PreDestroy
  void close() {
    sender.shutdownNow();
    screens.forEach(SseEmitter::complete);
  }
}
