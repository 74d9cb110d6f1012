package hardproof.core.feeds;

import hardproof.core.copies.Copy;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Job;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.points.RecoveryPoint;

/** The kinds of facts that are brought in; {@link BundleFile} names their files. */
public final class FactKinds {
  public static final FactKind<Store> STORES = StoreFields.KIND;
  public static final FactKind<Policy> POLICIES = PolicyFields.KIND;
  public static final FactKind<Workload> WORKLOADS = WorkloadFields.KIND;
  public static final FactKind<Resource> RESOURCES = ResourceFields.KIND;
  public static final FactKind<RecoveryPoint> POINTS = PointFields.KIND;
  public static final FactKind<Copy> COPIES = CopyFields.KIND;
  public static final FactKind<Job> JOBS = JobFields.KIND;
  public static final FactKind<AcceptedException> EXCEPTIONS = ExceptionFields.KIND;

  private FactKinds() {}
}
