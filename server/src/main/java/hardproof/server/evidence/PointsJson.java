package hardproof.server.evidence;

import hardproof.core.copies.Copy;
import hardproof.core.estate.Resource;
import hardproof.core.facts.Estate;
import hardproof.core.facts.PackedStates;
import hardproof.core.facts.PointSet;
import hardproof.core.facts.PointSource;
import hardproof.core.facts.State;
import hardproof.core.feeds.FactKind;
import hardproof.core.feeds.FactKinds;
import hardproof.core.feeds.FactReader;
import hardproof.core.feeds.RawRow;
import hardproof.core.points.RecoveryPoint;
import hardproof.server.facts.KnownPoints;
import hardproof.server.facts.Notations;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;

/**
 * Points and copies in {@code facts.json}: by resource, each a row of values whose names stand once, those of which nothing
 * is known left out. Written and read resource by resource, and packed in between, so that millions take no more memory
 * than they must.
 */
final class PointsJson {
  static final String POINTS = "points";
  private static final String COPIES = "copies";
  private static final String RESOURCE = "resource";
  private static final String FEED = "feed";
  private static final String RECORDED_AT = "recorded_at";

  /** More than fit into the memory of a machine that checks packs; far above any estate that was measured. */
  private static final long MOST_ROWS = 60_000_000;

  private static final Column.Of<RecoveryPoint> OF_POINTS =
      new Column.Of<>(FactKinds.POINTS, RESOURCE, List.of(new Column<>(FEED, RecoveryPoint::feed)));
  private static final Column.Of<Copy> OF_COPIES = new Column.Of<>(
      FactKinds.COPIES,
      "",
      List.of(
          new Column<>(RECORDED_AT, c -> c.recordedAt().toString()),
          new Column<>(FEED, Copy::feed)));

  private final Instant knownAt;
  private final Map<String, byte[]> packed = new HashMap<>();
  private long rows;

  /** What stands in the place of a row under a name. */
  private record Column<T>(String name, Function<T, @Nullable String> value) {

    /**
     * Those of a kind of fact, in their order.
     *
     * @param columns the fields that are brought in, and what is known beside them
     */
    private record Of<T>(List<Column<T>> columns) {
      /**
       * @param but a field that stands elsewhere
       */
      Of(FactKind<T> kind, String but, List<Column<T>> more) {
        this(Stream.concat(
                kind.fields().stream()
                    .filter(f -> !f.ours() && !f.name().equals(but))
                    .map(f -> new Column<T>(f.name(), fact -> f.write(fact, Notations.KEPT))),
                more.stream())
            .toList());
      }
    }
  }

  /**
   * @param knownAt when all that is read was known
   */
  PointsJson(Instant knownAt) {
    this.knownAt = knownAt;
  }

  static void write(Estate estate, JsonGenerator json) {
    json.writeArrayPropertyStart(POINTS);
    for (Resource resource : estate.facts().resources()) {
      PointSet own = estate.claimedSet(resource.key());
      if (own.size() > 0) {
        json.writeStartObject();
        json.writeStringProperty(RESOURCE, resource.key());
        write(OF_POINTS, POINTS, own.points(), json);
        write(OF_COPIES, COPIES, own.copies().all(), json);
        json.writeEndObject();
      }
    }
    json.writeEndArray();
  }

  /** Columns in which nothing is known are left out. */
  private static <T> void write(Column.Of<T> of, String name, List<T> facts, JsonGenerator json) {
    List<@Nullable String[]> rows = new ArrayList<>(facts.size());
    boolean[] known = new boolean[of.columns().size()];
    for (T fact : facts) {
      @Nullable String[] row = new String[known.length];
      for (int i = 0; i < known.length; i++) {
        row[i] = of.columns().get(i).value().apply(fact);
        known[i] |= row[i] != null;
      }
      rows.add(row);
    }
    json.writeArrayPropertyStart("of_" + name);
    for (int i = 0; i < known.length; i++) {
      if (known[i]) {
        json.writeString(of.columns().get(i).name());
      }
    }
    json.writeEndArray();
    json.writeArrayPropertyStart(name);
    for (@Nullable String[] row : rows) {
      json.writeStartArray();
      for (int i = 0; i < known.length; i++) {
        if (known[i]) {
          json.writeString(row[i]);
        }
      }
      json.writeEndArray();
    }
    json.writeEndArray();
  }

  /**
   * Reads what {@link #write} wrote.
   *
   * @param json at the begin of it
   * @throws IOException when it is not that, with the place
   */
  PointSource read(JsonParser json) throws IOException {
    require(json.currentToken(), JsonToken.START_ARRAY, json);
    while (json.nextToken() == JsonToken.START_OBJECT) {
      resource(json);
    }
    require(json.currentToken(), JsonToken.END_ARRAY, json);
    return KnownPoints.of(packed);
  }

  private static void property(JsonParser json, String name) throws IOException {
    if (json.nextToken() != JsonToken.PROPERTY_NAME || !json.currentName().equals(name)) {
      throw wrong("there is no \"" + name + "\"", json);
    }
  }

  private static void require(JsonToken found, JsonToken token, JsonParser json)
      throws IOException {
    if (found != token) {
      throw wrong("here is no " + token, json);
    }
  }

  private static IOException wrong(String what, JsonParser json) {
    return new IOException(POINTS + ": " + what + ", at line "
        + json.currentTokenLocation().getLineNr() + ", column "
        + json.currentTokenLocation().getColumnNr() + " of facts.json");
  }

  private void resource(JsonParser json) throws IOException {
    property(json, RESOURCE);
    require(json.nextToken(), JsonToken.VALUE_STRING, json);
    String resource = json.getString();
    List<State<RecoveryPoint>> points = new ArrayList<>();
    Set<String> keys = new HashSet<>();
    each(json, OF_POINTS, POINTS, values -> {
      RecoveryPoint point = fact(FactKinds.POINTS, POINTS, values, Map.of(RESOURCE, resource));
      if (!keys.add(point.key())) {
        throw wrong("the point " + point.key() + " of " + resource + " stands there twice", json);
      }
      points.add(new State<>(point, point.feed(), PointSet.NONE, Long.MAX_VALUE));
    });
    List<State<Copy>> copies = new ArrayList<>();
    each(json, OF_COPIES, COPIES, values -> {
      Copy copy = fact(FactKinds.COPIES, COPIES, values, Map.of());
      copies.add(new State<>(copy, copy.feed(), copy.recordedAt().toEpochMilli(), Long.MAX_VALUE));
    });
    require(json.nextToken(), JsonToken.END_OBJECT, json);
    if (packed.put(resource, PackedStates.pack(points, copies)) != null) {
      throw wrong(resource + " has points at two places", json);
    }
  }

  /** What is made of a row. */
  private interface Row {
    void read(Map<String, String> values) throws IOException;
  }

  private void each(JsonParser json, Column.Of<?> of, String name, Row made) throws IOException {
    property(json, "of_" + name);
    require(json.nextToken(), JsonToken.START_ARRAY, json);
    List<@Nullable String> names = row(json);
    if (!of.columns().stream().map(Column::name).toList().containsAll(names)
        || Set.copyOf(names).size() < names.size()) {
      throw wrong("of_" + name + " names " + names + ", which are no fields of it", json);
    }
    property(json, name);
    require(json.nextToken(), JsonToken.START_ARRAY, json);
    while (json.nextToken() == JsonToken.START_ARRAY) {
      List<@Nullable String> values = row(json);
      if (values.size() != names.size()) {
        throw wrong("a row has " + values.size() + " values and not " + names.size(), json);
      }
      if (++rows > MOST_ROWS) {
        throw wrong("there are more than this program reads (" + MOST_ROWS + ")", json);
      }
      Map<String, String> named = new LinkedHashMap<>();
      for (int i = 0; i < names.size(); i++) {
        if (values.get(i) != null) {
          named.put(names.get(i), values.get(i));
        }
      }
      made.read(named);
    }
    require(json.currentToken(), JsonToken.END_ARRAY, json);
  }

  /** Texts and nothing else, up to the end of the array. */
  private static List<@Nullable String> row(JsonParser json) throws IOException {
    List<@Nullable String> values = new ArrayList<>();
    JsonToken token;
    while ((token = json.nextToken()) != JsonToken.END_ARRAY) {
      if (token != JsonToken.VALUE_STRING && token != JsonToken.VALUE_NULL) {
        throw wrong("a row holds something else than text", json);
      }
      values.add(token == JsonToken.VALUE_NULL ? null : json.getString());
    }
    return values;
  }

  private <T> T fact(
      FactKind<T> kind, String name, Map<String, String> values, Map<String, String> more)
      throws IOException {
    String feed = values.remove(FEED);
    String recordedAt = values.remove(RECORDED_AT);
    values.putAll(more);
    if (kind == FactKinds.COPIES && recordedAt == null) {
      throw new IOException(name + ": of row " + rows + " it is not said when it was recorded");
    }
    Instant recorded = recordedAt == null ? knownAt : Instant.parse(recordedAt);
    FactReader.Read<T> read = new FactReader(feed, knownAt, recorded, Notations.KEPT)
        .read(kind, "facts.json", new RawRow(rows, values));
    T fact = read.fact();
    if (fact == null) {
      throw new IOException(name + ": " + read.rejections().get(0).sentence());
    }
    return fact;
  }
}
