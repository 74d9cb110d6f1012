package hardproof.proving.drills;

import hardproof.core.drills.Method;
import hardproof.proving.stores.ArtifactStore;
import java.util.List;

/**
 * What is to be drilled.
 *
 * @param run names the sandbox
 * @param store where all artifacts of the chain are read from
 * @param chain the full first; never empty
 * @param checks asked of a restored database
 */
public record DrillRequest(
    String run,
    String resource,
    String point,
    String storeKey,
    String storeName,
    ArtifactStore store,
    Method method,
    List<Artifact> chain,
    List<SqlCheck> checks,
    boolean hold) {
  public DrillRequest {
    chain = List.copyOf(chain);
    checks = List.copyOf(checks);
    if (chain.isEmpty()) {
      throw new IllegalArgumentException("a drill needs at least one artifact");
    }
  }

  Artifact last() {
    return chain.get(chain.size() - 1);
  }
}
