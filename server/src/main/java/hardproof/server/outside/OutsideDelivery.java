package hardproof.server.outside;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Hands signed questions to webhooks, several times where nobody takes them. */
final class OutsideDelivery implements AutoCloseable {
  private static final Logger LOG = LoggerFactory.getLogger(OutsideDelivery.class);
  private static final Duration LIMIT = Duration.ofSeconds(20);
  private static final int TRIES = 3;
  private static final Duration BETWEEN_TRIES = Duration.ofSeconds(5);
  private static final String NOT_TAKEN = "the question was not taken there";

  private final OutsideHosts hosts;
  private final EventSigner signer;
  private final HttpClient http = HttpClient.newBuilder()
      .connectTimeout(LIMIT)
      .followRedirects(HttpClient.Redirect.NEVER)
      .build();
  private final ExecutorService deliveries = Executors.newFixedThreadPool(2, r -> {
    Thread thread = new Thread(r, "outside-checks");
    thread.setDaemon(true);
    return thread;
  });

  OutsideDelivery(OutsideHosts hosts, EventSigner signer) {
    this.hosts = hosts;
    this.signer = signer;
  }

  /** Told once whether a question was taken, and why not; never where the application ends before. */
  interface Told {
    void done(boolean taken, String why);
  }

  void send(String to, String event, Told told) {
    deliveries.execute(() -> deliver(to, event, told));
  }

  private void deliver(String to, String event, Told told) {
    // It may have been taken from the list since the drill was planned.
    if (hosts.refusal(to) != null) {
      told.done(false, "it may not be asked any more");
      return;
    }
    try {
      for (int i = 0; i < TRIES; i++) {
        if (taken(to, event)) {
          told.done(true, "");
          return;
        }
        Thread.sleep(BETWEEN_TRIES.toMillis());
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return;
    }
    LOG.warn("the outside check {} could not be asked: {}", to, NOT_TAKEN);
    told.done(false, NOT_TAKEN);
  }

  private boolean taken(String to, String event) throws InterruptedException {
    try {
      HttpRequest request = HttpRequest.newBuilder(URI.create(to))
          .timeout(LIMIT)
          .header("Content-Type", CloudEvent.MEDIA_TYPE)
          .header(EventSigner.HEADER, signer.sign(event.getBytes(StandardCharsets.UTF_8)))
          .POST(HttpRequest.BodyPublishers.ofString(event))
          .build();
      int status = http.send(request, HttpResponse.BodyHandlers.discarding()).statusCode();
      LOG.debug("{} answered with status {}", to, status);
      return status >= 200 && status < 300;
    } catch (IOException e) {
      // What kind of failure it was would tell which ports of which machines are open.
      LOG.debug("{} could not be reached", to, e);
      return false;
    }
  }

  @Override
  public void close() {
    deliveries.shutdownNow();
  }
}
