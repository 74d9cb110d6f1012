package hardproof.server.fetching;

import hardproof.core.feeds.Rejection;
import hardproof.core.recipes.Recipe;
import hardproof.core.wording.Wording;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.feeds.Bundle;
import hardproof.server.feeds.FileResult;
import hardproof.server.feeds.Importer;
import hardproof.server.feeds.Importer.WithRejections;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Takes a file that came by itself, as the inbox does: nothing of one in which a row is rejected. */
public final class Delivering {
  static final long MOST_BYTES = 2L << 30;

  private final Importer importer;
  private final Clock clock;

  public Delivering(Importer importer, Clock clock) {
    this.importer = importer;
    this.clock = clock;
  }

  /**
   * What became of it.
   *
   * @param whole whether all of it was taken
   * @param said for people
   */
  record Taken(boolean whole, String said, List<FileResult> files) {}

  /** Lays down what comes; false where it is more than that. */
  static boolean lay(InputStream from, Path file, long most) throws IOException {
    byte[] buffer = new byte[1 << 16];
    long bytes = 0;
    try (OutputStream out = Files.newOutputStream(file)) {
      int n;
      while ((n = from.read(buffer)) >= 0) {
        bytes += n;
        if (bytes > most) {
          return false;
        }
        out.write(buffer, 0, n);
      }
    }
    return true;
  }

  Taken take(String feed, Path file, @Nullable Recipe recipe, String by) throws IOException {
    Path work = Files.createTempDirectory("hard-proof-delivery-");
    try {
      Bundle bundle = Bundle.of(List.of(file), work, recipe);
      List<FileResult> results =
          importer.take(bundle, feed, clock.instant(), by, WithRejections.TAKE_NONE);
      return new Taken(
          !results.isEmpty() && results.stream().allMatch(FileResult::taken),
          said(results) + hint(results, recipe),
          results);
    } finally {
      Sandboxes.removeTree(work);
    }
  }

  /** What nobody has a recipe for is not lost: one is made of it once. */
  private static String hint(List<FileResult> results, @Nullable Recipe recipe) {
    boolean report = recipe == null && results.stream().anyMatch(r -> r.type() == null);
    return report
        ? "; or drop it on Feeds once, and keep how it is read under the feed's name"
        : "";
  }

  private static String said(List<FileResult> results) {
    if (results.isEmpty()) {
      return "there was no file to take";
    }
    long changed = results.stream()
        .filter(FileResult::taken)
        .mapToLong(r -> r.added() + r.changed())
        .sum();
    List<FileResult> out = results.stream().filter(r -> !r.taken()).toList();
    String taken = Wording.count(changed, "row", "rows") + " new or changed";
    if (out.isEmpty()) {
      return taken;
    }
    String why = out.stream()
        .flatMap(r -> r.rejections().stream())
        .findFirst()
        .map(Rejection::sentence)
        .orElse("");
    return taken + "; not taken: " + why;
  }
}
