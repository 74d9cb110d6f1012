package hardproof.server.discovery;

import hardproof.core.discovery.PlacePattern;
import hardproof.core.estate.Kind;
import hardproof.core.points.Form;
import hardproof.core.wording.Coded;
import hardproof.server.storage.Database;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Feeds of stores in the database. */
public final class StoreFeedStore {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final Database database;

  public StoreFeedStore(Database database) {
    this.database = database;
  }

  Optional<StoreFeed> find(String store) {
    return database
        .reads()
        .sql("SELECT store, feed, body, kept_by FROM store_feed WHERE store = :store")
        .param("store", store)
        .query((r, n) ->
            read(r.getString(1), r.getString(2), JSON.readTree(r.getString(3)), r.getString(4)))
        .optional();
  }

  /** In place of another of the same store. */
  void keep(StoreFeed feed, Instant now) {
    database.write(() -> database
        .writes()
        .sql("INSERT OR REPLACE INTO store_feed VALUES (:store, :feed, :body, :at, :by)")
        .param("store", feed.store())
        .param("feed", feed.feed())
        .param("body", write(feed))
        .param("at", now.toEpochMilli())
        .param("by", feed.by())
        .update());
  }

  /** False where there was none. */
  boolean forget(String store) {
    return database.write(() -> database
            .writes()
            .sql("DELETE FROM store_feed WHERE store = :store")
            .param("store", store)
            .update()
        > 0);
  }

  private static String write(StoreFeed feed) {
    ObjectNode node = JSON.createObjectNode().put("zone", feed.zone().getId());
    ArrayNode patterns = node.putArray("patterns");
    for (StoreFeed.Followed f : feed.followed()) {
      ObjectNode one = patterns
          .addObject()
          .put("pattern", f.pattern().toString())
          .put("kind", f.kind().code())
          .put("form", f.form().code());
      if (f.format() != null) {
        one.put("format", f.format());
      }
    }
    return node.toString();
  }

  private static StoreFeed read(String store, String feed, JsonNode node, String by) {
    List<StoreFeed.Followed> followed = new ArrayList<>();
    for (JsonNode p : node.path("patterns")) {
      followed.add(new StoreFeed.Followed(
          PlacePattern.of(p.path("pattern").asString()),
          Coded.of(Kind.class, p.path("kind").asString()),
          Coded.of(Form.class, p.path("form").asString()),
          p.path("format").isString() ? p.path("format").asString() : null));
    }
    return new StoreFeed(store, feed, ZoneId.of(node.path("zone").asString("UTC")), followed, by);
  }
}
