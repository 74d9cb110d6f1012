package hardproof.proving.boot;

import java.util.HashMap;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * What a machine says of its own services over the serial line, a line each:
 * {@code @PROBE nonce=N service=http:8080 result=ok @END}. Only lines with the nonce of this run count; one
 * that is not finished does not.
 */
public final class ServiceReports {
  private static final Pattern LINE = Pattern.compile(
      "@PROBE nonce=([0-9a-f]{8,64}) service=([A-Za-z0-9._:/-]{1,100}) result=([a-z-]{1,20})[^@\\n]{0,200}@END");

  private ServiceReports() {}

  /** Service to result, of the last line about it. */
  public static Map<String, String> of(String serial, String nonce) {
    Map<String, String> results = new HashMap<>();
    Matcher matcher = LINE.matcher(serial);
    while (matcher.find()) {
      if (matcher.group(1).equals(nonce)) {
        results.put(matcher.group(2), matcher.group(3));
      }
    }
    return results;
  }
}
