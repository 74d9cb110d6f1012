package hardproof.server.stores;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import hardproof.core.census.CensusFact;
import hardproof.core.census.CensusState;
import hardproof.core.estate.Medium;
import hardproof.core.estate.Resource;
import hardproof.core.estate.Store;
import hardproof.core.facts.Estate;
import hardproof.core.wording.Coded;
import hardproof.proving.stores.ArtifactStore;
import hardproof.proving.stores.SftpStore;
import hardproof.server.activity.Activity;
import hardproof.server.proof.Evaluations;
import hardproof.server.web.NotFound;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Stores: how each is reached, and what it itself says lies on it. */
@RestController
@RequestMapping("/api")
class StoreController {
  private static final int SHOWN = 30;

  private final Evaluations evaluations;
  private final Stores stores;
  private final ConnectionStore connections;
  private final Censuses censuses;
  private final CensusStore found;
  private final Activity activity;
  private final Clock clock;

  StoreController(
      Evaluations evaluations,
      Stores stores,
      ConnectionStore connections,
      Censuses censuses,
      CensusStore found,
      Activity activity,
      Clock clock) {
    this.evaluations = evaluations;
    this.stores = stores;
    this.connections = connections;
    this.censuses = censuses;
    this.found = found;
    this.activity = activity;
    this.clock = clock;
  }

  /** How a store is reached. */
  enum Reached implements Coded {
    FOLDER,
    OBJECT_STORE,
    SFTP,
    NOT_KNOWN
  }

  /** A connection without what opens it. */
  record ConnectionView(
      @Nullable String endpoint,
      @Nullable String region,
      @Nullable String bucket,
      @Nullable String prefix,
      @Nullable Boolean pathStyle,
      @Nullable String ca,
      @Nullable String keyId,
      @Nullable String host,
      @Nullable Integer port,
      @Nullable String user,
      @Nullable String folder,
      @Nullable String hostKeys,
      @Nullable Long bytesPerSecond,
      Instant changedAt,
      String changedBy) {
    static @Nullable ConnectionView of(@Nullable Connection c) {
      if (c == null) {
        return null;
      }
      var o = c.object();
      var s = c.sftp();
      return new ConnectionView(
          o == null ? null : o.endpoint().toString(),
          o == null ? null : o.region(),
          o == null ? null : o.bucket(),
          o == null ? null : o.prefix(),
          o == null ? null : (Boolean) o.pathStyle(),
          o == null ? null : o.ca(),
          c.keyId(),
          s == null ? null : s.host(),
          s == null ? null : (Integer) s.port(),
          s == null ? null : s.user(),
          s == null ? null : s.folder(),
          s == null ? null : s.hostKeys(),
          c.bytesPerSecond(),
          c.changedAt(),
          c.changedBy());
    }
  }

  /** A census with its figures beside each other; sizes in bytes. */
  record CensusView(
      long id,
      String store,
      String askedBy,
      Instant startedAt,
      @Nullable Instant endedAt,
      Census.State state,
      @JsonUnwrapped Census.Listed listed,
      @JsonUnwrapped Census.Compared compared,
      @Nullable Long clockAheadMs,
      String sentence) {
    static @Nullable CensusView of(@Nullable Census c) {
      return c == null
          ? null
          : new CensusView(
              c.id(),
              c.store(),
              c.askedBy(),
              c.startedAt(),
              c.endedAt(),
              c.state(),
              c.listed(),
              c.compared(),
              c.clockAheadMs(),
              c.sentence());
    }
  }

  /**
   * A store.
   *
   * @param where where it is, in words; absent where it is not known how it is reached
   * @param away why it can't be reached, as far as that is known by now
   * @param census the newest, whatever became of it
   * @param done the newest that came to its end
   */
  record StoreView(
      String store,
      String name,
      String site,
      Medium medium,
      Reached reached,
      @Nullable String where,
      @Nullable String away,
      @Nullable ConnectionView connection,
      @Nullable CensusView census,
      @Nullable CensusView done) {}

  @Operation(summary = "Stores, how each is reached, and what its newest census found")
  @GetMapping("/stores")
  List<StoreView> stores() {
    Map<String, Census> newest = found.newest(false);
    Map<String, Census> done = found.newest(true);
    return evaluations.now().estate().facts().stores().stream()
        .map(s -> view(s, newest.get(s.key()), done.get(s.key())))
        .toList();
  }

  private StoreView view(Store s, @Nullable Census newest, @Nullable Census done) {
    Connection c = stores.connection(s.key());
    Reached reached = c != null
        ? Coded.of(Reached.class, c.kind().code())
        : s.path() != null ? Reached.FOLDER : Reached.NOT_KNOWN;
    return new StoreView(
        s.key(),
        s.name(),
        s.site() == null ? "" : s.site(),
        s.medium(),
        reached,
        c != null ? c.words() : s.path(),
        reached == Reached.NOT_KNOWN ? null : stores.away(s),
        ConnectionView.of(c),
        CensusView.of(newest),
        CensusView.of(done));
  }

  private Store find(String key) {
    Store store = evaluations.now().estate().store(key);
    if (store == null) {
      throw new NotFound("There is no store '" + key + "'.");
    }
    return store;
  }

  /** What trying a connection came to: why it does not work, or what is there, a few places of it. */
  record ConnectionTrial(@Nullable String away, List<String> places) {}

  @Operation(summary = "Try how a store would be reached; nothing is kept")
  @PostMapping("/connection-trials")
  ConnectionTrial trial(
      @RequestParam String store, @Valid @RequestBody ConnectionDraft draft, Principal person) {
    find(store);
    Connection wanted = draft.connection(store, person.getName(), clock.instant());
    Connection.Secret secret =
        draft.opening(wanted, stores.connection(store), () -> connections.secret(store));
    ArtifactStore opened = wanted.open(secret);
    try {
      return Glance.at(opened);
    } finally {
      Stores.close((AutoCloseable) opened);
    }
  }

  @Operation(summary = "Say how a store is reached that is no folder here")
  @PutMapping("/store-connections")
  StoreView connect(
      @RequestParam String store, @Valid @RequestBody ConnectionDraft draft, Principal person) {
    Store s = find(store);
    Connection before = stores.connection(store);
    Connection wanted = draft.connection(store, person.getName(), clock.instant());
    Connection.Secret secret = draft.opening(wanted, before, () -> connections.secret(store));
    // Whether a key or certificate is one is found out before it is kept.
    Stores.close((AutoCloseable) wanted.open(secret));
    connections.keep(wanted, secret);
    activity.record(
        person.getName(),
        "store connected",
        store,
        (before == null ? "" : before.words() + " to ") + wanted.words());
    stores.awayNow(s);
    return view(s, found.newest(false).get(store), found.newest(true).get(store));
  }

  @Operation(summary = "Forget how a store is reached; what opens it is forgotten too")
  @DeleteMapping("/store-connections")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void disconnect(@RequestParam String store, Principal person) {
    if (!connections.forget(store)) {
      throw new NotFound("No connection of a store '" + store + "' is kept.");
    }
    activity.record(person.getName(), "store disconnected", store, "");
  }

  /** Whose key is wanted; port 22 where it is left out. */
  record WantedHostKey(@NotBlank String host, @Nullable Integer port) {}

  /** A key that a host shows: the line that pins it, and its fingerprint, by which people compare it. */
  record HostKeyView(String line, String fingerprint) {}

  @Operation(
      summary = "The key that a host with SFTP shows now, to be compared before it is pinned")
  @PostMapping("/host-keys")
  HostKeyView hostKey(@Valid @RequestBody WantedHostKey wanted) {
    SftpStore.Shown shown =
        SftpStore.shownBy(wanted.host().strip(), wanted.port() == null ? 22 : wanted.port());
    return new HostKeyView(shown.line(), shown.fingerprint());
  }

  /** Which store is to be listed. */
  record WantedCensus(@NotBlank String store) {}

  @Operation(summary = "List a store now, and hold it to what is claimed")
  @PostMapping("/censuses")
  @ResponseStatus(HttpStatus.CREATED)
  CensusView begin(@Valid @RequestBody WantedCensus wanted, Principal person) {
    Census census = censuses.begin(wanted.store(), person.getName());
    activity.record(person.getName(), "census begun", wanted.store(), "");
    return CensusView.of(census);
  }

  @Operation(summary = "Censuses of a store, newest first")
  @GetMapping("/censuses")
  List<CensusView> censuses(@RequestParam String store) {
    return found.of(store, SHOWN).stream().map(CensusView::of).toList();
  }

  @Operation(summary = "End a census before its time; nothing is concluded from it")
  @DeleteMapping("/censuses/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void cancel(@PathVariable long id, Principal person) {
    Census census =
        found.find(id).orElseThrow(() -> new NotFound("No census " + id + " is known."));
    if (census.state() == Census.State.RUNNING) {
      censuses.cancel(id);
      activity.record(person.getName(), "census cancelled", census.store(), "");
    }
  }

  /** Something on a store that no feed tells of. */
  record UntoldThing(String place, long sizeBytes, Instant modifiedAt) {}

  /** A copy that is not as it is claimed. */
  record DifferingCopy(
      String resource,
      String resourceName,
      String workload,
      String point,
      CensusState state,
      Instant since,
      String sentence) {
    static DifferingCopy of(CensusFact f, @Nullable Resource r) {
      return new DifferingCopy(
          f.resource(),
          r == null ? f.resource() : r.name(),
          r == null || r.workload() == null ? "resource:" + f.resource() : r.workload(),
          f.point(),
          f.state(),
          f.at(),
          f.sentence());
    }
  }

  /** What a store's list says against what is claimed, and beyond it: the largest first, at most 1,000. */
  record StoreDifferences(List<DifferingCopy> differing, List<UntoldThing> untold) {}

  @Operation(summary = "Where a store and what is claimed of it differ")
  @GetMapping("/store-differences")
  StoreDifferences differences(@RequestParam String store) {
    Estate estate = evaluations.now().estate();
    find(store);
    return new StoreDifferences(
        found.noted(store).values().stream()
            .filter(f -> f.state().differs())
            .sorted(java.util.Comparator.comparing(CensusFact::state)
                .reversed()
                .thenComparing(CensusFact::point))
            .limit(CensusWork.UNTOLD_KEPT)
            .map(f -> DifferingCopy.of(f, estate.resource(f.resource())))
            .toList(),
        found.untold(store).stream()
            .map(u -> new UntoldThing(u.place(), u.sizeBytes(), u.modifiedAt()))
            .toList());
  }
}
