package hardproof.core.wording;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** An enum constant with the one spelling that files, JSON, SQL and the screen share. */
public interface Coded {
  /** The constant's name in lower case with hyphens, such as {@code read-through}. */
  default String code() {
    Enum<?> constant = (Enum<?>) this;
    return Codes.OF.get(constant.getDeclaringClass()).inOrder().get(constant.ordinal());
  }

  /** The codes of one enum, worked out once: files of a million rows are full of them. */
  record Codes(List<String> inOrder, Map<String, Object> constants) {
    private static final ClassValue<Codes> OF = new ClassValue<>() {
      @Override
      protected Codes computeValue(Class<?> type) {
        Map<String, Object> constants = new LinkedHashMap<>();
        for (Object constant : type.getEnumConstants()) {
          String name = ((Enum<?>) constant).name();
          constants.put(name.toLowerCase(Locale.ROOT).replace('_', '-'), constant);
        }
        return new Codes(List.copyOf(constants.keySet()), constants);
      }
    };
  }

  /** The constant whose code is {@code code}, ignoring case; empty when there is none. */
  static <E extends Enum<E> & Coded> Optional<E> find(Class<E> type, String code) {
    Map<String, Object> constants = Codes.OF.get(type).constants();
    Object constant = constants.get(code);
    if (constant == null) {
      constant =
          constants.get(code.trim().toLowerCase(Locale.ROOT).replace('_', '-').replace(' ', '-'));
    }
    return Optional.ofNullable(type.cast(constant));
  }

  /**
   * The constant whose code is {@code code}.
   *
   * @throws WrongValue naming the codes that exist, when there is none
   */
  static <E extends Enum<E> & Coded> E of(Class<E> type, String code) {
    return find(type, code)
        .orElseThrow(() -> new WrongValue("'" + code + "' is not one of " + codes(type)));
  }

  /** All codes of {@code type}, in order, with commas. */
  static <E extends Enum<E> & Coded> String codes(Class<E> type) {
    return String.join(", ", Codes.OF.get(type).inOrder());
  }
}
