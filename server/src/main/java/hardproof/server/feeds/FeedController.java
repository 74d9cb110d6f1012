package hardproof.server.feeds;

import hardproof.core.estate.Feed;
import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Field;
import hardproof.core.feeds.Values;
import hardproof.core.findings.Pending;
import hardproof.core.wording.Coded;
import hardproof.core.wording.WrongValue;
import hardproof.server.activity.Activity;
import hardproof.server.facts.FactStore;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import java.security.Principal;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Where the facts come from, and bringing them in: hand in, look, accept or drop. */
@RestController
@RequestMapping("/api")
class FeedController {
  private static final int BATCHES_SHOWN = 300;

  private final FeedStore feeds;
  private final FactStore facts;
  private final Activity activity;
  private final Clock clock;

  FeedController(FeedStore feeds, FactStore facts, Activity activity, Clock clock) {
    this.feeds = feeds;
    this.facts = facts;
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
    Set<BundleFile> listings = listings(rhythm);
    FeedStore.Setting said = said(key, rhythm, every, listings);
    if (!feeds.say(key, said, person.getName(), clock.instant())) {
      throw new NotFound("No feed '" + key + "' is known.");
    }
    record(key, person, every, said);
  }

  private static Set<BundleFile> listings(Rhythm rhythm) {
    Set<BundleFile> listings = EnumSet.noneOf(BundleFile.class);
    for (String file : rhythm.fullListings() == null ? List.<String>of() : rhythm.fullListings()) {
      BundleFile type = Coded.of(BundleFile.class, file);
      if (type != BundleFile.RESOURCES) {
        throw new Refused("Only resources are listed in full: a point or a job that a file leaves"
            + " out has not gone. Give resources, or nothing.");
      }
      listings.add(type);
    }
    return listings;
  }

  private FeedStore.Setting said(
      String key, Rhythm rhythm, Duration every, Set<BundleFile> listings) {
    return new FeedStore.Setting(
        every, rhythm.fullListings() == null ? feeds.fullListings(key) : listings);
  }

  private void record(String key, Principal person, Duration every, FeedStore.Setting said) {
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
}
