package hardproof.server.feeds;

import hardproof.core.feeds.Rejection;
import hardproof.core.recipes.Recipe;
import hardproof.server.recipes.RecipeStore;
import hardproof.server.web.NotFound;
import hardproof.server.web.Refused;
import io.swagger.v3.oas.annotations.Operation;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.security.Principal;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RequestPart;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.multipart.MultipartFile;

/** Handing files in, looking at what they would change, and accepting them. */
@RestController
@RequestMapping("/api")
class ImportController {
  private final FeedStore feeds;
  private final Importer importer;
  private final Uploads uploads;
  private final RecipeStore recipes;
  private final Map<String, ImportProgress> underWay = new ConcurrentHashMap<>();
  private final Clock clock;

  ImportController(
      FeedStore feeds, Importer importer, Uploads uploads, RecipeStore recipes, Clock clock) {
    this.feeds = feeds;
    this.importer = importer;
    this.uploads = uploads;
    this.recipes = recipes;
    this.clock = clock;
  }

  /** What an upload would change. Nothing is stored until it is accepted. */
  record ImportPreview(String id, String feed, List<FileResult> files) {}

  record Acceptance(@NotNull Boolean takeGoodRows) {}

  @Operation(summary = "Hand in files; nothing is stored before it is accepted")
  @PostMapping(path = "/imports", consumes = MediaType.MULTIPART_FORM_DATA_VALUE)
  @ResponseStatus(HttpStatus.CREATED)
  ImportPreview handIn(
      @RequestParam String feed,
      @RequestParam(required = false) String recipe,
      @RequestParam(required = false) Instant coversUntil,
      @RequestPart List<MultipartFile> files)
      throws IOException {
    Recipe with = with(recipe);
    String name = name(feed);
    List<Uploads.Incoming> incoming = incoming(files);
    String id = uploads.keep(name, incoming, with, coversUntil);
    return previewOrDrop(id);
  }

  private Recipe with(String recipe) {
    return recipe == null || recipe.isBlank()
        ? null
        : recipes
            .find(recipe)
            .orElseThrow(() -> new NotFound("No recipe '" + recipe + "' is known."));
  }

  private static String name(String feed) {
    String name = feed.strip();
    if (FeedNames.refusal(name) != null) {
      throw new Refused(FeedNames.refusal(name));
    }
    return name;
  }

  private static List<Uploads.Incoming> incoming(List<MultipartFile> files) {
    List<Uploads.Incoming> incoming = new ArrayList<>();
    for (MultipartFile file : files) {
      incoming.add(new Uploads.Incoming(
          file.getOriginalFilename() == null ? "unnamed" : file.getOriginalFilename(),
          file::getInputStream));
    }
    return incoming;
  }

  private ImportPreview previewOrDrop(String id) throws IOException {
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
    List<FileResult> taken = taken(id, acceptance, person, feed);
    uploads.drop(id);
    return taken;
  }

  private List<FileResult> taken(String id, Acceptance acceptance, Principal person, String feed) {
    return watched(
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
