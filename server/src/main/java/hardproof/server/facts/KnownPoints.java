package hardproof.server.facts;

import hardproof.core.facts.PackedStates;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.PointSource;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/**
 * Points as by one instant of knowing they had been told of another, unpacked when they are asked for. Some resources are kept, because the criteria ask for one several times in a row.
 */
public final class KnownPoints implements PointSource {
  /** Resources that are brought in together. */
  private static final int TOGETHER = 200;

  private static final int KEPT = 16 * Runtime.getRuntime().availableProcessors();

  private final Function<Collection<String>, Map<String, byte[]>> bodies;
  private final long judged;
  private final long known;
  private final Map<String, PointSet> kept = new LinkedHashMap<>(KEPT, 0.75f, true) {
    private static final long serialVersionUID = 1L;

    @Override
    protected boolean removeEldestEntry(Map.Entry<String, PointSet> eldest) {
      return size() > KEPT;
    }
  };

  /**
   * @param bodies the packed points of resources, without those of which nothing is known
   * @param judged in epoch milliseconds, as {@code known}
   */
  public KnownPoints(
      Function<Collection<String>, Map<String, byte[]>> bodies, long judged, long known) {
    this.bodies = bodies;
    this.judged = judged;
    this.known = known;
  }

  @Override
  public boolean any(String resource) {
    return of(resource).size() > 0;
  }

  @Override
  public PointSet of(String resource) {
    synchronized (kept) {
      PointSet before = kept.get(resource);
      if (before != null) {
        return before;
      }
    }
    return read(List.of(resource)).get(resource);
  }

  @Override
  public void expect(List<String> resources) {
    List<String> missing = new ArrayList<>(resources);
    synchronized (kept) {
      missing.removeAll(kept.keySet());
    }
    read(missing);
  }

  /**
   * Packed points of which nothing will be known later than what there is.
   *
   * @param bodies by resource
   */
  public static KnownPoints of(Map<String, byte[]> bodies) {
    return new KnownPoints(among(bodies), Long.MAX_VALUE - 1, Long.MAX_VALUE - 1);
  }

  private static Function<Collection<String>, Map<String, byte[]>> among(
      Map<String, byte[]> bodies) {
    return resources -> {
      Map<String, byte[]> some = new HashMap<>();
      for (String resource : resources) {
        byte[] body = bodies.get(resource);
        if (body != null) {
          some.put(resource, body);
        }
      }
      return some;
    };
  }

  @Override
  public PointSource held(List<String> resources) {
    Map<String, byte[]> held = new HashMap<>();
    for (int i = 0; i < resources.size(); i += TOGETHER) {
      held.putAll(bodies.apply(resources.subList(i, Math.min(resources.size(), i + TOGETHER))));
    }
    return new KnownPoints(among(held), judged, known);
  }

  private Map<String, PointSet> read(List<String> resources) {
    Map<String, byte[]> packed = resources.isEmpty() ? Map.of() : bodies.apply(resources);
    Map<String, PointSet> read = new HashMap<>();
    resources.forEach(r -> read.put(
        r,
        packed.containsKey(r)
            ? PackedStates.read(r, packed.get(r)).at(judged, known)
            : PointSet.EMPTY));
    synchronized (kept) {
      kept.putAll(read);
    }
    return read;
  }
}
