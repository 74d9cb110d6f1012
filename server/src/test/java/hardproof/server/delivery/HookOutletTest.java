package hardproof.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.HttpServer;
import hardproof.server.WithEstate;
import hardproof.server.outside.CloudEvent;
import hardproof.server.outside.EventSigner;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicReference;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;

class HookOutletTest extends WithEstate {
  private static final Instant NOW = Instant.parse("2026-11-24T10:00:00Z");
  private static final String EVENT = CloudEvent.alert(
      "message-7",
      new CloudEvent.Told("feed-overdue", "opened", "f", "f", "it is silent"),
      NOW,
      NOW);

  private final AtomicInteger status = new AtomicInteger(200);
  private final AtomicReference<String> body = new AtomicReference<>();
  private final AtomicReference<String> signature = new AtomicReference<>();
  private final CountDownLatch hours = new CountDownLatch(1);
  private HttpServer server;
  private HookOutlet outlet;

  @BeforeEach
  void listen() throws Exception {
    server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    server.createContext("/alerts", exchange -> {
      body.set(new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8));
      signature.set(exchange.getRequestHeaders().getFirst(EventSigner.HEADER));
      exchange.sendResponseHeaders(status.get(), -1);
      exchange.close();
    });
    server.createContext("/slow", exchange -> {
      try {
        hours.await();
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
      exchange.close();
    });
    server.start();
    outlet = new HookOutlet(
        estate.installation.outsideHosts(),
        estate.installation.part(EventSigner.class),
        Duration.ofMillis(500));
  }

  @AfterEach
  void leave() {
    hours.countDown();
    server.stop(0);
  }

  private void send(String path) throws Outlet.NotTaken {
    String to = "http://127.0.0.1:" + server.getAddress().getPort() + path;
    outlet.deliver(new Parcel("message-7", to, "s", "b", EVENT, List.of()), NOW);
  }

  /** CloudEvents 1.0: the attributes that must be there, and the type of this one. */
  @Test
  void itIsASignedCloudEvent() throws Exception {
    send("/alerts");
    var event = JsonMapper.builder().build().readTree(body.get());
    assertThat(event.path("specversion").asString()).isEqualTo("1.0");
    assertThat(event.path("id").asString()).isEqualTo("message-7");
    assertThat(event.path("source").asString()).isEqualTo("/hard-proof/alerts");
    assertThat(event.path("type").asString()).isEqualTo("hardproof.alert.opened");
    assertThat(event.path("data").path("sentence").asString()).isEqualTo("it is silent");
    assertThat(signature.get())
        .isEqualTo(estate
            .installation
            .part(EventSigner.class)
            .sign(body.get().getBytes(StandardCharsets.UTF_8)));
  }

  @Test
  void anAnswerThatIsNoYesIsNotTaken() {
    for (int code : new int[] {199 + 101, 404, 500}) {
      status.set(code);
      assertThatThrownBy(() -> send("/alerts"))
          .isInstanceOf(Outlet.NotTaken.class)
          .hasMessage("it was answered with status " + code);
    }
  }

  /** One that would answer with 200 after an hour. */
  @Test
  void oneThatAnswersTooLateHasNotTakenIt() {
    assertThatThrownBy(() -> send("/slow"))
        .isInstanceOf(Outlet.NotTaken.class)
        .hasMessageContaining("not taken there within");
  }

  @Test
  void whereItMayNotBeSentItIsNot() {
    estate.installation.outsideHosts().allow(List.of(), "ana", NOW);
    assertThatThrownBy(() -> send("/alerts"))
        .isInstanceOf(Outlet.NotTaken.class)
        .hasMessageContaining("may not be asked");
    assertThat(body.get()).isNull();
  }
}
