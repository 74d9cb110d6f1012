package hardproof.server.fetching;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpsConfigurator;
import com.sun.net.httpserver.HttpsServer;
import hardproof.core.wording.WrongValue;
import hardproof.server.Estate;
import hardproof.server.outside.OutsideHosts;
import hardproof.server.recipes.RecipeStore;
import hardproof.server.stores.Secrets;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.http.HttpClient;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManagerFactory;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Fetching from a server with TLS, the JDK's, whose certificate its keytool made. */
class FetcherTest {
  private static final String STORES = "key,name,medium\nattic,Attic,tape\n";
  private static final char[] WORD = "changeit".toCharArray();

  @TempDir
  static Path keys;

  private static SSLContext tls;

  @TempDir
  Path folder;

  private Estate estate;
  private HttpsServer server;
  private FetchStore fetches;
  private OutsideHosts hosts;
  private final List<String> asked = new ArrayList<>();
  private final List<String> conditions = new ArrayList<>();

  /** What is answered. */
  private int status = 200;

  private String type = "text/csv";
  private byte[] body = STORES.getBytes(StandardCharsets.UTF_8);
  private Instant now = Estate.NOW;
  private Duration limit = Duration.ofMinutes(1);
  private final CountDownLatch over = new CountDownLatch(1);
  private boolean stops;

  @BeforeAll
  static void certificate() throws IOException, InterruptedException, GeneralSecurityException {
    Path store = keys.resolve("localhost.p12");
    Process made = new ProcessBuilder(
            Path.of(System.getProperty("java.home"), "bin", "keytool").toString(),
            "-genkeypair",
            "-alias",
            "localhost",
            "-keyalg",
            "EC",
            "-dname",
            "CN=localhost",
            "-ext",
            "san=dns:localhost",
            "-storetype",
            "PKCS12",
            "-keystore",
            store.toString(),
            "-storepass",
            "changeit",
            "-validity",
            "2")
        .redirectErrorStream(true)
        .redirectOutput(keys.resolve("log").toFile())
        .start();
    assertThat(made.waitFor(60, TimeUnit.SECONDS)).isTrue();
    KeyStore loaded = KeyStore.getInstance("PKCS12");
    try (InputStream in = Files.newInputStream(store)) {
      loaded.load(in, WORD);
    }
    KeyManagerFactory own = KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
    own.init(loaded, WORD);
    KeyStore trusted = KeyStore.getInstance("PKCS12");
    trusted.load(null, null);
    trusted.setCertificateEntry("localhost", loaded.getCertificate("localhost"));
    TrustManagerFactory trust =
        TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
    trust.init(trusted);
    tls = SSLContext.getInstance("TLS");
    tls.init(own.getKeyManagers(), trust.getTrustManagers(), null);
  }

  @BeforeEach
  void start() throws IOException {
    estate = new Estate(folder);
    server = HttpsServer.create(new InetSocketAddress("127.0.0.1", 0), 0);
    server.setHttpsConfigurator(new HttpsConfigurator(tls));
    server.createContext("/", this::answer);
    server.start();
    fetches = estate.installation.part(FetchStore.class);
    hosts = estate.installation.part(OutsideHosts.class);
    hosts.allow(List.of("localhost"), "edda", now);
  }

  @AfterEach
  void stop() {
    over.countDown();
    server.stop(0);
    estate.close();
  }

  private void answer(HttpExchange exchange) throws IOException {
    asked.add(
        exchange.getRequestURI() + " " + exchange.getRequestHeaders().getFirst("Authorization"));
    String condition = exchange.getRequestHeaders().getFirst("If-None-Match");
    conditions.add(String.valueOf(condition));
    exchange.getResponseHeaders().set("Content-Type", type);
    exchange.getResponseHeaders().set("ETag", "\"one\"");
    if ("\"one\"".equals(condition) && status == 200) {
      exchange.sendResponseHeaders(304, -1);
    } else if (stops) {
      exchange.sendResponseHeaders(status, 0);
      exchange.getResponseBody().write(body);
      exchange.getResponseBody().flush();
      awaitEnd();
    } else {
      exchange.sendResponseHeaders(status, body.length);
      exchange.getResponseBody().write(body);
    }
    exchange.close();
  }

  private void awaitEnd() {
    try {
      over.await(30, TimeUnit.SECONDS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  private Fetcher fetcher(HttpClient http, long most) {
    Clock clock = Clock.fixed(now, java.time.ZoneOffset.UTC);
    return new Fetcher(
        fetches,
        hosts,
        estate.installation.part(RecipeStore.class),
        new Delivering(estate.installation.importer(), clock),
        clock,
        () -> http,
        new Fetcher.Limits(most, limit));
  }

  private Fetcher fetcher() {
    return fetcher(HttpClient.newBuilder().sslContext(tls).build(), 1 << 20);
  }

  private Fetch fetch(String path, Fetch.Way way, String user) {
    return new Fetch(
        "attic list",
        URI.create("https://localhost:" + server.getAddress().getPort() + path),
        way,
        user,
        Duration.ofHours(6),
        null,
        null);
  }

  private Fetch.Outcome outcome() {
    return fetches.find("attic list").orElseThrow().outcome();
  }

  @Test
  void whatIsDueIsFetchedTakenAndNotSentAgain() {
    fetches.keep(fetch("/out/stores.csv", Fetch.Way.TOKEN, null), "s3cret", "edda", now);
    assertThat(fetcher().fetchWhatIsDue()).isEqualTo(1);
    assertThat(outcome().said()).isEqualTo("1 row new or changed");
    assertThat(outcome().failed()).isFalse();
    assertThat(asked).containsExactly("/out/stores.csv Bearer s3cret");
    assertThat(estate.installation.evaluations().now().estate().store("attic")).isNotNull();
    assertThat(fetcher().fetchWhatIsDue()).as("it is not due yet").isZero();
    now = now.plus(Duration.ofHours(6));
    assertThat(fetcher().fetchWhatIsDue()).isEqualTo(1);
    assertThat(outcome().said()).isEqualTo("nothing new there");
    assertThat(conditions).containsExactly("null", "\"one\"");
  }

  @Test
  void aUserAndAPasswordAreSaidAsRfc7617Has() {
    fetches.keep(fetch("/stores.csv", Fetch.Way.PASSWORD, "auditor"), "pä:ss", "edda", now);
    fetcher().fetchWhatIsDue();
    String sent = asked.get(0).replaceFirst(".* Basic ", "");
    assertThat(new String(Base64.getDecoder().decode(sent), StandardCharsets.UTF_8))
        .isEqualTo("auditor:pä:ss");
    assertThat(fetches.all().toString()).doesNotContain("pä:ss");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "401 | text/csv | what opens it is not believed there",
        "403 | text/csv | may not see this",
        "302 | text/csv | which leads elsewhere",
        "500 | text/csv | it was answered with status 500",
        "204 | text/csv | it was answered with status 204",
        "200 | text/html; charset=utf-8 | a web page was answered, and no report"
      })
  void whatCantBeTakenSaysWhyAndIsTriedAgainSooner(int answered, String as, String why) {
    fetches.keep(fetch("/stores.csv", Fetch.Way.NOTHING, null), null, "edda", now);
    status = answered;
    type = as;
    body = answered == 204 ? new byte[0] : body;
    fetcher().fetchWhatIsDue();
    assertThat(outcome().failed()).isTrue();
    assertThat(outcome().said()).contains(why);
    assertThat(Fetcher.next(fetches.find("attic list").orElseThrow(), now))
        .isEqualTo(now.plus(Fetcher.AGAIN));
    assertThat(estate.installation.evaluations().now().estate().store("attic")).isNull();
  }

  @Test
  void nothingOfAFileWithARejectedRowIsTakenAndItIsAskedForAnew() {
    body = (STORES + "cellar,Cellar,paper\n").getBytes(StandardCharsets.UTF_8);
    fetches.keep(fetch("/stores.csv", Fetch.Way.NOTHING, null), null, "edda", now);
    fetcher().fetchWhatIsDue();
    assertThat(outcome().said())
        .contains("0 rows new or changed; not taken: stores.csv, line 3, medium \"paper\"");
    assertThat(outcome().etag()).as("what was not taken is sent again").isNull();
    body = STORES.getBytes(StandardCharsets.UTF_8);
    now = now.plus(Fetcher.AGAIN);
    fetcher().fetchWhatIsDue();
    assertThat(outcome().failed()).isFalse();
  }

  @Test
  void whatIsTooLargeOrBreaksOffIsNotTaken() {
    fetches.keep(fetch("/stores.csv", Fetch.Way.NOTHING, null), null, "edda", now);
    fetcher(HttpClient.newBuilder().sslContext(tls).build(), STORES.length() - 1)
        .fetchWhatIsDue();
    assertThat(outcome().said()).contains("more than").contains("nothing of it was taken");
    server.stop(0);
    now = now.plus(Fetcher.AGAIN);
    fetcher().fetchWhatIsDue();
    assertThat(outcome().said()).startsWith("nothing came from localhost, or not all of it");
  }

  /** All rows are there, and no end: nobody knows whether there would be more. */
  @Test
  void anAnswerThatDoesNotEndIsNotTaken() {
    fetches.keep(fetch("/stores.csv", Fetch.Way.NOTHING, null), null, "edda", now);
    stops = true;
    limit = Duration.ofMillis(400);
    fetcher().fetchWhatIsDue();
    over.countDown();
    assertThat(outcome().said()).startsWith("it had not all come after");
    assertThat(estate.installation.evaluations().now().estate().store("attic")).isNull();
  }

  @Test
  void aCertificateThatNobodyTrustsIsNoAnswer() {
    fetches.keep(fetch("/stores.csv", Fetch.Way.TOKEN, null), "s3cret", "edda", now);
    fetcher(HttpClient.newHttpClient(), 1 << 20).fetchWhatIsDue();
    assertThat(outcome().said()).contains("its certificate is not trusted");
    assertThat(asked).as("what opens it was not sent").isEmpty();
  }

  @Test
  void aHostThatIsNotAllowedAnyMoreIsNotAsked() {
    fetches.keep(fetch("/stores.csv", Fetch.Way.NOTHING, null), null, "edda", now);
    hosts.allow(List.of("elsewhere.example"), "edda", now);
    fetcher().fetchWhatIsDue();
    assertThat(outcome().said()).contains("localhost may not be asked from here");
    assertThat(asked).isEmpty();
  }

  @Test
  void whatIsMissingIsSaid() {
    fetches.keep(fetch("/stores.csv", Fetch.Way.TOKEN, null), null, "edda", now);
    fetcher().fetchWhatIsDue();
    assertThat(outcome().said()).isEqualTo("nobody has said what opens it");
    Fetch by = fetch("/stores.csv", Fetch.Way.NOTHING, null);
    fetches.keep(
        new Fetch(by.feed(), by.address(), by.way(), null, by.every(), "gone", null),
        null,
        "edda",
        now);
    fetcher().fetchWhatIsDue();
    assertThat(outcome().said()).isEqualTo("no recipe 'gone' is known any more; choose another");
  }

  @Test
  void whatOpensItIsSealedForItsFeedAndItsHost() throws Exception {
    Fetch fetch = fetch("/stores.csv", Fetch.Way.TOKEN, null);
    fetches.keep(fetch, "s3cret", "edda", now);
    assertThat(fetches.secret(fetch)).isEqualTo("s3cret");
    Fetch elsewhere = new Fetch(
        fetch.feed(),
        URI.create("https://elsewhere.example/"),
        fetch.way(),
        null,
        fetch.every(),
        null,
        null);
    assertThatThrownBy(() -> fetches.secret(elsewhere)).isInstanceOf(Secrets.Sealed.class);
    Files.delete(estate.installation.folder().keys().resolve("stores.key"));
    fetcher().fetchWhatIsDue();
    assertThat(outcome().said()).contains("Give it anew");
    byte[] database =
        Files.readAllBytes(estate.installation.folder().root().resolve("hard-proof.db"));
    assertThat(new String(database, StandardCharsets.ISO_8859_1)).doesNotContain("s3cret");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "http://localhost/x | 6h | is fetched from nowhere",
        "https:///x | 6h | is fetched from nowhere",
        "https://ana:pw@localhost/x | 6h | does not stand in it",
        "https://localhost/x | 59s | a feed is fetched every"
      })
  void whatCantBeRightIsRefused(String address, String every, String why) {
    assertThatThrownBy(() -> new Fetch(
            "f",
            Fetch.address(address),
            Fetch.Way.NOTHING,
            null,
            hardproof.core.feeds.Values.duration(every),
            null,
            null))
        .isInstanceOf(WrongValue.class)
        .hasMessageContaining(why);
  }

  @Test
  void namesAndUsersThatCantBeRightAreRefused() {
    URI address = URI.create("https://localhost/x");
    Duration every = Duration.ofMinutes(1);
    assertThatThrownBy(() -> new Fetch("f", address, Fetch.Way.PASSWORD, "a:b", every, null, null))
        .hasMessageContaining("whose name has no colon");
    assertThatThrownBy(
            () -> new Fetch("f", address, Fetch.Way.NOTHING, null, every, null, "../x.csv"))
        .hasMessageContaining("is no name of a file");
    assertThatThrownBy(() -> Fetch.address("https://a b"))
        .hasMessageContaining("is no web address");
    assertThatThrownBy(() -> Fetch.address("https://" + "a".repeat(2000)))
        .hasMessageContaining("at most 2000 characters");
    assertThat(new Fetch("f", address, Fetch.Way.NOTHING, null, every, null, "a b.csv").every())
        .isEqualTo(every);
  }
}
