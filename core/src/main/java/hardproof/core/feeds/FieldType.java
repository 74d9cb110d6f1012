package hardproof.core.feeds;

import hardproof.core.estate.Policy.CopyTarget;
import hardproof.core.estate.Selector;
import hardproof.core.ladder.Rung;
import hardproof.core.schedule.HoursOfDay;
import hardproof.core.schedule.Schedule;
import hardproof.core.wording.Coded;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.function.BiFunction;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * What a field holds: how it is read from a file, written to one in one spelling (times RFC 3339 in UTC, durations
 * ISO 8601, sizes in bytes), and kept. What is kept is a whole number or a text.
 *
 * @param words for people, such as "a time"
 * @param longest characters that a value may have at the most
 * @param shape what may stand in it
 * @param number whether it is kept as a whole number
 * @param codes what it may be, in order; empty where it is no code
 * @param nothing what stands for a field that is empty; null but for lists
 */
public record FieldType<V>(
    String words,
    int longest,
    Shape shape,
    boolean number,
    List<V> codes,
    @Nullable V nothing,
    BiFunction<RowReader, String, @Nullable V> reader,
    BiFunction<V, Notation, @Nullable String> writer,
    BiFunction<V, Notation, @Nullable Object> keeper,
    BiFunction<Object, KeptRow, V> restorer) {
  private static final int VALUE = 500;
  private static final int LIST_LENGTH = 20_000;

  /** What may stand in a value. */
  public enum Shape {
    /** What names something, or a place. */
    ONE_LINE,
    /** No control characters but those that part lines and words. */
    LINES,
    /** Free text, which may hold anything. */
    ANYTHING
  }

  /** How a text is read. */
  private interface Reads<V> extends BiFunction<RowReader, String, @Nullable V> {}

  private static FieldType<String> text(String words, int longest, Shape shape) {
    return text(words, longest, shape, RowReader::text);
  }

  private static FieldType<String> text(
      String words, int longest, Shape shape, Reads<String> reader) {
    return new FieldType<>(
        words,
        longest,
        shape,
        false,
        List.of(),
        null,
        reader,
        (v, n) -> v,
        (v, n) -> v,
        (kept, row) -> (String) kept);
  }

  private static <V> FieldType<V> number(
      String words, Reads<V> reader, Function<V, Long> keeper, Function<Long, V> restorer) {
    return number(words, reader, Object::toString, keeper, restorer);
  }

  private static <V> FieldType<V> number(
      String words,
      Reads<V> reader,
      Function<V, String> writer,
      Function<V, Long> keeper,
      Function<Long, V> restorer) {
    return new FieldType<>(
        words,
        VALUE,
        Shape.LINES,
        true,
        List.of(),
        null,
        reader,
        (v, n) -> writer.apply(v),
        (v, n) -> keeper.apply(v),
        (kept, row) -> restorer.apply((Long) kept));
  }

  /** A value that is kept as it is written. */
  private static <V> FieldType<V> asWritten(
      String words,
      int longest,
      List<V> codes,
      @Nullable V nothing,
      Reads<V> reader,
      Function<V, @Nullable String> writer,
      Function<String, V> restorer) {
    return new FieldType<>(
        words,
        longest,
        Shape.LINES,
        false,
        codes,
        nothing,
        reader,
        (v, n) -> writer.apply(v),
        (v, n) -> writer.apply(v),
        (kept, row) -> restorer.apply((String) kept));
  }

  /** Names one thing. */
  static final FieldType<String> NAME = text("a name of one line", VALUE, Shape.ONE_LINE);

  static final FieldType<String> TEXT = text("a text", VALUE, Shape.LINES);
  static final FieldType<String> FREE = text("a text", LIST_LENGTH, Shape.ANYTHING);
  static final FieldType<String> PATH = text("a path", LIST_LENGTH, Shape.ONE_LINE);
  static final FieldType<String> PLACE = text(
      "a path below the store's",
      LIST_LENGTH,
      Shape.ONE_LINE,
      (r, field) -> r.with(field, Values::place));
  static final FieldType<String> SHA256 = text(
      "64 hexadecimal digits", VALUE, Shape.LINES, (r, field) -> r.with(field, Values::sha256));
  static final FieldType<String> FORMAT = text(
      "the format of an artifact",
      VALUE,
      Shape.LINES,
      (r, field) -> r.with(field, r.notation()::format));
  static final FieldType<String> ZONE =
      text("a time zone", VALUE, Shape.LINES, (r, field) -> r.with(field, FieldTexts::zone));

  /** That has been. */
  static final FieldType<Instant> PAST = number(
      "a time that has been",
      RowReader::past,
      FieldTexts::instant,
      Instant::toEpochMilli,
      Instant::ofEpochMilli);

  /** That may lie ahead. */
  static final FieldType<Instant> TIME = number(
      "a time", RowReader::time, FieldTexts::instant, Instant::toEpochMilli, Instant::ofEpochMilli);

  /** What an older version took of a length that is none counts as the longest there is. */
  static final FieldType<Duration> DURATION = number(
      "a duration",
      (r, field) -> r.with(field, Values::duration),
      Duration::toMillis,
      ms -> Duration.ofMillis(Math.min(ms, Values.LONGEST.toMillis())));

  static final FieldType<Long> SIZE =
      number("a size", (r, field) -> r.with(field, Values::size), Function.identity(), n -> n);
  static final FieldType<Long> COUNT =
      number("a whole number", RowReader::count, Function.identity(), n -> n);

  static FieldType<Integer> whole(int least, int most) {
    return number(
        "a whole number from " + least + " to " + most,
        (r, field) -> r.with(field, t -> Values.wholeNumber(t, least, most)),
        Integer::longValue,
        Long::intValue);
  }

  static final FieldType<Boolean> YES_NO = number(
      "yes or no",
      (r, field) -> r.with(field, Values::yesNo),
      yes -> yes ? 1L : 0L,
      number -> number == 1);

  static final FieldType<Boolean> PASSED = number(
      "passed or failed",
      (r, field) -> r.with(field, FieldTexts::passed),
      passed -> passed ? "passed" : "failed",
      passed -> passed ? 1L : 0L,
      number -> number == 1);

  static <E extends Enum<E> & Coded> FieldType<E> code(Class<E> type) {
    return asWritten(
        "one of " + Coded.codes(type),
        VALUE,
        List.of(type.getEnumConstants()),
        null,
        (r, field) -> r.code(field, type),
        Coded::code,
        code -> Coded.of(type, code));
  }

  static final FieldType<Rung> RUNG = asWritten(
      "a rung, by its number or name",
      VALUE,
      List.of(Rung.values()),
      null,
      (r, field) -> r.with(field, FieldTexts::rung),
      Rung::code,
      code -> Coded.of(Rung.class, code));
  static final FieldType<List<String>> LIST = asWritten(
      "a list, with semicolons between",
      LIST_LENGTH,
      List.of(),
      List.of(),
      (r, field) -> r.with(field, Values::list),
      FieldTexts::joined,
      Values::list);
  static final FieldType<Map<String, String>> TAGS = asWritten(
      "name=value, with semicolons between",
      LIST_LENGTH,
      List.of(),
      Map.of(),
      (r, field) -> r.with(field, Values::tags),
      tags -> FieldTexts.joined(
          tags.entrySet().stream().map(e -> e.getKey() + "=" + e.getValue()).toList()),
      Values::tags);
  static final FieldType<List<CopyTarget>> COPY_TARGETS = asWritten(
      "store:deadline, with semicolons between",
      LIST_LENGTH,
      List.of(),
      List.of(),
      (r, field) -> r.with(field, FieldTexts::targets),
      targets -> FieldTexts.joined(
          targets.stream().map(t -> t.store() + ":" + t.deadline()).toList()),
      FieldTexts::targets);
  static final FieldType<HoursOfDay> HOURS = asWritten(
      "hours of the day, such as 22:00-06:00",
      VALUE,
      List.of(),
      null,
      (r, field) -> r.with(field, HoursOfDay::parse),
      HoursOfDay::text,
      HoursOfDay::parse);

  static final FieldType<Selector> SELECTOR = new FieldType<>(
      "a selector in JSON",
      LIST_LENGTH,
      Shape.LINES,
      false,
      List.of(),
      null,
      (r, field) -> r.with(field, r.notation()::selector),
      (selector, notation) -> notation.json(selector),
      (selector, notation) -> notation.json(selector),
      (kept, row) -> row.notation().selector((String) kept));

  /** Together with its zone, which is a field of its own. */
  static FieldType<Schedule> schedule(String zoneField) {
    return new FieldType<>(
        "an interval, a cron line or a recurrence rule",
        VALUE,
        Shape.LINES,
        false,
        List.of(),
        null,
        (r, field) -> {
          String zone = r.quietly(zoneField, FieldTexts::zone);
          return r.with(field, text -> FieldTexts.schedule(text, zone, r.notation()));
        },
        (schedule, notation) -> schedule.toString(),
        (schedule, notation) -> schedule.text(),
        (kept, row) -> FieldTexts.keptSchedule((String) kept, row.text(zoneField), row.notation()));
  }
}
