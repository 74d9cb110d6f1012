package hardproof.server.feeds;

import hardproof.core.recipes.Recipe;
import hardproof.proving.sandboxes.Sandboxes;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;

/** Files that were handed in on the screen and wait for somebody to accept them. */
public final class Uploads {
  private final Path root;
  private final Map<String, Upload> uploads = new ConcurrentHashMap<>();

  private record Upload(String feed, Recipe recipe, Instant coversUntil) {}

  /** Whatever an earlier process left is removed: nobody can accept it any more. */
  public Uploads(Path root) throws IOException {
    this.root = root;
    Sandboxes.removeTree(root);
  }

  /** A file on its way in; its content is opened when it is kept, and closed. */
  public record Incoming(String name, Content content) {}

  /** Opens what a file holds. */
  @FunctionalInterface
  public interface Content {
    InputStream open() throws IOException;
  }

  /** As {@link #keep(String, List, Recipe, Instant)}, without these. */
  public String keep(String feed, List<Incoming> files) throws IOException {
    return keep(feed, files, null, null);
  }

  /**
   * Keeps the files until they are accepted or dropped.
   *
   * @param recipe for files that are not named after a file of the bundle; null for none
   * @param coversUntil up to when whoever made them has looked; null where that is not said apart
   */
  public String keep(String feed, List<Incoming> files, Recipe recipe, Instant coversUntil)
      throws IOException {
    String id = UUID.randomUUID().toString();
    try {
      write(files, root.resolve(id).resolve("files"));
    } catch (IOException | RuntimeException e) {
      // Half an upload is of use to nobody, and takes room on a disk that may be full.
      Sandboxes.removeTree(root.resolve(id));
      throw e;
    }
    uploads.put(id, new Upload(feed, recipe, coversUntil));
    return id;
  }

  private static void write(List<Incoming> files, Path folder) throws IOException {
    int number = 0;
    for (Incoming file : files) {
      // Only the last part of a name is used, and nothing that could leave the folder.
      String name = file.name().replaceAll(".*[/\\\\]", "").replaceAll("[\\p{Cntrl}]", "");
      if (name.isBlank() || name.equals("..") || name.equals(".")) {
        name = "unnamed";
      }
      // A folder for each: two files may have the same name.
      Path own = Files.createDirectories(folder.resolve(Integer.toString(1000 + number++)));
      try (InputStream in = file.content().open()) {
        Files.copy(in, own.resolve(name));
      }
    }
  }

  /** The feed of an upload; null when there is no such upload. */
  public String feed(String id) {
    Upload upload = uploads.get(id);
    return upload == null ? null : upload.feed();
  }

  /** Reads the upload's files as a bundle. */
  public Bundle bundle(String id) throws IOException {
    Path folder = root.resolve(id);
    Path work = folder.resolve("unzipped");
    Sandboxes.removeTree(work);
    List<Path> files = new ArrayList<>();
    try (Stream<Path> all = Files.walk(folder.resolve("files"))) {
      all.filter(Files::isRegularFile).sorted().forEach(files::add);
    }
    Upload upload = uploads.get(id);
    return upload == null
        ? Bundle.of(files, work, null)
        : Bundle.of(files, work, upload.recipe()).covering(upload.coversUntil());
  }

  /** Forgets an upload and removes its files. */
  public void drop(String id) throws IOException {
    if (uploads.remove(id) != null) {
      Sandboxes.removeTree(root.resolve(id));
    }
  }
}
