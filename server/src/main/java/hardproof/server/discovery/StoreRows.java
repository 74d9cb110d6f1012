package hardproof.server.discovery;

import hardproof.core.discovery.Discovery;
import hardproof.core.discovery.Discovery.Thing;
import hardproof.core.discovery.PlacePattern;
import hardproof.core.evidence.CsvCell;
import hardproof.core.points.Form;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/** Rows of a bundle, made of what lies on a store by the patterns that are followed. */
final class StoreRows {
  /** A name that says only the day may be of any hour of it; what was written by so much later is of it. */
  private static final Duration OF_DAY = Duration.ofHours(48);

  private final StoreFeed feed;
  private final Set<String> formats;
  private final Map<String, Artifact> artifacts = new LinkedHashMap<>();
  private final Map<String, Form> forms = new HashMap<>();
  private final Map<String, String> elsewhere = new HashMap<>();

  /** A file, or a folder with all that lies in it; its place has no / at the end. */
  private record Artifact(Thing thing, StoreFeed.Followed followed, PlacePattern.Said said) {}

  /**
   * A point with its one copy.
   *
   * @param said whether the name says the time
   * @param folder whether it is a folder
   * @param open whether neither the name nor what it holds has said the form
   */
  record Row(
      String resource,
      Thing thing,
      Instant data,
      Instant available,
      Form form,
      @Nullable String format,
      boolean said,
      boolean folder,
      boolean open) {}

  StoreRows(StoreFeed feed, Set<String> formats) {
    this.feed = feed;
    this.formats = formats;
  }

  /** False where it fits no pattern. */
  boolean add(Thing thing) {
    for (StoreFeed.Followed f : feed.followed()) {
      PlacePattern.Said said = !f.pattern().ofFolders() && Discovery.tellsOfAnother(thing.place())
          ? null
          : f.pattern().of(thing.place(), feed.zone());
      if (said != null) {
        Thing own = new Thing(said.artifact(), thing.size(), thing.modified());
        artifacts.merge(
            said.artifact(),
            new Artifact(own, f, said),
            (a, b) -> new Artifact(a.thing().with(b.thing()), a.followed(), a.said()));
        return true;
      }
    }
    return false;
  }

  boolean isEmpty() {
    return artifacts.isEmpty();
  }

  /** It holds a form by what was read of it. */
  void holds(String place, Form form) {
    forms.put(place, form);
  }

  /** It is a copy of a point that another feed tells of. */
  void isCopyOf(String place, String point) {
    elsewhere.put(place, point);
  }

  /** Somebody else tells of it: this feed says nothing of it. */
  void leave(String place) {
    artifacts.remove(place);
  }

  /** What was made of each artifact, the oldest of a resource first. */
  List<Row> all() {
    Map<String, List<Row>> rows = new TreeMap<>();
    for (Artifact a : artifacts.values()) {
      Row row = row(a);
      rows.computeIfAbsent(row.resource(), r -> new ArrayList<>()).add(row);
    }
    List<Row> all = new ArrayList<>();
    for (List<Row> own : rows.values()) {
      own.sort(Comparator.comparing(Row::data).thenComparing(r -> r.thing().place()));
      all.addAll(own);
    }
    return all;
  }

  private Row row(Artifact a) {
    Thing thing = a.thing();
    boolean folder = a.followed().pattern().ofFolders();
    Instant data = data(thing, a.said());
    Form held = forms.get(thing.place());
    String ending = Discovery.format(folder ? thing.place() + "/" : thing.place(), formats);
    return new Row(
        a.said().resource(),
        thing,
        data,
        thing.modified().isBefore(data) ? data : thing.modified(),
        a.said().form() != null
            ? a.said().form()
            : held != null ? held : a.followed().form(),
        a.followed().format() != null ? a.followed().format() : ending,
        a.said().time() != null,
        folder,
        a.said().form() == null && held == null);
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

  /** The key of a point: what lies on two stores under one place need not be the same. */
  String point(String place) {
    return elsewhere.getOrDefault(place, own(place));
  }

  /** The key that a point has where no other feed tells of it. */
  String own(String place) {
    return feed.store() + ":" + place;
  }

  /**
   * @param told whether another feed tells of a resource
   */
  String resources(Instant seen, Predicate<String> told) {
    Map<String, String> kinds = new TreeMap<>();
    artifacts
        .values()
        .forEach(a -> kinds.putIfAbsent(a.said().resource(), a.followed().kind().code()));
    StringBuilder csv = new StringBuilder("key,name,kind,last_seen\r\n");
    kinds.forEach((resource, kind) -> {
      if (!told.test(resource)) {
        csv.append(CsvCell.row(resource, resource, kind, seen));
      }
    });
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
      if (!elsewhere.containsKey(row.thing().place())) {
        csv.append(point(row, base));
      }
      newest = row;
      full = row.form().standsAlone() ? row : full;
    }
    return csv.toString();
  }

  private String point(Row row, @Nullable Row base) {
    return CsvCell.row(
        point(row.thing().place()),
        row.resource(),
        row.form().code(),
        base == null ? null : point(base.thing().place()),
        row.data(),
        row.available(),
        "complete",
        // Each file as it was when it was read: the least that whatever holds files is.
        "file",
        row.thing().size());
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
