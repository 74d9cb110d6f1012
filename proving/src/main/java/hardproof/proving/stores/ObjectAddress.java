package hardproof.proving.stores;

import hardproof.core.wording.WrongValue;
import java.net.URI;
import java.net.URISyntaxException;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Where an object store is, and which part of it.
 *
 * @param endpoint {@code https://host[:port]}, or {@code http://} where the way there is safe
 * @param region what requests are signed for; any name does for stores that have none
 * @param prefix what all keys begin with, ended by /; empty for the whole bucket
 * @param pathStyle the bucket stands in the path of addresses and not in the name of the host
 * @param ca certificates as PEM that are trusted, and no others; null for those that this system trusts
 */
public record ObjectAddress(
    URI endpoint,
    String region,
    String bucket,
    String prefix,
    boolean pathStyle,
    @Nullable String ca) {
  private static final List<String> WEB = List.of("http", "https");

  /**
   * Of what a person wrote.
   *
   * @throws WrongValue saying which part is none, and how it is written
   */
  public static ObjectAddress of(
      String endpoint,
      String region,
      String bucket,
      @Nullable String prefix,
      boolean pathStyle,
      @Nullable String ca) {
    if (bucket.isBlank() || bucket.contains("/")) {
      throw new WrongValue("'" + bucket + "' is no name of a bucket");
    }
    String begin = prefix == null ? "" : prefix.strip();
    begin = begin.isEmpty() || begin.endsWith("/") ? begin : begin + "/";
    if (outside(begin)) {
      throw new WrongValue("the prefix '" + prefix + "' leads out of itself; write it as a/b/");
    }
    return new ObjectAddress(
        endpoint(endpoint.strip()),
        region == null || region.isBlank() ? "us-east-1" : region.strip(),
        bucket.strip(),
        begin,
        pathStyle,
        ca == null || ca.isBlank() ? null : ca.strip());
  }

  private static URI endpoint(String written) {
    try {
      URI uri = new URI(written);
      boolean web =
          uri.getScheme() != null && WEB.contains(uri.getScheme()) && uri.getHost() != null;
      boolean plain = uri.getUserInfo() == null && uri.getQuery() == null;
      if (web && plain && (uri.getPath() == null || uri.getPath().length() <= 1)) {
        return new URI(uri.getScheme(), null, uri.getHost(), uri.getPort(), null, null, null);
      }
    } catch (URISyntaxException e) {
      // Said below.
    }
    throw new WrongValue("'" + written
        + "' is no endpoint; write it as https://host or https://host:port, without bucket or key");
  }

  /** Whether one of the parts between / leads upwards: whatever stands between may take it for that. */
  static boolean outside(String place) {
    for (String part : place.split("/", -1)) {
      if (part.equals("..") || part.equals(".")) {
        return true;
      }
    }
    return false;
  }

  /** For messages. */
  public String words() {
    return "bucket " + bucket + (prefix.isEmpty() ? "" : ", " + prefix) + " at " + endpoint;
  }
}
