package hardproof.server.fetching;

import hardproof.core.feeds.Values;
import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import hardproof.server.activity.Activity;
import hardproof.server.feeds.FeedNames;
import hardproof.server.outside.OutsideHosts;
import hardproof.server.recipes.RecipeStore;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Which feeds come by themselves. Administrators say so: this server then asks others, or believes them. */
@RestController
@RequestMapping("/api")
class FetchController {
  private final FetchStore fetches;
  private final DeliveryTokens tokens;
  private final Fetcher fetcher;
  private final OutsideHosts hosts;
  private final RecipeStore recipes;
  private final Activity activity;
  private final Clock clock;

  FetchController(
      FetchStore fetches,
      DeliveryTokens tokens,
      Fetcher fetcher,
      OutsideHosts hosts,
      RecipeStore recipes,
      Activity activity,
      Clock clock) {
    this.fetches = fetches;
    this.tokens = tokens;
    this.fetcher = fetcher;
    this.hosts = hosts;
    this.recipes = recipes;
    this.activity = activity;
    this.clock = clock;
  }

  /**
   * Where a feed is fetched.
   *
   * @param secret the token or password; absent keeps the one that there is
   */
  record FetchDraft(
      @NotBlank @Size(max = 2000) String address,
      @NotBlank String way,
      @Nullable @Size(max = 200) String user,
      @Nullable @Size(max = 10_000) String secret,
      @NotBlank @Size(max = 40) String every,
      @Nullable @Size(max = 200) String recipe,
      @Nullable @Size(max = 200) String file) {}

  /**
   * A feed that is fetched, and how that went; nothing of what opens it.
   *
   * @param next when it is fetched next
   */
  record FetchView(
      String feed,
      String address,
      String way,
      @Nullable String user,
      boolean secret,
      long everyMs,
      @Nullable String recipe,
      @Nullable String file,
      @Nullable Instant askedAt,
      boolean failed,
      @Nullable String said,
      Instant next) {}

  /** A feed that others may deliver to. */
  record TokenView(
      String feed, Instant madeAt, String madeBy, @Nullable Instant usedAt) {}

  /** What comes by itself. */
  record Coming(List<FetchView> fetches, List<TokenView> tokens) {}

  /** A token, which is never shown again. */
  record NewToken(String token) {}

  @Operation(summary = "Feeds that are fetched, or delivered by whoever has a token")
  @GetMapping("/feed-fetches")
  Coming all() {
    return new Coming(
        fetches.all().stream().map(this::view).toList(),
        tokens.all().stream()
            .map(t -> new TokenView(t.feed(), t.madeAt(), t.madeBy(), t.usedAt()))
            .toList());
  }

  private FetchView view(FetchStore.Kept kept) {
    Fetch fetch = kept.fetch();
    Fetch.Outcome outcome = kept.outcome();
    return new FetchView(
        fetch.feed(),
        fetch.address().toString(),
        fetch.way().code(),
        fetch.user(),
        kept.secret(),
        fetch.every().toMillis(),
        fetch.recipe(),
        fetch.file(),
        outcome == null ? null : outcome.at(),
        outcome != null && outcome.failed(),
        outcome == null ? null : outcome.said(),
        Fetcher.next(kept, clock.instant()));
  }

  @Operation(summary = "Have a feed fetched")
  @PutMapping("/feed-fetches/{feed}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void keep(@PathVariable String feed, @Valid @RequestBody FetchDraft draft, Principal person) {
    refuse(feed);
    Fetch fetch = new Fetch(
        feed,
        Fetch.address(draft.address()),
        Coded.of(Fetch.Way.class, draft.way()),
        blankToNull(draft.user()),
        Values.duration(draft.every().strip()),
        blankToNull(draft.recipe()),
        blankToNull(draft.file()));
    hosts.requireAllowed(fetch.address().toString());
    if (fetch.recipe() != null && recipes.find(fetch.recipe()).isEmpty()) {
      throw new WrongValue("no recipe '" + fetch.recipe() + "' is known");
    }
    String secret = blankToNull(draft.secret());
    requireSecret(fetch, secret);
    fetches.keep(fetch, secret, person.getName(), clock.instant());
    activity.record(
        person.getName(),
        "feed fetched",
        feed,
        fetch.address().getHost() + " every " + fetch.every());
  }

  /** What opens one address is not sent to another that somebody put in its place. */
  private void requireSecret(Fetch fetch, @Nullable String secret) {
    if (fetch.way() == Fetch.Way.NOTHING || secret != null) {
      return;
    }
    FetchStore.Kept before = fetches.find(fetch.feed()).orElse(null);
    boolean same = before != null
        && before.secret()
        && before.fetch().way() == fetch.way()
        && Objects.equals(before.fetch().user(), fetch.user())
        && before.fetch().address().getHost().equals(fetch.address().getHost())
        && before.fetch().address().getPort() == fetch.address().getPort();
    if (!same) {
      throw new WrongValue(
          "give the token or password: for another address or user it is asked anew");
    }
  }

  private static void refuse(String feed) {
    String refusal = FeedNames.refusal(feed);
    if (refusal != null) {
      throw new Refused(refusal);
    }
  }

  private static @Nullable String blankToNull(@Nullable String text) {
    return text == null || text.isBlank() ? null : text.strip();
  }

  @Operation(summary = "Fetch a feed no more")
  @DeleteMapping("/feed-fetches/{feed}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable String feed, Principal person) {
    if (!fetches.remove(feed)) {
      throw new NotFound("Feed '" + feed + "' is not fetched.");
    }
    activity.record(person.getName(), "feed not fetched any more", feed, "");
  }

  @Operation(summary = "Fetch a feed now")
  @PostMapping("/feed-fetches/{feed}/tries")
  FetchView fetchNow(@PathVariable String feed) {
    FetchStore.Kept kept =
        fetches.find(feed).orElseThrow(() -> new NotFound("Feed '" + feed + "' is not fetched."));
    if (!fetcher.fetch(kept)) {
      throw new Refused("Feed '" + feed + "' is being fetched right now.");
    }
    return view(fetches.find(feed).orElse(kept));
  }

  @Operation(summary = "Make a token by which others deliver to a feed, in place of the one before")
  @PostMapping("/delivery-tokens/{feed}")
  @ResponseStatus(HttpStatus.CREATED)
  NewToken make(@PathVariable String feed, Principal person) {
    refuse(feed);
    String token = tokens.make(feed, person.getName(), clock.instant());
    activity.record(person.getName(), "delivery token made", feed, "");
    return new NewToken(token);
  }

  @Operation(summary = "End the token of a feed")
  @DeleteMapping("/delivery-tokens/{feed}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void end(@PathVariable String feed, Principal person) {
    if (!tokens.end(feed)) {
      throw new NotFound("Feed '" + feed + "' has no token.");
    }
    activity.record(person.getName(), "delivery token ended", feed, "");
  }
}
