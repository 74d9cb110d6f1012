package hardproof.server.estate;

import hardproof.core.copies.Copy;
import hardproof.core.estate.AcceptedException;
import hardproof.core.estate.Job;
import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Facts;
import hardproof.core.points.RecoveryPoint;
import hardproof.server.estate.FactTable.State;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;

/**
 * Every state of what imports brought, up to and with a batch, so that any instant can be looked at
 * without reading it all again. Only for estates whose states fit into memory.
 */
record History(
    long batch,
    List<State<Workload>> workloads,
    List<State<Resource>> resources,
    List<State<Store>> stores,
    List<State<Policy>> policies,
    List<State<RecoveryPoint>> points,
    List<State<Copy>> copies,
    List<State<Job>> jobs,
    List<State<AcceptedException>> exceptions) {
  static History read(long batch, Connection connection) throws SQLException {
    return new History(
        batch,
        FactTables.WORKLOADS.states(connection),
        FactTables.RESOURCES.states(connection),
        FactTables.STORES.states(connection),
        FactTables.POLICIES.states(connection),
        FactTables.POINTS.states(connection),
        FactTables.COPIES.states(connection),
        FactTables.JOBS.states(connection),
        FactTables.EXCEPTIONS.states(connection));
  }

  /** What was known at an instant; without feeds and drills, which imports do not bring. */
  Facts at(Instant asAt) {
    long instant = asAt.toEpochMilli();
    return new Facts(
        List.of(),
        known(workloads, instant),
        known(resources, instant),
        known(stores, instant),
        known(policies, instant),
        known(points, instant),
        known(copies, instant),
        known(jobs, instant),
        known(exceptions, instant),
        List.of());
  }

  private static <T> List<T> known(List<State<T>> states, long instant) {
    return states.stream().filter(s -> s.knownAt(instant)).map(State::fact).toList();
  }
}
