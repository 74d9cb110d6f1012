package hardproof.server.files;

import hardproof.core.facts.Estate;
import hardproof.proving.archives.Listed;
import hardproof.proving.checksums.Sha256;
import hardproof.proving.drills.PointContents;
import hardproof.proving.files.FileComparison;
import hardproof.proving.files.RestoredFiles;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.server.drills.DrillOrders;
import hardproof.server.runs.RunOrder;
import hardproof.server.runs.RunStore;
import hardproof.server.storage.Database;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.security.Principal;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.core.io.FileSystemResource;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Files: what a point holds, what a run restored, how two differ, and taking one out. */
@RestController
@RequestMapping("/api")
class FileController {
  private static final long LOOK_MOST_BYTES = 1L << 30;
  private static final int SHOWN = 5000;

  private final RunStore runs;
  private final DrillOrders orders;
  private final Sandboxes sandboxes;
  private final Database database;
  private final Supplier<Estate> estate;
  private final Clock clock;

  FileController(
      RunStore runs,
      DrillOrders orders,
      Sandboxes sandboxes,
      Database database,
      Supplier<Estate> estate,
      Clock clock) {
    this.runs = runs;
    this.orders = orders;
    this.sandboxes = sandboxes;
    this.database = database;
    this.estate = estate;
    this.clock = clock;
  }

  /** What a point holds; {@code shown} of {@code total} files that match. */
  record PointFiles(
      String point, String store, String storeName, int total, int shown, List<PointFile> files) {}

  /** A file of a point; {@code layer} is the artifact that it comes from. */
  record PointFile(
      String path,
      String type,
      @Nullable Long sizeBytes,
      @Nullable Instant modified,
      String layer) {}

  @Operation(summary = "Files in a recovery point, folder by folder")
  @GetMapping("/point-files")
  PointFiles pointFiles(
      @RequestParam String resource,
      @RequestParam String point,
      @RequestParam(required = false) String store,
      @RequestParam(required = false) String find) {
    Estate facts = estate.get();
    RunOrder order = order(resource, point, store, facts);
    Path aside = sandboxes.root();
    try {
      aside = sandboxes.aside();
      return found(find, facts, order, aside);
    } catch (PointContents.NotListed e) {
      throw new Refused(e.getMessage());
    } catch (IOException e) {
      throw new Refused(e.getMessage() + ". A drill of this point says what is wrong.");
    } finally {
      removeAside(aside);
    }
  }

  private RunOrder order(String resource, String point, String store, Estate facts) {
    return orders.complete(
        facts,
        new RunOrder(
            resource,
            point,
            store == null || store.isBlank() ? null : store,
            hardproof.core.drills.Method.READ_THROUGH,
            List.of(),
            "look",
            Duration.ZERO));
  }

  private PointFiles found(String find, Estate facts, RunOrder order, Path aside)
      throws IOException {
    List<Listed> all =
        PointContents.list(orders.request(facts, "look", order), LOOK_MOST_BYTES, aside);
    String text = find == null ? "" : find.strip().toLowerCase(java.util.Locale.ROOT);
    List<Listed> found = all.stream()
        .filter(
            l -> text.isEmpty() || l.path().toLowerCase(java.util.Locale.ROOT).contains(text))
        .toList();
    return new PointFiles(
        order.point(),
        order.store(),
        facts.storeName(order.store()),
        found.size(),
        Math.min(SHOWN, found.size()),
        found.stream()
            .limit(SHOWN)
            .map(l -> new PointFile(l.path(), l.type(), l.sizeBytes(), l.modified(), l.layer()))
            .toList());
  }

  private void removeAside(Path aside) {
    try {
      sandboxes.removeAside(aside);
    } catch (IOException e) {
      // The next start removes it.
    }
  }

  /** What a run restored, as long as it is held. */
  record RestoredFile(String path, long sizeBytes, Instant modified) {}

  @Operation(summary = "Files that a run restored")
  @GetMapping("/drill-runs/{id}/files")
  List<RestoredFile> restored(@PathVariable String id) throws IOException {
    Path tree = tree(id);
    try (Stream<Path> walk = Files.walk(tree)) {
      return walk.filter(p -> Files.isRegularFile(p, LinkOption.NOFOLLOW_LINKS))
          .sorted()
          .limit(SHOWN)
          .map(p -> {
            try {
              return new RestoredFile(
                  tree.relativize(p).toString(),
                  Files.size(p),
                  Files.getLastModifiedTime(p).toInstant());
            } catch (IOException e) {
              throw new java.io.UncheckedIOException(e);
            }
          })
          .toList();
    }
  }

  private Path tree(String id) {
    runs.find(id).orElseThrow(() -> new NotFound("No drill run " + id + " is known."));
    Path tree = sandboxes.folder(id).resolve("restored");
    if (!Files.isDirectory(tree, LinkOption.NOFOLLOW_LINKS)) {
      throw new Refused(
          "What this run restored is not there any more, or was no set of files. Drill"
              + " again, and hold the restored data for a while.");
    }
    return tree;
  }

  /** Takes one restored file out; who did, and what it was, is recorded first. */
  @Operation(summary = "Take a restored file out, which is written down")
  @GetMapping("/drill-runs/{id}/file")
  ResponseEntity<FileSystemResource> take(
      @PathVariable String id, @RequestParam String path, Principal person) throws IOException {
    Path file = new RestoredFiles(tree(id)).file(path);
    if (file == null) {
      throw new NotFound("This run restored no file '" + path + "'.");
    }
    String sum = Sha256.of(file);
    long size = Files.size(file);
    writeDown(id, path, person, sum, size);
    return answer(file);
  }

  private void writeDown(String id, String path, Principal person, String sum, long size) {
    database.write(() -> database
        .writes()
        .sql("""
            INSERT INTO file_taken (run, path, taken_by, taken_at, bytes, sha256)
            VALUES (:run, :path, :by, :at, :bytes, :sum)
            """)
        .param("run", id)
        .param("path", path)
        .param("by", person.getName())
        .param("at", clock.instant().toEpochMilli())
        .param("bytes", size)
        .param("sum", sum)
        .update());
  }

  private static ResponseEntity<FileSystemResource> answer(Path file) {
    return ResponseEntity.ok()
        .contentType(MediaType.APPLICATION_OCTET_STREAM)
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment()
                .filename(file.getFileName().toString(), java.nio.charset.StandardCharsets.UTF_8)
                .build()
                .toString())
        .header(HttpHeaders.CACHE_CONTROL, "no-store")
        .body(new FileSystemResource(file));
  }

  /** A file that somebody took out of restored data. */
  record FileTaken(String path, String by, Instant at, long bytes, String sha256) {}

  @Operation(summary = "Files that were taken out of a run")
  @GetMapping("/drill-runs/{id}/files-taken")
  List<FileTaken> taken(@PathVariable String id) {
    return database
        .reads()
        .sql(
            "SELECT path, taken_by, taken_at, bytes, sha256 FROM file_taken WHERE run = :run ORDER BY id")
        .param("run", id)
        .query((r, n) -> fileTaken(r))
        .list();
  }

  private static FileController.FileTaken fileTaken(ResultSet r) throws SQLException {
    return new FileTaken(
        r.getString(1),
        r.getString(2),
        Instant.ofEpochMilli(r.getLong(3)),
        r.getLong(4),
        r.getString(5));
  }

  /** How two runs differ; only what differs is listed. */
  record RunComparison(int same, List<ComparedFile> different) {}

  /** A file; {@code first} or {@code second} absent where it is not there. */
  record ComparedFile(
      String path,
      String change,
      @Nullable FileSide first,
      @Nullable FileSide second) {}

  /** A file on one side. */
  record FileSide(long sizeBytes, String sha256, @Nullable String mode, Instant modified) {
    static FileSide of(FileComparison.Side side) {
      return side == null
          ? null
          : new FileSide(side.sizeBytes(), side.sha256(), side.mode(), side.modified());
    }
  }

  @Operation(summary = "What differs between what two runs restored")
  @GetMapping("/file-comparisons")
  RunComparison compare(@RequestParam String first, @RequestParam String second)
      throws IOException {
    List<FileComparison.Compared> all = FileComparison.trees(tree(first), tree(second));
    return new RunComparison(
        (int) all.stream().filter(c -> c.change().equals("same")).count(),
        all.stream()
            .filter(c -> !c.change().equals("same"))
            .limit(SHOWN)
            .map(c -> new ComparedFile(
                c.path(), c.change(), FileSide.of(c.first()), FileSide.of(c.second())))
            .toList());
  }

  /** The lines that differ; {@code lines} absent when a side is no text. */
  record LineComparison(@Nullable List<String> lines) {}

  @Operation(summary = "The lines in which a restored file differs between two runs")
  @GetMapping("/line-comparisons")
  LineComparison lines(
      @RequestParam String first, @RequestParam String second, @RequestParam String path)
      throws IOException {
    return new LineComparison(FileComparison.lines(
        path,
        new RestoredFiles(tree(first)).file(path),
        new RestoredFiles(tree(second)).file(path)));
  }
}
