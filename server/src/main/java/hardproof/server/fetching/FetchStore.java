package hardproof.server.fetching;

import hardproof.core.wording.Coded;
import hardproof.server.storage.Database;
import hardproof.server.stores.Secrets;
import java.net.URI;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** What is fetched, with what opens it, sealed. */
public final class FetchStore {
  private final Database database;
  private final Secrets secrets;

  public FetchStore(Database database, Secrets secrets) {
    this.database = database;
    this.secrets = secrets;
  }

  /** A fetch with how it went; outcome null before the first try. */
  public record Kept(Fetch fetch, boolean secret, Fetch.@Nullable Outcome outcome) {}

  public List<Kept> all() {
    return database
        .reads()
        .sql("SELECT * FROM feed_fetch ORDER BY feed")
        .query((r, n) -> kept(r))
        .list();
  }

  public Optional<Kept> find(String feed) {
    return database
        .reads()
        .sql("SELECT * FROM feed_fetch WHERE feed = :feed")
        .param("feed", feed)
        .query((r, n) -> kept(r))
        .optional();
  }

  private static Kept kept(ResultSet r) throws SQLException {
    Fetch fetch = new Fetch(
        r.getString("feed"),
        URI.create(r.getString("address")),
        Coded.of(Fetch.Way.class, r.getString("way")),
        r.getString("user"),
        Duration.ofMillis(r.getLong("every_ms")),
        r.getString("recipe"),
        r.getString("file"));
    String said = r.getString("said");
    return new Kept(
        fetch,
        r.getBytes("secret") != null,
        said == null
            ? null
            : new Fetch.Outcome(
                r.getString("etag"),
                Instant.ofEpochMilli(r.getLong("asked_at")),
                r.getInt("failed") == 1,
                said));
  }

  /** Sealed for its feed and its address: it opens for no other. */
  private static String sealedFor(Fetch fetch) {
    return "fetch " + fetch.feed() + " " + fetch.address().getHost();
  }

  /** @throws Secrets.Sealed where the key for it is gone */
  @Nullable
  String secret(Fetch fetch) throws Secrets.Sealed {
    byte[] sealed = database
        .reads()
        .sql("SELECT secret FROM feed_fetch WHERE feed = :feed AND secret IS NOT NULL")
        .param("feed", fetch.feed())
        .query((r, n) -> r.getBytes(1))
        .optional()
        .orElse(null);
    return sealed == null ? null : secrets.open(sealedFor(fetch), sealed);
  }

  /**
   * @param secret null to keep the one that there is
   */
  void keep(Fetch fetch, @Nullable String secret, String by, Instant now) {
    boolean open = fetch.way() == Fetch.Way.NOTHING;
    byte[] sealed = secret == null || open ? null : secrets.seal(sealedFor(fetch), secret);
    database.write(() -> database
        .writes()
        .sql("""
            INSERT INTO feed_fetch (feed, address, way, user, secret, every_ms, recipe, file, kept_at, kept_by)
            VALUES (:feed, :address, :way, :user, :secret, :every, :recipe, :file, :now, :by)
            ON CONFLICT (feed) DO UPDATE SET address = excluded.address, way = excluded.way, user = excluded.user,
              secret = CASE WHEN :open THEN NULL ELSE coalesce(excluded.secret, secret) END,
              every_ms = excluded.every_ms, recipe = excluded.recipe, file = excluded.file,
              kept_at = excluded.kept_at, kept_by = excluded.kept_by, etag = NULL, asked_at = NULL, failed = NULL,
              said = NULL
            """)
        .param("feed", fetch.feed())
        .param("address", fetch.address().toString())
        .param("way", fetch.way().code())
        .param("user", fetch.user())
        .param("secret", sealed)
        .param("open", open ? 1 : 0)
        .param("every", fetch.every().toMillis())
        .param("recipe", fetch.recipe())
        .param("file", fetch.file())
        .param("now", now.toEpochMilli())
        .param("by", by)
        .update());
  }

  void went(String feed, Fetch.Outcome outcome) {
    database.write(() -> database
        .writes()
        .sql("UPDATE feed_fetch SET etag = :etag, asked_at = :at, failed = :failed, said = :said"
            + " WHERE feed = :feed")
        .param("feed", feed)
        .param("etag", outcome.etag())
        .param("at", outcome.at().toEpochMilli())
        .param("failed", outcome.failed() ? 1 : 0)
        .param("said", outcome.said())
        .update());
  }

  /** @return false when there is none */
  boolean remove(String feed) {
    return database.write(() -> database
            .writes()
            .sql("DELETE FROM feed_fetch WHERE feed = :feed")
            .param("feed", feed)
            .update())
        == 1;
  }
}
