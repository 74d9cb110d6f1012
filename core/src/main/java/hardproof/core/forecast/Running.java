package hardproof.core.forecast;

import hardproof.core.programmes.QueuedDrill;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Drills under way that share what their stores can read: where together they ask a store for more than that, each
 * goes on as much slower. For one forecast.
 */
final class Running {
  private final Map<String, Long> throughput;
  private final List<Entry> entries = new ArrayList<>();

  private static final class Entry {
    final QueuedDrill drill;
    final Offer offer;
    double leftMs;
    double speed = 1;

    Entry(QueuedDrill drill, Offer offer) {
      this.drill = drill;
      this.offer = offer;
      this.leftMs = drill.takes().toMillis();
    }

    /** Bytes that it asks for in a millisecond at full speed. */
    double asks() {
      return drill.readBytes() / Math.max(1.0, drill.takes().toMillis());
    }
  }

  /**
   * @param throughput bytes a second by store
   */
  Running(Map<String, Long> throughput) {
    this.throughput = throughput;
  }

  void begin(QueuedDrill drill, Offer offer) {
    entries.add(new Entry(drill, offer));
    share();
  }

  private void share() {
    Map<String, Double> asked = new HashMap<>();
    entries.forEach(e -> asked.merge(e.drill.store(), e.asks(), Double::sum));
    for (Entry e : entries) {
      Long perSecond = throughput.get(e.drill.store());
      double wanted = asked.get(e.drill.store());
      e.speed = perSecond == null || wanted <= perSecond / 1000.0 ? 1 : perSecond / 1000.0 / wanted;
    }
  }

  int size() {
    return entries.size();
  }

  List<QueuedDrill> drills() {
    return entries.stream().map(e -> e.drill).toList();
  }

  /** In so many milliseconds the next ends; {@link Long#MAX_VALUE} where none is under way. */
  long nextEndsIn() {
    double least = Double.POSITIVE_INFINITY;
    for (Entry e : entries) {
      least = Math.min(least, e.leftMs / e.speed);
    }
    return least == Double.POSITIVE_INFINITY ? Long.MAX_VALUE : (long) Math.ceil(least);
  }

  void pass(long millis) {
    entries.forEach(e -> e.leftMs -= millis * e.speed);
  }

  /** Those that have ended by now, taken out. */
  List<Offer> ended() {
    List<Offer> ended = new ArrayList<>();
    entries.removeIf(e -> e.leftMs <= 0.5 && ended.add(e.offer));
    if (!ended.isEmpty()) {
      share();
    }
    return ended;
  }
}
