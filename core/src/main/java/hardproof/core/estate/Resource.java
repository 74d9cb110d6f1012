package hardproof.core.estate;

import java.time.Instant;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Something that holds data and can be restored by itself. Null means not known. */
public record Resource(
    String key,
    String name,
    Kind kind,
    String workload,
    String parent,
    List<String> needs,
    String site,
    String region,
    String environment,
    Long sizeBytes,
    Long dailyChangeBytes,
    Instant firstSeen,
    Instant lastSeen,
    Instant agentSeen,
    Map<String, String> tags,
    List<String> importantPaths,
    String feed) {
  /** The tag that names the failure domain production data lives in. */
  public static final String FAILURE_DOMAIN_TAG = "failure_domain";

  /** The tag that names the medium production data lives on; disk where it is not given. */
  public static final String MEDIUM_TAG = "medium";

  public Resource {
    needs = List.copyOf(needs);
    tags = Collections.unmodifiableMap(new TreeMap<>(tags));
    importantPaths = List.copyOf(importantPaths);
  }
}
