package hardproof.core.recipes;

import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Field;
import hardproof.core.feeds.Values;
import hardproof.core.wording.WrongValue;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Guesses which column of a report is which field: by its name, then by what it holds. */
final class FieldGuess {
  private static final int SAME = 100;
  private static final int WITHIN = 60;
  private static final int SYNONYM = 50;
  private static final int LEAST_SYNONYM = 34;
  private static final int SHARED = 30;
  private static final int CODES = 20;

  /** What is believed of the name of a column alone. */
  private static final Set<String> OUTCOMES = Set.of("points.outcome", "jobs.outcome");

  private static final Set<String> FORMS = Set.of("form", "level");

  /** Words that many fields have. */
  private static final Set<String> GENERAL =
      Set.of("time", "date", "last", "of", "until", "seen", "on", "data", "key");

  /** Words that reports use for a field, the likeliest first; common practice, no source. */
  private static final Map<String, List<String>> SYNONYMS = Map.ofEntries(
      Map.entry("key", List.of("id", "uuid", "identifier", "number", "session", "reference")),
      Map.entry("name", List.of("display", "title", "hostname", "label")),
      Map.entry(
          "resource",
          List.of(
              "client",
              "vm",
              "machine",
              "host",
              "server",
              "hostname",
              "computer",
              "source",
              "object",
              "asset",
              "system",
              "instance",
              "node",
              "database",
              "guest",
              "workstation",
              "entity",
              "name")),
      Map.entry("workload", List.of("service", "application", "app", "business")),
      Map.entry("owner", List.of("responsible", "contact", "team")),
      Map.entry("tier", List.of("criticality", "class", "priority")),
      Map.entry("policy", List.of("job", "plan", "schedule", "group", "rule")),
      Map.entry(
          "store",
          List.of(
              "target",
              "repository",
              "destination",
              "pool",
              "storage",
              "bucket",
              "location",
              "media",
              "vault",
              "library")),
      Map.entry("form", List.of("level", "type", "method", "mode", "backup")),
      Map.entry("type", List.of("operation", "activity", "action", "kind")),
      Map.entry("based_on", List.of("parent", "base", "previous")),
      Map.entry(
          "data_time", List.of("snapshot", "timestamp", "point", "created", "backed", "date")),
      Map.entry("started", List.of("start", "begin", "begun", "from")),
      Map.entry(
          "available",
          List.of("end", "ended", "finish", "finished", "completed", "complete", "stop")),
      Map.entry("ended", List.of("end", "finish", "finished", "completed", "complete", "stop")),
      Map.entry("finished", List.of("end", "ended", "finish", "completed", "copied")),
      Map.entry("outcome", List.of("status", "result", "state", "success")),
      Map.entry("state", List.of("status", "result")),
      Map.entry(
          "size",
          List.of(
              "size",
              "bytes",
              "kbytes",
              "kb",
              "volume",
              "capacity",
              "used",
              "gb",
              "mb",
              "gib",
              "mib")),
      Map.entry(
          "bytes",
          List.of("size", "kbytes", "kb", "transferred", "volume", "gb", "mb", "gib", "mib")),
      Map.entry("message", List.of("error", "reason", "details", "comment", "description", "info")),
      Map.entry("expires", List.of("expiry", "expiration", "retention", "until")),
      Map.entry("locked_until", List.of("lock", "locked", "immutable", "hold")),
      Map.entry("place", List.of("path", "file", "filename", "key")),
      Map.entry("kind", List.of("type", "platform", "category")),
      Map.entry("site", List.of("location", "datacenter", "building")),
      Map.entry("medium", List.of("type", "media")));

  private static final Set<String> KNOWN = known();

  private FieldGuess() {}

  private static Set<String> known() {
    Set<String> known = new HashSet<>(List.of("time", "date", "name", "size", "type", "unit"));
    SYNONYMS.values().forEach(known::addAll);
    SYNONYMS.keySet().forEach(f -> known.addAll(List.of(f.split("_"))));
    return known;
  }

  /** By field, the column that fits best; fields for which none does are left out. */
  static Map<String, String> guess(BundleFile file, ReportTable table) {
    record Fit(String field, String column, int score) {}
    List<Fit> fits = new ArrayList<>();
    for (String column : table.columns()) {
      List<String> samples = table.samples(column);
      for (Field<?, ?> field : file.columns()) {
        int score = samples.isEmpty() ? 0 : score(file, field, column, samples);
        if (score > 0) {
          fits.add(new Fit(field.name(), column, score + (field.required() ? 1 : 0)));
        }
      }
    }
    fits.sort(Comparator.comparing(Fit::score).reversed());
    Map<String, String> guessed = new LinkedHashMap<>();
    Set<String> taken = new HashSet<>();
    for (Fit fit : fits) {
      if (!guessed.containsKey(fit.field()) && !taken.contains(fit.column())) {
        guessed.put(fit.field(), fit.column());
        taken.add(fit.column());
      }
    }
    return guessed;
  }

  /** By its name, where what it holds does not speak against it; by what it holds where that can be nothing else. */
  private static int score(
      BundleFile file, Field<?, ?> field, String column, List<String> samples) {
    int byName = byName(field.name(), column);
    int byContent = content(file, field, column, samples);
    // A time alone may be of anything: as the wrong one it makes data younger, or locks what is
    // not.
    return byContent < 0 || byName == 0 && byContent < CODES ? 0 : byName + byContent;
  }

  private static String[] name(String column) {
    return column.toLowerCase(Locale.ROOT).split("[^a-z0-9]+");
  }

  private static int byName(String field, String column) {
    List<String> words = words(column);
    List<String> wanted = words(field);
    if (String.join("_", name(column)).equals(field)) {
      return SAME;
    } else if (words.containsAll(wanted)) {
      return WITHIN;
    }
    List<String> synonyms = SYNONYMS.getOrDefault(field, List.of());
    for (int i = 0; i < synonyms.size(); i++) {
      if (words.contains(synonyms.get(i))) {
        return Math.max(LEAST_SYNONYM, SYNONYM - i);
      }
    }
    return wanted.stream().anyMatch(w -> words.contains(w) && !GENERAL.contains(w)) ? SHARED : 0;
  }

  /** The words of a name; of what is written together those that are known, such as {@code start} in starttime. */
  static List<String> words(String name) {
    List<String> words = new ArrayList<>();
    for (String word : name.toLowerCase(Locale.ROOT).split("[^a-z0-9]+")) {
      if (word.isEmpty()) {
        continue;
      }
      words.add(word);
      for (String known : KNOWN) {
        boolean part = known.length() > 3 || List.of("id", "job", "end").contains(known);
        boolean end =
            part && (word.endsWith(known) || known.length() > 2 && word.startsWith(known));
        if (end && word.length() > known.length() + 1) {
          words.add(known);
        }
      }
    }
    return words;
  }

  /** 0 where any text would do; negative where the samples can't be this field. */
  private static int content(
      BundleFile file, Field<?, ?> field, String column, List<String> samples) {
    if (field.isTime()) {
      return TimeGuess.times(samples) ? 5 : -1;
    } else if (!field.units().isEmpty()) {
      return field.units().contains("GB") && samples.stream().allMatch(FieldGuess::size) ? 3 : -1;
    }
    String name = file.code() + "." + field.name();
    if (Vocabulary.knows(name)) {
      long known =
          samples.stream().filter(s -> Vocabulary.meaning(name, s) != null).count();
      // What is full or incremental is a backup, but says so less than the word itself.
      boolean aside = name.equals("jobs.type")
          && samples.stream().allMatch(s -> Vocabulary.meaning("points.form", s) != null);
      if (known * 2 > samples.size()) {
        return aside ? 2 : CODES;
      }
      // Words in a language that is not known here still say how it ended, or how much it holds.
      // Each
      // such row is rejected then; without the column all of them would be called good.
      return known > 0 || saysSo(name, column) ? 0 : -1;
    }
    if (field.name().equals("state") && samples.size() > 20) {
      return -1;
    }
    boolean times = TimeGuess.times(samples) && samples.stream().noneMatch(s -> s.matches("\\d+"));
    return times ? -1 : 0;
  }

  private static boolean saysSo(String field, String column) {
    return OUTCOMES.contains(field)
        || field.equals("points.form") && words(column).stream().anyMatch(FORMS::contains);
  }

  /** The unit of its plain numbers, by a word in the name of the column; null where that says none. */
  static @Nullable String unit(Field<?, ?> field, String column) {
    for (String word : words(column)) {
      for (String unit : field.units()) {
        if (unit.toLowerCase(Locale.ROOT).equals(word.replace("bytes", "b"))) {
          return unit;
        }
      }
    }
    return null;
  }

  /** With groups of three apart as well. */
  private static boolean size(String sample) {
    try {
      Values.size(sample.replaceAll("(?<=\\d)[,' \u00a0](?=\\d{3})", ""));
      return true;
    } catch (WrongValue e) {
      return false;
    }
  }
}
