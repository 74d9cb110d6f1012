package hardproof.standins.stores;

import com.sun.net.httpserver.HttpExchange;
import java.net.URLDecoder;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HexFormat;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/** Whether a request was signed as AWS Signature Version 4 asks for, with the secret that belongs to its key. */
final class SignedRequest {
  private static final Pattern AUTHORIZATION =
      Pattern.compile("AWS4-HMAC-SHA256 Credential=([^/]+)/(\\d{8})/([^/]+)/s3/aws4_request,\\s*"
          + "SignedHeaders=([^,]+),\\s*Signature=([0-9a-f]{64})");

  private static final DateTimeFormatter STAMP =
      DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);

  private static final Duration SKEW = Duration.ofMinutes(15);

  private SignedRequest() {}

  /** The code by which an object store refuses it; null when it is as it should be. */
  static String refusal(
      HttpExchange request, String key, String secret, String region, Instant now) {
    String written = request.getRequestHeaders().getFirst("Authorization");
    Matcher m = AUTHORIZATION.matcher(written == null ? "" : written);
    String stamp = request.getRequestHeaders().getFirst("X-Amz-Date");
    if (!m.matches() || stamp == null) {
      return "AccessDenied";
    } else if (!m.group(1).equals(key)) {
      return "InvalidAccessKeyId";
    } else if (!m.group(3).equals(region)) {
      return "AuthorizationHeaderMalformed";
    } else if (Duration.between(STAMP.parse(stamp, Instant::from), now).abs().compareTo(SKEW) > 0) {
      return "RequestTimeTooSkewed";
    }
    String scope = m.group(2) + "/" + m.group(3) + "/s3/aws4_request";
    String text = "AWS4-HMAC-SHA256\n" + stamp + "\n" + scope + "\n"
        + hex(sha256(canonical(request, m.group(4))));
    byte[] signing = ("AWS4" + secret).getBytes(StandardCharsets.UTF_8);
    for (String part : scope.split("/")) {
      signing = hmac(signing, part);
    }
    return hex(hmac(signing, text)).equals(m.group(5)) ? null : "SignatureDoesNotMatch";
  }

  private static String canonical(HttpExchange request, String signed) {
    StringBuilder text = new StringBuilder(request.getRequestMethod())
        .append('\n')
        .append(request.getRequestURI().getRawPath())
        .append('\n')
        .append(query(request.getRequestURI().getRawQuery()))
        .append('\n');
    for (String name : signed.split(";")) {
      text.append(name)
          .append(':')
          .append(String.join(",", request.getRequestHeaders().get(name)).strip())
          .append('\n');
    }
    return text.append('\n')
        .append(signed)
        .append('\n')
        .append(request.getRequestHeaders().getFirst("X-Amz-Content-Sha256"))
        .toString();
  }

  private static String query(String raw) {
    if (raw == null) {
      return "";
    }
    List<String> pairs = new ArrayList<>();
    for (String pair : raw.split("&")) {
      int equals = pair.indexOf('=');
      String name = equals < 0 ? pair : pair.substring(0, equals);
      String value = equals < 0 ? "" : pair.substring(equals + 1);
      pairs.add(encoded(decoded(name)) + "=" + encoded(decoded(value)));
    }
    Collections.sort(pairs);
    return String.join("&", pairs);
  }

  static String decoded(String text) {
    return URLDecoder.decode(text.replace("+", "%2B"), StandardCharsets.UTF_8);
  }

  /** As RFC 3986 has it, which is what the signature is of. */
  static String encoded(String text) {
    return URLEncoder.encode(text, StandardCharsets.UTF_8)
        .replace("+", "%20")
        .replace("*", "%2A")
        .replace("%7E", "~");
  }

  private static byte[] sha256(String text) {
    try {
      return MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8));
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(e);
    }
  }

  private static byte[] hmac(byte[] key, String text) {
    try {
      Mac mac = Mac.getInstance("HmacSHA256");
      mac.init(new SecretKeySpec(key, "HmacSHA256"));
      return mac.doFinal(text.getBytes(StandardCharsets.UTF_8));
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(e);
    }
  }

  private static String hex(byte[] bytes) {
    return HexFormat.of().formatHex(bytes);
  }
}
