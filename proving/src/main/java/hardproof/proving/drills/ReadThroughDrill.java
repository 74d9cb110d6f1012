package hardproof.proving.drills;

import hardproof.core.ladder.Rung;
import hardproof.core.wording.Wording;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;

/**
 * Streams every byte of the chain, compares checksums and discards. Memory and space stay the same
 * whatever the size. Artifacts are read side by side, as many as there are processors: hashing is
 * what takes the time.
 */
final class ReadThroughDrill implements DrillMethod {
  @Override
  public List<String> steps(DrillRequest request) {
    return List.of(
        "Find " + Wording.count(request.chain().size(), "artifact", "artifacts"),
        "Read every byte from " + request.storeName(),
        "Compare checksums");
  }

  @Override
  public Rung reaches(DrillRequest request) {
    return Rung.INTACT;
  }

  @Override
  public long spaceBytes(DrillRequest request) {
    return 0;
  }

  @Override
  public String refusal(DrillRequest request) {
    return request.chain().stream()
        .filter(a -> a.sha256() == null)
        .findFirst()
        .map(
            a -> "no checksum was recorded for " + a.place()
                + ": there is nothing to compare with. Bring in the field sha256 of copies, or choose full restore.")
        .orElse(null);
  }

  @Override
  public void restore(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    w.steps.start(0);
    long total = 0;
    for (Artifact artifact : request.chain()) {
      total += request.store().size(artifact.place());
    }
    w.steps.done(Wording.bytes(total) + " to read");
    w.steps.start(total);
    long begun = System.nanoTime();
    int threads = Math.max(
        1, Math.min(Runtime.getRuntime().availableProcessors(), request.chain().size()));
    ExecutorService readers = Executors.newFixedThreadPool(threads);
    try {
      List<Future<DrillFailure>> reads = new ArrayList<>();
      for (Artifact artifact : request.chain()) {
        reads.add(readers.submit(() -> readOne(request, artifact, w)));
      }
      for (Future<DrillFailure> read : reads) {
        DrillFailure failure = read.get();
        if (failure != null) {
          w.found.add(failure);
        }
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new Cancelled();
    } catch (ExecutionException e) {
      rethrow(e.getCause());
    } finally {
      readers.shutdownNow();
    }
    w.bytes = w.steps.bytesOfStep();
    Duration took = Duration.ofNanos(Math.max(1, System.nanoTime() - begun));
    long perSecond = (long) (w.bytes / (took.toNanos() / 1e9));
    w.steps.done(
        Wording.bytes(w.bytes) + " in " + Wording.duration(took) + ", " + Wording.bytes(perSecond)
            + " a second; a restore at this rate would take at least " + Wording.duration(took));
  }

  private static DrillFailure readOne(DrillRequest request, Artifact artifact, Workplace w)
      throws IOException {
    try (ArtifactReading in = ArtifactReading.open(request, artifact, w.steps)) {
      String found = in.finish();
      String difference = ArtifactReading.difference(artifact, found, in.count());
      return difference == null ? null : DrillFailure.copyWrong(request, artifact, difference);
    }
  }

  private static void rethrow(Throwable cause) throws IOException {
    if (cause instanceof IOException io) {
      throw io;
    }
    if (cause instanceof RuntimeException runtime) {
      throw runtime;
    }
    throw new IOException(cause);
  }

  @Override
  public String check(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    w.steps.start(0);
    for (Artifact artifact : request.chain()) {
      ArtifactReading.checkSize(request, artifact);
    }
    if (!w.found.isEmpty()) {
      throw w.found.get(0);
    }
    String found = Wording.count(request.chain().size(), "artifact", "artifacts")
        + " read back whole (" + Wording.bytes(w.bytes) + "), every SHA-256 as recorded";
    w.steps.done(found);
    return found;
  }
}
