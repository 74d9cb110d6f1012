package hardproof.core.recipes;

import hardproof.core.feeds.Field;
import hardproof.core.feeds.RawRow;
import hardproof.core.feeds.Rejection;
import hardproof.core.wording.WrongValue;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Makes rows of one kind out of the rows of a report, for one reading of it: it remembers which keys have come. */
public final class RowShaper {
  private final String file;
  private final Output output;
  private final TimeReading times;
  private final Expressions.@Nullable Condition when;
  private final Map<String, Expressions.Text> worked = new HashMap<>();
  private final Set<List<String>> seen = new HashSet<>();
  private final List<Field<?, ?>> keys;
  private final Row row = new Row();

  /**
   * What became of a row.
   *
   * @param row null where it gives none
   * @param rejection why it gives none; null where the recipe leaves it out
   */
  public record Shaped(@Nullable RawRow row, @Nullable Rejection rejection) {}

  private static final Shaped LEFT_OUT = new Shaped(null, null);

  /**
   * @param file name of the report
   * @throws WrongValue when an expression can't be right
   */
  public RowShaper(String file, Recipe recipe, Output output, Expressions expressions) {
    this.file = file;
    this.output = output;
    this.times = recipe.times();
    this.when = output.when() == null ? null : expressions.condition(output.when());
    output.fields().forEach((field, rule) -> {
      if (rule.expression() != null) {
        try {
          worked.put(field, expressions.text(rule.expression()));
        } catch (WrongValue e) {
          throw new WrongValue(
              "in " + output.file().code() + "." + field + ": " + e.getMessage(), e);
        }
      }
    });
    this.keys = List.copyOf(output.file().kind().keys());
  }

  /** Columns that it asks for: those of rules as they are named there, those of expressions by their names there. */
  public Set<String> asked() {
    Set<String> asked = new LinkedHashSet<>();
    if (when != null) {
      asked.addAll(when.columns());
    }
    worked.values().forEach(e -> asked.addAll(e.columns()));
    for (FieldRule rule : output.fields().values()) {
      if (rule.column() != null) {
        asked.add(Expressions.name(rule.column()));
      }
    }
    return asked;
  }

  /** The fields of a row by what expressions call them. */
  private static final class Row implements Expressions.Columns {
    private final Map<String, String> columns = new HashMap<>();
    private RawRow row = new RawRow(0, Map.of());

    @Override
    public @Nullable String get(String name) {
      String column = columns.get(name);
      if (column == null) {
        column = row.values().keySet().stream()
            .filter(c -> Expressions.name(c).equals(name))
            .findFirst()
            .orElse(null);
        if (column == null) {
          return null;
        }
        columns.put(name, column);
      }
      return row.values().get(column);
    }

    @Override
    public RawRow row() {
      return row;
    }
  }

  /**
   * @param given with the columns of the report, by their names in lower case
   */
  public Shaped shape(RawRow given) {
    row.row = given;
    try {
      if (when != null && !when.holds(row)) {
        return LEFT_OUT;
      }
    } catch (WrongValue e) {
      return new Shaped(
          null,
          new Rejection(
              file, given.line(), null, output.when(), "whether it counts " + e.getMessage()));
    }
    Map<String, String> shaped = new LinkedHashMap<>();
    for (Map.Entry<String, FieldRule> e : output.fields().entrySet()) {
      String found = null;
      try {
        Expressions.Value value = found(e.getKey(), e.getValue());
        found = value.text();
        String made = made(e.getKey(), e.getValue(), value);
        if (made != null && !made.isBlank()) {
          shaped.put(e.getKey(), made);
        }
      } catch (WrongValue w) {
        return new Shaped(
            null, new Rejection(file, given.line(), e.getKey(), found, w.getMessage()));
      }
    }
    if (output.once() && !first(shaped)) {
      return LEFT_OUT;
    }
    return new Shaped(new RawRow(given.line(), shaped), null);
  }

  /** A row without a key is none that came before: that it has no key is said of it where it is taken. */
  private boolean first(Map<String, String> shaped) {
    List<String> key = new ArrayList<>();
    for (Field<?, ?> field : keys) {
      String part = shaped.get(field.name());
      if (part == null) {
        return true;
      }
      key.add(part);
    }
    return seen.add(key);
  }

  private Expressions.Value found(String field, FieldRule rule) {
    if (rule.expression() != null) {
      return worked.get(field).of(row);
    }
    String column = rule.column();
    return new Expressions.Value(
        column == null ? null : row.row.values().get(column.toLowerCase(Locale.ROOT)), false);
  }

  private @Nullable String made(String name, FieldRule rule, Expressions.Value value) {
    String text = value.text();
    if (text == null || text.isBlank()) {
      return rule.otherwise();
    }
    text = text.strip();
    String meaning = rule.meanings().get(text);
    if (meaning != null) {
      return meaning;
    }
    Field<?, ?> field = output.file().column(name);
    if (field.isTime()) {
      return value.instant() || !times.says() ? text : times.instant(text).toString();
    }
    String number = field.units().isEmpty() ? null : number(text);
    return number == null ? text : withUnit(field, number, rule.unit());
  }

  private static String withUnit(Field<?, ?> field, String number, @Nullable String unit) {
    if (unit == null) {
      return number;
    }
    if (!field.units().contains("s")) {
      return number + " " + unit;
    }
    double seconds = Double.parseDouble(number) * secondsIn(unit);
    return Duration.ofMillis(Math.round(seconds * 1000)).toString();
  }

  /** Groups of three may be set apart; with a comma alone nobody knows which it is, so that it is no number. */
  private static @Nullable String number(String text) {
    String plain = text.matches("\\d{1,3}(,\\d{3})+\\.\\d+|\\d{1,3}(,\\d{3}){2,}")
        ? text.replace(",", "")
        : text.matches("\\d{1,3}([ \u00a0'\u202f]\\d{3})+(\\.\\d+)?")
            ? text.replaceAll("[^\\d.]", "")
            : text;
    return plain.matches("\\d+(\\.\\d+)?") ? plain : null;
  }

  private static int secondsIn(String unit) {
    return switch (unit) {
      case "s" -> 1;
      case "m" -> 60;
      case "h" -> 3600;
      case "d" -> 86_400;
      default ->
        throw new WrongValue("is a duration, which '" + unit + "' is no unit of; use s, m, h or d");
    };
  }
}
