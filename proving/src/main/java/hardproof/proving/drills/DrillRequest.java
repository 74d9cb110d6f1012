package hardproof.proving.drills;

import hardproof.core.drills.Method;
import hardproof.proving.boot.ScreenReader;
import hardproof.proving.checks.Check;
import hardproof.proving.checks.CheckType;
import hardproof.proving.stores.ArtifactStore;
import java.time.Instant;
import java.util.List;

/**
 * What is to be drilled.
 *
 * @param run names the sandbox
 * @param dataTime of the point; null when not known
 * @param store where all artifacts of the chain are read from
 * @param chain the full first; never empty
 * @param checks asked of what was restored
 * @param before the artifact of the point before, to compare with; null when there is none
 * @param accepted screens that people accepted for this machine
 */
public record DrillRequest(
    String run,
    String resource,
    String point,
    Instant dataTime,
    String storeKey,
    String storeName,
    ArtifactStore store,
    Method method,
    List<Artifact> chain,
    List<Check> checks,
    boolean hold,
    DrillOptions options,
    Artifact before,
    List<ScreenReader.Accepted> accepted) {
  public DrillRequest {
    chain = List.copyOf(chain);
    checks = List.copyOf(checks);
    accepted = List.copyOf(accepted);
    if (chain.isEmpty()) {
      throw new IllegalArgumentException("a drill needs at least one artifact");
    }
  }

  Artifact last() {
    return chain.get(chain.size() - 1);
  }

  /** Whether a person said that there is nothing in it, and that this is right. */
  boolean mayBeEmpty() {
    return checks.stream().anyMatch(c -> c.type() == CheckType.EMPTY);
  }

  /** Checks that are asked of what was restored here. */
  List<Check> inside() {
    return checks.stream().filter(c -> !c.outside()).toList();
  }

  /** Checks that somebody outside answers. */
  public List<Check> outside() {
    return checks.stream().filter(c -> c.outside()).toList();
  }
}
