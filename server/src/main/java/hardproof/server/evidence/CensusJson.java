package hardproof.server.evidence;

import hardproof.core.census.CensusFact;
import hardproof.core.census.CensusState;
import hardproof.core.census.StoreListing;
import hardproof.core.wording.Coded;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** What censuses found and how they ended, in {@code facts.json}. */
final class CensusJson {
  static final String CENSUSES = "censuses";
  static final String LISTINGS = "store_lists";

  private CensusJson() {}

  static ObjectNode row(CensusFact fact) {
    ObjectNode row = FactsJson.JSON
        .createObjectNode()
        .put("id", fact.id())
        .put("census", fact.census())
        .put("resource", fact.resource())
        .put("point", fact.point())
        .put("store", fact.store())
        .put("at", fact.at().toString())
        .put("state", fact.state().code())
        .put("sentence", fact.sentence());
    if (fact.lockedUntil() != null) {
      row.put("locked_until", fact.lockedUntil().toString());
    }
    return row;
  }

  static ObjectNode row(StoreListing listing) {
    return FactsJson.JSON
        .createObjectNode()
        .put("census", listing.census())
        .put("store", listing.store())
        .put("at", listing.at().toString())
        .put("whole", listing.whole())
        .put("listed", listing.things())
        .put("listed_bytes", listing.bytes())
        .put("untold", listing.untold())
        .put("untold_bytes", listing.untoldBytes())
        .put("sentence", listing.sentence());
  }

  static List<StoreListing> readListings(JsonNode rows) {
    List<StoreListing> all = new ArrayList<>();
    for (JsonNode r : rows) {
      all.add(new StoreListing(
          r.required("census").asLong(),
          r.required("store").asString(),
          Instant.parse(r.required("at").asString()),
          r.required("whole").asBoolean(),
          r.required("listed").asLong(),
          r.required("listed_bytes").asLong(),
          r.required("untold").asLong(),
          r.required("untold_bytes").asLong(),
          r.required("sentence").asString()));
    }
    return all;
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
          r.has("locked_until") ? Instant.parse(r.path("locked_until").asString()) : null,
          r.required("sentence").asString()));
    }
    return all;
  }
}
