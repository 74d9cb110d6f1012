package hardproof.proving.drills;

import hardproof.core.ladder.Rung;
import hardproof.core.wording.Wording;
import hardproof.proving.applications.ApplicationBundle;
import hardproof.proving.applications.RestoredApplication;
import hardproof.proving.archives.ArchiveEntries;
import hardproof.proving.archives.Archives;
import hardproof.proving.archives.HostileArchive;
import hardproof.proving.archives.LayerUnpacker;
import hardproof.proving.archives.UnpackLimits;
import hardproof.proving.checks.Aspect;
import hardproof.proving.checks.Restored;
import hardproof.proving.formats.ArtifactFormat;
import hardproof.proving.formats.Content;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.formats.Packing;
import hardproof.proving.names.EntryName;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;

/**
 * Restores a container application: the bundle, then its volumes, then its objects, whose references must
 * all resolve inside the bundle.
 */
final class ApplicationDrill implements DrillMethod {
  @Override
  public List<String> steps(DrillRequest request) {
    List<String> steps = new ArrayList<>();
    for (Artifact artifact : request.chain()) {
      steps.add("Restore " + artifact.place());
    }
    if (request.last().manifestSha256() != null) {
      steps.add("Compare with the manifest");
    }
    steps.add("Restore the volumes");
    steps.add("Read the objects and follow their references");
    return steps;
  }

  @Override
  public Rung reaches(DrillRequest request) {
    return request.asked() ? Rung.RUNNING : Rung.RESTORED;
  }

  /** The volumes lie packed and unpacked side by side. */
  @Override
  public long spaceBytes(DrillRequest request) throws IOException {
    return 4 * TreeRestore.spaceBytes(request);
  }

  @Override
  public String refusal(DrillRequest request) {
    return request.chain().stream()
        .filter(a -> a.known().filter(f -> f.content() == Content.APPLICATION).isEmpty())
        .findFirst()
        .map(a -> a.place() + " is of format " + (a.format() == null ? "not known" : a.format())
            + "; this drill reads app, app.tar, app.tar.gz, app.tar.zst and app.zip. Choose full restore"
            + " or read-through instead.")
        .orElse(null);
  }

  @Override
  public Set<Aspect> aspects() {
    return Set.of(Aspect.FILES, Aspect.DATABASE);
  }

  private static Path volumes(Workplace w) {
    return w.restored().resolve(ApplicationBundle.VOLUMES);
  }

  @Override
  public void restore(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    TreeRestore.restore(request, w, null);
    if (request.last().manifestSha256() != null) {
      w.steps.start(0);
      w.steps.done(ManifestCheck.whole(request, w));
    }
    w.steps.start(0);
    Set<String> names = new TreeSet<>();
    for (Path archive : archives(w)) {
      names.add(unpackVolume(request, archive, w));
    }
    w.steps.done(names.isEmpty() ? "it has none" : Wording.list(List.copyOf(names)));
  }

  private static List<Path> archives(Workplace w) throws IOException {
    if (!Files.isDirectory(volumes(w), LinkOption.NOFOLLOW_LINKS)) {
      return List.of();
    }
    try (Stream<Path> list = Files.list(volumes(w))) {
      return list.filter(p -> Files.isRegularFile(p, LinkOption.NOFOLLOW_LINKS))
          .sorted()
          .toList();
    }
  }

  /** {@code data.tar.zst} becomes the folder {@code data}; the archive itself goes. */
  private static String unpackVolume(DrillRequest request, Path archive, Workplace w)
      throws DrillFailure, IOException {
    String file = archive.getFileName().toString();
    int dot = dotBeforeFormat(file);
    if (dot < 0) {
      throw DrillFailure.lacking("the volume " + EntryName.shown(file)
          + " is no archive that is read here: tar, zip, cpio and 7z are");
    }
    ArtifactFormat format = ArtifactFormat.named(file.substring(dot + 1)).orElseThrow();
    if (dot == 0) {
      throw DrillFailure.contentWrong(
          request.last(), "the volume " + file + " has no name before its first dot");
    }
    String name = file.substring(0, dot);
    if (w.specials.containsKey(ApplicationBundle.VOLUMES + "/" + name)) {
      throw DrillFailure.contentWrong(
          request.last(),
          "the volume " + file + " is refused: it goes through the link volumes/" + name);
    }
    List<String> doubts;
    try {
      doubts = unpack(archive, format, name, w);
    } catch (HostileArchive e) {
      throw DrillFailure.contentWrong(
          request.last(), "the volume " + file + " is refused: " + e.getMessage());
    } catch (NotReadHere e) {
      throw DrillFailure.lacking("the volume " + file + ": " + e.getMessage());
    } catch (java.nio.file.FileSystemException e) {
      throw e;
    } catch (IOException e) {
      throw DrillFailure.contentWrong(
          request.last(),
          "the volume " + file + " can't be unpacked (" + ArtifactReading.reason(e) + ")");
    }
    if (!doubts.isEmpty()) {
      // No manifest vouches for what is inside of a volume.
      throw DrillFailure.contentWrong(
          request.last(), "the volume " + file + " " + String.join("; it ", doubts));
    }
    w.steps.read(Files.size(archive));
    Files.delete(archive);
    return name;
  }

  /** What other programs may make something else of. */
  private static List<String> unpack(Path archive, ArtifactFormat format, String name, Workplace w)
      throws IOException {
    LayerUnpacker unpacker = LayerUnpacker.below(
        w.restored(),
        ApplicationBundle.VOLUMES + "/" + name,
        UnpackLimits.upTo(w.maxBytes, w.maxFiles));
    apply(archive, format, unpacker);
    return unpacker.doubts();
  }

  private static void apply(Path archive, ArtifactFormat format, LayerUnpacker unpacker)
      throws IOException {
    if (format.packing().seeks()) {
      try (ArchiveEntries entries = Archives.open(archive, format.packing())) {
        unpacker.apply(entries);
      }
    } else {
      try (InputStream in = new BufferedInputStream(Files.newInputStream(archive))) {
        unpacker.apply(Archives.read(format.compression().content(in), format.packing()));
      }
    }
  }

  /** Names of claims may have dots of their own: the longest end that names a format counts. */
  private static int dotBeforeFormat(String name) {
    for (int dot = name.indexOf('.'); dot >= 0; dot = name.indexOf('.', dot + 1)) {
      boolean archive = ArtifactFormat.named(name.substring(dot + 1))
          .filter(f -> f.content() == Content.FILES && f.packing() != Packing.FOLDER)
          .isPresent();
      if (archive) {
        return dot;
      }
    }
    return -1;
  }

  @Override
  public String check(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    w.steps.start(0);
    Set<String> volumes = volumesThere(w);
    try {
      ApplicationBundle bundle = ApplicationBundle.read(w.restored());
      List<String> unresolved = bundle.unresolved(volumes);
      requireWhole(request, unresolved);
      return found(request, w, volumes, bundle);
    } catch (ApplicationBundle.BadBundle e) {
      throw DrillFailure.contentWrong(request.last(), "restored, but " + e.getMessage());
    }
  }

  private static Set<String> volumesThere(Workplace w) throws IOException {
    Set<String> volumes = new TreeSet<>();
    if (Files.isDirectory(volumes(w), LinkOption.NOFOLLOW_LINKS)) {
      try (Stream<Path> list = Files.list(volumes(w))) {
        // A link is no volume, wherever it leads.
        list.filter(p -> Files.isDirectory(p, LinkOption.NOFOLLOW_LINKS))
            .forEach(p -> volumes.add(p.getFileName().toString()));
      }
    }
    return volumes;
  }

  private static void requireWhole(DrillRequest request, List<String> unresolved)
      throws DrillFailure {
    if (!unresolved.isEmpty()) {
      throw DrillFailure.contentWrong(
          request.last(),
          "restored, but the bundle is not whole: "
              + String.join("; ", unresolved.subList(0, Math.min(3, unresolved.size())))
              + (unresolved.size() > 3 ? "; … (" + unresolved.size() + ")" : ""));
    }
  }

  private static String found(
      DrillRequest request, Workplace w, Set<String> volumes, ApplicationBundle bundle) {
    String found = bundle.sentence() + "; " + Wording.count(volumes.size(), "volume", "volumes");
    w.steps.done(found);
    return "application restored: " + found
        + (request.inside().isEmpty() ? "; nothing was asked of it" : "");
  }

  @Override
  public Restored open(DrillRequest request, Workplace w) {
    return new RestoredApplication(w.restored(), w.steps::stopIfCancelled);
  }
}
