package hardproof.core.recipes;

import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Field;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Reads the first rows of a report and says how they may become facts, so that nobody has to write it down. */
public final class RecipeGuess {
  private static final List<BundleFile> LISTS = List.of(
      BundleFile.COPIES,
      BundleFile.JOBS,
      BundleFile.STORES,
      BundleFile.POLICIES,
      BundleFile.RESOURCES,
      BundleFile.WORKLOADS);

  private final String name;
  private final ReportTable table;
  private final ZoneId zone;
  private final Instant now;
  private final List<String> notes = new ArrayList<>();
  private final Set<String> used = new LinkedHashSet<>();
  private TimeReading times;

  private RecipeGuess(String name, ReportTable table, ZoneId zone, Instant now) {
    this.name = name;
    this.table = table;
    this.zone = zone;
    this.now = now;
    this.times = new TimeReading(null, null);
  }

  /**
   * What was made of a report.
   *
   * @param notes what was taken for granted, in sentences for a person to look at
   */
  public record Guess(Recipe recipe, List<String> notes) {}

  /**
   * @param zone of times that don't say theirs
   * @param formats what artifacts may end with, without the dot
   * @return null where nothing of it tells of backups
   */
  public static @Nullable Guess of(
      String name, ReportTable table, ZoneId zone, Set<String> formats, Instant now) {
    Guess listing = ListingGuess.of(name, table, zone, formats, now);
    return listing != null ? listing : new RecipeGuess(name, table, zone, now).guess();
  }

  private @Nullable Guess guess() {
    Map<String, String> points = withResource(FieldGuess.guess(BundleFile.POINTS, table));
    String began = first(points, "started", "data_time", "available");
    List<Output> outputs =
        points.containsKey("resource") && began != null ? report(points, began) : list();
    if (outputs.isEmpty()) {
      return null;
    }
    List<String> unused =
        table.columns().stream().filter(c -> !used.contains(c)).toList();
    if (!unused.isEmpty()) {
      notes.add("Not used: " + String.join(", ", unused) + ".");
    }
    return new Guess(new Recipe(name, table.layout(), times, outputs), List.copyOf(notes));
  }

  private static @Nullable String first(Map<String, String> columns, String... fields) {
    for (String field : fields) {
      if (columns.containsKey(field)) {
        return columns.get(field);
      }
    }
    return null;
  }

  /** Where nothing is called after what was backed up: the job, where there is one; else the first column of names. */
  private Map<String, String> withResource(Map<String, String> points) {
    Map<String, String> with = new LinkedHashMap<>(points);
    if (!with.containsKey("resource")) {
      String other = with.get("policy");
      if (other == null && table.layout().header() == 0) {
        other = table.columns().stream()
            .filter(c -> !with.containsValue(c))
            .filter(c -> table.samples(c).stream().anyMatch(s -> s.matches(".*\\p{L}.*")))
            .findFirst()
            .orElse(null);
      }
      if (other != null) {
        with.put("resource", other);
        notes.add("No column says what was backed up: " + other + " is taken for it.");
      }
    }
    with.remove("policy");
    if (table.layout().header() == 0) {
      unnamedTimes(with);
    }
    return with;
  }

  /** Of two columns of times without names, of which one is never before the other, it is the end. */
  private void unnamedTimes(Map<String, String> points) {
    List<String> times = table.columns().stream()
        .filter(c -> !points.containsValue(c))
        .filter(c -> !table.samples(c).isEmpty() && TimeGuess.times(table.samples(c)))
        .filter(c -> table.samples(c).stream().noneMatch(s -> s.matches("\\d{1,9}")))
        .toList();
    if (!times.isEmpty() && !points.containsKey("started")) {
      points.put("started", times.get(0));
      notes.add("No column is named: " + times.get(0) + " is taken for when backups began.");
    }
  }

  private List<Output> report(Map<String, String> points, String began) {
    if (!table.layout().filledDown().isEmpty()) {
      notes.add("Where " + String.join(", ", table.layout().filledDown())
          + " is empty, what stands above is meant.");
    }
    Map<String, String> jobs = FieldGuess.guess(BundleFile.JOBS, table);
    Map<String, String> copies = FieldGuess.guess(BundleFile.COPIES, table);
    List<String> timed = new ArrayList<>();
    for (Map<String, String> columns : List.of(points, copies)) {
      columns.forEach((field, column) -> {
        if (isTime(columns == points ? BundleFile.POINTS : BundleFile.COPIES, field)) {
          timed.add(column);
        }
      });
    }
    readTimes(timed);
    Key key = key(points, began);
    String status = points.get("outcome");
    // A column of full and incremental says the form; that all are backups goes without saying
    // then.
    String type =
        java.util.Objects.equals(jobs.get("type"), points.get("form")) ? null : jobs.get("type");
    List<Output> outputs = new ArrayList<>();
    String store = copies.get("store");
    if (store != null && !store.equals(points.get("resource"))) {
      outputs.add(stores(store));
    }
    outputs.add(resources(points.get("resource")));
    outputs.add(points(points, key, status, type));
    if (store != null && !store.equals(points.get("resource"))) {
      outputs.add(copies(copies, points, key, status, type));
    } else {
      notes.add("No column says where backups lie: no copies are told of.");
    }
    if (status != null) {
      outputs.add(jobs(jobs, points, key, type));
    }
    return outputs;
  }

  private static boolean isTime(BundleFile file, String field) {
    return file.column(field).isTime();
  }

  /** By all columns together, as far as they are written alike. */
  private void readTimes(List<String> columns) {
    List<String> values = new ArrayList<>();
    TimeGuess.Guessed guessed = null;
    for (String column : columns) {
      List<String> more = new ArrayList<>(values);
      more.addAll(table.samples(column));
      TimeGuess.Guessed together = TimeGuess.of(more, zone, now);
      if (together != null) {
        guessed = together;
        values = more;
      } else {
        notes.add(column + " is not written as the other times are, and is not read.");
      }
    }
    if (guessed == null) {
      return;
    }
    times = guessed.reading();
    boolean local = times.zone() != null
        && values.stream().noneMatch(v -> v.matches(".*(Z|[+-]\\d{2}:?\\d{2})$"));
    if (local) {
      notes.add("Times say no zone: they are read as " + zone.getId() + ".");
    } else if (times.pattern() == null) {
      times = new TimeReading(null, null);
    }
    if (guessed.other() != null) {
      notes.add("Times are read as " + times.pattern() + "; they could be "
          + guessed.other().pattern() + " as well.");
    }
  }

  /**
   * How a point is known again.
   *
   * @param once whether several rows tell of one
   */
  private record Key(FieldRule rule, boolean once) {}

  private Key key(Map<String, String> points, String began) {
    String resource = points.get("resource");
    String id = points.get("key");
    if (id != null && table.different(List.of(id))) {
      used.add(id);
      return new Key(FieldRule.column(id), false);
    }
    List<String> together = new ArrayList<>(List.of(resource, began));
    if (points.containsKey("form") && !table.different(together)) {
      together.add(points.get("form"));
    }
    used.addAll(together);
    String expression =
        String.join(" + '/' + ", together.stream().map(Expressions::name).toList());
    notes.add("Points are called by " + String.join(" and ", together) + ".");
    return new Key(FieldRule.by(expression), !table.different(together));
  }

  private Output stores(String store) {
    Map<String, FieldRule> fields = new LinkedHashMap<>();
    fields.put("key", FieldRule.column(store));
    fields.put("name", FieldRule.column(store));
    Map<String, String> media = new LinkedHashMap<>();
    List<String> unsaid = new ArrayList<>();
    for (String value : table.samples(store)) {
      String medium = Vocabulary.within("stores.medium", value);
      if (medium == null) {
        unsaid.add(value);
      }
      media.put(value, medium == null ? "disk" : medium);
    }
    String rest = "'" + "disk" + "'";
    String column = Expressions.name(store);
    StringBuilder expression = new StringBuilder();
    media.forEach((value, medium) -> {
      if (!medium.equals("disk")) {
        expression
            .append(column)
            .append(" == ")
            .append(quoted(value))
            .append(" ? '")
            .append(medium)
            .append("' : ");
      }
    });
    fields.put(
        "medium",
        expression.length() == 0 || expression.length() > 1500
            ? FieldRule.always("disk")
            : FieldRule.by(expression + rest));
    if (!unsaid.isEmpty()) {
      notes.add("What these stores are made of is not said, disk is taken for it: "
          + String.join(", ", unsaid) + ".");
    }
    used.add(store);
    return new Output(BundleFile.STORES, column + " != ''", true, fields);
  }

  /** A text in an expression. */
  static String quoted(String text) {
    return "'" + text.replace("\\", "\\\\").replace("'", "\\'").replace("\n", "\\n") + "'";
  }

  private Output resources(String resource) {
    Map<String, String> guessed = FieldGuess.guess(BundleFile.RESOURCES, table);
    Map<String, FieldRule> fields = new LinkedHashMap<>();
    fields.put("key", FieldRule.column(resource));
    fields.put("name", FieldRule.column(resource));
    String kind = guessed.get("kind");
    if (kind != null) {
      fields.put("kind", codes(BundleFile.RESOURCES, "kind", kind).orElse(kindOf(resource)));
    } else {
      fields.put("kind", FieldRule.always(kindOf(resource)));
      notes.add("Each resource is taken for a " + kindOf(resource).replace('-', ' ') + ".");
    }
    used.add(resource);
    return new Output(BundleFile.RESOURCES, null, true, fields);
  }

  private static String kindOf(String column) {
    String kind = Vocabulary.within("resources.kind", column);
    return kind == null ? "physical-server" : kind;
  }

  private FieldRule codes(BundleFile file, String field, String column) {
    used.add(column);
    return FieldRule.column(column)
        .meaning(Vocabulary.meanings(file.code() + "." + field, table.samples(column)));
  }

  private Output points(
      Map<String, String> columns, Key key, @Nullable String status, @Nullable String type) {
    Map<String, FieldRule> fields = new LinkedHashMap<>();
    fields.put("key", key.rule());
    fill(BundleFile.POINTS, fields, columns);
    String form = columns.get("form");
    if (form != null) {
      fields.put("form", codes(BundleFile.POINTS, "form", form).orElse("full"));
      boolean needs = table.samples(form).stream()
          .map(v -> Vocabulary.meaning("points.form", v))
          .anyMatch(f -> f != null && !f.equals("full") && !f.equals("snapshot"));
      if (needs && !columns.containsKey("based_on")) {
        notes.add(
            "Nothing says which point an increment is based on: whether it can be restored is "
                + "not known.");
      }
    } else {
      fields.put("form", FieldRule.always("full"));
      notes.add("Nothing says how much a point holds by itself: each is taken for a full.");
    }
    if (status != null) {
      fields.put("outcome", codes(BundleFile.POINTS, "outcome", status));
      if (table.samples(status).stream()
          .anyMatch(v -> "partial".equals(Vocabulary.meaning("points.outcome", v)))) {
        notes.add("A warning is read as partial, which is never enough to be usable.");
      }
    } else {
      fields.put("outcome", FieldRule.always("complete"));
      notes.add("Nothing says how a backup ended: each is taken for complete.");
    }
    return new Output(BundleFile.POINTS, backups(status, type, false), key.once(), fields);
  }

  /** Rows that tell of a backup that has ended; null for all. */
  private @Nullable String backups(
      @Nullable String status, @Nullable String type, boolean succeeded) {
    List<String> all = new ArrayList<>();
    if (type != null) {
      all.add(words(type) + " in " + Vocabulary.listed("jobs.type", List.of("backup")));
      used.add(type);
    }
    if (status != null) {
      List<String> out = succeeded ? List.of("running", "cancelled", "failed") : List.of("running");
      all.add("!(" + words(status) + " in " + Vocabulary.listed("jobs.outcome", out) + ")");
    }
    return all.isEmpty() ? null : String.join(" && ", all);
  }

  private static String words(String column) {
    return Expressions.name(column) + ".lowerAscii()";
  }

  /** What is found in columns of its own, but the key and what has words. */
  private void fill(BundleFile file, Map<String, FieldRule> fields, Map<String, String> columns) {
    for (Field<?, ?> field : file.columns()) {
      String column = columns.get(field.name());
      boolean known = Vocabulary.knows(file.code() + "." + field.name());
      if (column == null || known || fields.containsKey(field.name())) {
        continue;
      }
      fields.put(field.name(), FieldRule.column(column).in(unit(field, column)));
      used.add(column);
    }
  }

  /** By a word in the name of the column. */
  private static @Nullable String unit(Field<?, ?> field, String column) {
    for (String word : FieldGuess.words(column)) {
      for (String unit : field.units()) {
        if (unit.toLowerCase(java.util.Locale.ROOT).equals(word.replace("bytes", "b"))) {
          return unit;
        }
      }
    }
    return null;
  }

  private Output copies(
      Map<String, String> columns,
      Map<String, String> points,
      Key key,
      @Nullable String status,
      @Nullable String type) {
    Map<String, FieldRule> fields = new LinkedHashMap<>();
    fields.put("point", key.rule());
    Map<String, String> own = new LinkedHashMap<>(columns);
    own.remove("state");
    own.putIfAbsent("finished", first(points, "available", "started", "data_time"));
    fill(BundleFile.COPIES, fields, own);
    fields.put("state", FieldRule.always("present"));
    String when = backups(status, null, true);
    if (type != null) {
      List<String> kinds = List.of("backup", "copy");
      String kind = words(type) + " in " + Vocabulary.listed("jobs.type", kinds);
      when = when == null ? kind : kind + " && " + when;
    }
    String there = Expressions.name(columns.get("store")) + " != ''";
    return new Output(
        BundleFile.COPIES, when == null ? there : there + " && " + when, false, fields);
  }

  private Output jobs(
      Map<String, String> columns, Map<String, String> points, Key key, @Nullable String type) {
    Map<String, FieldRule> fields = new LinkedHashMap<>();
    fields.put("key", key.rule());
    Map<String, String> own = new LinkedHashMap<>(columns);
    own.put("resource", points.get("resource"));
    own.remove("policy");
    own.remove("store");
    fill(BundleFile.JOBS, fields, own);
    fields.put(
        "type", type == null ? FieldRule.always("backup") : codes(BundleFile.JOBS, "type", type));
    fields.put("outcome", codes(BundleFile.JOBS, "outcome", points.get("outcome")));
    return new Output(BundleFile.JOBS, null, key.once(), fields);
  }

  /** A report that is a list of one kind of things. */
  private List<Output> list() {
    Output best = null;
    int most = 0;
    for (BundleFile file : LISTS) {
      Map<String, String> columns = new LinkedHashMap<>(FieldGuess.guess(file, table));
      if (!columns.containsKey("key") && columns.containsKey("name")) {
        columns.put("key", columns.get("name"));
      }
      if (!columns.containsKey("name") && columns.containsKey("key")) {
        columns.put("name", columns.get("key"));
      }
      columns.keySet().removeIf(f -> !file.hasColumn(f));
      Output output = list(file, columns);
      if (output != null && columns.size() > most) {
        most = columns.size();
        best = output;
      }
    }
    if (best == null) {
      return List.of();
    }
    BundleFile file = best.file();
    List<String> timed = new ArrayList<>();
    best.fields().forEach((field, rule) -> {
      if (rule.column() != null) {
        used.add(rule.column());
        if (isTime(file, field)) {
          timed.add(rule.column());
        }
      }
    });
    readTimes(timed);
    return List.of(best);
  }

  private @Nullable Output list(BundleFile file, Map<String, String> columns) {
    Map<String, FieldRule> fields = new LinkedHashMap<>();
    columns.forEach((field, column) -> {
      String name = file.code() + "." + field;
      FieldRule rule = FieldRule.column(column).in(unit(file.column(field), column));
      fields.put(
          field,
          Vocabulary.knows(name)
              ? rule.meaning(Vocabulary.meanings(name, table.samples(column)))
              : rule);
    });
    if (file == BundleFile.RESOURCES && fields.containsKey("name") && !fields.containsKey("kind")) {
      fields.put("kind", FieldRule.always(kindOf(columns.get("name"))));
    }
    if (file == BundleFile.STORES && fields.containsKey("path") && !fields.containsKey("medium")) {
      fields.put("medium", FieldRule.always("disk"));
    }
    boolean complete =
        file.columns().stream().filter(Field::required).allMatch(f -> fields.containsKey(f.name()));
    return complete && fields.size() > 1 ? new Output(file, null, false, fields) : null;
  }
}
