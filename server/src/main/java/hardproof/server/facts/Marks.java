package hardproof.server.facts;

import hardproof.server.storage.Database;
import java.util.HashSet;
import java.util.Set;
import org.springframework.jdbc.core.RowCallbackHandler;

/**
 * How far each kind of fact had come, so that what is new since can be told: rows are only ever added.
 *
 * @param other of everything that can turn any resource's outcomes: policies, stores, workloads,
 *     exceptions, standards, expected rhythms
 */
public record Marks(long points, long copies, long jobs, long drills, long census, String other) {

  public static Marks now(Database database) {
    return database
        .reads()
        .sql("""
            SELECT (SELECT coalesce(max(rowid), 0) FROM recovery_point),
                   (SELECT coalesce(max(rowid), 0) FROM copy),
                   (SELECT coalesce(max(rowid), 0) FROM job),
                   max((SELECT coalesce(max(ended_at), 0) FROM drill_run),
                       (SELECT coalesce(max(ended_at), 0) FROM read_back),
                       (SELECT coalesce(max(ended_at), 0) FROM rehearsal)),
                   (SELECT coalesce(max(id), 0) FROM census WHERE state IN ('done', 'failed')),
                   (SELECT coalesce(max(id), 0) FROM import_batch
                     WHERE type IS NULL OR type NOT IN ('points', 'copies', 'jobs'))
                   || '/' || (SELECT coalesce(max(id), 0) FROM standard_in_force)
                   || '/' || (SELECT count(*) FROM feed) || '/' || (SELECT coalesce(max(rowid), 0) FROM feed_setting)
            """)
        .query((r, n) -> new Marks(
            r.getLong(1), r.getLong(2), r.getLong(3), r.getLong(4), r.getLong(5), r.getString(6)))
        .single();
  }

  /** The resources that facts have come about since; null when anything may have turned. */
  public Set<String> touchedSince(Marks before, Database database) {
    if (!other.equals(before.other)) {
      return null;
    }
    Set<String> touched = new HashSet<>(touchedByRows(before.points, before.copies, database));
    touched.addAll(database
        .reads()
        .sql("""
            SELECT resource FROM job WHERE rowid > :jobs AND resource IS NOT NULL
            UNION ALL SELECT resource FROM drill_run WHERE ended_at > :drills
            UNION ALL SELECT resource FROM read_back WHERE ended_at > :drills
            UNION ALL SELECT m.resource FROM rehearsal r JOIN rehearsal_member m ON m.rehearsal = r.id
                       WHERE r.ended_at > :drills
            UNION ALL SELECT resource FROM census_fact WHERE census > :census
            UNION ALL SELECT resource FROM census_fact WHERE state = 'held' AND census IN
              (SELECT max(id) FROM census WHERE state = 'done' AND id <= :census
                  AND store IN (SELECT store FROM census WHERE id > :census AND state = 'done') GROUP BY store)
            """)
        .param("census", before.census)
        .param("jobs", before.jobs)
        .param("drills", before.drills)
        .query(String.class)
        .list());
    return touched;
  }

  /**
   * The resources that rows of points and copies behind these are about; of a point that was told of
   * another resource before, both. UNION ALL, as a UNION of parts that an index could sort goes through
   * the whole of it.
   */
  static Set<String> touchedByRows(long pointRow, long copyRow, Database database) {
    if (pointRow == 0) {
      return Set.copyOf(database
          .reads()
          .sql("SELECT DISTINCT resource FROM recovery_point")
          .query(String.class)
          .list());
    }
    // One by one: there may be millions of rows, of a few resources.
    Set<String> touched = new HashSet<>();
    database
        .reads()
        .sql("""
            SELECT resource FROM recovery_point WHERE rowid > :points
            UNION ALL SELECT o.resource FROM recovery_point n CROSS JOIN recovery_point o
                ON o.key = n.key AND o.replaced_at IS NOT NULL WHERE n.rowid > :points
            UNION ALL SELECT p.resource FROM copy c CROSS JOIN recovery_point p
                ON p.key = c.point AND p.replaced_at IS NULL WHERE c.rowid > :copies
            """)
        .param("points", pointRow)
        .param("copies", copyRow)
        .query((RowCallbackHandler) r -> touched.add(r.getString(1)));
    return touched;
  }
}
