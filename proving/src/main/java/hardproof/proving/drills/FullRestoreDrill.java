package hardproof.proving.drills;

import hardproof.core.ladder.Rung;
import hardproof.core.wording.Wording;
import hardproof.proving.archives.BrokenArchive;
import hardproof.proving.archives.HostileArchive;
import hardproof.proving.archives.LayerUnpacker;
import hardproof.proving.archives.UnpackLimits;
import hardproof.proving.manifests.TreeComparison;
import hardproof.proving.stores.ArtifactStore.ArtifactUnreadable;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;

/** Restores the chain, layer over layer, and compares the tree with the newest manifest. */
final class FullRestoreDrill implements DrillMethod {
  @Override
  public List<String> steps(DrillRequest request) {
    List<String> steps = new ArrayList<>();
    for (Artifact artifact : request.chain()) {
      steps.add("Restore " + artifact.place());
    }
    steps.add("Compare with the manifest");
    return steps;
  }

  @Override
  public Rung reaches(DrillRequest request) {
    return Rung.RESTORED;
  }

  @Override
  public long spaceBytes(DrillRequest request) throws IOException {
    long bytes = 0;
    for (Artifact artifact : request.chain()) {
      bytes += ArtifactReading.unpackedSize(request, artifact);
    }
    return bytes;
  }

  @Override
  public String refusal(DrillRequest request) {
    for (Artifact artifact : request.chain()) {
      if (ArtifactFormat.named(artifact.format())
          .filter(ArtifactFormat::fileSet)
          .isEmpty()) {
        return artifact.place() + " is of format "
            + (artifact.format() == null ? "not known" : artifact.format())
            + "; full restore reads tar and tar.gz. Choose read-through instead.";
      }
    }
    return request.last().manifestSha256() == null
        ? "no manifest was recorded for " + request.last().place()
            + ": there is nothing to compare the restored files with. Choose read-through instead."
        : null;
  }

  @Override
  public void restore(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    LayerUnpacker unpacker =
        new LayerUnpacker(Files.createDirectories(w.restored()), UnpackLimits.upTo(w.maxBytes));
    for (Artifact artifact : request.chain()) {
      w.steps.start(request.store().size(artifact.place()));
      long before = unpacker.entries();
      unpack(request, artifact, w, unpacker);
      w.steps.done(Wording.count(unpacker.entries() - before, "entry", "entries") + " unpacked");
    }
  }

  private static void unpack(
      DrillRequest request, Artifact artifact, Workplace w, LayerUnpacker unpacker)
      throws DrillFailure, IOException {
    ArtifactFormat format = ArtifactFormat.named(artifact.format()).orElseThrow();
    try (ArtifactReading in = ArtifactReading.open(request, artifact, w.steps)) {
      String stopped = null;
      try {
        InputStream content = in.content(format);
        unpacker.apply(content, in::count);
      } catch (HostileArchive e) {
        throw DrillFailure.copyUnrestorable(
            request, artifact, artifact.place() + " is refused: " + e.getMessage());
      } catch (ArtifactUnreadable | FileSystemException e) {
        throw e;
      } catch (BrokenArchive e) {
        stopped = ArtifactReading.reason(e);
      } catch (IOException e) {
        // The decompressor and the tar reader say with plain IOExceptions that the bytes are wrong.
        stopped = ArtifactReading.reason(e);
      }
      String difference = ArtifactReading.difference(artifact, in.finish(), in.count());
      w.bytes += in.count();
      if (difference != null || stopped != null) {
        String reason = difference == null ? artifact.place() + " can't be unpacked" : difference;
        throw DrillFailure.copyUnrestorable(
            request, artifact, stopped == null ? reason : reason + " (" + stopped + ")");
      }
    }
  }

  @Override
  public String check(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    w.steps.start(0);
    TreeComparison comparison = TreeComparison.of(
        w.restored(), ArtifactReading.manifest(request, request.last()), w.steps::read);
    if (!comparison.equal()) {
      throw DrillFailure.contentWrong(request.last(), "restored, but " + comparison.sentence());
    }
    w.steps.done(comparison.sentence());
    return "restored whole: " + comparison.sentence();
  }
}
