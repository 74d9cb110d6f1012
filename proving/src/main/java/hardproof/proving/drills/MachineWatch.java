package hardproof.proving.drills;

import hardproof.proving.boot.BootEngine;
import hardproof.proving.boot.BootEngine.BadImage;
import hardproof.proving.boot.BootEngine.Bus;
import hardproof.proving.boot.BootEngine.EngineFailed;
import hardproof.proving.boot.Ending;
import hardproof.proving.boot.Expectation;
import hardproof.proving.boot.KeptMachine;
import hardproof.proving.boot.LostDisk;
import hardproof.proving.boot.ScreenReader;
import hardproof.proving.boot.Watched;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/** Lets a restored machine run and watches it, by the engine that can decide it. */
final class MachineWatch {
  private final DrillRequest request;
  private final Workplace w;
  private final Engines engines;
  private final boolean efi;

  MachineWatch(DrillRequest request, Workplace w, Engines engines, boolean efi) {
    this.request = request;
    this.w = w;
    this.engines = engines;
    this.efi = efi;
  }

  /** The engine that is asked first, by its code. */
  static String engine(DrillRequest request) {
    String code = request.options().engine();
    return code == null ? "stand-in" : code;
  }

  Watched watch() throws DrillFailure, IOException {
    Path work = Files.createDirectories(w.sandbox.resolve("machine"));
    try {
      return watchIn(work);
    } catch (BadImage e) {
      throw DrillFailure.lacking(request.last().place() + " is refused: " + e.getMessage());
    } catch (EngineFailed e) {
      throw DrillFailure.ofRequest(
          "the boot engine failed (" + e.getMessage() + "); this says nothing about the machine");
    }
  }

  private Watched watchIn(Path work) throws IOException {
    BootEngine first = engines.boot(engine(request));
    boolean isQemu = first.code().equals("qemu");
    Watched watched = watch(first, Bus.IDE, work);
    boolean mayAsk = request.options().engine() == null && !isQemu;
    boolean open = watched.ending() == Ending.NOT_DECIDED || watched.ending() == Ending.BUSY;
    BootEngine real = mayAsk && open ? engines.boot("qemu") : null;
    if (real != null) {
      return onOtherBuses(real, work, watch(real, Bus.IDE, work));
    }
    return isQemu ? onOtherBuses(first, work, watched) : watched;
  }

  private Watched watch(BootEngine engine, Bus bus, Path work) throws IOException {
    if (!request.together()) {
      return engine.watch(start(bus, work), w.steps::shows, w.steps::stopIfCancelled);
    }
    if (w.machine != null) {
      // The same disk, tried in another way.
      w.machine.close();
    }
    w.machine =
        KeptMachine.start(engine, start(bus, work), w.steps::shows, w.steps::stopIfCancelled);
    return w.machine.settled();
  }

  private BootEngine.Start start(Bus bus, Path work) {
    Expectation expected = Expectation.of(request.checks());
    return new BootEngine.Start(
        BootDrill.image(request, w),
        efi,
        bus,
        work,
        request.options().bootLimit(),
        text -> ScreenReader.decisive(text, expected),
        text -> ScreenReader.bad(text, expected),
        BootDrill.nonce(request));
  }

  /**
   * A system that does not find its disk may have a driver for another bus only: which one it hung on is not
   * told by the image, so the others are tried. The first answer counts where none is better.
   */
  private Watched onOtherBuses(BootEngine qemu, Path work, Watched first) throws IOException {
    if (!LostDisk.shownBy(first)) {
      return first;
    }
    for (Bus bus : List.of(Bus.VIRTIO, Bus.SATA)) {
      Watched other = watch(qemu, bus, work);
      if (!LostDisk.shownBy(other)) {
        return other.with(other.note() + ", its disk on " + bus.words());
      }
    }
    return first;
  }
}
