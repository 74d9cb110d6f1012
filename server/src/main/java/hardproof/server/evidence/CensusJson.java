package hardproof.server.evidence;

import hardproof.core.census.CensusFact;
import hardproof.core.census.CensusState;
import hardproof.core.wording.Coded;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** What censuses found, in {@code facts.json}. */
final class CensusJson {
  static final String CENSUSES = "censuses";

  private CensusJson() {}

  static ObjectNode row(CensusFact fact) {
    return FactsJson.JSON
        .createObjectNode()
        .put("id", fact.id())
        .put("census", fact.census())
        .put("resource", fact.resource())
        .put("point", fact.point())
        .put("store", fact.store())
        .put("at", fact.at().toString())
        .put("state", fact.state().code())
        .put("sentence", fact.sentence());
  }

  static List<CensusFact> read(JsonNode rows) {
    List<CensusFact> all = new ArrayList<>();
    for (JsonNode r : rows) {
      all.add(new CensusFact(
          r.required("id").asLong(),
          r.required("census").asLong(),
          r.required("resource").asString(),
          r.required("point").asString(),
          r.required("store").asString(),
          Instant.parse(r.required("at").asString()),
          Coded.of(CensusState.class, r.required("state").asString()),
          r.required("sentence").asString()));
    }
    return all;
  }
}
