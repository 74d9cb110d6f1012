package hardproof.server.discovery;

import hardproof.core.discovery.Discovery;
import hardproof.core.discovery.Discovery.Discovered;
import hardproof.core.discovery.Discovery.Thing;
import hardproof.core.discovery.PlacePattern;
import hardproof.core.estate.Kind;
import hardproof.core.estate.Medium;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.feeds.FactKinds;
import hardproof.core.points.Form;
import hardproof.core.wording.WrongValue;
import hardproof.proving.formats.ArtifactFormat;
import hardproof.proving.stores.ArtifactStore;
import hardproof.server.activity.Activity;
import hardproof.server.facts.OwnFacts;
import hardproof.server.feeds.FeedNames;
import hardproof.server.feeds.FeedStore;
import hardproof.server.proof.Evaluations;
import hardproof.server.stores.Censuses;
import hardproof.server.stores.Stores;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.security.Principal;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Looks into stores that nobody exports, and follows them from then on. */
@RestController
@RequestMapping("/api")
class DiscoveryController {
  /** The store is listed once a day; a feed of it that is older is late. */
  private static final Duration RHYTHM = Duration.ofHours(26);

  private final Evaluations evaluations;
  private final Stores stores;
  private final StoreFeedStore kept;
  private final FeedStore feeds;
  private final Censuses censuses;
  private final OwnFacts own;
  private final Activity activity;
  private final Clock clock;
  private final StoreLook looking;

  DiscoveryController(
      Evaluations evaluations,
      Stores stores,
      StoreFeedStore kept,
      FeedStore feeds,
      Censuses censuses,
      OwnFacts own,
      Activity activity,
      Clock clock) {
    this.evaluations = evaluations;
    this.stores = stores;
    this.kept = kept;
    this.feeds = feeds;
    this.censuses = censuses;
    this.own = own;
    this.activity = activity;
    this.clock = clock;
    this.looking = new StoreLook(stores);
  }

  /**
   * A store that is written down here.
   *
   * @param path of a folder, where it is one that may be read here
   */
  record NewStore(
      @NotBlank @Size(max = 100) String name,
      @NotNull Medium medium,
      @Nullable @Size(max = 100) String site,
      @Nullable @Size(max = 500) String path) {}

  /** The key that it got. */
  record MadeStore(String store) {}

  @Operation(summary = "Write a store down, so that it can be looked into")
  @PostMapping("/stores")
  @ResponseStatus(HttpStatus.CREATED)
  MadeStore add(@Valid @RequestBody NewStore wanted, Principal person) {
    String name = wanted.name().strip();
    String key = name.toLowerCase(java.util.Locale.ROOT)
        .replaceAll("[^\\p{L}\\p{N}]+", "-")
        .replaceAll("^-|-$", "");
    if (key.isEmpty()) {
      throw new WrongValue("a store needs a name with a letter or a digit");
    }
    String path =
        wanted.path() == null || wanted.path().isBlank() ? null : wanted.path().strip();
    Store store = new Store(
        key,
        name,
        wanted.site() == null || wanted.site().isBlank() ? null : wanted.site().strip(),
        null,
        wanted.medium(),
        null,
        true,
        null,
        null,
        null,
        path,
        null);
    ArtifactStore opened = path == null ? null : stores.open(store);
    if (opened != null && (opened.refusal() != null || opened.away() != null)) {
      throw new Refused((opened.refusal() != null ? opened.refusal() : opened.away()) + ".");
    }
    own.put(FactKinds.STORES, store, null, person.getName(), now());
    activity.record(person.getName(), "store added", key, name);
    return new MadeStore(key);
  }

  private Instant now() {
    return clock.instant().truncatedTo(ChronoUnit.MILLIS);
  }

  /**
   * What is to be looked for.
   *
   * @param zone of times in names; UTC where it is left out
   * @param patterns of a person; empty to find some
   */
  record WantedDiscovery(
      @Nullable String zone, @Nullable @Size(max = 50) List<String> patterns) {}

  /**
   * What was found.
   *
   * @param looked files that were looked at; {@code more} whether there are others
   * @param kept what is followed by now; absent where nothing is
   */
  record DiscoveryView(
      int looked,
      boolean more,
      String zone,
      int lists,
      int unfit,
      List<SeriesView> series,
      List<String> rest,
      @Nullable StoreFeedView kept) {}

  @Operation(
      summary = "Look into a store: what its names say of whose backups they are, and of when")
  @PostMapping("/discoveries")
  DiscoveryView discover(@RequestParam String store, @Valid @RequestBody WantedDiscovery wanted) {
    Store place = find(store);
    ZoneId zone = zone(wanted.zone());
    List<Thing> things = new ArrayList<>();
    boolean more = looking.all(place, things);
    Set<String> formats = Follower.formats();
    List<PlacePattern> patterns = wanted.patterns() == null
        ? List.of()
        : wanted.patterns().stream().map(PlacePattern::of).toList();
    Discovered found = patterns.isEmpty()
        ? Discovery.withFolders(things, formats, zone)
        : Discovery.by(patterns, things, formats, zone);
    return new DiscoveryView(
        things.size(),
        more,
        zone.getId(),
        found.lists(),
        found.unfit(),
        looking.views(place, found.series(), things),
        found.rest(),
        kept.find(store).map(StoreFeedView::of).orElse(null));
  }

  private static ZoneId zone(@Nullable String name) {
    try {
      return name == null || name.isBlank() ? ZoneId.of("UTC") : ZoneId.of(name.strip());
    } catch (DateTimeException e) {
      throw new WrongValue("'" + name + "' is no time zone; write it as Europe/Oslo, or UTC", e);
    }
  }

  private Store find(String key) {
    Estate estate = evaluations.now().estate();
    Store store = estate.store(key);
    if (store == null) {
      throw new NotFound("There is no store '" + key + "'.");
    } else if (!stores.known(store)) {
      throw new Refused(Stores.unknown(store));
    }
    return store;
  }

  /** A pattern that is followed; {@code form} of those whose names say none. */
  record FollowedView(
      @NotBlank String pattern,
      @NotNull Kind kind,
      @NotNull Form form,
      @Nullable String format) {}

  /** How a store's names become facts. */
  record StoreFeedView(
      @NotBlank String feed,
      @Nullable String zone,
      @NotNull @Size(min = 1, max = 50) List<@Valid FollowedView> patterns) {
    static StoreFeedView of(StoreFeed f) {
      return new StoreFeedView(
          f.feed(),
          f.zone().getId(),
          f.followed().stream()
              .map(p -> new FollowedView(p.pattern().toString(), p.kind(), p.form(), p.format()))
              .toList());
    }
  }

  @Operation(
      summary =
          "Follow a store from now on: what lies on it comes in as facts each time it is listed")
  @PutMapping("/store-feeds")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void follow(
      @RequestParam String store, @Valid @RequestBody StoreFeedView wanted, Principal person) {
    Store place = find(store);
    String refusal = FeedNames.refusal(wanted.feed());
    if (refusal != null) {
      throw new WrongValue(refusal);
    }
    List<StoreFeed.Followed> followed = wanted.patterns().stream()
        .map(p -> new StoreFeed.Followed(
            PlacePattern.of(p.pattern()),
            p.kind(),
            p.form(),
            p.format() == null || p.format().isBlank() ? null : ArtifactFormat.read(p.format())))
        .toList();
    kept.keep(
        new StoreFeed(place.key(), wanted.feed(), zone(wanted.zone()), followed, person.getName()),
        now());
    activity.record(
        person.getName(),
        "store followed",
        store,
        String.join("; ", wanted.patterns().stream().map(FollowedView::pattern).toList()));
    censuses.begin(place.key(), person.getName());
    censuses.then(() ->
        feeds.say(wanted.feed(), new FeedStore.Setting(RHYTHM, Set.of()), person.getName(), now()));
  }

  @Operation(summary = "Follow a store no longer; what is known stays")
  @DeleteMapping("/store-feeds")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void leave(@RequestParam String store, Principal person) {
    if (!kept.forget(store)) {
      throw new NotFound("The store '" + store + "' is not followed.");
    }
    activity.record(person.getName(), "store not followed any more", store, "");
  }
}
