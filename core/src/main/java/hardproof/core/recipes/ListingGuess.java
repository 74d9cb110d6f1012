package hardproof.core.recipes;

import hardproof.core.discovery.Discovery;
import hardproof.core.discovery.Discovery.Series;
import hardproof.core.discovery.Discovery.Thing;
import hardproof.core.discovery.PlacePattern;
import hardproof.core.feeds.BundleFile;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** A list of files, one a row: their names say whose backups they are, and of when. */
final class ListingGuess {
  private static final int MOST_SERIES = 9;

  private final String name;
  private final ReportTable table;
  private final ZoneId zone;
  private final Instant now;
  private final List<String> notes = new ArrayList<>();

  private ListingGuess(String name, ReportTable table, ZoneId zone, Instant now) {
    this.name = name;
    this.table = table;
    this.zone = zone;
    this.now = now;
  }

  /** Null where it is none. */
  static RecipeGuess.@Nullable Guess of(
      String name, ReportTable table, ZoneId zone, Set<String> formats, Instant now) {
    return new ListingGuess(name, table, zone, now).guess(formats);
  }

  private RecipeGuess.@Nullable Guess guess(Set<String> formats) {
    Places places = Places.of(table, notes);
    if (places == null) {
      return null;
    }
    TimeGuess.Guessed written = null;
    String changed = null;
    for (String column : table.columns()) {
      List<String> samples = table.samples(column);
      boolean numbers = samples.stream().allMatch(s -> s.matches("\\d{1,9}"));
      TimeGuess.Guessed times = column.equals(places.column()) || samples.isEmpty() || numbers
          ? null
          : TimeGuess.of(samples, zone, now);
      if (times != null && changed == null) {
        written = times;
        changed = column;
      }
    }
    FieldRule size = places.size() == null ? size(places.column(), changed) : places.size();
    List<Thing> things = new ArrayList<>();
    for (String place : places.places()) {
      if (place != null) {
        things.add(new Thing(place, 0, now));
      }
    }
    Discovery.Discovered found = Discovery.of(things, formats, zone);
    boolean told = changed != null;
    List<Series> series = found.series().stream()
        .filter(s -> s.timeOfName() || told)
        .limit(MOST_SERIES)
        .toList();
    int fitting = series.stream().mapToInt(Series::files).sum();
    if (series.isEmpty() || fitting * 2 < found.files()) {
      return null;
    }
    TimeReading reading = written == null ? new TimeReading(null, null) : written.reading();
    List<Output> outputs = outputs(places.expression(), series, changed, size);
    notes.add("Each file is a point and its copy, on a store that is called “" + name + "”.");
    if (reading.zone() != null || series.stream().anyMatch(Series::timeOfName)) {
      notes.add("Times that say no zone are read as " + zone.getId() + ".");
    }
    if (series.stream().anyMatch(s -> !s.formOfName())) {
      notes.add("Files whose names don't say how much they hold are taken for fulls.");
    }
    if (fitting < found.files()) {
      notes.add("Of the first rows " + (found.files() - fitting)
          + " fit no pattern and are left out, such as "
          + (found.rest().isEmpty() ? "those of no time" : found.rest().get(0)) + ".");
    }
    return new RecipeGuess.Guess(
        new Recipe(name, table.layout(), reading, outputs), List.copyOf(notes));
  }

  private @Nullable FieldRule size(String place, @Nullable String changed) {
    String best = null;
    for (String column : table.columns()) {
      boolean other = !column.equals(place) && !column.equals(changed);
      List<String> samples = table.samples(column);
      boolean sizes = !samples.isEmpty()
          && samples.stream().allMatch(s -> s.matches("\\d{1,17}( ?[kKMGT]i?B)?"));
      boolean named = FieldGuess.words(column).stream().anyMatch(w -> w.matches("size|bytes"));
      if (other && sizes && (best == null || named)) {
        best = column;
      }
    }
    return best == null ? null : FieldRule.column(best);
  }

  private List<Output> outputs(
      String place, List<Series> series, @Nullable String changed, @Nullable FieldRule size) {
    List<Output> outputs = new ArrayList<>();
    outputs.add(new Output(
        BundleFile.STORES,
        null,
        true,
        fields("key", always(name), "name", always(name), "medium", always("disk"))));
    List<Output> points = new ArrayList<>();
    List<Output> copies = new ArrayList<>();
    for (Series one : series) {
      PlacePattern pattern = PlacePattern.of(one.pattern());
      String when = "part(" + place + ", "
          + Places.raw(pattern.expressions(PlacePattern.Part.RESOURCE).get(0)) + ") != ''";
      String resource = String.join(
          " + '/' + ",
          pattern.expressions(PlacePattern.Part.RESOURCE).stream()
              .map(e -> "part(" + place + ", " + Places.raw(e) + ")")
              .toList());
      FieldRule data = data(place, pattern, changed);
      FieldRule written = changed == null ? null : FieldRule.column(changed);
      outputs.add(new Output(
          BundleFile.RESOURCES,
          when,
          true,
          fields(
              "key",
              FieldRule.by(resource),
              "name",
              FieldRule.by(resource),
              "kind",
              always(one.kind().code()))));
      points.add(new Output(
          BundleFile.POINTS,
          when,
          false,
          fields(
              "key",
              FieldRule.by(place),
              "resource",
              FieldRule.by(resource),
              "form",
              form(place, pattern),
              "data_time",
              data,
              "available",
              written == null ? data : written,
              "outcome",
              always("complete"),
              "consistency",
              always("file"),
              "size",
              size)));
      copies.add(new Output(
          BundleFile.COPIES,
          when,
          false,
          fields(
              "point",
              FieldRule.by(place),
              "store",
              always(name),
              "finished",
              written,
              "state",
              always("present"),
              "format",
              one.format() == null ? null : always(one.format()),
              "place",
              FieldRule.by(place))));
    }
    outputs.addAll(points);
    outputs.addAll(copies);
    return outputs;
  }

  private FieldRule data(String place, PlacePattern pattern, @Nullable String changed) {
    List<String> times = pattern.expressions(PlacePattern.Part.TIME);
    if (times.isEmpty()) {
      return FieldRule.column(changed);
    }
    String said = "part(" + place + ", " + Places.raw(times.get(0)) + ")";
    return FieldRule.by(
        "epoch".equals(pattern.timePattern())
            ? "timestamp(int(" + said + "))"
            : "time(" + said + ", " + RecipeGuess.quoted(pattern.timePattern()) + ", "
                + RecipeGuess.quoted(zone.getId()) + ")");
  }

  private static FieldRule form(String place, PlacePattern pattern) {
    List<String> forms = pattern.expressions(PlacePattern.Part.FORM);
    return forms.isEmpty()
        ? always("full")
        : FieldRule.by("part(" + place + ", " + Places.raw(forms.get(0)) + ")")
            .meaning(Map.of("incr", "incremental", "inc", "incremental", "diff", "differential"));
  }

  private static FieldRule always(String value) {
    return FieldRule.always(value);
  }

  /** Without those that are null. */
  private static Map<String, FieldRule> fields(@Nullable Object... pairs) {
    Map<String, FieldRule> fields = new LinkedHashMap<>();
    for (int i = 0; i < pairs.length; i += 2) {
      if (pairs[i + 1] != null) {
        fields.put((String) pairs[i], (FieldRule) pairs[i + 1]);
      }
    }
    return fields;
  }
}
