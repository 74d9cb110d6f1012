package hardproof.core.feeds;

import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/** Reads the fields of one row and gathers everything that is wrong with it. */
final class RowReader {
  /** How far ahead of our clock another machine's clock may be. */
  static final Duration CLOCK_SKEW = Duration.ofMinutes(10);

  /** A century and a day, in seconds. */
  private static final long FARTHEST = 36_526L * 86_400;

  private final String file;
  private final RawRow row;
  private final Instant now;
  private final List<Rejection> rejections = new ArrayList<>();

  RowReader(String file, BundleFile type, RawRow row, Instant now) {
    this.file = file;
    this.row = row;
    this.now = now;
    for (BundleFile.Field field : type.fields()) {
      String value = row.values().get(field.name());
      if (value == null) {
        if (field.required()) {
          rejections.add(
              new Rejection(file, row.line(), field.name(), null, "is required and is empty"));
        }
      } else if (value.length() > field.longest()) {
        reject(field.name(), "is longer than " + field.longest() + " characters");
      } else if (!field.text() && controls(value, field.oneLine())) {
        reject(
            field.name(),
            "holds a control character" + (field.oneLine() ? ", such as a line break" : ""));
      }
    }
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

  String text(String field) {
    return row.values().get(field);
  }

  private <T> T read(String field, Function<String, T> reader) {
    String text = text(field);
    if (text == null || rejected(field)) {
      return null;
    }
    try {
      return reader.apply(text);
    } catch (WrongValue e) {
      reject(field, e.getMessage());
      return null;
    }
  }

  /** A time that can lie ahead, such as an expiry; at most a century from now. */
  Instant time(String field) {
    Instant time = read(field, Values::time);
    if (time != null && time.isBefore(Instant.EPOCH)) {
      reject(field, "is before 1970");
      return null;
    }
    if (time != null && time.getEpochSecond() - now.getEpochSecond() >= FARTHEST) {
      reject(field, "is more than a century ahead");
      return null;
    }
    return time;
  }

  /** A time that has been. */
  Instant past(String field) {
    Instant time = time(field);
    boolean ahead = time != null && time.isAfter(now);
    if (ahead && time.isAfter(now.plus(CLOCK_SKEW))) {
      reject(field, "lies in the future; it is " + now + " now");
      return null;
    }
    return time;
  }

  Duration duration(String field) {
    return read(field, Values::duration);
  }

  Long size(String field) {
    return read(field, Values::size);
  }

  /** How many of something: zero or more. */
  Long count(String field) {
    return read(field, t -> (long) Values.wholeNumber(t, 0, Integer.MAX_VALUE));
  }

  Integer wholeNumber(String field, int least, int most) {
    return read(field, t -> Values.wholeNumber(t, least, most));
  }

  Boolean yesNo(String field) {
    return read(field, Values::yesNo);
  }

  List<String> list(String field) {
    List<String> list = read(field, Values::list);
    return list == null ? List.of() : list;
  }

  Map<String, String> tags(String field) {
    Map<String, String> tags = read(field, Values::tags);
    return tags == null ? Map.of() : tags;
  }

  String sha256(String field) {
    return read(field, Values::sha256);
  }

  String place(String field) {
    return read(field, Values::place);
  }

  <T> T with(String field, Function<String, T> reader) {
    return read(field, reader);
  }

  <E extends Enum<E> & Coded> E code(String field, Class<E> type, E whenEmpty) {
    E code = read(
        field,
        t -> Coded.find(type, t)
            .orElseThrow(() -> new WrongValue("is not one of " + Coded.codes(type))));
    return code == null ? whenEmpty : code;
  }
}
