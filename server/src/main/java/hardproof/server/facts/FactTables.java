package hardproof.server.facts;

import hardproof.core.copies.Copy;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Job;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.FactKind;
import hardproof.core.feeds.FactKinds;
import hardproof.core.points.RecoveryPoint;
import java.util.Arrays;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;

/** The table of each kind of fact. */
public final class FactTables {
  private static final Map<FactKind<?>, FactTable<?>> ALL = Arrays.stream(BundleFile.values())
      .map(BundleFile::kind)
      .collect(Collectors.toUnmodifiableMap(Function.identity(), FactTable::new));

  private FactTables() {}

  public static final FactTable<Store> STORES = of(FactKinds.STORES);
  public static final FactTable<Policy> POLICIES = of(FactKinds.POLICIES);
  public static final FactTable<Workload> WORKLOADS = of(FactKinds.WORKLOADS);
  public static final FactTable<Resource> RESOURCES = of(FactKinds.RESOURCES);
  public static final FactTable<RecoveryPoint> POINTS = of(FactKinds.POINTS);
  public static final FactTable<Copy> COPIES = of(FactKinds.COPIES);
  public static final FactTable<Job> JOBS = of(FactKinds.JOBS);
  public static final FactTable<AcceptedException> EXCEPTIONS = of(FactKinds.EXCEPTIONS);

  @SuppressWarnings("unchecked")
  public static <T> FactTable<T> of(FactKind<T> kind) {
    return (FactTable<T>) ALL.get(kind);
  }
}
