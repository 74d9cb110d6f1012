package hardproof.core.feeds;

import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** Reads the fields of one row and gathers everything that is wrong with it. */
final class RowReader {
  /** How far ahead of our clock another machine's clock may be. */
  static final Duration CLOCK_SKEW = Duration.ofMinutes(10);

  /** A century and a day, in seconds. */
  private static final long FARTHEST = 36_526L * 86_400;

  private final String file;
  private final RawRow row;
  private final FactReader reader;
  private final List<Rejection> rejections = new ArrayList<>();

  /** By place: a row is asked for each field once, which counts in a file of a million rows. */
  private final @Nullable String[] texts;

  /** The field that is being read, and its text. */
  private String at = "";

  private @Nullable String textAt;

  RowReader(String file, FactKind<?> kind, RawRow row, FactReader reader) {
    this.file = file;
    this.row = row;
    this.reader = reader;
    this.texts = new String[kind.fields().size()];
    for (Field<?, ?> field : kind.fields()) {
      if (!field.ours()) {
        texts[field.place()] = row.values().get(field.name());
        look(field, texts[field.place()]);
      }
    }
  }

  private void look(Field<?, ?> field, @Nullable String value) {
    FieldType<?> type = field.type();
    if (value == null) {
      if (field.required()) {
        reject(field.name(), "is required and is empty");
      }
    } else if (value.length() > type.longest()) {
      reject(field.name(), "is longer than " + type.longest() + " characters");
    } else if (type.shape() != FieldType.Shape.ANYTHING) {
      lookForControls(field, value, type);
    }
  }

  private void lookForControls(Field<?, ?> field, @Nullable String value, FieldType<?> type) {
    boolean oneLine = type.shape() == FieldType.Shape.ONE_LINE;
    if (controls(value, oneLine)) {
      reject(field.name(), "holds a control character" + (oneLine ? ", such as a line break" : ""));
    }
  }

  Notation notation() {
    return reader.notation();
  }

  /** The value of a field; what stands for an empty one where it is empty or wrong. */
  <T, V> @Nullable V read(Field<T, V> field) {
    at = field.name();
    textAt = texts[field.place()];
    V value = textAt == null ? null : field.type().reader().apply(this, at);
    return value == null ? field.type().nothing() : value;
  }

  private static boolean controls(String value, boolean oneLine) {
    for (int i = 0; i < value.length(); i++) {
      char c = value.charAt(i);
      boolean space = !oneLine && (c == '\n' || c == '\r' || c == '\t');
      if (Character.isISOControl(c) && !space) {
        return true;
      }
    }
    return false;
  }

  List<Rejection> rejections() {
    return rejections;
  }

  boolean ok() {
    return rejections.isEmpty();
  }

  void reject(String field, String reason) {
    rejections.add(new Rejection(file, row.line(), field, row.values().get(field), reason));
  }

  /** What is wrong as a text is read no further. */
  private boolean rejected(String field) {
    for (Rejection rejection : rejections) {
      if (field.equals(rejection.field())) {
        return true;
      }
    }
    return false;
  }

  @Nullable
  String text(String field) {
    return field.equals(at) ? textAt : row.values().get(field);
  }

  <T> @Nullable T with(String field, Function<String, T> meaning) {
    String text = text(field);
    if (text == null || rejected(field)) {
      return null;
    }
    try {
      return meaning.apply(text);
    } catch (WrongValue e) {
      reject(field, e.getMessage());
      return null;
    }
  }

  /** As {@link #with}, where another says what is wrong with it. */
  <T> @Nullable T quietly(String field, Function<String, T> meaning) {
    String text = text(field);
    try {
      return text == null ? null : meaning.apply(text);
    } catch (WrongValue e) {
      return null;
    }
  }

  /** A time that can lie ahead, such as an expiry; at most a century from reader.now(). */
  Instant time(String field) {
    Instant time = with(field, Values::time);
    if (time != null && time.isBefore(Instant.EPOCH)) {
      reject(field, "is before 1970");
      return null;
    }
    if (time != null && time.getEpochSecond() - reader.now().getEpochSecond() >= FARTHEST) {
      reject(field, "is more than a century ahead");
      return null;
    }
    return time;
  }

  /** A time that has been. */
  Instant past(String field) {
    Instant time = time(field);
    boolean ahead = time != null && time.isAfter(reader.now());
    if (ahead && time.isAfter(reader.now().plus(CLOCK_SKEW))) {
      reject(field, "lies in the future; it is " + reader.now() + " now");
      return null;
    }
    return time;
  }

  /** How many of something: zero or more. */
  Long count(String field) {
    return with(field, t -> (long) Values.wholeNumber(t, 0, Integer.MAX_VALUE));
  }

  <E extends Enum<E> & Coded> E code(String field, Class<E> type) {
    return with(
        field,
        t -> Coded.find(type, t)
            .orElseThrow(() -> new WrongValue("is not one of " + Coded.codes(type))));
  }

  /**
   * Rejects the first of two times where it is before the second.
   *
   * @param sentence what is said then, before the second
   */
  <T> void notBefore(
      FactValues values, Field<T, Instant> later, Field<T, Instant> earlier, String sentence) {
    Instant from = values.of(earlier);
    Instant to = values.of(later);
    if (from != null && to != null && to.isBefore(from)) {
      reject(later.name(), sentence + from);
    }
  }
}
