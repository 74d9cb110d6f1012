package hardproof.core.plan;

import java.time.Duration;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What mending a cause came to when it was tried.
 *
 * @param workloads keys of those that it may change
 * @param gains by the key of a workload, of those that it would change; null where that is not for us to know
 * @param takes drill time
 */
record Trial(
    PlanCause cause, Set<String> workloads, @Nullable Map<String, Gain> gains, Duration takes) {
  boolean computed() {
    return gains != null;
  }

  /** The same, where some workloads were tried anew. */
  Trial with(Set<String> again, Map<String, Gain> others) {
    Map<String, Gain> all = new HashMap<>(gains);
    all.keySet().removeAll(again);
    all.putAll(others);
    return new Trial(cause, workloads, all, takes);
  }

  Effect effect() {
    if (gains == null) {
      return Effect.UNKNOWN;
    } else if (ending()) {
      int opened = gains.values().stream().mapToInt(Gain::opened).sum();
      return new Effect(true, 0, 0, 0, 0, opened, Duration.ZERO);
    }
    // To accept it is a decision, and mends nothing: it comes before nothing that would.
    boolean accepts = cause.remedy() == Remedy.EXCEPTION;
    return new Effect(
        true,
        (int) gains.values().stream().filter(Gain::proven).count(),
        (int) gains.values().stream().filter(Gain::better).count(),
        accepts ? 0 : gains.values().stream().mapToDouble(Gain::weight).sum(),
        gains.values().stream().mapToInt(Gain::closed).sum(),
        0,
        takes);
  }

  /** What is accepted until it ends changes nothing by going on; what counts is what opens when it ends. */
  boolean ending() {
    return cause.roots().get(0).code().equals("exception-ending");
  }
}
