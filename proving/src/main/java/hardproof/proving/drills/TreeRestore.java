package hardproof.proving.drills;

import hardproof.core.wording.Wording;
import hardproof.proving.archives.ArchiveEntries;
import hardproof.proving.archives.Archives;
import hardproof.proving.archives.HostileArchive;
import hardproof.proving.archives.LayerUnpacker;
import hardproof.proving.archives.LinkTarget;
import hardproof.proving.archives.SpecialEntry;
import hardproof.proving.archives.UnpackLimits;
import hardproof.proving.formats.ArtifactFormat;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.formats.Packing;
import hardproof.proving.sandboxes.SandboxOutput;
import hardproof.proving.sandboxes.Sandboxes;
import hardproof.proving.stores.ArtifactStore;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;

/** Restores a chain of file sets, layer over layer, into the sandbox. */
final class TreeRestore {
  private TreeRestore() {}

  /** Why the chain can't be restored as files, null when it can. */
  static String refusal(DrillRequest request) {
    for (Artifact artifact : request.chain()) {
      if (artifact.known().filter(ArtifactFormat::tree).isEmpty()) {
        return artifact.place() + " is of format "
            + (artifact.format() == null ? "not known" : artifact.format())
            + ", which holds no set of files that is read here. Choose read-through instead.";
      }
    }
    return null;
  }

  /** Space for all of it; one that is laid aside while it is unpacked takes more. */
  static long spaceBytes(DrillRequest request) throws IOException {
    long bytes = 0;
    for (Artifact artifact : request.chain()) {
      boolean aside = artifact.known().filter(f -> f.packing().seeks()).isPresent();
      bytes += (aside ? 4 : 1) * ArtifactReading.unpackedSize(request, artifact);
    }
    return bytes;
  }

  /**
   * Restores what is wanted into {@link Workplace#restored()}; a step for each artifact. Wanted files that
   * are hard links to others are read once more with those.
   *
   * @param wanted null for everything
   */
  static void restore(DrillRequest request, Workplace w, Predicate<String> wanted)
      throws DrillFailure, IOException {
    LayerUnpacker unpacker = unpacker(request, w, wanted);
    int last = request.chain().size() - 1;
    for (int i = 0; i <= last; i++) {
      Artifact artifact = request.chain().get(i);
      w.steps.start(request.store().size(artifact.place()));
      long before = unpacker.entries();
      layer(request, artifact, w, unpacker);
      Map<String, String> left = wanted == null ? Map.of() : left(unpacker, wanted);
      if (i == last && !left.isEmpty()) {
        unpacker = again(request, w, wanted, left);
      }
      w.steps.done(
          Wording.count(Math.max(0, unpacker.entries() - before), "entry", "entries") + " read");
    }
    w.specials.putAll(unpacker.specials());
    w.untold = unpacker.untold();
    w.doubts.addAll(unpacker.doubts());
  }

  private static LayerUnpacker unpacker(DrillRequest request, Workplace w, Predicate<String> wanted)
      throws IOException {
    Path root = Files.createDirectories(w.restored());
    UnpackLimits limits = UnpackLimits.upTo(w.maxBytes, w.maxFiles);
    return new LayerUnpacker(root, limits, wanted, request.chain().size() > 1);
  }

  /** Wanted names whose content stands under another name: hard links, and links that a list names. */
  private static Map<String, String> left(LayerUnpacker unpacker, Predicate<String> wanted) {
    Map<String, String> left = new TreeMap<>(unpacker.left());
    LinkTarget target = new LinkTarget(unpacker.specials());
    for (SpecialEntry special : unpacker.specials().values()) {
      String to = wanted.test(special.path()) ? target.of(special.path()) : null;
      if (to != null && !to.equals(special.path())) {
        left.put(special.path(), to);
      }
    }
    return left;
  }

  /**
   * What wanted links point to is unpacked too, and put under their names; where it was not wanted itself, it
   * goes at the end.
   */
  private static LayerUnpacker again(
      DrillRequest request, Workplace w, Predicate<String> wanted, Map<String, String> left)
      throws DrillFailure, IOException {
    Set<String> besides = new HashSet<>(left.values());
    Sandboxes.removeTree(w.restored());
    LayerUnpacker unpacker = unpacker(request, w, p -> wanted.test(p) || besides.contains(p));
    for (Artifact artifact : request.chain()) {
      layer(request, artifact, w, unpacker);
    }
    linkContents(w, left, unpacker);
    removeBesides(w, wanted, besides);
    return unpacker;
  }

  private static void linkContents(Workplace w, Map<String, String> left, LayerUnpacker unpacker)
      throws IOException {
    for (Map.Entry<String, String> link : left.entrySet()) {
      Path path = w.restored().resolve(link.getKey());
      Path content = w.restored().resolve(link.getValue());
      if (!Files.exists(path, LinkOption.NOFOLLOW_LINKS)
          && Files.isRegularFile(content, LinkOption.NOFOLLOW_LINKS)) {
        Files.createDirectories(path.getParent());
        Files.createLink(path, content);
        unpacker.specials().remove(link.getKey());
      }
    }
  }

  private static void removeBesides(Workplace w, Predicate<String> wanted, Set<String> besides)
      throws IOException {
    for (String path : besides) {
      if (!wanted.test(path)) {
        Files.deleteIfExists(w.restored().resolve(path));
      }
    }
  }

  private static void layer(
      DrillRequest request, Artifact artifact, Workplace w, LayerUnpacker unpacker)
      throws DrillFailure, IOException {
    ArtifactFormat format = artifact.known().orElseThrow();
    if (format.packing() == Packing.FOLDER) {
      folder(request, artifact, w, unpacker);
    } else {
      packed(request, artifact, format, w, unpacker);
    }
  }

  private static void folder(
      DrillRequest request, Artifact artifact, Workplace w, LayerUnpacker unpacker)
      throws DrillFailure, IOException {
    unpacker.nextLayer();
    ArtifactStore.Folder folder = request.store().folder(artifact.place());
    try {
      put(w, unpacker, folder);
    } catch (HostileArchive e) {
      throw DrillFailure.copyUnrestorable(
          request, artifact, artifact.place() + " is refused: " + e.getMessage());
    } catch (NotReadHere e) {
      throw DrillFailure.lacking(artifact.place() + ": " + e.getMessage());
    }
  }

  private static void put(Workplace w, LayerUnpacker unpacker, ArtifactStore.Folder folder)
      throws IOException {
    for (String below : folder.folders()) {
      unpacker.putFolder(below);
    }
    for (String file : folder.files()) {
      ArtifactStore.Attributes told = folder.attributes(file);
      try (InputStream in = new Counted(folder.open(file), w)) {
        unpacker.put(file, in, told.mode(), told.modified());
      }
    }
    for (SpecialEntry special : folder.specials()) {
      unpacker.put(special);
    }
  }

  private static void packed(
      DrillRequest request,
      Artifact artifact,
      ArtifactFormat format,
      Workplace w,
      LayerUnpacker unpacker)
      throws DrillFailure, IOException {
    try (ArtifactReading in = ArtifactReading.open(request, artifact, w.steps)) {
      String stopped = null;
      NotReadHere lacking = null;
      try {
        unpack(in, format, w, unpacker);
      } catch (HostileArchive e) {
        throw DrillFailure.copyUnrestorable(
            request, artifact, artifact.place() + " is refused: " + e.getMessage());
      } catch (NotReadHere e) {
        lacking = e;
      } catch (ArtifactUnreadable | FileSystemException e) {
        throw e;
      } catch (IOException e) {
        // The decompressor and the readers say with plain IOExceptions that the bytes are wrong.
        stopped = ArtifactReading.reason(e);
      }
      String difference = ArtifactReading.difference(artifact, in.finish(), in.count());
      w.bytes += in.count();
      if (difference != null || stopped != null) {
        String reason = difference == null ? artifact.place() + " can't be unpacked" : difference;
        throw DrillFailure.unrestorable(
            request,
            artifact,
            difference,
            stopped == null ? reason : reason + " (" + stopped + ")");
      }
      if (lacking != null) {
        throw DrillFailure.lacking(artifact.place() + ": " + lacking.getMessage());
      }
    }
  }

  private static void unpack(
      ArtifactReading in, ArtifactFormat format, Workplace w, LayerUnpacker unpacker)
      throws IOException {
    InputStream content = in.content(format, w.keys);
    if (format.packing().seeks()) {
      aside(content, format.packing(), w.sandbox.resolve("aside"), unpacker);
    } else {
      unpacker.apply(Archives.read(content, format.packing()));
    }
  }

  /** One that tells at its end what it holds is laid aside in the sandbox first. */
  private static void aside(
      InputStream content, Packing packing, Path aside, LayerUnpacker unpacker) throws IOException {
    try {
      try (OutputStream out = SandboxOutput.to(aside)) {
        content.transferTo(out);
      }
      try (ArchiveEntries entries = Archives.open(aside, packing)) {
        unpacker.apply(entries);
      }
    } finally {
      Files.deleteIfExists(aside);
    }
  }

  /** Counts what is read of a folder's files. */
  private static final class Counted extends java.io.FilterInputStream {
    private final Workplace workplace;

    Counted(InputStream in, Workplace workplace) {
      super(in);
      this.workplace = workplace;
    }

    @Override
    public int read(byte[] buffer, int offset, int length) throws IOException {
      int n = in.read(buffer, offset, length);
      if (n > 0) {
        workplace.bytes += n;
        workplace.steps.read(n);
      }
      return n;
    }
  }
}
