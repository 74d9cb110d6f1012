package hardproof.server.feeds;

import hardproof.core.feeds.Rejection;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.feeds.Importer.WithRejections;
import hardproof.server.recipes.RecipeStore;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Takes in what is laid into the folder of a feed: {@code inbox/FEED/points.csv}. A file is taken when
 * it has not been written to for a while, and then moved to {@code taken}; when rows were rejected it
 * goes to {@code refused}, with a list of why beside it, and nothing of it is kept. A recipe of the
 * feed's name is used for files that are not named after a file of the bundle.
 */
public final class Inbox {
  private static final Logger LOG = LoggerFactory.getLogger(Inbox.class);

  /** A file that somebody still writes to is left alone for so long after the last write. */
  static final Duration SETTLED = Duration.ofSeconds(3);

  private final Path root;
  private final Importer importer;
  private final RecipeStore recipes;
  private final Clock clock;

  public Inbox(Path root, Importer importer, RecipeStore recipes, Clock clock) {
    this.root = root;
    this.importer = importer;
    this.recipes = recipes;
    this.clock = clock;
  }

  /** @return how many files were dealt with */
  public int takeWhatIsThere() {
    if (!Files.isDirectory(root)) {
      return 0;
    }
    int dealtWith = 0;
    try (Stream<Path> feeds = Files.list(root)) {
      for (Path feed : feeds.filter(Files::isDirectory).sorted().toList()) {
        dealtWith += takeFeed(feed);
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return dealtWith;
  }

  private int takeFeed(Path folder) throws IOException {
    List<Path> files = filesIn(folder);
    if (files.isEmpty() || !settled(files)) {
      return 0;
    }
    String feed = folder.getFileName().toString();
    String refusal = FeedNames.refusal(feed);
    if (refusal != null) {
      return refuse(folder, files, refusal);
    }
    take(folder, files, feed);
    return files.size();
  }

  private static List<Path> filesIn(Path folder) throws IOException {
    List<Path> files = new ArrayList<>();
    try (Stream<Path> all = Files.list(folder)) {
      all.filter(Files::isRegularFile)
          .filter(f -> !f.getFileName().toString().startsWith("."))
          .sorted()
          .forEach(files::add);
    }
    return files;
  }

  private int refuse(Path folder, List<Path> files, String refusal) throws IOException {
    for (Path file : files) {
      String name = file.getFileName().toString();
      settle(
          folder,
          file,
          List.of(FileResult.none(new Rejection(name, 0, null, null, refusal), null)));
    }
    LOG.warn("the inbox has a folder that can be no feed: {}", refusal);
    return files.size();
  }

  private void take(Path folder, List<Path> files, String feed) throws IOException {
    Path work = Files.createTempDirectory("hard-proof-inbox-");
    try {
      Bundle bundle = Bundle.of(files, work, recipes.find(feed).orElse(null));
      List<FileResult> results =
          importer.take(bundle, feed, clock.instant(), "inbox", WithRejections.TAKE_NONE);
      for (Path file : files) {
        settle(folder, file, results);
      }
      LOG.info("{} of feed {} taken in from the inbox", files.size(), feed);
    } finally {
      Sandboxes.removeTree(work);
    }
  }

  /** What belongs together is laid down together: all wait for the last one. */
  private static boolean settled(List<Path> files) throws IOException {
    Instant latest = Instant.now().minus(SETTLED);
    for (Path file : files) {
      if (Files.getLastModifiedTime(file).toInstant().isAfter(latest)) {
        return false;
      }
    }
    return true;
  }

  private void settle(Path folder, Path file, List<FileResult> results) throws IOException {
    String name = file.getFileName().toString();
    List<Rejection> why = rejections(results, name);
    Path to = Files.createDirectories(folder.resolve(why.isEmpty() ? "taken" : "refused"));
    String stamped = clock.instant().toString().replace(':', '-') + "-" + name;
    Files.move(file, to.resolve(stamped), StandardCopyOption.REPLACE_EXISTING);
    if (!why.isEmpty()) {
      Files.write(
          to.resolve(stamped + ".why.txt"),
          why.stream().map(Rejection::sentence).toList());
    }
  }

  private static List<Rejection> rejections(List<FileResult> results, String name) {
    return results.stream()
        .filter(r -> r.file().equals(name) || r.file().startsWith(name + "/"))
        .filter(r -> !r.taken())
        .flatMap(r -> r.rejections().stream())
        .toList();
  }
}
