package hardproof.server.programmes;

import hardproof.core.drills.Method;
import hardproof.core.ladder.Rung;
import hardproof.core.programmes.CopyChoice;
import hardproof.core.programmes.Limits;
import hardproof.core.programmes.PointChoice;
import hardproof.core.programmes.Showing;
import hardproof.core.schedule.HoursOfDay;
import hardproof.core.wording.Coded;
import hardproof.server.facts.SelectorJson;
import hardproof.server.runs.CheckJson;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** A programme as it is kept in the database. What is missing is as programmes were before they could say it. */
final class ProgrammeJson {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  private ProgrammeJson() {}

  static String write(Programme p) {
    ObjectNode node = JSON.createObjectNode();
    node.put("name", p.name());
    node.set("scope", JSON.readTree(SelectorJson.write(p.scope())));
    put(node, "demanding", p.demanding());
    Programme.When when = p.when();
    node.put("rule", when.rule());
    node.put("zone", when.zone());
    node.put("begins_ms", when.begins().toEpochMilli());
    node.put("start_window_ms", when.startWindow().toMillis());
    node.put("hours", when.hours() == null ? null : when.hours().text());
    write(node, p.how());
    write(node, p.limits());
    node.put("tries", p.onFailure().tries());
    node.put("retry_wait_ms", p.onFailure().pause().toMillis());
    node.put("look", p.onFailure().look());
    put(node, "tell", p.tell());
    return node.toString();
  }

  private static void write(ObjectNode node, Programme.How how) {
    put(node, "showing", how.showing().way());
    put(node, "method", how.showing().method());
    put(node, "rung", how.showing().rung());
    put(node, "point", how.point().way());
    Duration within = how.point().within();
    node.put("within_ms", within == null ? null : within.toMillis());
    node.put("sample", how.point().sample());
    put(node, "copy", how.copy().way());
    node.put("store", how.copy().store());
    if (how.checks() != null) {
      node.set("checks", JSON.readTree(CheckJson.write(how.checks())));
    }
    node.put("hold_ms", how.hold().toMillis());
  }

  private static void write(ObjectNode node, Limits limits) {
    node.put("at_once", limits.atOnce());
    node.put("night_bytes", limits.nightBytes());
    node.put("month_cost", limits.monthCost());
    node.put("store_share", limits.storeShare());
  }

  private static void put(ObjectNode node, String name, @Nullable Coded value) {
    node.put(name, value == null ? null : value.code());
  }

  static Programme read(String key, String body, Programme.Version version) {
    JsonNode node = JSON.readTree(body);
    return new Programme(
        key,
        node.path("name").asString(),
        SelectorJson.read(node.path("scope").toString()),
        coded(Rung.class, node, "demanding", null),
        when(node),
        how(node),
        limits(node),
        new Programme.OnFailure(
            node.path("tries").asInt(1),
            Duration.ofMillis(node.path("retry_wait_ms").asLong(0)),
            node.path("look").asBoolean(false)),
        coded(Programme.Tell.class, node, "tell", Programme.Tell.NOTHING),
        version);
  }

  private static Programme.When when(JsonNode node) {
    String hours = text(node, "hours");
    return new Programme.When(
        text(node, "rule"),
        node.path("zone").asString(),
        Instant.ofEpochMilli(node.path("begins_ms").asLong()),
        Duration.ofMillis(node.path("start_window_ms").asLong()),
        hours == null ? null : HoursOfDay.parse(hours));
  }

  private static Programme.How how(JsonNode node) {
    return new Programme.How(
        new Showing(
            coded(Showing.Way.class, node, "showing", Showing.Way.STRONGEST),
            coded(Method.class, node, "method", null),
            coded(Rung.class, node, "rung", null)),
        new PointChoice(
            coded(PointChoice.Way.class, node, "point", PointChoice.Way.NEWEST),
            node.path("within_ms").isNumber()
                ? Duration.ofMillis(node.path("within_ms").asLong())
                : null,
            node.path("sample").isNumber() ? node.path("sample").asInt() : null),
        new CopyChoice(
            coded(CopyChoice.Way.class, node, "copy", CopyChoice.Way.ANY), text(node, "store")),
        node.path("checks").isArray() ? CheckJson.read(node.path("checks").toString()) : null,
        Duration.ofMillis(node.path("hold_ms").asLong(0)));
  }

  private static Limits limits(JsonNode node) {
    return new Limits(
        node.path("at_once").isNumber() ? node.path("at_once").asInt() : null,
        node.path("night_bytes").isNumber() ? node.path("night_bytes").asLong() : null,
        node.path("month_cost").isNumber() ? node.path("month_cost").asDouble() : null,
        node.path("store_share").isNumber() ? node.path("store_share").asDouble() : null);
  }

  private static @Nullable String text(JsonNode node, String name) {
    return node.path(name).isString() ? node.path(name).asString() : null;
  }

  private static <E extends Enum<E> & Coded> @Nullable E coded(
      Class<E> type, JsonNode node, String name, @Nullable E otherwise) {
    String code = text(node, name);
    return code == null ? otherwise : Coded.of(type, code);
  }
}
