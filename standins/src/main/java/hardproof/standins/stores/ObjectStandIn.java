package hardproof.standins.stores;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import com.sun.net.httpserver.HttpsConfigurator;
import com.sun.net.httpserver.HttpsServer;
import hardproof.standins.stores.ObjectShelf.Version;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicReference;
import javax.net.ssl.SSLContext;

/**
 * An object store that stands in for a rented one: what the S3 API needs for reading, on this computer only, with
 * sign-in, versions, locks and storage classes. It can be told to misbehave as real ones do.
 */
public final class ObjectStandIn implements AutoCloseable {
  private static final int PAGE = 1000;

  static {
    // Else each answer that has a body waits 40 ms for the other side to acknowledge its head.
    System.setProperty("sun.net.httpserver.nodelay", "true");
  }

  private final HttpServer server;
  private final ExecutorService threads = Executors.newCachedThreadPool(r -> {
    Thread thread = new Thread(r, "object-stand-in");
    thread.setDaemon(true);
    return thread;
  });
  private final Settings settings;
  private final Clock clock;
  private final AtomicReference<Fault> fault = new AtomicReference<>((e, key) -> false);

  /** What there is and who may read it. */
  public record Settings(
      String bucket,
      ObjectShelf shelf,
      String key,
      String secret,
      String region,
      boolean versions,
      boolean locks) {}

  /** Something that goes wrong; true when it has answered in place of the store. */
  public interface Fault {
    boolean befalls(HttpExchange request, String key) throws IOException;
  }

  private ObjectStandIn(Settings settings, HttpServer server, Clock clock) {
    this.settings = settings;
    this.clock = clock;
    this.server = server;
    server.createContext("/", this::answer);
    server.setExecutor(threads);
    server.start();
  }

  /**
   * @param port 0 for any that is free
   */
  public static ObjectStandIn start(Settings settings, int port, Clock clock) throws IOException {
    return new ObjectStandIn(settings, HttpServer.create(here(port), 0), clock);
  }

  /**
   * The same by TLS.
   *
   * @param tls with the certificate that it shows
   */
  public static ObjectStandIn start(Settings settings, int port, Clock clock, SSLContext tls)
      throws IOException {
    HttpsServer server = HttpsServer.create(here(port), 0);
    server.setHttpsConfigurator(new HttpsConfigurator(tls));
    return new ObjectStandIn(settings, server, clock);
  }

  private static InetSocketAddress here(int port) {
    return new InetSocketAddress(InetAddress.getLoopbackAddress(), port);
  }

  public URI endpoint() {
    return URI.create((server instanceof HttpsServer ? "https://localhost:" : "http://127.0.0.1:")
        + server.getAddress().getPort());
  }

  /** What is to go wrong from now on. */
  public void befall(Fault next) {
    fault.set(next);
  }

  private void answer(HttpExchange exchange) throws IOException {
    try (exchange) {
      Map<String, String> query = query(exchange.getRequestURI().getRawQuery());
      String path = SignedRequest.decoded(exchange.getRequestURI().getRawPath());
      String[] parts = path.substring(1).split("/", 2);
      String key = parts.length < 2 ? "" : parts[1];
      if (fault.get().befalls(exchange, key)) {
        return;
      }
      String refusal = SignedRequest.refusal(
          exchange, settings.key(), settings.secret(), settings.region(), clock.instant());
      if (refusal != null) {
        exchange.getResponseHeaders().set("x-amz-bucket-region", settings.region());
        refuse(exchange, refusal.equals("AuthorizationHeaderMalformed") ? 400 : 403, refusal);
      } else if (!parts[0].equals(settings.bucket())) {
        refuse(exchange, 404, "NoSuchBucket");
      } else if (key.isEmpty()) {
        bucket(exchange, query);
      } else {
        object(exchange, key, query);
      }
    }
  }

  private static Map<String, String> query(String raw) {
    Map<String, String> query = new HashMap<>();
    for (String pair : raw == null ? new String[0] : raw.split("&")) {
      int equals = pair.indexOf('=');
      query.put(
          SignedRequest.decoded(equals < 0 ? pair : pair.substring(0, equals)),
          equals < 0 ? "" : SignedRequest.decoded(pair.substring(equals + 1)));
    }
    return query;
  }

  private void bucket(HttpExchange exchange, Map<String, String> query) throws IOException {
    String prefix = query.getOrDefault("prefix", "");
    int most = Integer.parseInt(query.getOrDefault("max-keys", String.valueOf(PAGE)));
    if (query.containsKey("versions")) {
      if (settings.versions()) {
        xml(
            exchange,
            ObjectAnswers.versions(settings.shelf().now(), prefix, query.get("key-marker"), most));
      } else {
        refuse(exchange, 501, "NotImplemented");
      }
    } else if (query.containsKey("versioning")) {
      xml(exchange, ObjectAnswers.versioning(settings.versions()));
    } else {
      String token = query.get("continuation-token");
      xml(
          exchange,
          ObjectAnswers.list(
              settings.shelf().now(),
              prefix,
              token == null ? null : SignedRequest.decoded(token),
              most));
    }
  }

  private void object(HttpExchange exchange, String key, Map<String, String> query)
      throws IOException {
    List<Version> versions = settings.shelf().of(key);
    Version version = versions == null ? null : versions.get(0);
    if (version == null || version.deleted()) {
      if (version != null) {
        exchange.getResponseHeaders().set("x-amz-delete-marker", "true");
      }
      refuse(exchange, 404, "NoSuchKey");
    } else if (query.containsKey("retention") || query.containsKey("legal-hold")) {
      lock(exchange, version, query.containsKey("retention"));
    } else {
      headers(exchange, version);
      bytes(exchange, version);
    }
  }

  private void lock(HttpExchange exchange, Version version, boolean retention) throws IOException {
    if (!settings.locks()) {
      refuse(exchange, 501, "NotImplemented");
    } else if (version.lock() == null || retention && version.lock().until() == null) {
      refuse(exchange, 404, "NoSuchObjectLockConfiguration");
    } else {
      xml(
          exchange,
          retention
              ? ObjectAnswers.retention(version.lock())
              : ObjectAnswers.legalHold(version.lock().held()));
    }
  }

  private void headers(HttpExchange exchange, Version version) {
    var headers = exchange.getResponseHeaders();
    headers.set("ETag", '"' + version.tag() + '"');
    headers.set(
        "Last-Modified",
        DateTimeFormatter.RFC_1123_DATE_TIME.format(version.modified().atZone(ZoneOffset.UTC)));
    headers.set("x-amz-version-id", version.id());
    headers.set("Accept-Ranges", "bytes");
    if (!version.storageClass().equals("STANDARD")) {
      headers.set("x-amz-storage-class", version.storageClass());
    }
    if (settings.locks() && version.lock() != null) {
      if (version.lock().until() != null) {
        headers.set("x-amz-object-lock-mode", version.lock().mode());
        headers.set(
            "x-amz-object-lock-retain-until-date", version.lock().until().toString());
      }
      headers.set("x-amz-object-lock-legal-hold", version.lock().held() ? "ON" : "OFF");
    }
    boolean asked = "ENABLED".equals(exchange.getRequestHeaders().getFirst("x-amz-checksum-mode"));
    if (asked && version.sha256() != null) {
      headers.set("x-amz-checksum-sha256", version.sha256());
      headers.set("x-amz-checksum-type", "FULL_OBJECT");
    }
  }

  private void bytes(HttpExchange exchange, Version version) throws IOException {
    String match = exchange.getRequestHeaders().getFirst("If-Match");
    boolean head = exchange.getRequestMethod().equals("HEAD");
    long from = from(exchange.getRequestHeaders().getFirst("Range"));
    if (match != null && !match.replace("\"", "").equals(version.tag())) {
      refuse(exchange, 412, "PreconditionFailed");
    } else if (!head && List.of("GLACIER", "DEEP_ARCHIVE").contains(version.storageClass())) {
      refuse(exchange, 403, "InvalidObjectState");
    } else if (from > 0 && from >= version.size()) {
      refuse(exchange, 416, "InvalidRange");
    } else if (head) {
      exchange.getResponseHeaders().set("Content-Length", String.valueOf(version.size()));
      exchange.sendResponseHeaders(200, -1);
    } else {
      long left = version.size() - from;
      exchange.sendResponseHeaders(from > 0 ? 206 : 200, left == 0 ? -1 : left);
      try (InputStream in = version.bytes().open();
          OutputStream out = exchange.getResponseBody()) {
        in.skipNBytes(from);
        in.transferTo(out);
      }
    }
  }

  private static long from(String range) {
    return range == null
        ? 0
        : Long.parseLong(
            range.toLowerCase(Locale.ROOT).replace("bytes=", "").replaceAll("-.*", ""));
  }

  private static void xml(HttpExchange exchange, String text) throws IOException {
    send(exchange, 200, text);
  }

  /** Answers with a code, as an object store refuses. */
  public static void refuse(HttpExchange exchange, int status, String code) throws IOException {
    send(exchange, status, ObjectAnswers.error(code));
  }

  private static void send(HttpExchange exchange, int status, String text) throws IOException {
    boolean head = exchange.getRequestMethod().equals("HEAD");
    byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
    exchange.getResponseHeaders().set("Content-Type", "application/xml");
    exchange.sendResponseHeaders(status, head ? -1 : bytes.length);
    if (!head) {
      exchange.getResponseBody().write(bytes);
    }
  }

  @Override
  public void close() {
    server.stop(0);
    threads.shutdownNow();
  }
}
