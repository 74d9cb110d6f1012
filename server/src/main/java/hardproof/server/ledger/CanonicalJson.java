package hardproof.server.ledger;

import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.erdtman.jcs.JsonCanonicalizer;
import tools.jackson.databind.json.JsonMapper;

/** JSON in the one form that RFC 8785 gives it, so that the same facts are the same bytes whoever writes them. */
public final class CanonicalJson {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  /** Larger whole numbers are not the same number to everybody who reads JSON (RFC 8785, section 3.2.2.3). */
  private static final long LARGEST = 1L << 53;

  private CanonicalJson() {}

  /**
   * @param object of texts, whole numbers, booleans, nulls, and lists and objects of them; a whole number beyond 2^53
   *     is written as text
   */
  public static String of(Map<String, ?> object) {
    try {
      return new JsonCanonicalizer(JSON.writeValueAsString(safe(object))).getEncodedString();
    } catch (IOException e) {
      throw new IllegalStateException("what we write is JSON", e);
    }
  }

  private static Object safe(Object value) {
    if (value instanceof Long n && (n > LARGEST || n < -LARGEST)) {
      return n.toString();
    } else if (value instanceof String text) {
      return whole(text);
    } else if (value instanceof List<?> list) {
      return list.stream().map(CanonicalJson::safe).toList();
    } else if (value instanceof Map<?, ?> map) {
      Map<String, Object> all = new TreeMap<>();
      map.forEach((k, v) -> all.put(whole((String) k), safe(v)));
      return all;
    }
    return value;
  }

  /** Half of a pair of surrogates is no character: what comes of it depends on who writes it. */
  private static String whole(String text) {
    StringBuilder whole = new StringBuilder(text.length());
    text.codePoints()
        .forEach(
            c -> whole.appendCodePoint(Character.getType(c) == Character.SURROGATE ? 0xfffd : c));
    return whole.toString();
  }
}
