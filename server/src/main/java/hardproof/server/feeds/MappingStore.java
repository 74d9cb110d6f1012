package hardproof.server.feeds;

import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Mapping;
import hardproof.core.wording.Coded;
import hardproof.server.storage.Database;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Mappings that were saved for other people's exports. */
public final class MappingStore {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final Database database;

  public MappingStore(Database database) {
    this.database = database;
  }

  public List<Mapping> all() {
    return database
        .reads()
        .sql("SELECT name, file, body FROM mapping ORDER BY name")
        .query((r, n) -> read(r.getString(1), r.getString(2), r.getString(3)))
        .list();
  }

  public Optional<Mapping> find(String name) {
    return database
        .reads()
        .sql("SELECT name, file, body FROM mapping WHERE name = :name")
        .param("name", name)
        .query((r, n) -> read(r.getString(1), r.getString(2), r.getString(3)))
        .optional();
  }

  /** Keeps a mapping; one of the same name is replaced. */
  public void keep(Mapping mapping, String by, Instant now) {
    Map<String, Object> body = new LinkedHashMap<>();
    body.put("columns", mapping.columns());
    body.put("constants", mapping.constants());
    body.put("values", mapping.values());
    body.put("zone", mapping.zone());
    body.put("time_pattern", mapping.timePattern());
    body.put("units", mapping.units());
    database.write(() -> database
        .writes()
        .sql("""
            INSERT INTO mapping VALUES (:name, :file, :body, :at, :by)
            ON CONFLICT (name) DO UPDATE SET file = excluded.file, body = excluded.body,
              saved_at = excluded.saved_at, saved_by = excluded.saved_by
            """)
        .param("name", mapping.name())
        .param("file", mapping.file().code())
        .param("body", JSON.writeValueAsString(body))
        .param("at", now.toEpochMilli())
        .param("by", by)
        .update());
  }

  /** @return false when there is none of that name */
  public boolean remove(String name) {
    return database.write(() -> database
            .writes()
            .sql("DELETE FROM mapping WHERE name = :name")
            .param("name", name)
            .update())
        == 1;
  }

  private static Mapping read(String name, String file, String body) {
    JsonNode node = JSON.readTree(body);
    Map<String, Map<String, String>> values = new LinkedHashMap<>();
    node.path("values").properties().forEach(e -> values.put(e.getKey(), texts(e.getValue())));
    return new Mapping(
        name,
        Coded.of(BundleFile.class, file),
        texts(node.path("columns")),
        texts(node.path("constants")),
        values,
        node.path("zone").isString() ? node.path("zone").asString() : null,
        node.path("time_pattern").isString() ? node.path("time_pattern").asString() : null,
        texts(node.path("units")));
  }

  private static Map<String, String> texts(JsonNode node) {
    Map<String, String> texts = new LinkedHashMap<>();
    node.properties().forEach(e -> texts.put(e.getKey(), e.getValue().asString()));
    return texts;
  }
}
