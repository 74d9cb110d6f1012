package hardproof.core.recovery;

import hardproof.core.drills.DrillFact;
import hardproof.core.drills.Method;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * How long drills of an estate will take: a fixed part and the bytes divided by a throughput, from a resource's own
 * drills, else from those of the same kind from the same store, else by what the store is said to read. One for each
 * estate; safe for many threads.
 */
public final class TimeEstimates {
  /** Only the newest drills count: what they are made on changes. */
  private static final int USUAL_OF = 30;

  private static final double SECOND = 1000;

  private final Estate estate;
  private final Map<Like, List<Measured>> like = new HashMap<>();

  /** Drills that say something of one another. */
  private record Like(Kind kind, String store, Method method) {}

  public TimeEstimates(Estate estate) {
    this.estate = estate;
    for (Resource resource : estate.facts().resources()) {
      for (DrillFact drill : estate.drillsOf(resource.key())) {
        if (drill.passed()) {
          add(like, new Like(resource.kind(), drill.store(), drill.method()), drill);
        }
      }
    }
  }

  private static void add(Map<Like, List<Measured>> to, Like like, DrillFact drill) {
    List<Measured> list = to.computeIfAbsent(like, k -> new ArrayList<>());
    list.add(Measured.of(drill));
  }

  /**
   * How long a drill by {@code method} from {@code store} takes; empty when nothing says.
   *
   * @param bytes of the artifacts that it reads
   */
  public Optional<TimeEstimate> of(Resource resource, String store, Method method, long bytes) {
    List<Measured> own = estate.drillsOf(resource.key()).stream()
        .filter(d -> d.passed() && d.method() == method)
        .map(Measured::of)
        .toList();
    Double perSecond = throughput(store);
    if (!own.isEmpty()) {
      return Optional.of(by(TimeEstimate.Source.OWN, own, bytes, perSecond));
    }
    List<Measured> others = like.getOrDefault(new Like(resource.kind(), store, method), List.of());
    if (!others.isEmpty()) {
      return Optional.of(by(TimeEstimate.Source.LIKE, others, bytes, perSecond));
    }
    return perSecond == null
        ? Optional.empty()
        : Optional.of(TimeEstimate.of(
            TimeEstimate.Source.STORE,
            List.of(),
            List.of(millis(bytes / perSecond * SECOND)),
            bytes));
  }

  private Double throughput(String key) {
    Store store = estate.store(key);
    return store == null || store.throughput() == null || store.throughput() <= 0
        ? null
        : store.throughput().doubleValue();
  }

  private static TimeEstimate by(
      TimeEstimate.Source source, List<Measured> all, long bytes, Double perSecond) {
    List<Measured> newest = all.subList(Math.max(0, all.size() - USUAL_OF), all.size());
    List<Duration> each = SizeLine.tells(newest)
        ? alongTheLine(newest, bytes)
        : newest.stream().map(m -> scaled(m, bytes, perSecond)).toList();
    return TimeEstimate.of(source, newest, each, bytes);
  }

  /** Each drill lay so far from the line; the next will lie as far from it as these did. */
  private static List<Duration> alongTheLine(List<Measured> all, long bytes) {
    SizeLine line = SizeLine.through(all);
    return all.stream()
        .map(m -> millis(Math.max(0, line.at(bytes) + m.millis() - line.at(m.bytes()))))
        .toList();
  }

  /**
   * Of measurements of one size nobody can tell what is fixed: what is more than they read is read as fast as the
   * store is said to read, else as fast as they went on the whole; what is less takes as long.
   */
  private static Duration scaled(Measured m, long bytes, Double perSecond) {
    if (bytes <= m.bytes() || m.bytes() == 0) {
      return millis(m.millis());
    }
    return perSecond == null
        ? millis((double) m.millis() * bytes / m.bytes())
        : millis(m.millis() + (bytes - m.bytes()) / perSecond * SECOND);
  }

  private static Duration millis(double millis) {
    return Duration.ofMillis(Math.round(millis));
  }
}
