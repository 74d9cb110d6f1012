package hardproof.proving.applications;

import java.util.List;
import java.util.Map;

/** Fields of an object as YAML gave them; what is not there, or of another kind, is empty. */
final class Fields {
  private Fields() {}

  static Map<?, ?> asMap(Object value) {
    return value instanceof Map<?, ?> map ? map : Map.of();
  }

  /** The map at the end of a way through maps. */
  static Map<?, ?> map(Object of, String... way) {
    Object at = of;
    for (String field : way) {
      at = asMap(at).get(field);
    }
    return asMap(at);
  }

  static List<?> list(Object of, String field) {
    return asMap(of).get(field) instanceof List<?> list ? list : List.of();
  }

  /** Null when there is none. */
  static String text(Object of, String field) {
    Object value = asMap(of).get(field);
    return value == null || value instanceof Map || value instanceof List
        ? null
        : String.valueOf(value);
  }
}
