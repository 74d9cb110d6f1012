package hardproof.core.estate;

import java.time.Instant;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * Something that holds data and can be restored by itself. Null means not known.
 *
 * @param missingSince since when full listings of its feed leave it out; null while they name it
 * @param credentialsChanged when the credentials that its backups use last changed
 * @param credentialsTested when they were last tested
 */
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
    String feed,
    Instant missingSince,
    Instant credentialsChanged,
    Instant credentialsTested) {
  /** The tag that names the failure domain production data lives in. */
  public static final String FAILURE_DOMAIN_TAG = "failure_domain";

  /** The tag that names the medium production data lives on; disk where it is not given. */
  public static final String MEDIUM_TAG = "medium";

  public Resource {
    needs = List.copyOf(needs);
    tags = Collections.unmodifiableMap(new TreeMap<>(tags));
    importantPaths = List.copyOf(importantPaths);
  }

  /** The same with what was told later of times up to an instant. */
  public Resource withTimes(
      Instant otherLastSeen, Instant otherAgentSeen, Instant otherChanged, Instant otherTested) {
    return new Resource(
        key,
        name,
        kind,
        workload,
        parent,
        needs,
        site,
        region,
        environment,
        sizeBytes,
        dailyChangeBytes,
        firstSeen,
        otherLastSeen,
        otherAgentSeen,
        tags,
        importantPaths,
        feed,
        missingSince,
        otherChanged,
        otherTested);
  }

  /** The same, left out by full listings since an instant; null when it is named again. */
  public Resource missing(Instant since) {
    return new Resource(
        key,
        name,
        kind,
        workload,
        parent,
        needs,
        site,
        region,
        environment,
        sizeBytes,
        dailyChangeBytes,
        firstSeen,
        lastSeen,
        agentSeen,
        tags,
        importantPaths,
        feed,
        since,
        credentialsChanged,
        credentialsTested);
  }
}
