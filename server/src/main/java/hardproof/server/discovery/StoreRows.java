package hardproof.server.discovery;

import hardproof.core.discovery.Discovery;
import hardproof.core.discovery.Discovery.Thing;
import hardproof.core.discovery.PlacePattern;
import hardproof.core.estate.Kind;
import hardproof.core.evidence.CsvCell;
import hardproof.core.points.Form;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** Rows of a bundle, made of what lies on a store by the patterns that are followed. */
final class StoreRows {
  /** A name that says only the day may be of any hour of it; what was written by so much later is of it. */
  private static final Duration OF_DAY = Duration.ofHours(48);

  private final StoreFeed feed;
  private final Set<String> formats;
  private final Map<String, List<Row>> rows = new TreeMap<>();
  private final Map<String, Kind> kinds = new HashMap<>();

  /** A point with its one copy. */
  record Row(
      String resource,
      Thing thing,
      Instant data,
      Instant available,
      Form form,
      @Nullable String format) {}

  StoreRows(StoreFeed feed, Set<String> formats) {
    this.feed = feed;
    this.formats = formats;
  }

  /** False where it fits no pattern. */
  boolean add(Thing thing) {
    if (Discovery.tellsOfAnother(thing.place())) {
      return false;
    }
    for (StoreFeed.Followed f : feed.followed()) {
      PlacePattern.Said said = f.pattern().of(thing.place(), feed.zone());
      if (said != null) {
        add(thing, f, said);
        return true;
      }
    }
    return false;
  }

  private void add(Thing thing, StoreFeed.Followed f, PlacePattern.Said said) {
    Instant data = data(thing, said);
    kinds.putIfAbsent(said.resource(), f.kind());
    rows.computeIfAbsent(said.resource(), r -> new ArrayList<>())
        .add(new Row(
            said.resource(),
            thing,
            data,
            thing.modified().isBefore(data) ? data : thing.modified(),
            said.form() == null ? f.form() : said.form(),
            f.format() != null ? f.format() : Discovery.format(thing.place(), formats)));
  }

  /** By the name where it says the hour; else by the store, as far as that fits to the day of the name. */
  private static Instant data(Thing thing, PlacePattern.Said said) {
    Instant named = said.time();
    if (named == null) {
      return thing.modified();
    }
    boolean ofDay =
        !thing.modified().isBefore(named) && thing.modified().isBefore(named.plus(OF_DAY));
    return said.exact() || !ofDay ? named : thing.modified();
  }

  boolean isEmpty() {
    return rows.isEmpty();
  }

  /** What was made of each file, the oldest of a resource first. */
  List<Row> all() {
    List<Row> all = new ArrayList<>();
    for (List<Row> own : rows.values()) {
      own.sort(Comparator.comparing(Row::data).thenComparing(r -> r.thing().place()));
      all.addAll(own);
    }
    return all;
  }

  /** The key of a point: what lies on two stores under one place need not be the same. */
  String point(String place) {
    return feed.store() + ":" + place;
  }

  String resources(Instant seen) {
    StringBuilder csv = new StringBuilder("key,name,kind,last_seen\r\n");
    rows.keySet().forEach(r -> csv.append(CsvCell.row(r, r, kinds.get(r).code(), seen)));
    return csv.toString();
  }

  String points() {
    StringBuilder csv = new StringBuilder(
        "key,resource,form,based_on,data_time,available,outcome,consistency,size\r\n");
    String resource = null;
    Row newest = null;
    Row full = null;
    for (Row row : all()) {
      if (!row.resource().equals(resource)) {
        resource = row.resource();
        newest = null;
        full = null;
      }
      Row base = row.form().standsAlone() ? null : row.form() == Form.DIFFERENTIAL ? full : newest;
      csv.append(CsvCell.row(
          point(row.thing().place()),
          row.resource(),
          row.form().code(),
          base == null ? null : point(base.thing().place()),
          row.data(),
          row.available(),
          "complete",
          // Each file as it was when it was read: the least that whatever holds files is.
          "file",
          row.thing().size()));
      newest = row;
      full = row.form().standsAlone() ? row : full;
    }
    return csv.toString();
  }

  /** The head of the file of copies. */
  static final String COPIES = "point,store,finished,state,format,place,sha256\r\n";

  String copy(Row row, @Nullable String sha256) {
    return CsvCell.row(
        point(row.thing().place()),
        feed.store(),
        row.thing().modified(),
        "present",
        row.format(),
        row.thing().place(),
        sha256);
  }
}
