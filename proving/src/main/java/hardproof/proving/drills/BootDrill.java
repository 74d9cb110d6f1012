package hardproof.proving.drills;

import hardproof.core.ladder.Rung;
import hardproof.core.wording.Wording;
import hardproof.proving.boot.BootEngine;
import hardproof.proving.boot.Expectation;
import hardproof.proving.boot.RestoredScreen;
import hardproof.proving.boot.Screen;
import hardproof.proving.boot.ScreenClass;
import hardproof.proving.boot.ScreenReader;
import hardproof.proving.boot.ServiceReports;
import hardproof.proving.boot.Watched;
import hardproof.proving.checks.Aspect;
import hardproof.proving.checks.Restored;
import hardproof.proving.checksums.Sha256;
import hardproof.proving.formats.ArtifactFormat;
import hardproof.proving.formats.Content;
import hardproof.proving.formats.NotReadHere;
import hardproof.proving.images.DiskForms;
import hardproof.proving.images.DiskStructure;
import hardproof.proving.images.FileSystemChecks;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Starts a machine from its image, with no network and nothing written to it, and reads its screen. First
 * its partition table and file systems are held to their own checksums.
 */
final class BootDrill implements DrillMethod {
  private static final int SCREENS_KEPT = 4;
  private static final int NOTES_SAID = 4;

  private final Engines engines;

  BootDrill(Engines engines) {
    this.engines = engines;
  }

  @Override
  public List<String> steps(DrillRequest request) {
    List<String> steps = new ArrayList<>();
    steps.add("Restore " + request.last().place() + " under a new name");
    steps.add("Look at the partition table and the file systems");
    steps.add("Start with no network, by " + engineName(request));
    steps.add("Read the screen");
    return steps;
  }

  private String engineName(DrillRequest request) {
    BootEngine engine = engine(request);
    return engine == null ? "a boot engine" : engine.name();
  }

  private static Content content(DrillRequest request) {
    return request.last().known().map(ArtifactFormat::content).orElse(null);
  }

  /** The one that was asked for, else the one that ships, which is quick. */
  private BootEngine engine(DrillRequest request) {
    return engines.boot(MachineWatch.engine(request));
  }

  @Override
  public Rung reaches(DrillRequest request) {
    return Rung.RUNNING;
  }

  @Override
  public long spaceBytes(DrillRequest request) throws IOException {
    long size = ArtifactReading.unpackedSize(request, request.last());
    return content(request) == Content.IMAGE ? size : 3 * size;
  }

  @Override
  public String refusal(DrillRequest request) {
    String refusal = FileRestore.refusal(
        request,
        f -> f.content().disk(),
        "img, qcow2, vmdk, vdi, vhd and vhdx, as they are or compressed");
    if (refusal != null) {
      return refusal;
    }
    if (engine(request) == null) {
      return "the boot engine '" + request.options().engine() + "' is not here: "
          + engines.bootRefusal(request.options().engine());
    }
    if (content(request) != Content.IMAGE && !DiskForms.present()) {
      return "images of format " + request.last().format()
          + " are read by qemu-img, which is not installed. On Debian: apt-get install qemu-utils.";
    }
    return null;
  }

  @Override
  public List<String> notes(DrillRequest request) {
    BootEngine engine = engine(request);
    return engine == null || !engine.code().equals("stand-in")
        ? List.of()
        : List.of("The stand-in engine executes simple boot code only. Where it can't go on, "
            + (request.options().engine() == null
                ? "QEMU is asked, if it is installed."
                : "nothing is decided; choose QEMU then."));
  }

  @Override
  public Set<Aspect> aspects() {
    return Set.of(Aspect.SCREEN);
  }

  static Path image(DrillRequest request, Workplace w) {
    return w.sandbox.resolve("drill-" + request.run() + ".img");
  }

  @Override
  public void restore(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    restoreRaw(request, w);
    w.steps.start(0);
    DiskStructure structure = structure(request, w);
    if (!structure.faults().isEmpty()) {
      throw DrillFailure.contentWrong(
          request.last(), "restored whole, but " + structure.sentence());
    }
    w.notes.addAll(structure.warnings());
    w.steps.done(structure.sentence());
    start(request, w, structure);
  }

  private static DiskStructure structure(DrillRequest request, Workplace w) throws IOException {
    DiskStructure structure = DiskStructure.of(image(request, w), w.steps::stopIfCancelled);
    if (structure.faults().isEmpty()) {
      Path work = Files.createDirectories(w.sandbox.resolve("partitions"));
      structure =
          structure.with(new FileSystemChecks(image(request, w), work, w.steps::stopIfCancelled)
              .check(structure.partitions()));
    }
    return structure;
  }

  private void start(DrillRequest request, Workplace w, DiskStructure structure)
      throws DrillFailure, IOException {
    w.steps.start(0);
    Watched watched = new MachineWatch(request, w, engines, structure.efi()).watch();
    w.steps.done(watched.note() + ", after "
        + Wording.duration(java.time.Duration.ofMillis(watched.ranMs()))
        + " of the machine's own time");
    w.watched = watched;
    RestoredScreen.keep(w.sandbox, watched, nonce(request));
  }

  /** Restores the disk, and turns it into a raw one where it is of another form. */
  private static void restoreRaw(DrillRequest request, Workplace w)
      throws DrillFailure, IOException {
    Path image = image(request, w);
    if (content(request) == Content.IMAGE) {
      FileRestore.restore(request, request.last(), image, w);
      return;
    }
    Path other = w.sandbox.resolve("drill-" + request.run() + ".disk");
    FileRestore.restore(request, request.last(), other, w);
    try {
      if (content(request) == Content.VMDK && FlatVmdk.isFlat(other)) {
        FlatVmdk.restore(request, other, image, w);
      } else {
        DiskForms.toRaw(other, content(request), image, w.steps::stopIfCancelled);
      }
    } catch (NotReadHere e) {
      throw DrillFailure.lacking(request.last().place() + ": " + e.getMessage());
    } catch (java.nio.file.FileSystemException
        | hardproof.proving.stores.ArtifactStore.ArtifactUnreadable e) {
      throw e;
    } catch (IOException e) {
      throw DrillFailure.contentUnrestorable(
          request.last(),
          request.last().place() + " can't be restored (" + ArtifactReading.reason(e) + ")");
    }
    Files.deleteIfExists(other);
  }

  /** New for each run, so that a line of an older one can't pass for one of this. */
  static String nonce(DrillRequest request) {
    return Sha256.of(
            ("nonce\n" + request.run() + "\n" + request.point()).getBytes(StandardCharsets.UTF_8))
        .substring(0, 24);
  }

  @Override
  public String check(DrillRequest request, Workplace w) throws DrillFailure, IOException {
    w.steps.start(0);
    Watched watched = w.watched;
    ScreenReader.Reading reading =
        ScreenReader.read(watched, Expectation.of(request.checks()), request.accepted());
    w.steps.showed(evidence(watched, reading), reading.screenClass().code(), watched.engine());
    String found =
        reading.screenClass().words() + ": " + reading.sentence() + " (" + watched.engine() + ")";
    ScreenClass screenClass = reading.screenClass();
    if (screenClass.bad()) {
      throw DrillFailure.contentWrong(request.last(), "started, but " + found);
    }
    if (screenClass == ScreenClass.NOT_DECIDED) {
      // What QEMU can't decide no other engine does; its sentence says what would help.
      boolean standIn = watched.engine().equals(engines.boot("stand-in").name());
      throw DrillFailure.ofRequest(standIn ? found + ". " + engines.bootSentence("qemu") : found);
    }
    w.steps.done(found);
    if (screenClass == ScreenClass.UNKNOWN) {
      w.awaits = DrillResult.Awaits.PERSON;
    }
    var services = ServiceReports.of(watched.serial(), nonce(request));
    return "started: " + found
        + (services.isEmpty() ? "" : "; services: " + services)
        + open(w.notes);
  }

  /** What nobody looked at belongs to the result: a machine that starts says nothing of it. */
  private static String open(List<String> notes) {
    return notes.isEmpty()
        ? ""
        : "; " + String.join("; ", notes.subList(0, Math.min(notes.size(), NOTES_SAID)))
            + (notes.size() > NOTES_SAID ? "; and " + (notes.size() - NOTES_SAID) + " more" : "");
  }

  /** The last screens, and the one that decided, however long before them it was. */
  private static List<Screen> evidence(Watched watched, ScreenReader.Reading reading) {
    List<Screen> all = watched.screens();
    List<Screen> kept =
        new ArrayList<>(all.subList(Math.max(0, all.size() - SCREENS_KEPT), all.size()));
    if (reading.decided() != null && !kept.contains(reading.decided())) {
      kept.set(0, reading.decided());
    }
    return kept;
  }

  @Override
  public UpMembers.@Nullable Stays stays(DrillRequest request, Workplace w) {
    return w.machine == null ? null : new UpMachine(request, w.machine);
  }

  @Override
  public Restored open(DrillRequest request, Workplace w) throws IOException {
    return RestoredScreen.open(w.sandbox);
  }
}
