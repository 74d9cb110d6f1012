package hardproof.server.integrity;

import hardproof.core.drills.ChecksState;
import hardproof.core.drills.CleanupState;
import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.drills.RestoreState;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.ladder.Rung;
import hardproof.core.points.RecoveryPoint;
import hardproof.proving.drills.Artifact;
import hardproof.proving.drills.DrillOptions;
import hardproof.proving.drills.DrillRequest;
import hardproof.proving.drills.DrillResult;
import hardproof.proving.drills.DrillRunner;
import hardproof.server.drills.DrillOrders;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;

/** Reads one artifact of a sweep back whole, and writes down what it came to. */
final class SweepReading {
  private final SweepStore store;
  private final ReadBackStore readBacks;
  private final DrillOrders orders;
  private final DrillRunner runner;
  private final Supplier<Estate> estate;
  private final Clock clock;

  SweepReading(
      SweepStore store,
      ReadBackStore readBacks,
      DrillOrders orders,
      DrillRunner runner,
      Supplier<Estate> estate,
      Clock clock) {
    this.store = store;
    this.readBacks = readBacks;
    this.orders = orders;
    this.runner = runner;
    this.estate = estate;
    this.clock = clock;
  }

  void read(Sweep sweep, Sweep.Item item, SweepWatcher watcher, Instant started) {
    Estate facts = estate.get();
    Store place = facts.store(sweep.store());
    RecoveryPoint point = facts.point(item.resource(), item.point());
    Optional<Artifact> artifact = place == null || !orders.stores().known(place) || point == null
        ? Optional.<Artifact>empty()
        : orders.artifact(facts.pointSet(item.resource()), point, sweep.store());
    if (artifact.isEmpty()) {
      // The facts have changed since it was planned; there is nothing to read any more.
      store.passOver(item);
      return;
    }
    DrillRequest request = request(sweep, item, place, point, artifact);
    DrillResult result = runner.run(request, watcher);
    if (result.restore() == RestoreState.REFUSED || result.restore() == RestoreState.INTERRUPTED) {
      if (!watcher.cancelled()) {
        saysNothing(sweep, item, request, result);
      }
      return;
    }
    orders.keepBaselines(result.baselines(), place.key(), "sweep-" + sweep.id());
    // A part of a chain that is as it was written does not make a whole chain.
    Rung reaches = point.form().standsAlone() ? result.reaches() : Rung.HELD;
    readBacks.add(sweep.id(), item.number(), fact(item, place.key(), reaches, result, started));
  }

  private DrillRequest request(
      Sweep sweep, Sweep.Item item, Store place, RecoveryPoint point, Optional<Artifact> artifact) {
    return new DrillRequest(
        "sweep-" + sweep.id(),
        new DrillRequest.Of(item.resource(), item.point(), point.dataTime()),
        new DrillRequest.From(place.key(), place.name(), orders.stores().open(place)),
        Method.READ_THROUGH,
        List.of(artifact.get()),
        List.of(),
        false,
        DrillOptions.usual(),
        null,
        List.of());
  }

  /** The store is away, or the artifact can't be judged: neither says anything about the data. */
  private void saysNothing(Sweep sweep, Sweep.Item item, DrillRequest request, DrillResult result) {
    if (request.store().reachable()) {
      store.passOver(item);
    } else {
      store.change(
          sweep.id(),
          Sweep.State.PAUSED,
          "paused by itself: " + result.sentence(),
          clock.instant());
    }
  }

  private DrillFact fact(
      Sweep.Item item, String place, Rung reaches, DrillResult result, Instant started) {
    Instant ended = clock.instant();
    return new DrillFact(
        "",
        new DrillFact.Of(item.resource(), item.point(), place),
        Method.READ_BACK,
        reaches,
        new DrillFact.Answers(
            result.restore(),
            result.checks() == ChecksState.WAITING ? ChecksState.NOT_ASKED : result.checks(),
            CleanupState.NOT_DUE),
        new DrillFact.Times(started, ended, ended),
        result.bytes(),
        new DrillFact.Blame(result.blamedPoint(), result.blamedStore()),
        result.sentence());
  }
}
