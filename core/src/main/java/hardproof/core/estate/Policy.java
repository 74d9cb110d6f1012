package hardproof.core.estate;

import java.time.Duration;
import java.util.List;

/**
 * What is promised for the resources in scope. {@code interval} is the time between starts. Null
 * means not stated.
 */
public record Policy(
    String key,
    String name,
    Selector scope,
    Duration interval,
    Integer keepLast,
    Duration keepFor,
    List<CopyTarget> copyTo) {
  public Policy {
    copyTo = List.copyOf(copyTo);
  }

  /** A store that must hold a copy within {@code deadline} of the point becoming available. */
  public record CopyTarget(String store, Duration deadline) {}
}
