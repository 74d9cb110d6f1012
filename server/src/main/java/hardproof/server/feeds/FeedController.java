package hardproof.server.feeds;

import hardproof.core.estate.Feed;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Rejection;
import hardproof.core.feeds.Values;
import hardproof.server.estate.FactStore;
import hardproof.server.web.MayBeAbsent;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.security.Principal;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
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
  private final Clock clock;

  FeedController(
      FeedStore feeds, FactStore facts, Importer importer, Uploads uploads, Clock clock) {
    this.feeds = feeds;
    this.facts = facts;
    this.importer = importer;
    this.uploads = uploads;
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

  /** A feed; {@code pending} facts name others that are not known yet. */
  record FeedView(
      String key,
      @MayBeAbsent Long expectedEveryMs,
      @MayBeAbsent Instant lastReceived,
      boolean overdue,
      @MayBeAbsent String sentence,
      long pending) {}

  record FileForm(String file, List<BundleFile.Field> fields) {}

  /** What an upload would change. Nothing is stored until it is accepted. */
  record ImportPreview(String id, String feed, List<FileResult> files) {}

  record Acceptance(@NotNull Boolean takeGoodRows) {}

  record Rhythm(@MayBeAbsent String expectedEvery) {}

  @GetMapping("/feeds")
  Feeds feeds() {
    Instant now = clock.instant();
    Map<String, Long> known = new TreeMap<>();
    facts.counts().forEach((type, count) -> known.put(type.code(), count));
    return new Feeds(
        facts.feeds(now).stream().map(f -> view(f, now)).toList(),
        feeds.batches(BATCHES_SHOWN),
        known,
        Arrays.stream(BundleFile.values())
            .map(f -> new FileForm(f.code(), f.fields()))
            .toList());
  }

  private FeedView view(Feed f, Instant now) {
    boolean overdue = f.overdueAt(now);
    return new FeedView(
        f.key(),
        f.expectedEvery() == null ? null : f.expectedEvery().toMillis(),
        f.lastReceived(),
        overdue,
        overdue ? f.overdueSentence(now) : null,
        feeds.pending(f.key()));
  }

  @PutMapping("/feeds/{key}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void expect(@PathVariable String key, @RequestBody Rhythm rhythm) {
    Duration every = rhythm.expectedEvery() == null || rhythm.expectedEvery().isBlank()
        ? null
        : Values.duration(rhythm.expectedEvery());
    if (every != null && every.isZero()) {
      throw new Refused("A feed can't be expected every 0 s; leave it empty to expect nothing.");
    }
    if (!feeds.expect(key, every)) {
      throw new NotFound("No feed '" + key + "' is known.");
    }
  }

  @PostMapping(path = "/imports", consumes = MediaType.MULTIPART_FORM_DATA_VALUE)
  @ResponseStatus(HttpStatus.CREATED)
  ImportPreview handIn(@RequestParam String feed, @RequestPart List<MultipartFile> files)
      throws IOException {
    String name = feed.strip();
    if (!name.matches("[\\p{L}\\p{N} ._-]{1,64}")) {
      throw new Refused(
          "Name the feed the files come from: letters, digits, spaces and . _ - only.");
    }
    List<Uploads.Incoming> incoming = new ArrayList<>();
    for (MultipartFile file : files) {
      incoming.add(new Uploads.Incoming(
          file.getOriginalFilename() == null ? "unnamed" : file.getOriginalFilename(),
          file.getInputStream()));
    }
    String id = uploads.keep(name, incoming);
    try {
      return preview(id);
    } catch (IOException | RuntimeException e) {
      uploads.drop(id);
      throw e;
    }
  }

  private ImportPreview preview(String id) throws IOException {
    String feed = feed(id);
    return new ImportPreview(id, feed, importer.preview(uploads.bundle(id), feed, clock.instant()));
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

  @PostMapping("/imports/{id}/acceptance")
  List<FileResult> accept(
      @PathVariable String id, @Valid @RequestBody Acceptance acceptance, Principal person)
      throws IOException {
    List<FileResult> taken = importer.take(
        uploads.bundle(idOf(id)),
        feed(id),
        clock.instant(),
        person.getName(),
        acceptance.takeGoodRows()
            ? Importer.WithRejections.TAKE_GOOD_ROWS
            : Importer.WithRejections.TAKE_NONE);
    uploads.drop(id);
    return taken;
  }

  private String idOf(String id) {
    feed(id);
    return id;
  }

  @DeleteMapping("/imports/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void drop(@PathVariable String id) throws IOException {
    uploads.drop(id);
  }

  @GetMapping("/import-batches/{id}/rejections")
  List<Rejection> rejections(@PathVariable long id) {
    return feeds.rejections(id);
  }
}
