package hardproof.server.delivery;

import hardproof.server.outside.CloudEvent;
import hardproof.server.outside.EventSigner;
import hardproof.server.outside.OutsideHosts;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;

/** Webhooks: a signed CloudEvent to an address that an administrator has allowed. */
public final class HookOutlet implements Outlet {
  private final Duration limit;
  private final OutsideHosts hosts;
  private final EventSigner signer;
  private HttpClient http;

  public HookOutlet(OutsideHosts hosts, EventSigner signer) {
    this(hosts, signer, Duration.ofSeconds(20));
  }

  /**
   * @param limit nobody waits longer for an answer
   */
  HookOutlet(OutsideHosts hosts, EventSigner signer, Duration limit) {
    this.hosts = hosts;
    this.signer = signer;
    this.limit = limit;
  }

  @Override
  public void deliver(Parcel parcel, Instant now) throws NotTaken {
    String refusal = hosts.refusal(parcel.recipient());
    if (refusal != null) {
      throw new NotTaken(refusal);
    }
    String event = parcel.event();
    HttpRequest request = HttpRequest.newBuilder(URI.create(parcel.recipient()))
        .timeout(limit)
        .header("Content-Type", CloudEvent.MEDIA_TYPE)
        .header(EventSigner.HEADER, signer.sign(event.getBytes(StandardCharsets.UTF_8)))
        .POST(HttpRequest.BodyPublishers.ofString(event))
        .build();
    try {
      int status = http().send(request, HttpResponse.BodyHandlers.discarding()).statusCode();
      if (status < 200 || status >= 300) {
        throw new NotTaken("it was answered with status " + status);
      }
    } catch (IOException e) {
      // What kind of failure it was would tell which ports of which machines are open.
      throw new NotTaken("it was not taken there within " + limit.toSeconds() + " s");
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new NotTaken("the program ended before it was answered");
    }
  }

  /** Made when it is needed first: a command that sends nothing has no use for its threads. */
  private synchronized HttpClient http() {
    if (http == null) {
      http = HttpClient.newBuilder()
          .connectTimeout(limit)
          .followRedirects(HttpClient.Redirect.NEVER)
          .build();
    }
    return http;
  }
}
