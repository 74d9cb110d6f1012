package hardproof.server.events;

import hardproof.core.facts.Estate;
import hardproof.server.drills.RunQueue;
import hardproof.server.drills.RunView;
import hardproof.server.integrity.Sweeps;
import hardproof.server.people.SessionsEnded;
import hardproof.server.proof.Evaluations;
import hardproof.server.rehearsals.Rehearsals;
import hardproof.server.runs.RunStore;
import hardproof.server.stores.Censuses;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.security.Principal;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.LinkedHashSet;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Supplier;
import org.springframework.context.event.EventListener;
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

  /** Open streams, of all people together. */
  private static final int MOST_SCREENS = 200;

  /** A page asks for what it shows before its stream is open: at most so long before. */
  private static final Duration OPENING = Duration.ofSeconds(30);

  /** What a stream may have unread before it is let go. */
  private static final int MOST_WAITING = 200;

  private final RunStore runs;
  private final Supplier<Estate> estate;
  private final CopyOnWriteArrayList<Screen> screens = new CopyOnWriteArrayList<>();
  private final ExecutorService senders = Executors.newCachedThreadPool(r -> {
    Thread thread = new Thread(r, "event-stream");
    thread.setDaemon(true);
    return thread;
  });
  private final Set<String> changed = new LinkedHashSet<>();
  private final AtomicLong told = new AtomicLong();
  private volatile long toldAt = System.nanoTime() - OPENING.toNanos();
  private final ScheduledExecutorService sender = Executors.newSingleThreadScheduledExecutor(r -> {
    Thread thread = new Thread(r, "events");
    thread.setDaemon(true);
    return thread;
  });

  EventController(
      RunStore runs,
      Supplier<Estate> estate,
      RunQueue queue,
      Sweeps sweeps,
      Rehearsals rehearsals,
      Censuses censuses,
      Evaluations evaluations) {
    this.runs = runs;
    this.estate = estate;
    queue.onChange(this::runChanged);
    sweeps.onChange(() -> sender.execute(() -> send("sweep", "")));
    censuses.onChange(() -> sender.execute(() -> send("census", "")));
    rehearsals.onChange(id -> sender.execute(() -> send("rehearsal", id)));
    evaluations.onFresh(e -> factsWorkedOut(e.changes()));
    sender.scheduleWithFixedDelay(
        () -> send("alive", ""), KEEP_ALIVE_SECONDS, KEEP_ALIVE_SECONDS, TimeUnit.SECONDS);
  }

  @Operation(summary = "What changes, as server-sent events")
  @GetMapping(path = "/api/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  SseEmitter events(Principal person) {
    if (screens.size() >= MOST_SCREENS) {
      throw new Refused("Too many screens are open at once; close some that nobody looks at.");
    }
    Screen screen = new Screen(person.getName());
    screens.add(screen);
    screen.emitter.onCompletion(() -> screens.remove(screen));
    screen.emitter.onError(e -> screens.remove(screen));
    screen.tell("alive", "");
    if (System.nanoTime() - toldAt < OPENING.toNanos()) {
      // What it shows may have been asked for before, and it heard nothing of it.
      screen.tell("facts", "");
    }
    return screen.emitter;
  }

  /** Whoever has ended sees no more from now on. */
  @EventListener
  void sessionsEnded(SessionsEnded ended) {
    screens.stream().filter(s -> s.person.equalsIgnoreCase(ended.person())).forEach(Screen::leave);
  }

  /** One open stream. Each is written to by itself, so that one that does not read holds up no other. */
  private final class Screen {
    private final String person;
    private final SseEmitter emitter = new SseEmitter(0L);
    private final ArrayDeque<SseEmitter.SseEventBuilder> waiting = new ArrayDeque<>();
    private boolean sending;
    private boolean left;

    Screen(String person) {
      this.person = person;
    }

    void tell(String name, Object data) {
      synchronized (waiting) {
        if (left || waiting.size() >= MOST_WAITING) {
          // It reads nothing: it is let go, and comes back by itself if it is still there.
          left = true;
          waiting.clear();
          screens.remove(this);
          return;
        }
        waiting.add(SseEmitter.event().name(name).data(data));
        if (sending) {
          return;
        }
        sending = true;
      }
      senders.execute(this::send);
    }

    private void send() {
      while (true) {
        SseEmitter.SseEventBuilder next;
        synchronized (waiting) {
          next = waiting.poll();
          if (next == null) {
            sending = false;
            if (left) {
              emitter.complete();
            }
            return;
          }
        }
        try {
          emitter.send(next);
        } catch (IOException | IllegalStateException e) {
          screens.remove(this);
          synchronized (waiting) {
            left = true;
            sending = false;
            waiting.clear();
          }
          return;
        }
      }
    }

    void leave() {
      screens.remove(this);
      synchronized (waiting) {
        left = true;
        waiting.clear();
      }
      try {
        emitter.complete();
      } catch (IllegalStateException e) {
        // It has gone by itself.
      }
    }
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

  /**
   * Who was given an answer from before while facts were worked out asks again.
   *
   * @param changes that are worked out: one that came while they were is told when it is worked out itself
   */
  private void factsWorkedOut(long changes) {
    if (told.getAndSet(changes) != changes) {
      toldAt = System.nanoTime();
      sender.execute(() -> send("facts", ""));
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
      sendRun(id);
    }
  }

  private void sendRun(String id) {
    runs.find(id).ifPresent(run -> {
      send("run", RunView.of(run, estate.get()));
      if (run.ended()) {
        send("facts", "");
      }
    });
  }

  private void send(String name, Object data) {
    screens.forEach(screen -> screen.tell(name, data));
  }

  @PreDestroy
  void close() {
    sender.shutdownNow();
    senders.shutdownNow();
    screens.forEach(Screen::leave);
  }
}
