package hardproof.core.forecast;

import hardproof.core.programmes.Admission;
import hardproof.core.programmes.QueuedDrill;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.ToDoubleFunction;

/** What programmes have taken in a forecast. */
final class SpentSoFar implements Admission.Spent {
  private final Map<String, List<Begun>> begun = new HashMap<>();

  private record Begun(Instant at, long bytes, double cost) {}

  void begun(QueuedDrill drill, Instant at) {
    begun
        .computeIfAbsent(drill.programme(), k -> new ArrayList<>())
        .add(new Begun(at, drill.readBytes(), drill.cost()));
  }

  @Override
  public long bytesSince(String programme, Instant since) {
    return (long) sum(programme, since, Begun::bytes);
  }

  @Override
  public double costSince(String programme, Instant since) {
    return sum(programme, since, Begun::cost);
  }

  private double sum(String programme, Instant since, ToDoubleFunction<Begun> of) {
    List<Begun> all = begun.getOrDefault(programme, List.of());
    double sum = 0;
    for (int i = all.size() - 1; i >= 0 && !all.get(i).at().isBefore(since); i--) {
      sum += of.applyAsDouble(all.get(i));
    }
    return sum;
  }
}
