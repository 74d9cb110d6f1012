package hardproof.server.feeds;

import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Rejection;
import hardproof.core.feeds.Values;
import hardproof.core.findings.Pending;
import hardproof.core.wording.Coded;
import hardproof.server.storage.Columns;
import hardproof.server.storage.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Feeds, what came by them, and what was rejected. */
public final class FeedStore {
  private final Database database;
  private final PendingFacts pending;

  public FeedStore(Database database) {
    this.database = database;
    this.pending = new PendingFacts(database);
  }

  /** Makes the feed when it is new. */
  void ensure(String feed) {
    database
        .writes()
        .sql("INSERT INTO feed (key) VALUES (:key) ON CONFLICT DO NOTHING")
        .param("key", feed)
        .update();
  }

  /**
   * What is said of a feed from an instant on.
   *
   * @param every how often it should come; null means nobody has said
   * @param listings files of which it always brings all rows
   */
  public record Setting(@Nullable Duration every, Set<BundleFile> listings) {}

  /** What is said of a feed now; empty where nobody has said anything. */
  public Optional<Setting> setting(String feed) {
    return database
        .reads()
        .sql("SELECT expected_every_ms, full_listings FROM feed_setting"
            + " WHERE feed = :key AND replaced_at IS NULL")
        .param("key", feed)
        .query((r, n) -> new Setting(Columns.duration(r, 1), files(r.getString(2))))
        .optional();
  }

  /**
   * Says something of a feed; what was said before holds for the time before.
   *
   * @param by who says so
   * @return false when there is no such feed
   */
  public boolean say(String feed, Setting setting, String by, Instant clock) {
    Instant now = database.notBefore(clock);
    return database.change(() -> {
      boolean known = isKnown(feed);
      if (!known) {
        return false;
      }
      endSetting(feed, now);
      addSetting(feed, setting, by, now);
      return true;
    });
  }

  private boolean isKnown(String feed) {
    return database
            .writes()
            .sql("SELECT count(*) FROM feed WHERE key = :key")
            .param("key", feed)
            .query(Long.class)
            .single()
        > 0;
  }

  private void endSetting(String feed, Instant now) {
    database
        .writes()
        .sql("UPDATE feed_setting SET replaced_at = max(recorded_at, :now)"
            + " WHERE feed = :key AND replaced_at IS NULL")
        .param("key", feed)
        .param("now", now.toEpochMilli())
        .update();
  }

  private void addSetting(String feed, Setting setting, String by, Instant now) {
    database
        .writes()
        .sql("""
              INSERT INTO feed_setting (feed, expected_every_ms, full_listings, recorded_at, set_by)
              VALUES (:key, :every, :files, :now, :by)
              """)
        .param("key", feed)
        .param("every", setting.every() == null ? null : setting.every().toMillis())
        .param(
            "files",
            setting.listings().stream().map(BundleFile::code).collect(Collectors.joining(";")))
        .param("now", now.toEpochMilli())
        .param("by", by)
        .update();
  }

  private static Set<BundleFile> files(String text) {
    return Values.list(text).stream()
        .map(code -> Coded.of(BundleFile.class, code))
        .collect(Collectors.toCollection(() -> EnumSet.noneOf(BundleFile.class)));
  }

  /** Files of which this feed always brings all rows; empty for an unknown feed. */
  public Set<BundleFile> fullListings(String feed) {
    return setting(feed).map(Setting::listings).orElse(EnumSet.noneOf(BundleFile.class));
  }

  void record(String feed, FileResult result, Instant now, String by) {
    long batch = addBatch(feed, result, now, by);
    for (Rejection r : result.rejections()) {
      addRejection(batch, r);
    }
  }

  private long addBatch(String feed, FileResult result, Instant now, String by) {
    return database
        .writes()
        .sql("""
            INSERT INTO import_batch
              (feed, file, type, received_at, received_by, rows_read, rows_taken, rows_unchanged,
               rows_rejected, told_until)
            VALUES (:feed, :file, :type, :at, :by, :read, :taken, :unchanged, :rejected, :told)
            RETURNING id
            """)
        .param("feed", feed)
        .param("file", result.file())
        .param("type", result.type() == null ? null : result.type().code())
        .param("at", now.toEpochMilli())
        .param("by", by)
        .param("read", result.read())
        .param("taken", result.added() + result.changed())
        .param("unchanged", result.unchanged())
        .param("rejected", result.rejected())
        .param("told", result.toldUntil() == null ? null : result.toldUntil().toEpochMilli())
        .query(Long.class)
        .single();
  }

  private void addRejection(long batch, Rejection r) {
    database
        .writes()
        .sql("INSERT INTO import_rejection VALUES (:batch, :line, :field, :value, :reason)")
        .param("batch", batch)
        .param("line", r.line())
        .param("field", r.field())
        .param("value", r.value())
        .param("reason", r.reason())
        .update();
  }

  /** One file that was taken. */
  public record Batch(
      long id,
      String feed,
      String file,
      @Nullable String type,
      Instant receivedAt,
      String receivedBy,
      long read,
      long taken,
      long unchanged,
      long rejected) {}

  /** The newest batches, newest first. */
  public List<Batch> batches(int atMost) {
    return database
        .reads()
        .sql("""
            SELECT id, feed, file, type, received_at, received_by,
                   rows_read, rows_taken, rows_unchanged, rows_rejected
              FROM import_batch ORDER BY id DESC LIMIT :n
            """)
        .param("n", atMost)
        .query((r, n) -> batch(r))
        .list();
  }

  private static FeedStore.Batch batch(ResultSet r) throws SQLException {
    return new Batch(
        r.getLong(1),
        r.getString(2),
        r.getString(3),
        r.getString(4),
        Instant.ofEpochMilli(r.getLong(5)),
        r.getString(6),
        r.getLong(7),
        r.getLong(8),
        r.getLong(9),
        r.getLong(10));
  }

  /** What was rejected in a batch, as far as it was kept. */
  public List<Rejection> rejections(long batch) {
    return database
        .reads()
        .sql("""
            SELECT b.file, r.line, r.field, r.value, r.reason
              FROM import_rejection r JOIN import_batch b ON b.id = r.batch
             WHERE r.batch = :batch ORDER BY r.rowid
            """)
        .param("batch", batch)
        .query((r, n) -> new Rejection(
            r.getString(1), r.getLong(2), r.getString(3), r.getString(4), r.getString(5)))
        .list();
  }

  /** When the first facts came in; empty when nothing has. */
  public Optional<Instant> firstReceived() {
    return database
        .reads()
        .sql("SELECT min(received_at) FROM import_batch")
        .query((r, n) -> Optional.ofNullable(Columns.instant(r, 1)))
        .single();
  }

  /**
   * By feed, what of it named others that were not known at an instant; feeds without any are left
   * out. Such facts are kept and join by themselves when the others come.
   */
  public Map<String, Pending> pending(Instant asAt) {
    return pending.at(asAt);
  }
}
