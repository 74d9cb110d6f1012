package hardproof.core.findings;

import hardproof.core.estate.Policy;
import hardproof.core.estate.Store;
import hardproof.core.proof.ResourceResult;
import hardproof.core.proof.WorkloadResult;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a finding is about.
 *
 * @param subject the key of the resource, feed, exception or store
 * @param name what people call that
 * @param workload key of the workload of a resource; null otherwise, as the other things of a workload
 * @param policies names of the policies that have the resource in scope
 */
public record About(
    SubjectType type,
    String subject,
    String name,
    @Nullable String workload,
    @Nullable String workloadName,
    @Nullable String owner,
    @Nullable Integer tier,
    @Nullable String site,
    List<String> policies) {

  static About of(WorkloadResult workload, ResourceResult member) {
    return new About(
        SubjectType.RESOURCE,
        member.resource().key(),
        member.resource().name(),
        workload.workload().key(),
        workload.unassigned() ? null : workload.workload().name(),
        workload.workload().owner(),
        workload.workload().tier(),
        member.resource().site(),
        member.policies().stream().map(Policy::name).toList());
  }

  /** A feed or an exception. */
  static About of(SubjectType type, String subject) {
    return new About(type, subject, subject, null, null, null, null, null, List.of());
  }

  static About of(Store store) {
    return new About(
        SubjectType.STORE,
        store.key(),
        store.name(),
        null,
        null,
        null,
        null,
        store.site(),
        List.of());
  }
}
