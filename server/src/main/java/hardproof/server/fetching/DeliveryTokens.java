package hardproof.server.fetching;

import hardproof.server.storage.Database;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.security.SecureRandom;
import java.time.Instant;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Tokens by which others deliver to a feed: shown once, kept as their SHA-256 alone. */
public final class DeliveryTokens {
  private static final int BYTES = 32;

  private final Database database;
  private final SecureRandom random = new SecureRandom();

  public DeliveryTokens(Database database) {
    this.database = database;
  }

  /**
   * That there is one.
   *
   * @param usedAt null before its first delivery
   */
  record Kept(
      String feed, Instant madeAt, String madeBy, @Nullable Instant usedAt) {}

  List<Kept> all() {
    return database
        .reads()
        .sql("SELECT feed, made_at, made_by, used_at FROM delivery_token ORDER BY feed")
        .query((r, n) -> {
          long used = r.getLong(4);
          Instant usedAt = r.wasNull() ? null : Instant.ofEpochMilli(used);
          return new Kept(
              r.getString(1), Instant.ofEpochMilli(r.getLong(2)), r.getString(3), usedAt);
        })
        .list();
  }

  /** A new one, in place of the one before. */
  String make(String feed, String by, Instant now) {
    byte[] bytes = new byte[BYTES];
    random.nextBytes(bytes);
    String token = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    database.write(() -> database
        .writes()
        .sql(
            "INSERT INTO delivery_token (feed, digest, made_at, made_by) VALUES (:feed, :digest, :now, :by)"
                + " ON CONFLICT (feed) DO UPDATE SET digest = excluded.digest, made_at = excluded.made_at,"
                + " made_by = excluded.made_by, used_at = NULL")
        .param("feed", feed)
        .param("digest", digest(token))
        .param("now", now.toEpochMilli())
        .param("by", by)
        .update());
    return token;
  }

  /** Whether a token opens a feed; in the same time whatever is wrong with it. */
  boolean opens(String feed, String token, Instant now) {
    String kept = database
        .reads()
        .sql("SELECT digest FROM delivery_token WHERE feed = :feed")
        .param("feed", feed)
        .query(String.class)
        .optional()
        .orElse("");
    boolean opens = MessageDigest.isEqual(
        kept.getBytes(StandardCharsets.US_ASCII),
        digest(token).getBytes(StandardCharsets.US_ASCII));
    if (opens) {
      database.write(() -> database
          .writes()
          .sql("UPDATE delivery_token SET used_at = :now WHERE feed = :feed")
          .param("now", now.toEpochMilli())
          .param("feed", feed)
          .update());
    }
    return opens;
  }

  /** @return false when there is none */
  boolean end(String feed) {
    return database.write(() -> database
            .writes()
            .sql("DELETE FROM delivery_token WHERE feed = :feed")
            .param("feed", feed)
            .update())
        == 1;
  }

  private static String digest(String token) {
    try {
      return HexFormat.of()
          .formatHex(
              MessageDigest.getInstance("SHA-256").digest(token.getBytes(StandardCharsets.UTF_8)));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java platform has SHA-256", e);
    }
  }
}
