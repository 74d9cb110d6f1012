package hardproof.core.recipes;

import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Field;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** A report of runs: it gives what was backed up, points, and where it says so stores, copies and jobs. */
final class RunsGuess {
  private final ReportTable table;
  private final List<String> notes;
  private final Set<String> used;

  private RunsGuess(ReportTable table, List<String> notes, Set<String> used) {
    this.table = table;
    this.notes = notes;
    this.used = used;
  }

  /**
   * Nothing where it says not what was backed up, or not when.
   *
   * @param notes gets what was taken for granted
   * @param used gets columns that only expressions ask for
   */
  static List<Output> of(ReportTable table, List<String> notes, Set<String> used) {
    RunsGuess guess = new RunsGuess(table, notes, used);
    Map<String, String> points = guess.withResource(FieldGuess.guess(BundleFile.POINTS, table));
    String began = first(points, "started", "data_time", "available");
    return points.containsKey("resource") && began != null
        ? guess.report(points, began)
        : List.of();
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

  /** The first column of times, where no column has a name; which others there are nobody says. */
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
    Key key = key(points, began);
    String status = points.get("outcome");
    // A column of full and incremental says the form: then all are backups.
    String type = Objects.equals(jobs.get("type"), points.get("form")) ? null : jobs.get("type");
    List<Output> outputs = new ArrayList<>();
    String store = copies.get("store");
    boolean lies = store != null && !store.equals(points.get("resource"));
    if (lies) {
      outputs.add(stores(store));
    }
    outputs.add(resources(points.get("resource")));
    outputs.add(points(points, key, status, type));
    if (lies) {
      outputs.add(copies(copies, points, key, status, type));
    } else {
      notes.add("No column says where backups lie: no copies are told of.");
    }
    if (status != null) {
      outputs.add(jobs(jobs, points, key, type));
    }
    return outputs;
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
    boolean once = !table.different(together);
    if (once) {
      notes.add("Several rows are called the same: the first of them counts.");
    }
    return new Key(FieldRule.by(expression), once);
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
    String column = Expressions.name(store);
    StringBuilder expression = new StringBuilder();
    media.forEach((value, medium) -> {
      if (!medium.equals("disk")) {
        expression
            .append(column)
            .append(" == ")
            .append(RecipeGuess.quoted(value))
            .append(" ? '")
            .append(medium)
            .append("' : ");
      }
    });
    fields.put(
        "medium",
        expression.length() == 0 || expression.length() > 1500
            ? FieldRule.always("disk")
            : FieldRule.by(expression + "'disk'"));
    if (!unsaid.isEmpty()) {
      notes.add("What these stores are made of is not said, disk is taken for it: "
          + String.join(", ", unsaid) + ".");
    }
    return new Output(BundleFile.STORES, column + " != ''", true, fields);
  }

  private Output resources(String resource) {
    Map<String, String> guessed = FieldGuess.guess(BundleFile.RESOURCES, table);
    Map<String, FieldRule> fields = new LinkedHashMap<>();
    fields.put("key", FieldRule.column(resource));
    fields.put("name", FieldRule.column(resource));
    String kind = guessed.get("kind");
    if (kind != null) {
      fields.put(
          "kind", codes(BundleFile.RESOURCES, "kind", kind).orElse(Vocabulary.kindOf(resource)));
    } else {
      fields.put("kind", FieldRule.always(Vocabulary.kindOf(resource)));
      notes.add(
          "Each resource is taken for a " + Vocabulary.kindOf(resource).replace('-', ' ') + ".");
    }
    return new Output(BundleFile.RESOURCES, null, true, fields);
  }

  private FieldRule codes(BundleFile file, String field, String column) {
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
      fields.put("form", codes(BundleFile.POINTS, "form", form));
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
      all.add(words(type) + " in "
          + Vocabulary.listed("jobs.type", List.of("backup"), table.samples(type)));
      used.add(type);
    }
    if (status != null) {
      List<String> out = succeeded ? List.of("running", "cancelled", "failed") : List.of("running");
      all.add("!(" + words(status) + " in "
          + Vocabulary.listed("jobs.outcome", out, table.samples(status)) + ")");
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
      fields.put(field.name(), FieldRule.column(column).in(FieldGuess.unit(field, column)));
    }
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
    String when = backups(status, type, true);
    if (type != null
        && table.samples(type).stream()
            .anyMatch(v -> "copy".equals(Vocabulary.meaning("jobs.type", v)))) {
      notes.add("Rows of copying don't say which point they copied: they are told of as jobs.");
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
}
