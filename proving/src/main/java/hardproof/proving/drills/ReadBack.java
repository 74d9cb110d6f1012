package hardproof.proving.drills;

import hardproof.core.wording.Wording;
import hardproof.proving.archives.SpecialEntry;
import hardproof.proving.bags.BagManifest;
import hardproof.proving.checksums.BlockManifest;
import hardproof.proving.checksums.Checksum;
import hardproof.proving.checksums.DigestKind;
import hardproof.proving.checksums.Sha256;
import hardproof.proving.formats.Content;
import hardproof.proving.formats.Packing;
import hardproof.proving.manifests.TreeManifest;
import hardproof.proving.names.EntryName;
import hardproof.proving.stores.ArtifactStore;
import java.io.IOException;
import java.io.InputStream;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentSkipListSet;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.jspecify.annotations.Nullable;

/**
 * Reads one artifact whole and holds it to what was recorded: a block manifest, a checksum, or for a
 * folder the manifest of its files; else to what a first reading found. Memory stays the same whatever
 * the size; files of a folder are read side by side, as many as there are processors, since hashing is
 * what takes the time.
 */
final class ReadBack {
  private static final int FILES_AT_ONCE = 64;

  /** Small files are read a tenth faster into a small buffer, and large ones no slower. */
  private static final int FILE_BUFFER_BYTES = 1 << 16;

  private static final int MANIFEST_MAX_BYTES = 256 << 20;

  private final DrillRequest request;
  private final Steps steps;

  ReadBack(DrillRequest request, Steps steps) {
    this.request = request;
    this.steps = steps;
  }

  /**
   * What came of one artifact.
   *
   * @param failure null when it is as recorded
   * @param baseline made because there was nothing to compare with; null otherwise
   * @param against what it was compared with, for people
   */
  record Result(
      long bytes, @Nullable DrillFailure failure, @Nullable Baseline baseline, String against) {}

  static boolean folder(Artifact artifact) {
    return artifact.known().filter(f -> f.packing() == Packing.FOLDER).isPresent();
  }

  Result read(Artifact artifact) throws DrillFailure, IOException {
    if (folder(artifact)) {
      return readFolder(artifact);
    }
    BlockManifest blocks = singleFile(artifact) ? ManifestFile.ofBlocks(request, artifact) : null;
    if (blocks != null) {
      BlockManifest found = readBlocks(artifact, blocks.block());
      String difference = blocks.difference(found);
      return new Result(found.size(), damaged(artifact, difference), null, "its block manifest");
    }
    if (artifact.sha256() != null) {
      return readWhole(artifact);
    }
    Baseline before = artifact.baseline();
    if (before != null) {
      BlockManifest found = readBlocks(artifact, before.blocks().block());
      return new Result(
          found.size(),
          damaged(artifact, before.blocks().difference(found)),
          null,
          "what was first read on " + before.seen().toString().substring(0, 10));
    }
    long size = request.store().size(artifact.place());
    BlockManifest made = readBlocks(artifact, BlockManifest.blockFor(size));
    return new Result(
        made.size(), null, new Baseline(artifact.point(), artifact.place(), null, made), null);
  }

  /** Hashed by who reads: nothing is done beside it for which another thread would pay. */
  private Result readWhole(Artifact artifact) throws IOException {
    long[] bytes = new long[1];
    String found;
    try (InputStream in = request.store().open(artifact.place())) {
      found = Sha256.of(in, n -> {
        bytes[0] += n;
        steps.read(n);
      });
    }
    String difference = ArtifactReading.difference(artifact, found, bytes[0]);
    DrillFailure failure =
        difference == null ? null : DrillFailure.copyWrong(request, artifact, difference);
    return new Result(bytes[0], failure, null, "its SHA-256");
  }

  private static boolean singleFile(Artifact artifact) {
    return artifact.known().filter(f -> f.packing() == Packing.SINGLE).isPresent();
  }

  private DrillFailure damaged(Artifact artifact, String difference) {
    return difference == null
        ? null
        : DrillFailure.copyWrong(
            request, artifact, artifact.place() + " was read whole and is damaged: " + difference);
  }

  private BlockManifest readBlocks(Artifact artifact, int block) throws IOException {
    try (InputStream in = request.store().open(artifact.place())) {
      return BlockManifest.of(in, block, steps::read);
    }
  }

  private Result readFolder(Artifact artifact) throws DrillFailure, IOException {
    ArtifactStore.Folder folder = request.store().folder(artifact.place());
    List<String> present = folder.files();
    boolean bag = artifact.manifestSha256() == null
        && artifact.known().filter(f -> f.content() == Content.BAG).isPresent();
    TreeManifest manifest =
        bag ? bagManifest(artifact, folder, present) : ManifestFile.ofTree(request, artifact);
    List<String> wrong = new ArrayList<>();
    Set<String> missing = new HashSet<>(manifest.files().keySet());
    links(folder, manifest, missing, wrong);
    Set<String> extra = new TreeSet<>();
    List<String> compare = new ArrayList<>();
    for (String file : present) {
      if (missing.remove(file)) {
        compare.add(file);
      } else if (!bag || file.startsWith(BagManifest.PAYLOAD)) {
        extra.add(file);
      }
    }
    Set<String> changed = new ConcurrentSkipListSet<>();
    long bytes = readFiles(folder, compare, manifest, changed);
    part(wrong, new TreeSet<>(missing), "missing");
    part(wrong, extra, "not in the manifest");
    part(wrong, changed, "changed");
    DrillFailure failure = wrong.isEmpty()
        ? null
        : DrillFailure.copyWrong(
            request, artifact, artifact.place() + " is damaged: " + String.join("; ", wrong));
    return new Result(
        bytes,
        failure,
        null,
        "the manifest of its " + Wording.count(manifest.files().size(), "file", "files"));
  }

  /** Links that a manifest of the whole tree vouches for; a list of checksums may hold them by content. */
  private static void links(
      ArtifactStore.Folder folder, TreeManifest manifest, Set<String> missing, List<String> wrong) {
    Map<String, SpecialEntry> there = new TreeMap<>();
    folder.specials().forEach(s -> there.put(s.path(), s));
    missing.removeAll(there.keySet());
    if (!manifest.whole()) {
      return;
    }
    Set<String> differ = new TreeSet<>();
    manifest.specials().forEach((path, wanted) -> {
      SpecialEntry found = there.remove(path);
      if (found == null) {
        missing.add(path);
      } else if (found.kind() != wanted.kind()
          || wanted.target() != null && !wanted.target().equals(found.target())) {
        differ.add(path);
      }
    });
    part(wrong, differ, "leading elsewhere");
    part(wrong, there.keySet(), "not in the manifest");
  }

  private static void part(List<String> parts, Set<String> names, String what) {
    if (!names.isEmpty()) {
      parts.add(Wording.count(names.size(), "file", "files") + " " + what + ": "
          + EntryName.shown(names, 3));
    }
  }

  private static String bagManifest(DigestKind kind) {
    return "manifest-" + kind.name().toLowerCase(Locale.ROOT) + ".txt";
  }

  private TreeManifest bagManifest(
      Artifact artifact, ArtifactStore.Folder folder, List<String> present)
      throws DrillFailure, IOException {
    DigestKind kind = manifestKind(artifact, present);
    BagManifest read = readManifest(artifact, folder, kind);
    Map<String, TreeManifest.Item> files = new LinkedHashMap<>();
    read.sums()
        .forEach((path, sum) ->
            files.put(path, new TreeManifest.Item(new Checksum(kind, sum), null, null)));
    return TreeManifest.ofFiles(files);
  }

  private static DigestKind manifestKind(Artifact artifact, List<String> present)
      throws DrillFailure {
    DigestKind kind = Arrays.stream(DigestKind.values())
        .filter(k -> present.contains(bagManifest(k)))
        .findFirst()
        .orElse(null);
    if (kind == null) {
      throw DrillFailure.lacking(
          artifact.place() + " is a bag without a manifest of a kind that is read here");
    }
    return kind;
  }

  private BagManifest readManifest(Artifact artifact, ArtifactStore.Folder folder, DigestKind kind)
      throws IOException, DrillFailure {
    BagManifest read;
    try (InputStream in = folder.open(bagManifest(kind))) {
      read = BagManifest.parse(
          bagManifest(kind), EntryName.of(in.readNBytes(MANIFEST_MAX_BYTES)), kind, true);
    }
    if (!read.faults().isEmpty()) {
      throw DrillFailure.copyWrong(
          request, artifact, artifact.place() + ": " + read.faults().get(0));
    }
    return read;
  }

  private long readFiles(
      ArtifactStore.Folder folder, List<String> files, TreeManifest manifest, Set<String> changed)
      throws IOException {
    int threads = Math.max(1, Runtime.getRuntime().availableProcessors());
    ExecutorService readers = Executors.newFixedThreadPool(threads);
    try {
      List<Future<Long>> parts = new ArrayList<>();
      for (int i = 0; i < files.size(); i += FILES_AT_ONCE) {
        List<String> part = files.subList(i, Math.min(files.size(), i + FILES_AT_ONCE));
        parts.add(readers.submit(() -> readPart(folder, part, manifest, changed)));
      }
      long bytes = 0;
      for (Future<Long> part : parts) {
        bytes += part.get();
      }
      return bytes;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new Cancelled("interrupted");
    } catch (ExecutionException e) {
      throw rethrown(e.getCause());
    } finally {
      readers.shutdownNow();
    }
  }

  private long readPart(
      ArtifactStore.Folder folder, List<String> part, TreeManifest manifest, Set<String> changed)
      throws IOException {
    Map<DigestKind, MessageDigest> digests = new EnumMap<>(DigestKind.class);
    byte[] buffer = new byte[FILE_BUFFER_BYTES];
    long bytes = 0;
    for (String file : part) {
      Checksum sum = manifest.files().get(file).checksum();
      MessageDigest digest = digests.computeIfAbsent(sum.kind(), DigestKind::digest);
      try (InputStream in = folder.open(file)) {
        int n;
        while ((n = in.read(buffer)) >= 0) {
          digest.update(buffer, 0, n);
          bytes += n;
          steps.read(n);
        }
      }
      if (!Sha256.hex(digest.digest()).equals(sum.hex())) {
        changed.add(file);
      }
    }
    return bytes;
  }

  /** What a reader threw, as what it is. */
  static IOException rethrown(Throwable cause) {
    if (cause instanceof RuntimeException runtime) {
      throw runtime;
    }
    return cause instanceof IOException io ? io : new IOException(cause);
  }
}
