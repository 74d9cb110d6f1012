package hardproof.core.plan;

import hardproof.core.wording.Wording;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * What would come of doing something, found by evaluating the estate as if it had been done and succeeded.
 *
 * @param computed false where what it comes to is not for us to know, or shows in time only
 * @param proven workloads that would become proven
 * @param better other workloads whose verdict would be better
 * @param weight of both, a workload of tier 1 counting four times as much as one of tier 4
 * @param closed criteria that would be met and are not
 * @param opened criteria that are met, or excepted, and would not be if nothing were done
 * @param takes drill time; nothing where nothing is drilled
 */
public record Effect(
    boolean computed,
    int proven,
    int better,
    double weight,
    int closed,
    int opened,
    Duration takes) {
  static final Effect UNKNOWN = new Effect(false, 0, 0, 0, 0, 0, Duration.ZERO);

  /** What asks for no drill still takes somebody's time. */
  private static final double LEAST_HOURS = 0.25;

  /** The same, of another weight. */
  Effect weighing(double other) {
    return new Effect(computed, proven, better, other, closed, opened, takes);
  }

  /** Verdicts before criteria, for each hour of drill time. */
  double score() {
    double hours = LEAST_HOURS + takes.toMillis() / 3_600_000.0;
    return (weight * 1000 + closed) / hours;
  }

  /** For people. */
  public String words() {
    if (!computed) {
      return "what it comes to shows in time";
    }
    List<String> parts = new ArrayList<>();
    if (proven > 0) {
      parts.add(Wording.count(proven, "workload becomes proven", "workloads become proven"));
    }
    if (better > 0) {
      parts.add(Wording.count(better, "verdict gets better", "verdicts get better"));
    }
    if (closed > 0) {
      parts.add(Wording.count(closed, "finding closes", "findings close"));
    }
    if (parts.isEmpty() && opened > 0) {
      return "once it is over, " + Wording.count(opened, "finding opens", "findings open");
    }
    String what = parts.isEmpty() ? "by itself it changes nothing yet" : Wording.list(parts);
    return takes.isZero() ? what : what + "; " + Wording.duration(takes) + " of drilling";
  }
}
