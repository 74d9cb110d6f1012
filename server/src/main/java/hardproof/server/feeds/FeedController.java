package hardproof.server.feeds;

import hardproof.core.estate.Feed;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Field;
import hardproof.core.feeds.Mapping;
import hardproof.core.feeds.Rejection;
import hardproof.core.feeds.Values;
import hardproof.core.findings.Pending;
import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import hardproof.server.activity.Activity;
import hardproof.server.estate.FactStore;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.security.Principal;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RequestPart;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.multipart.MultipartFile;

/** Where the facts come from, and bringing them in: hand in, look, accept or drop. */
@RestController
@RequestMapping("/api")
class FeedController {
  private static final int BATCHES_SHOWN = 300;

  private final FeedStore feeds;
  private final FactStore facts;
  private final Importer importer;
  private final Uploads uploads;
  private final MappingStore mappings;
  private final Activity activity;
  private final Map<String, ImportProgress> underWay = new ConcurrentHashMap<>();
  private final Clock clock;

  FeedController(
      FeedStore feeds,
      FactStore facts,
      Importer importer,
      Uploads uploads,
      MappingStore mappings,
      Activity activity,
      Clock clock) {
    this.feeds = feeds;
    this.facts = facts;
    this.importer = importer;
    this.uploads = uploads;
    this.mappings = mappings;
    this.activity = activity;
    this.clock = clock;
  }

  /**
   * The feeds, what came by them, and how many facts are known.
   *
   * @param files the files of a bundle with their fields
   */
  record Feeds(
      List<FeedView> feeds,
      List<FeedStore.Batch> batches,
      Map<String, Long> known,
      List<FileForm> files) {}

  /** A feed; {@code pending} facts name others that are not known yet, {@code horizon} is up to when it has spoken. */
  record FeedView(
      String key,
      @Nullable Long expectedEveryMs,
      @Nullable Instant lastReceived,
      @Nullable Instant horizon,
      boolean overdue,
      @Nullable String sentence,
      long pending,
      List<String> fullListings) {}

  record FileForm(String file, List<FieldForm> fields) {
    static FileForm of(BundleFile file) {
      return new FileForm(
          file.code(), file.columns().stream().map(FieldForm::of).toList());
    }
  }

  /**
   * A field of a file.
   *
   * @param words what it holds
   * @param units in which an export may give plain numbers of it
   */
  record FieldForm(String name, boolean required, String words, List<String> units) {
    static FieldForm of(Field<?, ?> field) {
      return new FieldForm(field.name(), field.required(), field.type().words(), field.units());
    }
  }

  /** What an upload would change. Nothing is stored until it is accepted. */
  record ImportPreview(String id, String feed, List<FileResult> files) {}

  record Acceptance(@NotNull Boolean takeGoodRows) {}

  /**
   * What is expected of a feed.
   *
   * @param fullListings files of which it always brings all rows; absent leaves that as it is
   */
  record Rhythm(@Nullable String expectedEvery, @Nullable List<String> fullListings) {}

  @Operation(summary = "Feeds, what they delivered last, and the files that are read")
  @GetMapping("/feeds")
  Feeds feeds() {
    Instant now = clock.instant();
    Map<String, Long> known = new TreeMap<>();
    facts.counts().forEach((type, count) -> known.put(type.code(), count));
    return new Feeds(
        facts.feeds(now).stream().map(f -> view(f, now)).toList(),
        feeds.batches(BATCHES_SHOWN),
        known,
        Arrays.stream(BundleFile.values()).map(FileForm::of).toList());
  }

  private FeedView view(Feed f, Instant now) {
    boolean overdue = f.overdueAt(now);
    return new FeedView(
        f.key(),
        f.expectedEvery() == null ? null : f.expectedEvery().toMillis(),
        f.lastReceived(),
        f.horizon(),
        overdue,
        overdue ? f.overdueSentence(now) : null,
        feeds.pending(now).getOrDefault(f.key(), Pending.NOTHING).facts(),
        feeds.fullListings(f.key()).stream().map(BundleFile::code).toList());
  }

  @Operation(summary = "Say how often a feed should come")
  @PutMapping("/feeds/{key}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void expect(@PathVariable String key, @RequestBody Rhythm rhythm, Principal person) {
    Duration every = every(rhythm.expectedEvery());
    if (every != null && every.isZero()) {
      throw new Refused("A feed can't be expected every 0 s; leave it empty to expect nothing.");
    }
    Set<BundleFile> listings = EnumSet.noneOf(BundleFile.class);
    for (String file : rhythm.fullListings() == null ? List.<String>of() : rhythm.fullListings()) {
      BundleFile type = Coded.of(BundleFile.class, file);
      if (type != BundleFile.RESOURCES) {
        throw new Refused("Only resources are listed in full: a point or a job that a file leaves"
            + " out has not gone. Give resources, or nothing.");
      }
      listings.add(type);
    }
    FeedStore.Setting said = new FeedStore.Setting(
        every, rhythm.fullListings() == null ? feeds.fullListings(key) : listings);
    if (!feeds.say(key, said, person.getName(), clock.instant())) {
      throw new NotFound("No feed '" + key + "' is known.");
    }
    activity.record(
        person.getName(),
        "said of a feed",
        key,
        "expected every " + (every == null ? "–" : every) + ", full listings "
            + said.listings().stream().map(BundleFile::code).toList());
  }

  private static Duration every(String text) {
    if (text == null || text.isBlank()) {
      return null;
    }
    try {
      return Values.duration(text.strip());
    } catch (WrongValue e) {
      throw new WrongValue(
          "'" + text.strip() + "' " + e.getMessage() + ", or leave it empty to expect nothing", e);
    }
  }

  @Operation(summary = "Hand in files; nothing is stored before it is accepted")
  @PostMapping(path = "/imports", consumes = MediaType.MULTIPART_FORM_DATA_VALUE)
  @ResponseStatus(HttpStatus.CREATED)
  ImportPreview handIn(
      @RequestParam String feed,
      @RequestParam(required = false) String mapping,
      @RequestParam(required = false) Instant coversUntil,
      @RequestPart List<MultipartFile> files)
      throws IOException {
    Mapping with = mapping == null || mapping.isBlank()
        ? null
        : mappings
            .find(mapping)
            .orElseThrow(() -> new NotFound("No mapping '" + mapping + "' is known."));
    String name = feed.strip();
    if (FeedNames.refusal(name) != null) {
      throw new Refused(FeedNames.refusal(name));
    }
    List<Uploads.Incoming> incoming = new ArrayList<>();
    for (MultipartFile file : files) {
      incoming.add(new Uploads.Incoming(
          file.getOriginalFilename() == null ? "unnamed" : file.getOriginalFilename(),
          file::getInputStream));
    }
    String id = uploads.keep(name, incoming, with, coversUntil);
    try {
      return preview(id);
    } catch (IOException | RuntimeException e) {
      uploads.drop(id);
      throw e;
    }
  }

  private ImportPreview preview(String id) throws IOException {
    String feed = feed(id);
    return new ImportPreview(
        id, feed, watched(id, p -> importer.preview(bundle(id), feed, clock.instant(), p)));
  }

  private String feed(String id) {
    String feed = uploads.feed(id);
    if (feed == null) {
      throw new NotFound(
          "This upload was accepted or dropped already, or the server was started again since. Hand the"
              + " files in once more.");
    }
    return feed;
  }

  @Operation(summary = "Accept files that were handed in")
  @PostMapping("/imports/{id}/acceptance")
  List<FileResult> accept(
      @PathVariable String id, @Valid @RequestBody Acceptance acceptance, Principal person)
      throws IOException {
    String feed = feed(id);
    List<FileResult> taken = watched(
        id,
        p -> importer.take(
            bundle(id),
            feed,
            clock.instant(),
            person.getName(),
            acceptance.takeGoodRows()
                ? Importer.WithRejections.TAKE_GOOD_ROWS
                : Importer.WithRejections.TAKE_NONE,
            p));
    uploads.drop(id);
    return taken;
  }

  private Bundle bundle(String id) {
    try {
      return uploads.bundle(id);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private <T> T watched(String id, Function<ImportProgress, T> work) {
    ImportProgress progress = new ImportProgress();
    underWay.put(id, progress);
    try {
      return work.apply(progress);
    } catch (ImportProgress.ImportCancelled e) {
      throw new Refused(
          "The import was cancelled; nothing of the file that was being read was kept.");
    } finally {
      underWay.remove(id);
    }
  }

  /** How far an import has come. */
  record ProgressView(String id, String file, long rows, long bytes, long totalBytes) {}

  /** Imports that are being read now. */
  @Operation(summary = "Imports that are being read or stored now")
  @GetMapping("/imports")
  List<ProgressView> underWay() {
    return underWay.entrySet().stream()
        .map(e -> new ProgressView(
            e.getKey(),
            e.getValue().file(),
            e.getValue().rows(),
            e.getValue().bytes(),
            e.getValue().totalBytes()))
        .toList();
  }

  @Operation(summary = "Drop files that were handed in")
  @DeleteMapping("/imports/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void drop(@PathVariable String id) throws IOException {
    ImportProgress progress = underWay.get(id);
    if (progress != null) {
      progress.cancel();
      return;
    }
    feed(id);
    uploads.drop(id);
  }

  @Operation(summary = "Rows of a batch that were not taken, and why")
  @GetMapping("/import-batches/{id}/rejections")
  List<Rejection> rejections(@PathVariable long id) {
    return feeds.rejections(id);
  }
}
