package hardproof.server.integrity;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import hardproof.core.facts.Estate;
import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import hardproof.server.drills.DrillOrders;
import hardproof.server.proof.AsAt;
import hardproof.server.proof.Evaluations;
import hardproof.server.stores.Stores;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import java.security.Principal;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PatchMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Integrity: how much of each store was read back, what is damaged, and sweeps. */
@RestController
@RequestMapping("/api")
class IntegrityController {
  private static final int SWEEPS_SHOWN = 30;

  private final Evaluations evaluations;
  private final SweepStore store;
  private final Sweeps sweeps;
  private final Stores stores;
  private Estate seen;
  private IntegrityView made;

  IntegrityController(
      Evaluations evaluations, SweepStore store, Sweeps sweeps, DrillOrders orders) {
    this.evaluations = evaluations;
    this.stores = orders.stores();
    this.store = store;
    this.sweeps = sweeps;
  }

  @Operation(summary = "What was read back whole, what is damaged, and what is lost with it")
  @GetMapping("/integrity")
  IntegrityView integrity(@ParameterObject AsAt asAt) {
    if (asAt.asAt() != null) {
      return IntegrityView.of(evaluations.at(asAt).estate(), stores);
    }
    Estate now = evaluations.now().estate();
    synchronized (this) {
      if (seen != now) {
        made = IntegrityView.of(now, stores);
        seen = now;
      }
      return made;
    }
  }

  /** Which store, and who asked for it. */
  record SweepOf(String store, String storeName, String requestedBy, String reason) {}

  /** How much there is, and how much of it is done. */
  record SweepAmount(long workedMs, int items, int done, int failed, long bytes, long doneBytes) {}

  /**
   * What it is at.
   *
   * @param leftMs estimated, of the time it will still read; absent when nothing tells
   */
  record SweepNow(
      @Nullable String readingPoint,
      @Nullable Long readingBytes,
      @Nullable Long measuredBytesPerSecond,
      @Nullable Long leftMs) {}

  /**
   * A sweep; sizes in bytes, durations in milliseconds.
   */
  record SweepView(
      long id,
      @JsonUnwrapped SweepOf of,
      Sweep.State state,
      @Nullable Long bytesPerSecond,
      Instant plannedAt,
      @Nullable Instant endedAt,
      @JsonUnwrapped SweepAmount amount,
      @JsonUnwrapped SweepNow now,
      String sentence) {}

  @Operation(summary = "Sweeps, newest first")
  @GetMapping("/sweeps")
  List<SweepView> sweeps() {
    return store.all(SWEEPS_SHOWN).stream().map(this::view).toList();
  }

  private SweepView view(Sweep s) {
    SweepWatcher.Progress p = sweeps.progress();
    boolean mine = p != null && p.sweep() == s.id();
    long doneBytes = s.doneBytes() + (mine ? Math.min(p.bytes(), p.ofBytes()) : 0);
    Long measured = s.worked().compareTo(Duration.ofMillis(200)) < 0 || s.doneBytes() == 0
        ? null
        : Long.valueOf(s.doneBytes() * 1000 / s.worked().toMillis());
    Long rate = measured == null ? s.bytesPerSecond() : measured;
    Long left = s.ended() || rate == null || rate == 0
        ? null
        : Long.valueOf((s.bytes() - doneBytes) * 1000 / rate);
    return new SweepView(
        s.id(),
        new SweepOf(
            s.store(),
            evaluations.now().estate().storeName(s.store()),
            s.requestedBy(),
            s.reason()),
        s.state(),
        s.bytesPerSecond(),
        s.plannedAt(),
        s.endedAt(),
        new SweepAmount(
            s.worked().toMillis(), s.items(), s.done(), s.failed(), s.bytes(), doneBytes),
        new SweepNow(
            mine ? p.point() : null, mine ? Long.valueOf(p.bytes()) : null, measured, left),
        s.sentence());
  }

  /** A sweep that somebody wants; {@code bytesPerSecond} absent for as fast as it can. */
  record WantedSweep(
      @NotBlank String store,
      @Nullable String reason,
      @Nullable Long bytesPerSecond) {}

  @Operation(summary = "Begin to read everything on a store back")
  @PostMapping("/sweeps")
  @ResponseStatus(HttpStatus.CREATED)
  SweepView begin(@Valid @RequestBody WantedSweep wanted, Principal person) {
    if (wanted.reason() == null || wanted.reason().isBlank()) {
      throw new Refused("Say why the store is read: the reason stands in the evidence.");
    }
    checkRate(wanted.bytesPerSecond());
    return view(sweeps.begin(
        wanted.store(),
        wanted.bytesPerSecond(),
        person.getName(),
        wanted.reason().strip()));
  }

  private static void checkRate(Long bytesPerSecond) {
    if (bytesPerSecond != null && bytesPerSecond < 1000) {
      throw new WrongValue("a sweep reads at least 1,000 bytes a second");
    }
  }

  /** What a person may make of a sweep, short of cancelling it. */
  enum WantedState implements Coded {
    RUNNING,
    PAUSED
  }

  /** What is to change: {@code state} {@code running} or {@code paused}; or the limit. */
  record SweepChange(
      @Nullable WantedState state,
      @Nullable Long bytesPerSecond,
      @Nullable Boolean unlimited) {}

  @Operation(summary = "Pause, resume or limit a sweep")
  @PatchMapping("/sweeps/{id}")
  SweepView change(
      @PathVariable long id, @Valid @RequestBody SweepChange change, Principal person) {
    find(id);
    checkRate(change.bytesPerSecond());
    if (change.bytesPerSecond() != null || Boolean.TRUE.equals(change.unlimited())) {
      sweeps.limit(id, change.bytesPerSecond());
    }
    if (change.state() == WantedState.PAUSED) {
      sweeps.pause(id, person.getName());
    } else if (change.state() == WantedState.RUNNING) {
      sweeps.resume(id);
    }
    return view(find(id));
  }

  private Sweep find(long id) {
    return store.find(id).orElseThrow(() -> new NotFound("No sweep " + id + " is known."));
  }

  @Operation(summary = "Cancel a sweep; what it read stays recorded")
  @DeleteMapping("/sweeps/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void cancel(@PathVariable long id, Principal person) {
    find(id);
    sweeps.cancel(id, person.getName());
  }
}
