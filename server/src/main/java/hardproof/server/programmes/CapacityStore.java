package hardproof.server.programmes;

import hardproof.core.programmes.Capacity;
import hardproof.core.schedule.HoursOfDay;
import hardproof.server.storage.Database;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Optional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** What there is to drill with, as it stood at any instant. */
public final class CapacityStore {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final Database database;

  public CapacityStore(Database database) {
    this.database = database;
  }

  /**
   * A capacity as it was said.
   *
   * @param since when it came to be so; the beginning of time where nobody has said anything
   */
  public record Said(Capacity capacity, Instant since, String by) {}

  /** What holds at an instant. */
  public Said at(Instant instant) {
    Optional<Said> said = database
        .reads()
        .sql("""
            SELECT recorded_at, changed_by, body FROM drill_capacity
             WHERE recorded_at <= :at ORDER BY recorded_at DESC LIMIT 1
            """)
        .param("at", instant.toEpochMilli())
        .query((r, n) ->
            new Said(read(r.getString(3)), Instant.ofEpochMilli(r.getLong(1)), r.getString(2)))
        .optional();
    return said.orElseGet(() -> new Said(Capacity.usual(), Instant.EPOCH, ""));
  }

  /**
   * Says it anew.
   *
   * @param seen since when what the editor saw holds
   * @return false, with nothing changed, when somebody else was faster
   */
  public boolean say(Capacity capacity, Instant seen, String by, Instant now) {
    return database.write(() -> {
      Instant last = at(now).since();
      if (!last.equals(seen)) {
        return false;
      }
      Instant after = last.isBefore(now) ? now : last.plusMillis(1);
      database
          .writes()
          .sql("INSERT INTO drill_capacity VALUES (:at, :by, :body)")
          .param("at", after.toEpochMilli())
          .param("by", by)
          .param("body", write(capacity))
          .update();
      return true;
    });
  }

  private static String write(Capacity c) {
    ObjectNode node = JSON.createObjectNode();
    node.put("hours", c.hours() == null ? null : c.hours().text());
    node.put("zone", c.zone().getId());
    node.put("at_once", c.atOnce());
    node.put("at_once_per_store", c.atOncePerStore());
    node.put("sandbox_bytes", c.sandboxBytes());
    node.put("price_per_drill", c.prices().perDrill());
    node.put("price_per_gb_day", c.prices().perGbDay());
    return node.toString();
  }

  private static Capacity read(String body) {
    JsonNode node = JSON.readTree(body);
    JsonNode hours = node.path("hours");
    JsonNode perStore = node.path("at_once_per_store");
    JsonNode room = node.path("sandbox_bytes");
    return new Capacity(
        hours.isString() ? HoursOfDay.parse(hours.asString()) : null,
        ZoneId.of(node.path("zone").asString()),
        node.path("at_once").asInt(),
        perStore.isNumber() ? perStore.asInt() : null,
        room.isNumber() ? room.asLong() : null,
        new Capacity.Prices(
            node.path("price_per_drill").asDouble(),
            node.path("price_per_gb_day").asDouble()));
  }
}
