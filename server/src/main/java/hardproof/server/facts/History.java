package hardproof.server.facts;

import hardproof.core.estate.Policy;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.estate.Workload;
import hardproof.core.facts.Facts;
import hardproof.core.facts.Hindsight;
import hardproof.core.facts.State;
import hardproof.core.moves.Stay;
import hardproof.server.storage.Database;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/**
 * Every state of what imports brought, but for points and copies, so that any instant can be looked at
 * without reading it all again. A kind of fact is read anew when rows of it were added.
 */
final class History {
  private final Database database;
  private final Map<FactTable<?>, Kept> kept = new ConcurrentHashMap<>();

  /** Rows are only ever added, so the newest one tells whether these are all. */
  private record Kept(long newestRow, List<?> states) {}

  History(Database database) {
    this.database = database;
  }

  /** What was known at an instant; without feeds and drills, which imports do not bring. */
  Facts at(Instant asAt) {
    long instant = asAt.toEpochMilli();
    return database.onReader(c -> new Facts(
        List.of(),
        known(FactTables.WORKLOADS, c, instant),
        known(FactTables.RESOURCES, c, instant),
        known(FactTables.STORES, c, instant),
        known(FactTables.POLICIES, c, instant),
        List.of(),
        List.of(),
        known(FactTables.JOBS, c, instant),
        known(FactTables.EXCEPTIONS, c, instant),
        List.of()));
  }

  /** What by the instant of knowing had been told of the earlier one that is judged; exceptions as then. */
  Facts at(Hindsight hindsight) {
    long judged = hindsight.judged().toEpochMilli();
    return database.onReader(c -> new Facts(
        List.of(),
        hindsight.timeless(states(FactTables.WORKLOADS, c), Workload::key),
        hindsight.resources(states(FactTables.RESOURCES, c)),
        hindsight.timeless(states(FactTables.STORES, c), Store::key),
        hindsight.timeless(states(FactTables.POLICIES, c), Policy::key),
        List.of(),
        List.of(),
        hindsight.jobs(states(FactTables.JOBS, c)),
        known(FactTables.EXCEPTIONS, c, judged),
        List.of()));
  }

  /** Where resources were by what was known at an instant, oldest first. */
  List<Stay> stays(Instant asAt) {
    long instant = asAt.toEpochMilli();
    Map<String, String> last = new HashMap<>();
    List<Stay> stays = new ArrayList<>();
    for (State<Resource> state : database.onReader(c -> states(FactTables.RESOURCES, c))) {
      String site = state.fact() == null ? null : state.fact().place().site();
      if (site != null
          && state.recordedAt() <= instant
          && !site.equals(last.put(state.fact().key(), site))) {
        stays.add(new Stay(state.fact().key(), site, Instant.ofEpochMilli(state.recordedAt())));
      }
    }
    return stays;
  }

  private <T> List<T> known(FactTable<T> table, Connection connection, long instant)
      throws SQLException {
    return states(table, connection).stream()
        .filter(s -> s.knownAt(instant))
        .map(State::fact)
        .toList();
  }

  @SuppressWarnings("unchecked")
  private <T> List<State<T>> states(FactTable<T> table, Connection connection) throws SQLException {
    long newest = newestRow(table, connection);
    Kept known = kept.get(table);
    if (known == null || known.newestRow() != newest) {
      known = new Kept(newest, table.states(connection));
      kept.put(table, known);
    }
    return (List<State<T>>) known.states();
  }

  static long newestRow(FactTable<?> table, Connection connection) throws SQLException {
    try (PreparedStatement select =
            connection.prepareStatement("SELECT coalesce(max(rowid), 0) FROM " + table.table());
        ResultSet rows = select.executeQuery()) {
      return rows.next() ? rows.getLong(1) : 0;
    }
  }
}
