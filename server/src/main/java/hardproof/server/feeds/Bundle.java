package hardproof.server.feeds;

import hardproof.core.feeds.BundleFile;
import hardproof.core.feeds.Rejection;
import hardproof.core.recipes.Output;
import hardproof.core.recipes.Recipe;
import hardproof.core.wording.Wording;
import hardproof.proving.sandboxes.Sandboxes;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipFile;
import java.util.zip.ZipInputStream;
import org.jspecify.annotations.Nullable;

/**
 * The files that were handed in together, zips unpacked, in the order they are taken.
 *
 * @param unknown what was handed in and is no file of a bundle, with why
 * @param coversUntil up to when whoever made it has looked; null where nobody says so
 */
public record Bundle(
    List<Member> files, List<Rejection> unknown, @Nullable Instant coversUntil) {
  private static final long ZIP_MAX_BYTES = 4L << 30;
  private static final int ZIP_MAX_FILES = 1000;
  private static final Pattern TABLE =
      Pattern.compile("(?i).*\\.(csv|tsv|txt|lst|list|json|jsonl|ndjson|xlsx|xlsm)");

  /**
   * One file: its name as handed in, and where it lies.
   *
   * @param by what turns it into the file it is taken as; null when it is that already
   */
  public record Member(
      String name, Path path, BundleFile type, @Nullable By by) {}

  /** One kind of rows of somebody else's report. */
  public record By(Recipe recipe, Output output) {}

  public Bundle {
    files = files.stream()
        .sorted(Comparator.comparing(Member::type).thenComparing(Member::name))
        .toList();
    unknown = List.copyOf(unknown);
  }

  /** The same, covering up to an instant; what it says of itself where that is null. */
  public Bundle covering(Instant until) {
    return until == null ? this : new Bundle(files, unknown, until);
  }

  /** What was found so far. */
  private static final class Found {
    private final List<Member> files = new ArrayList<>();
    private final List<Rejection> unknown = new ArrayList<>();
    private Instant coversUntil;

    void note(Path path, String name) throws IOException {
      cover(DeliveryNote.read(path, name).coversUntil());
    }

    void add(Found more) {
      files.addAll(more.files);
      unknown.addAll(more.unknown);
      if (more.coversUntil != null) {
        cover(more.coversUntil);
      }
    }

    /** Of several notes the least is meant: nobody has looked further for all of it. */
    private void cover(Instant until) {
      coversUntil = coversUntil == null || until.isBefore(coversUntil) ? until : coversUntil;
    }

    /** A report is a file for each kind of rows that it gives. */
    void addReport(String name, Path path, Recipe recipe) {
      for (Output output : recipe.outputs()) {
        files.add(new Member(name, path, output.file(), new By(recipe, output)));
      }
    }

    /** A file of a zip, which was laid aside. */
    private void add(String zip, String entry, Path target, @Nullable Recipe recipe)
        throws IOException {
      String inZip = zip + "/" + entry;
      Optional<BundleFile> type = named(entry, target, recipe);
      if (entry.equals(DeliveryNote.FILE)) {
        note(target, inZip);
      } else if (type.isPresent()) {
        files.add(new Member(inZip, target, type.get(), null));
      } else if (recipe != null && TABLE.matcher(entry).matches()) {
        addReport(inZip, target, recipe);
      } else {
        unknown.add(new Rejection(inZip, 0, null, null, "is no file of a bundle"));
      }
    }
  }

  /** Files by themselves, a folder's files, or zips of them; zips are unpacked below {@code work}. */
  public static Bundle of(List<Path> paths, Path work) throws IOException {
    return of(paths, work, null);
  }

  /**
   * @param recipe for every table, list or workbook that is no file of the bundle; null for none
   */
  public static Bundle of(List<Path> paths, Path work, @Nullable Recipe recipe) throws IOException {
    Found found = new Found();
    for (Path path : paths) {
      if (Files.isDirectory(path)) {
        try (Stream<Path> children = Files.list(path)) {
          for (Path child : children.sorted().toList()) {
            if (Files.isRegularFile(child)) {
              add(child, child.getFileName().toString(), work, recipe, found);
            }
          }
        }
      } else {
        add(path, path.getFileName().toString(), work, recipe, found);
      }
    }
    return new Bundle(found.files, found.unknown, found.coversUntil);
  }

  private static void add(Path path, String name, Path work, @Nullable Recipe recipe, Found found)
      throws IOException {
    if (name.toLowerCase(Locale.ROOT).endsWith(".zip")) {
      unzip(path, name, work, recipe, found);
      return;
    }
    if (name.equals(DeliveryNote.FILE)) {
      addNote(path, name, found);
      return;
    }
    addFile(path, name, recipe, found);
  }

  private static void addNote(Path path, String name, Found found) throws IOException {
    try {
      found.note(path, name);
    } catch (UnreadableFile e) {
      found.unknown.add(e.rejection());
    }
  }

  /** By its name; with a recipe at hand a table of that name with other columns is a report: many are called jobs.csv. */
  private static Optional<BundleFile> named(String name, Path path, @Nullable Recipe recipe) {
    return BundleFile.named(name).filter(type -> recipe == null || hasColumnsOf(type, name, path));
  }

  private static boolean hasColumnsOf(BundleFile type, String name, Path path) {
    try {
      Rows.open(path, name, type).close();
      return true;
    } catch (IOException e) {
      return false;
    }
  }

  private static void addFile(Path path, String name, @Nullable Recipe recipe, Found found) {
    Optional<BundleFile> type = named(name, path, recipe);
    if (type.isPresent()) {
      found.files.add(new Member(name, path, type.get(), null));
    } else if (recipe != null && TABLE.matcher(name).matches()) {
      found.addReport(name, path, recipe);
    } else {
      found.unknown.add(new Rejection(
          name,
          0,
          null,
          null,
          "is no file of a bundle; name it after what it holds, such as points.csv or"
              + " points-2026-11.json: "
              + hardproof.core.wording.Coded.codes(BundleFile.class)));
    }
  }

  private static void refuseMore(String zip, String entry, Set<String> seen) throws UnreadableFile {
    if (!seen.add(entry)) {
      throw new UnreadableFile(zip, 0, entry, "is in the zip twice");
    }
    if (seen.size() > ZIP_MAX_FILES) {
      throw new UnreadableFile(zip, 0, null, "holds more than " + ZIP_MAX_FILES + " files");
    }
  }

  /** A zip with one bad name is refused whole: what it means to do can't be known. */
  private static void unzip(Path zip, String name, Path work, @Nullable Recipe recipe, Found all)
      throws IOException {
    Files.createDirectories(work);
    String noRoom = noRoom(zip, work);
    if (noRoom != null) {
      all.unknown.add(new Rejection(name, 0, null, null, noRoom));
      return;
    }
    Path folder = Files.createTempDirectory(work, "zip-");
    Found found = new Found();
    try (ZipInputStream in =
        new ZipInputStream(Files.newInputStream(zip), StandardCharsets.UTF_8)) {
      unpack(name, recipe, folder, found, in);
      all.add(found);
    } catch (UnreadableFile e) {
      Sandboxes.removeTree(folder);
      all.unknown.add(e.rejection());
    } catch (ZipException | IllegalArgumentException | java.io.EOFException e) {
      Sandboxes.removeTree(folder);
      all.unknown.add(new Rejection(name, 0, null, null, "can't be unzipped: " + e.getMessage()));
    }
  }

  private static void unpack(
      String name, @Nullable Recipe recipe, Path folder, Found found, ZipInputStream in)
      throws IOException {
    Set<String> seen = new HashSet<>();
    long bytes = 0;
    ZipEntry entry;
    while ((entry = in.getNextEntry()) != null) {
      refuseBadName(name, entry.getName());
      if (!entry.isDirectory()) {
        refuseMore(name, entry.getName(), seen);
        Path target = folder.resolve(seen.size() + "");
        bytes += copy(in, target, name, ZIP_MAX_BYTES - bytes);
        found.add(name, entry.getName(), target, recipe);
      }
    }
    if (seen.isEmpty()) {
      throw new UnreadableFile(name, 0, null, "is not a zip, or an empty one");
    }
  }

  /**
   * Why there is no room for what a zip says it unpacks to; null when there is, or when it does not say.
   * What it really unpacks to is counted while it is unpacked.
   */
  private static String noRoom(Path zip, Path work) throws IOException {
    long bytes = 0;
    try (ZipFile file = new ZipFile(zip.toFile(), StandardCharsets.UTF_8)) {
      for (var entries = file.entries(); entries.hasMoreElements(); ) {
        bytes += Math.max(0, entries.nextElement().getSize());
      }
    } catch (ZipException | IllegalArgumentException e) {
      return null; // Unpacking says what is wrong with it.
    }
    if (bytes > ZIP_MAX_BYTES) {
      return "unpacks to more than " + Wording.bytes(ZIP_MAX_BYTES);
    }
    long free = Files.getFileStore(work).getUsableSpace();
    return bytes > free
        ? "unpacks to " + Wording.bytes(bytes) + ", and " + Wording.bytes(free)
            + " are free; nothing of it was unpacked. Free some, or unpack it elsewhere"
        : null;
  }

  private static void refuseBadName(String zip, String entry) throws UnreadableFile {
    boolean leaves = entry.startsWith("/")
        || entry.contains("\\")
        || entry.matches("^[A-Za-z]:.*")
        || List.of(entry.split("/")).contains("..");
    if (leaves) {
      throw new UnreadableFile(
          zip,
          0,
          entry,
          "is a name that leaves the zip's own folder; the whole zip is refused and nothing of it was"
              + " unpacked. Make it again with plain names");
    }
  }

  private static long copy(InputStream in, Path target, String zip, long most) throws IOException {
    byte[] buffer = new byte[1 << 16];
    long bytes = 0;
    try (OutputStream out = Files.newOutputStream(target)) {
      int n;
      while ((n = in.read(buffer)) >= 0) {
        bytes += n;
        if (bytes > most) {
          throw new UnreadableFile(
              zip, 0, null, "unpacks to more than " + Wording.bytes(ZIP_MAX_BYTES));
        }
        out.write(buffer, 0, n);
      }
    }
    return bytes;
  }
}
