package hardproof.server.estate;

import hardproof.server.storage.Database;
import java.util.HashSet;
import java.util.Set;

/**
 * How far each kind of fact had come, so that what is new since can be told: rows are only ever added.
 *
 * @param other of everything that can turn any resource's outcomes: policies, stores, workloads,
 *     exceptions, standards, expected rhythms
 */
public record Marks(long points, long copies, long jobs, long drills, String other) {

  public static Marks now(Database database) {
    return database
        .reads()
        .sql("""
            SELECT (SELECT coalesce(max(rowid), 0) FROM recovery_point),
                   (SELECT coalesce(max(rowid), 0) FROM copy),
                   (SELECT coalesce(max(rowid), 0) FROM job),
                   (SELECT coalesce(max(ended_at), 0) FROM drill_run),
                   (SELECT coalesce(max(id), 0) FROM import_batch
                     WHERE type IS NULL OR type NOT IN ('points', 'copies', 'jobs'))
                   || '/' || (SELECT coalesce(max(id), 0) FROM standard_in_force)
                   || '/' || (SELECT coalesce(group_concat(key || coalesce(expected_every_ms, '')), '') FROM feed)
            """)
        .query((r, n) ->
            new Marks(r.getLong(1), r.getLong(2), r.getLong(3), r.getLong(4), r.getString(5)))
        .single();
  }

  // UNION ALL, as a UNION of sorted parts would go through the whole index of resources to be
  // sorted.
  /** The resources that facts have come about since; null when anything may have turned. */
  public Set<String> touchedSince(Marks before, Database database) {
    if (!other.equals(before.other)) {
      return null;
    }
    return new HashSet<>(database
        .reads()
        .sql("""
            SELECT resource FROM recovery_point WHERE rowid > :points
            UNION ALL SELECT p.resource FROM copy c CROSS JOIN recovery_point p ON p.key = c.point
               AND p.replaced_at IS NULL WHERE c.rowid > :copies
            UNION ALL SELECT resource FROM job WHERE rowid > :jobs AND resource IS NOT NULL
            UNION ALL SELECT resource FROM drill_run WHERE ended_at > :drills
            """)
        .param("points", before.points)
        .param("copies", before.copies)
        .param("jobs", before.jobs)
        .param("drills", before.drills)
        .query(String.class)
        .list());
  }
}
