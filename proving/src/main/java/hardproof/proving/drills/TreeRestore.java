package hardproof.proving.drills;

import hardproof.core.wording.Wording;
import hardproof.proving.archives.BrokenArchive;
import hardproof.proving.archives.HostileArchive;
import hardproof.proving.archives.LayerUnpacker;
import hardproof.proving.archives.UnpackLimits;
import hardproof.proving.formats.ArtifactFormat;
import hardproof.proving.formats.Packing;
import hardproof.proving.sandboxes.SandboxOutput;
import hardproof.proving.stores.ArtifactStore;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Set;
import java.util.TreeSet;
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

  /** Space for all of it; a zip is laid aside as well while it is unpacked. */
  static long spaceBytes(DrillRequest request) throws IOException {
    long bytes = 0;
    for (Artifact artifact : request.chain()) {
      boolean zip = artifact.known().filter(f -> f.packing() == Packing.ZIP).isPresent();
      bytes += (zip ? 4 : 1) * ArtifactReading.unpackedSize(request, artifact);
    }
    return bytes;
  }

  /**
   * Restores what is wanted into {@link Workplace#restored()}; a step for each artifact.
   *
   * @param wanted null for everything
   * @return wanted files that are links to others and can't be made alone
   */
  static Set<String> restore(DrillRequest request, Workplace w, Predicate<String> wanted)
      throws DrillFailure, IOException {
    Path root = Files.createDirectories(w.restored());
    UnpackLimits limits = UnpackLimits.upTo(w.maxBytes, w.maxFiles);
    LayerUnpacker unpacker =
        wanted == null ? new LayerUnpacker(root, limits) : new LayerUnpacker(root, limits, wanted);
    for (Artifact artifact : request.chain()) {
      w.steps.start(request.store().size(artifact.place()));
      long before = unpacker.entries();
      ArtifactFormat format = artifact.known().orElseThrow();
      if (format.packing() == Packing.FOLDER) {
        folder(request, artifact, w, unpacker);
      } else {
        packed(request, artifact, format, w, unpacker);
      }
      w.steps.done(Wording.count(unpacker.entries() - before, "entry", "entries") + " read");
    }
    return new TreeSet<>(unpacker.left());
  }

  private static void folder(
      DrillRequest request, Artifact artifact, Workplace w, LayerUnpacker unpacker)
      throws DrillFailure, IOException {
    unpacker.nextLayer();
    ArtifactStore.Folder folder = request.store().folder(artifact.place());
    try {
      for (String file : folder.files()) {
        try (InputStream in = new Counted(folder.open(file), w)) {
          unpacker.put(file, in, () -> w.bytes);
        }
      }
    } catch (HostileArchive e) {
      throw DrillFailure.copyUnrestorable(
          request, artifact, artifact.place() + " is refused: " + e.getMessage());
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
      try {
        if (format.packing() == Packing.ZIP) {
          zip(in, format, w, unpacker);
        } else {
          unpacker.apply(in.content(format), in::count);
        }
      } catch (HostileArchive e) {
        throw DrillFailure.copyUnrestorable(
            request, artifact, artifact.place() + " is refused: " + e.getMessage());
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
    }
  }

  /** A zip tells at its end what it holds, so it is laid aside in the sandbox first. */
  private static void zip(
      ArtifactReading in, ArtifactFormat format, Workplace w, LayerUnpacker unpacker)
      throws IOException {
    Path aside = w.sandbox.resolve("zip");
    try {
      try (OutputStream out = SandboxOutput.to(aside)) {
        in.content(format).transferTo(out);
      }
      unpacker.applyZip(aside, in.count());
    } catch (java.util.zip.ZipException e) {
      throw new BrokenArchive(ArtifactReading.reason(e), e);
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
