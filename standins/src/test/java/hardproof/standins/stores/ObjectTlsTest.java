package hardproof.standins.stores;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import hardproof.proving.stores.Listed;
import hardproof.proving.stores.ObjectAddress;
import hardproof.proving.stores.ObjectKey;
import hardproof.proving.stores.ObjectStore;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.security.KeyStore;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import javax.net.ssl.KeyManagerFactory;
import javax.net.ssl.SSLContext;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * By TLS, to a server whose certificate an authority of somebody's own has signed: made by the JDK's keytool, shown by the
 * JDK's server.
 */
class ObjectTlsTest {
  private static final char[] WORD = "changeit".toCharArray();

  @TempDir
  static Path folder;

  private static ObjectStandIn standIn;
  private static final List<String> tokens = new ArrayList<>();

  private static void keytool(String... arguments) throws IOException, InterruptedException {
    List<String> command = new ArrayList<>();
    command.add(Path.of(System.getProperty("java.home"), "bin", "keytool").toString());
    command.addAll(List.of(arguments));
    command.addAll(List.of("-keystore", "keys.p12", "-storepass", "changeit"));
    Process process = new ProcessBuilder(command)
        .directory(folder.toFile())
        .redirectErrorStream(true)
        .redirectOutput(folder.resolve("log").toFile())
        .start();
    assertThat(process.waitFor()).as(() -> String.join(" ", command)).isZero();
  }

  @BeforeAll
  static void start() throws IOException, InterruptedException, GeneralSecurityException {
    for (String authority : List.of("own", "other")) {
      keytool(
          "-genkeypair",
          "-alias",
          authority,
          "-keyalg",
          "EC",
          "-dname",
          "CN=" + authority,
          "-ext",
          "bc:c",
          "-validity",
          "2");
      keytool("-exportcert", "-rfc", "-alias", authority, "-file", authority + ".pem");
    }
    keytool(
        "-genkeypair", "-alias", "server", "-keyalg", "EC", "-dname", "CN=store", "-validity", "2");
    keytool("-certreq", "-alias", "server", "-file", "server.csr");
    keytool(
        "-gencert",
        "-alias",
        "own",
        "-infile",
        "server.csr",
        "-outfile",
        "server.pem",
        "-ext",
        "san=dns:localhost",
        "-rfc",
        "-validity",
        "2");
    keytool("-importcert", "-alias", "server", "-file", "server.pem", "-noprompt");
    keytool("-delete", "-alias", "own");
    keytool("-delete", "-alias", "other");
    KeyStore keys = KeyStore.getInstance("PKCS12");
    try (InputStream in = Files.newInputStream(folder.resolve("keys.p12"))) {
      keys.load(in, WORD);
    }
    KeyManagerFactory shown =
        KeyManagerFactory.getInstance(KeyManagerFactory.getDefaultAlgorithm());
    shown.init(keys, WORD);
    SSLContext tls = SSLContext.getInstance("TLS");
    tls.init(shown.getKeyManagers(), null, null);
    ObjectShelf shelf = ObjectShelf.empty();
    shelf.put(
        "web.tar",
        "all of it".getBytes(StandardCharsets.UTF_8),
        Instant.parse("2026-11-20T03:10:00Z"));
    standIn = ObjectStandIn.start(
        new ObjectStandIn.Settings("b", shelf, "key", "secret", "r-1", true, true),
        0,
        Clock.systemUTC(),
        tls);
    standIn.befall((exchange, key) -> {
      tokens.add(exchange.getRequestHeaders().getFirst("X-Amz-Security-Token"));
      return false;
    });
  }

  @AfterAll
  static void stop() {
    standIn.close();
  }

  private static ObjectStore store(String endpoint, String authority, String token)
      throws IOException {
    String ca = authority == null ? null : Files.readString(folder.resolve(authority + ".pem"));
    return new ObjectStore(
        ObjectAddress.of(endpoint, "r-1", "b", "", true, ca),
        new ObjectKey("key", "secret", token));
  }

  @Test
  void whatOneTrustsIsListedAndReadWithATokenToo() throws IOException, ArtifactUnreadable {
    tokens.clear();
    try (ObjectStore store = store(standIn.endpoint().toString(), "own", "for-an-hour")) {
      assertThat(store.away()).isNull();
      List<String> listed = new ArrayList<>();
      store.list((Listed l) -> listed.add(l.place()));
      assertThat(listed).containsExactly("web.tar");
      try (InputStream in = store.open("web.tar")) {
        assertThat(new String(in.readAllBytes(), StandardCharsets.UTF_8)).isEqualTo("all of it");
      }
    }
    assertThat(tokens).isNotEmpty().containsOnly("for-an-hour");
  }

  @Test
  void whomNobodyVouchesForIsNotTalkedTo() throws IOException {
    String endpoint = standIn.endpoint().toString();
    tokens.clear();
    for (String authority : new String[] {null, "other"}) {
      try (ObjectStore store = store(endpoint, authority, "for-an-hour")) {
        assertThat(store.away()).as("by %s", authority).contains("certificate");
      }
    }
    // The certificate is of another name.
    try (ObjectStore store =
        store(endpoint.replace("localhost", "127.0.0.1"), "own", "for-an-hour")) {
      assertThat(store.away()).contains("certificate");
    }
    assertThat(tokens).as("no key and no token was sent").isEmpty();
  }
}
