package hardproof.proving.drills;

import hardproof.core.wording.Wording;
import hardproof.proving.formats.ArtifactFormat;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.sandboxes.SandboxOutput;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.Path;

/** Restores an artifact that is one file into the sandbox, decompressed. */
final class FileRestore {
  private FileRestore() {}

  /** Why it can't be restored as one file of the kinds named, null when it can. */
  static String refusal(
      DrillRequest request, java.util.function.Predicate<ArtifactFormat> suits, String kinds) {
    if (request.chain().size() > 1) {
      return "the point is a chain of " + request.chain().size()
          + " artifacts; this is restored from one file. Choose full restore or read-through instead.";
    }
    Artifact last = request.last();
    return last.known().filter(suits).isPresent()
        ? null
        : last.place() + " is of format " + (last.format() == null ? "not known" : last.format())
            + "; this drill reads " + kinds + ". Choose full restore or read-through instead.";
  }

  /** Restores in one step. */
  static void restore(DrillRequest request, Artifact artifact, Path target, Workplace w)
      throws DrillFailure, IOException {
    w.steps.start(request.store().size(artifact.place()));
    write(request, artifact, target, w);
    w.steps.done("restored as " + target.getFileName() + ", " + Wording.bytes(Files.size(target)));
  }

  static void write(DrillRequest request, Artifact artifact, Path target, Workplace w)
      throws DrillFailure, IOException {
    try (ArtifactReading in = ArtifactReading.open(request, artifact, w.steps);
        OutputStream out = SandboxOutput.to(target)) {
      String stopped = null;
      NotReadHere lacking = null;
      try {
        copy(in.content(artifact.known().orElseThrow(), w.keys), out, w.maxBytes);
      } catch (NotReadHere e) {
        lacking = e;
      } catch (ArtifactUnreadable | FileSystemException e) {
        throw e;
      } catch (IOException e) {
        stopped = ArtifactReading.reason(e);
      }
      String difference = ArtifactReading.difference(artifact, in.finish(), in.count());
      w.bytes += in.count();
      if (difference != null || stopped != null) {
        throw DrillFailure.unrestorable(
            request,
            artifact,
            difference,
            difference == null
                ? artifact.place() + " can't be restored (" + stopped + ")"
                : difference + (stopped == null ? "" : " (" + stopped + ")"));
      }
      if (lacking != null) {
        throw DrillFailure.lacking(artifact.place() + ": " + lacking.getMessage());
      }
    }
  }

  private static void copy(InputStream in, OutputStream out, long maxBytes) throws IOException {
    byte[] buffer = new byte[1 << 17];
    long bytes = 0;
    int n;
    while ((n = in.read(buffer)) >= 0) {
      bytes += n;
      if (bytes > maxBytes) {
        throw new NotReadHere("it unpacks to more than the " + maxBytes
            + " bytes that this run may write: give the sandboxes more room");
      }
      out.write(buffer, 0, n);
    }
  }
}
