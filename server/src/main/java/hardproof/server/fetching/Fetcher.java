package hardproof.server.fetching;

import hardproof.core.recipes.Recipe;
import hardproof.core.wording.Wording;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.outside.OutsideHosts;
import hardproof.server.recipes.RecipeStore;
import hardproof.server.stores.Secrets;
import java.io.IOException;
import java.io.InputStream;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Fetches what is due, from addresses whose hosts an administrator has allowed, and takes it as the inbox does: a file whole
 * or not at all. What has not changed since (by its ETag) is not sent again.
 */
public final class Fetcher {
  private static final Logger LOG = LoggerFactory.getLogger(Fetcher.class);

  /** A feed that could not be fetched is tried again so much later, or earlier where it comes more often. */
  static final Duration AGAIN = Duration.ofMinutes(15);

  private final FetchStore fetches;
  private final OutsideHosts hosts;
  private final RecipeStore recipes;
  private final Delivering delivering;
  private final Clock clock;
  private final Supplier<HttpClient> http;
  private final Limits limits;
  private final Set<String> underWay = ConcurrentHashMap.newKeySet();

  /** Nothing larger is taken, and nobody waits longer until all has come. */
  record Limits(long bytes, Duration time) {}

  /**
   * @param http asked when something is fetched; follows no redirect
   */
  Fetcher(
      FetchStore fetches,
      OutsideHosts hosts,
      RecipeStore recipes,
      Delivering delivering,
      Clock clock,
      Supplier<HttpClient> http,
      Limits limits) {
    this.fetches = fetches;
    this.hosts = hosts;
    this.recipes = recipes;
    this.delivering = delivering;
    this.clock = clock;
    this.http = http;
    this.limits = limits;
  }

  public Fetcher(
      FetchStore fetches,
      OutsideHosts hosts,
      RecipeStore recipes,
      Delivering delivering,
      Clock clock) {
    this(
        fetches,
        hosts,
        recipes,
        delivering,
        clock,
        new Lazily(),
        new Limits(Delivering.MOST_BYTES, Duration.ofMinutes(20)));
  }

  /** Made when it is needed first: a command that fetches nothing has no use for its threads. */
  private static final class Lazily implements Supplier<HttpClient> {
    private @Nullable HttpClient made;

    @Override
    public synchronized HttpClient get() {
      if (made == null) {
        made = HttpClient.newBuilder()
            .connectTimeout(Duration.ofSeconds(20))
            .followRedirects(HttpClient.Redirect.NEVER)
            .build();
      }
      return made;
    }
  }

  /** It did not come; the message says why, and what to do. */
  private static final class NotFetched extends IOException {
    private static final long serialVersionUID = 1L;

    NotFetched(String message) {
      super(message);
    }
  }

  /** When a feed is fetched next. */
  static Instant next(FetchStore.Kept kept, Instant now) {
    Fetch.Outcome outcome = kept.outcome();
    if (outcome == null) {
      return now;
    }
    Duration every = kept.fetch().every();
    boolean sooner = outcome.failed() && AGAIN.compareTo(every) < 0;
    return outcome.at().plus(sooner ? AGAIN : every);
  }

  /** @return how many were tried */
  public int fetchWhatIsDue() {
    int tried = 0;
    for (FetchStore.Kept kept : fetches.all()) {
      Instant now = clock.instant();
      if (!next(kept, now).isAfter(now)) {
        tried++;
        fetch(kept);
      }
    }
    return tried;
  }

  /** Fetches one now, and keeps how it went; false where it is being fetched already. */
  boolean fetch(FetchStore.Kept kept) {
    if (!underWay.add(kept.fetch().feed())) {
      return false;
    }
    try {
      fetches.went(kept.fetch().feed(), tried(kept));
      return true;
    } finally {
      underWay.remove(kept.fetch().feed());
    }
  }

  private Fetch.Outcome tried(FetchStore.Kept kept) {
    Fetch fetch = kept.fetch();
    String etag = kept.outcome() == null ? null : kept.outcome().etag();
    Fetch.Outcome outcome;
    try {
      outcome = fetched(fetch, etag);
    } catch (Secrets.Sealed e) {
      outcome =
          failed(etag, "what opens it can't be unsealed: its key is gone or another. Give it anew");
    } catch (NotFetched e) {
      outcome = failed(etag, e.getMessage());
    } catch (IOException e) {
      // What kind of failure it was would tell which ports of which machines are open.
      outcome = failed(
          etag,
          "nothing came from " + fetch.address().getHost()
              + ", or not all of it: it can't be reached, its certificate is not trusted, or it broke off");
    } catch (RuntimeException e) {
      LOG.warn("fetching feed {} failed", fetch.feed(), e);
      outcome = failed(etag, "it could not be taken: " + e.getMessage());
    }
    return outcome;
  }

  private Fetch.Outcome failed(@Nullable String etag, String said) {
    return new Fetch.Outcome(etag, clock.instant(), true, said);
  }

  private Fetch.Outcome fetched(Fetch fetch, @Nullable String etag) throws IOException {
    String refusal = hosts.refusal(fetch.address().toString());
    if (refusal != null) {
      throw new NotFetched(refusal);
    }
    Path work = Files.createTempDirectory("hard-proof-fetch-");
    try {
      HttpResponse<InputStream> answer = answer(request(fetch, etag));
      try (InputStream body = answer.body()) {
        if (answer.statusCode() == 304 && etag != null) {
          return new Fetch.Outcome(etag, clock.instant(), false, "nothing new there");
        }
        refuse(answer);
        Path file = work.resolve(name(fetch, answer));
        lay(body, file);
        String newer = answer.headers().firstValue("ETag").orElse(null);
        Recipe recipe = recipe(fetch);
        Delivering.Taken taken = delivering.take(fetch.feed(), file, recipe, "fetched");
        return new Fetch.Outcome(
            taken.whole() ? newer : null, clock.instant(), !taken.whole(), taken.said());
      }
    } finally {
      Sandboxes.removeTree(work);
    }
  }

  /** An answer that comes drop by drop, or stops and does not end, is closed when its time is over. */
  private void lay(InputStream body, Path file) throws IOException {
    AtomicBoolean late = new AtomicBoolean();
    CompletableFuture<Void> end = CompletableFuture.runAsync(
        () -> {
          late.set(true);
          try {
            body.close();
          } catch (IOException e) {
            // Nothing comes of it any more in either case.
          }
        },
        CompletableFuture.delayedExecutor(limits.time().toMillis(), TimeUnit.MILLISECONDS));
    boolean fits;
    try {
      fits = Delivering.lay(body, file, limits.bytes());
    } catch (IOException e) {
      if (!late.get()) {
        throw e;
      }
      fits = true;
    } finally {
      end.cancel(false);
    }
    if (late.get()) {
      throw new NotFetched("it had not all come after " + Wording.duration(limits.time())
          + "; nothing of it was taken");
    } else if (!fits) {
      throw new NotFetched(
          "more than " + Wording.bytes(limits.bytes()) + " came; nothing of it was taken");
    }
  }

  private HttpRequest request(Fetch fetch, @Nullable String etag) throws IOException {
    HttpRequest.Builder request = HttpRequest.newBuilder(fetch.address())
        .timeout(Duration.ofSeconds(60))
        .header("Accept", "text/csv, application/json, */*;q=0.5");
    String secret = fetches.secret(fetch);
    if (fetch.way() != Fetch.Way.NOTHING && secret == null) {
      throw new NotFetched("nobody has said what opens it");
    }
    switch (fetch.way()) {
      case TOKEN -> request.header("Authorization", "Bearer " + secret);
      case PASSWORD ->
        request.header(
            "Authorization",
            "Basic "
                + Base64.getEncoder()
                    .encodeToString(
                        (fetch.user() + ":" + secret).getBytes(StandardCharsets.UTF_8)));
      default -> {}
    }
    if (etag != null) {
      request.header("If-None-Match", etag);
    }
    return request.GET().build();
  }

  private HttpResponse<InputStream> answer(HttpRequest request) throws IOException {
    try {
      return http.get().send(request, HttpResponse.BodyHandlers.ofInputStream());
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new NotFetched("the program ended before it was answered");
    }
  }

  private static void refuse(HttpResponse<?> answer) throws NotFetched {
    int status = answer.statusCode();
    if (status == 401 || status == 403) {
      throw new NotFetched("it was answered with status " + status
          + ": what opens it is not believed there, or may not see this");
    } else if (status >= 300 && status < 400) {
      throw new NotFetched("it was answered with status " + status
          + ", which leads elsewhere: give the address that it leads to, if that is right");
    } else if (status != 200) {
      throw new NotFetched("it was answered with status " + status);
    }
    String type = answer.headers().firstValue("Content-Type").orElse("");
    if (type.startsWith("text/html")) {
      throw new NotFetched(
          "a web page was answered, and no report: something in front asks to sign in, or the address"
              + " is that of a page");
    }
  }

  /** By what somebody said, else by the address, else by what is said to be answered. */
  private static String name(Fetch fetch, HttpResponse<?> answer) {
    if (fetch.file() != null) {
      return fetch.file();
    }
    String path = fetch.address().getPath() == null ? "" : fetch.address().getPath();
    String last = path.substring(path.lastIndexOf('/') + 1);
    if (last.matches("(?i)[\\w .()-]{1,100}\\.(csv|tsv|txt|json|jsonl|ndjson|xlsx|xlsm|zip)")) {
      return last;
    }
    String type = answer.headers().firstValue("Content-Type").orElse("");
    String ending = type.contains("json")
        ? "json"
        : type.contains("spreadsheetml") ? "xlsx" : type.contains("zip") ? "zip" : "csv";
    return fetch.feed().replaceAll("[^A-Za-z0-9._-]", "_") + "." + ending;
  }

  private @Nullable Recipe recipe(Fetch fetch) throws NotFetched {
    if (fetch.recipe() == null) {
      return recipes.find(fetch.feed()).orElse(null);
    }
    return recipes
        .find(fetch.recipe())
        .orElseThrow(() ->
            new NotFetched("no recipe '" + fetch.recipe() + "' is known any more; choose another"));
  }
}
