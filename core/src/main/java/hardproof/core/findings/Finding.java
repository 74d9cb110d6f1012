package hardproof.core.findings;

import hardproof.core.criteria.FactRef;
import java.util.List;

/**
 * Something that is not as it should be.
 *
 * @param subject the key of the resource, feed or exception it is about
 * @param name what people call that
 * @param workload key of the workload of a resource; null otherwise
 * @param policies names of the policies that have the resource in scope
 * @param unprotected no policy and no point: comes before everything else
 * @param measured for people; null where there is no figure
 * @param over how far measured and demanded lie apart: the larger divided by the smaller, 1 when
 *     there is nothing to divide; infinite when there is nothing at all where something is demanded
 * @param exception key of the exception that accepts it; null when it is open
 */
public record Finding(
    String code,
    String group,
    String title,
    SubjectType type,
    String subject,
    String name,
    String workload,
    String workloadName,
    String owner,
    Integer tier,
    String site,
    List<String> policies,
    boolean unprotected,
    String sentence,
    String measured,
    String demanded,
    double over,
    List<FactRef> facts,
    String exception) {

  /** Stays the same while the finding comes and goes. */
  public String key() {
    return code + ":" + subject;
  }

  public boolean open() {
    return exception == null;
  }
}
