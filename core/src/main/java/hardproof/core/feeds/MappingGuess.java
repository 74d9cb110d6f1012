package hardproof.core.feeds;

import hardproof.core.copies.CopyState;
import hardproof.core.estate.Job;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Medium;
import hardproof.core.points.Form;
import hardproof.core.points.PointOutcome;
import hardproof.core.wording.Coded;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.regex.Pattern;

/** Guesses which column of somebody else's export is which field: by its name, then by its content. */
public final class MappingGuess {
  private static final Pattern TIME = Pattern.compile(
      "\\d{4}-\\d{2}-\\d{2}[ T]\\d{2}:\\d{2}.*|\\d{1,2}[./]\\d{1,2}[./]\\d{4}.*|1[0-9]{9}|1[0-9]{12}");
  private static final Pattern SIZE =
      Pattern.compile("(?i)\\d+(\\.\\d+)?\\s*([kmgt]i?b?|b|bytes)?");

  /** Words that exports use for a field; common practice, no source. */
  private static final Map<String, List<String>> SYNONYMS = Map.ofEntries(
      Map.entry("key", List.of("id", "uuid", "identifier", "number", "session", "reference")),
      Map.entry("name", List.of("display", "title", "hostname", "label")),
      Map.entry(
          "resource",
          List.of(
              "client", "host", "machine", "vm", "server", "source", "object", "asset", "system")),
      Map.entry("workload", List.of("service", "application", "app", "business")),
      Map.entry("owner", List.of("responsible", "contact", "team")),
      Map.entry("tier", List.of("criticality", "class", "priority")),
      Map.entry("policy", List.of("plan", "schedule", "group", "rule")),
      Map.entry(
          "store",
          List.of("target", "repository", "destination", "pool", "storage", "bucket", "location")),
      Map.entry("form", List.of("type", "level", "method", "mode")),
      Map.entry("based_on", List.of("parent", "base", "previous")),
      Map.entry("data_time", List.of("snapshot", "timestamp", "point", "created")),
      Map.entry("started", List.of("start", "begin", "begun")),
      Map.entry(
          "available", List.of("end", "ended", "finish", "finished", "completed", "complete")),
      Map.entry("ended", List.of("end", "finish", "finished", "completed", "complete")),
      Map.entry("finished", List.of("end", "ended", "completed", "copied")),
      Map.entry("outcome", List.of("status", "result", "state", "success")),
      Map.entry("state", List.of("status", "result")),
      Map.entry("size", List.of("bytes", "volume", "capacity", "used", "gb", "mb")),
      Map.entry("bytes", List.of("size", "transferred", "volume", "gb", "mb")),
      Map.entry("message", List.of("error", "reason", "details", "comment", "description")),
      Map.entry("expires", List.of("expiry", "expiration", "retention", "until")),
      Map.entry("locked_until", List.of("lock", "immutable", "hold")),
      Map.entry("kind", List.of("type", "platform", "category")),
      Map.entry("site", List.of("location", "datacenter", "building")),
      Map.entry("medium", List.of("type", "media")));

  private MappingGuess() {}

  /** A column of an export with the first of its values. */
  public record Column(String name, List<String> samples) {}

  /** By field, the column that fits best; fields for which none does are left out. */
  public static Map<String, String> guess(BundleFile file, List<Column> columns) {
    record Fit(String field, String column, int score) {}
    List<Fit> fits = new ArrayList<>();
    for (Field<?, ?> field : file.columns()) {
      for (Column column : columns) {
        int score = score(field, column);
        if (score > 0) {
          fits.add(new Fit(field.name(), column.name(), score + (field.required() ? 1 : 0)));
        }
      }
    }
    fits.sort(Comparator.comparing(Fit::score).reversed());
    Map<String, String> guessed = new LinkedHashMap<>();
    Set<String> taken = new HashSet<>();
    for (Fit fit : fits) {
      if (!guessed.containsKey(fit.field()) && taken.add(fit.column())) {
        guessed.put(fit.field(), fit.column());
      }
    }
    return guessed;
  }

  /** Same name 100; a synonym 50; a shared word 30; and what it holds must not speak against it. */
  private static int score(Field<?, ?> field, Column column) {
    int byName = byName(field, column);
    Integer byContent = content(field, column.samples());
    if (byContent == null) {
      return byName;
    }
    return byContent < 0 ? 0 : byName == 0 ? byContent : byName + byContent;
  }

  private static int byName(Field<?, ?> field, Column column) {
    List<String> words = words(column.name());
    List<String> wanted = words(field.name());
    int byName = 0;
    if (words.equals(wanted)) {
      byName = 100;
    } else if (words.containsAll(wanted)) {
      byName = 60;
    } else if (SYNONYMS.getOrDefault(field.name(), List.of()).stream().anyMatch(words::contains)) {
      byName = 50;
    } else if (wanted.stream().anyMatch(words::contains)) {
      byName = 30;
    }
    return byName;
  }

  private static List<String> words(String name) {
    String apart = name.replaceAll("([a-z])([A-Z])", "$1 $2").toLowerCase(Locale.ROOT);
    List<String> words = new ArrayList<>();
    for (String word : apart.split("[^a-z0-9]+")) {
      if (!word.isEmpty()) {
        words.add(word);
      }
    }
    return words;
  }

  /** Null where any text would do; negative where the samples can't be this field. */
  private static Integer content(Field<?, ?> field, List<String> samples) {
    List<String> given = samples.stream().filter(s -> !s.isBlank()).toList();
    if (given.isEmpty()) {
      return null;
    }
    if (field.isTime()) {
      return all(given, s -> TIME.matcher(s).matches()) ? 5 : -1;
    } else if (field.type() == FieldType.SIZE) {
      return all(given, s -> SIZE.matcher(s).matches()) ? 3 : -1;
    }
    return byCode(field, given);
  }

  private static Integer byCode(Field<?, ?> field, List<String> given) {
    return switch (field.name()) {
      case "kind" -> codes(Kind.class, given);
      case "medium" -> codes(Medium.class, given);
      case "form" -> codes(Form.class, given);
      case "state" -> codes(CopyState.class, given);
      case "type" -> codes(Job.Type.class, given);
      case "outcome" -> Math.max(codes(PointOutcome.class, given), codes(Job.Result.class, given));
      default -> null;
    };
  }

  private static <E extends Enum<E> & Coded> int codes(Class<E> type, List<String> samples) {
    return all(samples, s -> Coded.find(type, s).isPresent()) ? 20 : 0;
  }

  private static boolean all(List<String> samples, Predicate<String> test) {
    return samples.stream().allMatch(test);
  }
}
