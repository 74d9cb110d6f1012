package hardproof.core.forecast;

import hardproof.core.programmes.Admission;
import hardproof.core.programmes.Capacity;
import hardproof.core.programmes.QueuedDrill;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;

/**
 * Periodic tasks of one unit each, begun by {@link Admission} on one server: a unit is an hour, a job of a task comes
 * at the beginning of each of its periods and is due by the end.
 */
final class EdfTask {
  private EdfTask() {}

  record Job(int task, int due) {}

  /** The jobs that are not done when they are due, within so many units. */
  static List<Job> late(List<Integer> periods, int units) {
    Admission admission = new Admission(Capacity.usual().with(1), Map.of());
    TreeSet<QueuedDrill> waiting = new TreeSet<>(Admission.IN_TURN);
    List<Job> late = new ArrayList<>();
    for (int unit = 0; unit < units; unit++) {
      for (int task = 0; task < periods.size(); task++) {
        if (unit % periods.get(task) == 0) {
          waiting.add(job(task, unit, unit + periods.get(task)));
        }
      }
      Instant now = at(unit);
      admission.next(now, waiting, List.of(), NothingSpent.INSTANCE).ifPresent(waiting::remove);
      int ended = unit + 1;
      waiting.removeIf(d -> !d.neededBy().isAfter(at(ended)) && late.add(late(d, ended)));
    }
    return late;
  }

  private static Job late(QueuedDrill drill, int due) {
    return new Job(Integer.parseInt(drill.store()), due);
  }

  private static Instant at(int unit) {
    return Instant.EPOCH.plus(Duration.ofHours(unit));
  }

  private static QueuedDrill job(int task, int from, int due) {
    return new QueuedDrill(
        task + "-" + from,
        "p",
        at(from),
        at(due),
        Integer.toString(task),
        Duration.ofHours(1),
        0,
        0,
        0);
  }

  private enum NothingSpent implements Admission.Spent {
    INSTANCE;

    @Override
    public long bytesSince(String programme, Instant since) {
      return 0;
    }

    @Override
    public double costSince(String programme, Instant since) {
      return 0;
    }
  }
}
