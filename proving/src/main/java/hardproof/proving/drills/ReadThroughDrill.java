package hardproof.proving.drills;

import hardproof.core.ladder.Rung;
import hardproof.core.wording.Wording;
import hardproof.proving.stores.ArtifactStore;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
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

  /** What is read for the first time is compared with nothing. */
  @Override
  public Rung reaches(DrillRequest request) {
    return request.chain().stream().allMatch(a -> a.checkable() || a.baseline() != null || bag(a))
        ? Rung.INTACT
        : Rung.HELD;
  }

  private static boolean bag(Artifact artifact) {
    return ReadBack.folder(artifact)
        && artifact.known().orElseThrow().content() == hardproof.proving.formats.Content.BAG;
  }

  @Override
  public long spaceBytes(DrillRequest request) {
    return 0;
  }

  @Override
  public List<String> notes(DrillRequest request) {
    return request.chain().stream()
        .filter(a -> !a.checkable() && !ReadBack.folder(a))
        .findFirst()
        .map(a -> List.of(
            a.baseline() == null
                ? "No checksum was recorded for " + a.place()
                    + ": what is read now is kept, and shows from the next time on that nothing changed"
                    + " since; not that it is right."
                : "No checksum was recorded for " + a.place()
                    + ": it is compared with what was first read on "
                    + a.baseline().seen().toString().substring(0, 10) + "."))
        .orElse(List.of());
  }

  @Override
  public String refusal(DrillRequest request) {
    return request.chain().stream()
        .filter(a -> ReadBack.folder(a) && !a.checkable() && !bag(a))
        .findFirst()
        .map(
            a -> "no manifest was recorded for the folder " + a.place()
                + ": there is nothing to compare its files with. Bring in the field manifest of copies.")
        .orElse(null);
  }

  @Override
  public void restore(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    w.steps.start(0);
    long total = total(request);
    w.steps.done(Wording.bytes(total) + " to read");
    w.steps.start(total);
    long begun = System.nanoTime();
    readAll(request, w);
    Duration took = Duration.ofNanos(Math.max(1, System.nanoTime() - begun));
    long perSecond = (long) (w.bytes / (took.toNanos() / 1e9));
    w.steps.done(
        Wording.bytes(w.bytes) + " in " + Wording.duration(took) + ", " + Wording.bytes(perSecond)
            + " a second; a restore at this rate would take at least " + Wording.duration(took));
  }

  private static long total(DrillRequest request) throws ArtifactStore.ArtifactUnreadable {
    long total = 0;
    for (Artifact artifact : request.chain()) {
      total += request.store().size(artifact.place());
    }
    return total;
  }

  private static void readAll(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    ReadBack reader = new ReadBack(request, w.steps);
    Set<String> against = new TreeSet<>();
    int threads = Math.max(
        1, Math.min(Runtime.getRuntime().availableProcessors(), request.chain().size()));
    ExecutorService readers = Executors.newFixedThreadPool(threads);
    try {
      List<Future<ReadBack.Result>> reads = new ArrayList<>();
      for (Artifact artifact : request.chain()) {
        reads.add(readers.submit(() -> reader.read(artifact)));
      }
      for (Future<ReadBack.Result> read : reads) {
        ReadBack.Result result = read.get();
        w.bytes += result.bytes();
        if (result.failure() != null) {
          w.found.add(result.failure());
        }
        if (result.baseline() != null) {
          w.baselines.add(result.baseline());
        } else {
          against.add(result.against());
        }
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new Cancelled("interrupted");
    } catch (ExecutionException e) {
      if (e.getCause() instanceof DrillFailure failure) {
        throw failure;
      }
      throw ReadBack.rethrown(e.getCause());
    } finally {
      readers.shutdownNow();
    }
    w.against.addAll(against);
  }

  @Override
  public String check(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    w.steps.start(0);
    checkSizes(request);
    if (!w.found.isEmpty()) {
      throw w.found.get(0);
    }
    String found = found(request, w);
    w.steps.done(found);
    return found;
  }

  private static void checkSizes(DrillRequest request)
      throws DrillFailure, ArtifactStore.ArtifactUnreadable {
    for (Artifact artifact : request.chain()) {
      if (!ReadBack.folder(artifact)) {
        ArtifactReading.checkSize(request, artifact);
      }
    }
  }

  private static String found(DrillRequest request, Workplace w) {
    String read = Wording.count(request.chain().size(), "artifact", "artifacts")
        + " read back whole (" + Wording.bytes(w.bytes) + ")";
    String found;
    if (w.baselines.isEmpty()) {
      found = w.against.equals(Set.of("its SHA-256"))
          ? read + ", every SHA-256 as recorded"
          : read + ", as in " + String.join(" and ", w.against);
    } else {
      found = read + "; for "
          + Wording.count(w.baselines.size(), "artifact", "artifacts")
          + " nothing was recorded to compare with: what was read is kept for the next time";
    }
    return found;
  }
}
