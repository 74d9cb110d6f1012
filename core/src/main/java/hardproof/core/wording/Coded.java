package hardproof.core.wording;

import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;

/** An enum constant with the one spelling that files, JSON, SQL and the screen share. */
public interface Coded {
  /** The constant's name in lower case with hyphens, such as {@code read-through}. */
  default String code() {
    return ((Enum<?>) this).name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  /** The constant whose code is {@code code}, ignoring case; empty when there is none. */
  static <E extends Enum<E> & Coded> Optional<E> find(Class<E> type, String code) {
    String wanted = code.trim().toLowerCase(Locale.ROOT).replace('_', '-').replace(' ', '-');
    return Arrays.stream(type.getEnumConstants())
        .filter(e -> e.code().equals(wanted))
        .findFirst();
  }

  /**
   * The constant whose code is {@code code}.
   *
   * @throws IllegalArgumentException naming the codes that exist, when there is none
   */
  static <E extends Enum<E> & Coded> E of(Class<E> type, String code) {
    return find(type, code)
        .orElseThrow(
            () -> new IllegalArgumentException("'" + code + "' is not one of " + codes(type)));
  }

  /** All codes of {@code type}, in order, with commas. */
  static <E extends Enum<E> & Coded> String codes(Class<E> type) {
    return Arrays.stream(type.getEnumConstants())
        .map(Coded::code)
        .collect(Collectors.joining(", "));
  }
}
