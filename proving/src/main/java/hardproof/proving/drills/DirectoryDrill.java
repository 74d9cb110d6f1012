package hardproof.proving.drills;

import hardproof.core.ladder.Rung;
import hardproof.core.wording.Wording;
import hardproof.proving.checks.Aspect;
import hardproof.proving.checks.CheckType;
import hardproof.proving.directories.DirectoryDifference;
import hardproof.proving.directories.RestoredDirectory;
import hardproof.proving.formats.Content;
import hardproof.proving.formats.DumpMark;
import hardproof.proving.formats.NotReadHere;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/** Loads the entries into a directory server in memory and compares them with the point before. */
final class DirectoryDrill implements DrillMethod {
  @Override
  public List<String> steps(DrillRequest request) {
    List<String> steps = new ArrayList<>();
    steps.add("Restore " + request.last().place());
    if (request.before() != null) {
      steps.add("Restore " + request.before().place() + " to compare with");
    }
    steps.add("Load into a directory server in memory");
    return steps;
  }

  @Override
  public Rung reaches(DrillRequest request) {
    return request.asked() ? Rung.RUNNING : Rung.RESTORED;
  }

  @Override
  public long spaceBytes(DrillRequest request) throws IOException {
    return ArtifactReading.unpackedSize(request, request.last())
        + (request.before() == null ? 0 : ArtifactReading.unpackedSize(request, request.before()));
  }

  @Override
  public String refusal(DrillRequest request) {
    String refusal = FileRestore.refusal(
        request, f -> f.content() == Content.LDIF, "ldif, as it is or compressed (.gz, .zst)");
    boolean compares =
        request.checks().stream().anyMatch(c -> c.type() == CheckType.ATTRIBUTES_KEPT);
    return refusal == null && compares && request.before() == null
        ? "a check compares with the point before, and none of this directory is on "
            + request.storeName() + ". Choose a newer point, or leave that check out."
        : refusal;
  }

  @Override
  public Set<Aspect> aspects() {
    return Set.of(Aspect.DIRECTORY);
  }

  private static Path now(Workplace w) {
    return w.sandbox.resolve("entries.ldif");
  }

  private static Path before(Workplace w) {
    return w.sandbox.resolve("before.ldif");
  }

  @Override
  public void restore(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    FileRestore.restore(request, request.last(), now(w), w);
    if (request.before() != null) {
      w.steps.start(request.store().size(request.before().place()));
      try {
        FileRestore.write(request, request.before(), before(w), w);
        w.steps.done("restored beside it");
      } catch (DrillFailure e) {
        // What is drilled is the newer point: a bad older one is not its fault.
        Files.deleteIfExists(before(w));
        w.steps.done("left out: " + e.getMessage());
      }
    }
  }

  @Override
  public String check(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    w.steps.start(0);
    try (RestoredDirectory directory = open(request, w)) {
      DirectoryDifference difference = directory.difference();
      List<String> dangling = directory.danglingMembers();
      String found = found(directory, difference, dangling);
      w.steps.done(found);
      return "directory loaded: " + found
          + (request.inside().isEmpty() ? "; nothing was asked of it" : "");
    }
  }

  private static String found(
      RestoredDirectory directory, DirectoryDifference difference, List<String> dangling) {
    return Wording.count(directory.size(), "entry", "entries") + " under "
        + Wording.list(directory.tops())
        + (difference == null ? "" : "; " + difference.sentence())
        + (dangling.isEmpty()
            ? ""
            : "; " + Wording.count(dangling.size(), "member", "members") + " of groups not there: "
                + dangling.get(0));
  }

  @Override
  public RestoredDirectory open(DrillRequest request, Workplace w)
      throws DrillFailure, IOException {
    try {
      DumpMark.accept(now(w), Content.LDIF);
      RestoredDirectory directory = RestoredDirectory.load(now(w), w.steps::stopIfCancelled);
      compareWithOlder(w, directory);
      return directory;
    } catch (NotReadHere e) {
      throw DrillFailure.lacking(request.last().place() + ": " + e.getMessage());
    } catch (RestoredDirectory.Unloadable e) {
      throw DrillFailure.contentWrong(
          request.last(), request.last().place() + " can't be loaded: " + e.getMessage());
    }
  }

  private static void compareWithOlder(Workplace w, RestoredDirectory directory)
      throws IOException {
    if (Files.exists(before(w))) {
      try {
        directory.compareWith(RestoredDirectory.load(before(w), w.steps::stopIfCancelled));
      } catch (RestoredDirectory.Unloadable | NotReadHere e) {
        // As above: a bad older one is not the newer one's fault.
        Files.deleteIfExists(before(w));
      }
    }
  }
}
