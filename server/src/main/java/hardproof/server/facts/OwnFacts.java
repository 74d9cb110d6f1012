package hardproof.server.facts;

import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.FactKind;
import hardproof.server.storage.Database;
import hardproof.server.web.Conflict;
import hardproof.server.web.Refused;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Facts that people write here: policies, exceptions, and resources put under a policy. They are
 * kept as those of a feed of their own, so that they are seen as at any instant like all others.
 */
public final class OwnFacts {
  /** The feed of what is written here. */
  public static final String FEED = "written here";

  private final Database database;

  public OwnFacts(Database database) {
    this.database = database;
  }

  /**
   * Writes a new state of a fact.
   *
   * @param seen when the state that the editor saw was recorded; null for a new fact
   * @throws Conflict when the fact has changed since, or is there already
   * @throws Refused when it came by a feed
   */
  public <T> void put(FactKind<T> kind, T fact, Instant seen, String by, Instant clock) {
    Instant now = database.notBefore(clock);
    FactTable<T> table = FactTables.of(kind);
    database.change(() -> database.onWriter(connection -> {
      try (FactTable<T>.Session session = table.session(connection)) {
        List<String> key = table.key(fact);
        FactTable.Known<T> known = session.current(key);
        refuseOutOfDate(seen, key, known);
        Instant at = nextInstant(now, known);
        session.put(fact, FEED, at, known != null);
        session.flush();
        batch(BundleFile.of(kind).code(), by, at);
        return null;
      }
    }));
  }

  private static <T> void refuseOutOfDate(
      Instant seen, List<String> key, FactTable.Known<T> known) {
    if (known != null && !known.feed().equals(FEED)) {
      throw new Refused("'" + key.get(0) + "' comes by the feed " + known.feed()
          + ", which would overwrite what is changed here. Change it where it comes from, or save"
          + " it under another key.");
    }
    if (known == null && seen != null) {
      throw new Conflict("'" + key.get(0) + "' is not there any more.");
    }
    if (known != null && seen == null) {
      throw new Conflict("There is '" + key.get(0) + "' already; choose another key.");
    }
    if (known != null && !known.recordedAt().equals(seen)) {
      throw new Conflict("'" + key.get(0) + "' was changed by somebody else at "
          + known.recordedAt()
          + ", after you opened it. Nothing was overwritten: open it anew and make your change"
          + " there.");
    }
  }

  private static <T> Instant nextInstant(Instant now, FactTable.Known<T> known) {
    // Never two states of one instant: the one an editor saw must be told from the next.
    return known == null || now.isAfter(known.recordedAt())
        ? now
        : known.recordedAt().plusMillis(1);
  }

  /** Puts resources under a policy besides what its scope says. Those that are there stay. */
  public void addToPolicy(
      String policy, Collection<String> resources, String reason, String by, Instant clock) {
    Instant now = database.notBefore(clock);
    database.change(() -> {
      for (String resource : new TreeSet<>(resources)) {
        database
            .writes()
            .sql("""
                INSERT INTO policy_addition (policy, resource, added_by, reason, recorded_at)
                VALUES (:policy, :resource, :by, :reason, :now)
                ON CONFLICT (policy, resource) WHERE replaced_at IS NULL DO NOTHING
                """)
            .param("policy", policy)
            .param("resource", resource)
            .param("by", by)
            .param("reason", reason)
            .param("now", now.toEpochMilli())
            .update();
      }
      batch("policies", by, now);
      return null;
    });
  }

  /** Takes back an addition. */
  public void removeFromPolicy(String policy, String resource, String by, Instant clock) {
    Instant now = database.notBefore(clock);
    database.change(() -> {
      int removed = endAddition(policy, resource, now);
      if (removed == 0) {
        throw new Refused("'" + resource + "' was not put under '" + policy
            + "' here: the policy's own scope has it, or nothing has.");
      }
      batch("policies", by, now);
      return null;
    });
  }

  private int endAddition(String policy, String resource, Instant now) {
    return database
        .writes()
        .sql("UPDATE policy_addition SET replaced_at = :now"
            + " WHERE policy = :policy AND resource = :resource AND replaced_at IS NULL")
        .param("now", now.toEpochMilli())
        .param("policy", policy)
        .param("resource", resource)
        .update();
  }

  /** By policy, the resources that were put under it here, as known at an instant. */
  Map<String, List<String>> additions(Instant asAt) {
    Map<String, List<String>> additions = new TreeMap<>();
    database
        .reads()
        .sql("""
            SELECT policy, resource FROM policy_addition
             WHERE recorded_at <= :at AND (replaced_at IS NULL OR replaced_at > :at) ORDER BY resource
            """)
        .param("at", asAt.toEpochMilli())
        .query((r, n) -> Map.entry(r.getString(1), r.getString(2)))
        .list()
        .forEach(e -> additions
            .computeIfAbsent(e.getKey(), k -> new java.util.ArrayList<>())
            .add(e.getValue()));
    return additions;
  }

  private void batch(String type, String by, Instant now) {
    addOwnFeed();
    database
        .writes()
        .sql("""
            INSERT INTO import_batch
              (feed, file, type, received_at, received_by, rows_read, rows_taken, rows_unchanged, rows_rejected)
            VALUES (:feed, 'by hand', :type, :at, :by, 1, 1, 0, 0)
            """)
        .param("feed", FEED)
        .param("type", type)
        .param("at", now.toEpochMilli())
        .param("by", by)
        .update();
  }

  private void addOwnFeed() {
    database
        .writes()
        .sql("INSERT INTO feed (key) VALUES (:feed) ON CONFLICT DO NOTHING")
        .param("feed", FEED)
        .update();
  }
}
