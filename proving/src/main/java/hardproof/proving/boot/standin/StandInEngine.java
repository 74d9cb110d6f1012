package hardproof.proving.boot.standin;

import hardproof.proving.boot.BootEngine;
import hardproof.proving.boot.Ending;
import hardproof.proving.boot.KeptScreens;
import hardproof.proving.boot.Screen;
import hardproof.proving.boot.TextGrid;
import hardproof.proving.boot.TextPicture;
import hardproof.proving.boot.Watched;
import hardproof.proving.images.Disk;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * The engine that ships: a small interpreter that executes the image's own boot code. It is good for
 * simple loaders and for telling what does not start at all; what it can't execute it leaves undecided.
 */
public final class StandInEngine implements BootEngine {
  private static final long MOST_INSTRUCTIONS = 40_000_000;
  private static final int LOOK_EVERY = 20_000;
  private static final long SHOW_EVERY_NANOS = 500_000_000L;

  /** When the screen has not changed for so long, a machine that waits is taken to have settled. */
  private static final long SETTLED_MS = 8_000;

  /** So often a machine that is up goes on. */
  private static final long UP_LOOK_MS = 100;

  private static final long NANOS_OF_MS = 1_000_000;

  @Override
  public String code() {
    return "stand-in";
  }

  @Override
  public String name() {
    return "the stand-in engine";
  }

  @Override
  public Watched watch(
      Start start, Consumer<Screen> shown, Runnable stopIfCancelled, @Nullable Keeping keeping)
      throws IOException {
    if (start.efi()) {
      return needsFirmware();
    }
    try (Disk disk = Disk.open(start.image())) {
      StandInMachine machine = new StandInMachine(disk, start.nonce());
      machine.start();
      return new Run(machine, start, shown, keeping).untilItEnds(name(), stopIfCancelled);
    } catch (UncheckedIOException e) {
      throw new EngineFailed("the image could not be read: " + e.getMessage(), e);
    }
  }

  private Watched needsFirmware() {
    return new Watched(
        name(),
        new ArrayList<>(),
        "",
        Ending.NOT_DECIDED,
        0,
        "it is started by EFI firmware, which the stand-in engine does not have");
  }

  /** The cells of the text screen at a moment. */
  private record Seen(long atMs, byte[] cells) {
    String text() {
      return new Screen(atMs, TextGrid.lines(cells), null).text();
    }

    Screen screen() {
      return new Screen(atMs, TextGrid.lines(cells), TextPicture.png(cells));
    }
  }

  /** One machine while it runs, and what was seen of it. */
  private static final class Run {
    private final StandInMachine machine;
    private final Start start;
    private final Consumer<Screen> shown;
    private final @Nullable Keeping keeping;

    // Pictures are drawn of what is kept in the end, and now and then of what is shown meanwhile.
    private final KeptScreens<Seen> screens = new KeptScreens<>();
    private long shownAt = System.nanoTime() - SHOW_EVERY_NANOS;
    private byte[] before;
    private long changedAt;
    private long haltsAtChange;
    private long shownSince;
    private long haltsShown;
    private long instructions;

    Run(StandInMachine machine, Start start, Consumer<Screen> shown, @Nullable Keeping keeping) {
      this.machine = machine;
      this.start = start;
      this.shown = shown;
      this.keeping = keeping;
    }

    Watched untilItEnds(String name, Runnable stopIfCancelled) {
      // Once at least: of a machine that can't begin, too, the screen is kept.
      do {
        step();
        stopIfCancelled.run();
        look();
        if (machine.ending() == null) {
          endWhereItIsTime();
        }
      } while (machine.ending() == null);
      if (machine.ending() == Ending.WAITING && keeping != null) {
        goOn(name, keeping);
      }
      boolean stays = machine.ending() == Ending.WAITING || machine.ending() == Ending.HALTED;
      // A machine that waits for a key shows what it shows until somebody comes.
      long ran = stays ? Math.max(machine.nowMs(), changedAt + SETTLED_MS) : machine.nowMs();
      return watched(name, ran);
    }

    /** It is up. Its clock goes on with the one on the wall; one that waits for a key has nothing else to do. */
    private void goOn(String name, Keeping kept) {
      kept.settled(watched(name, Math.max(machine.nowMs(), changedAt + SETTLED_MS)));
      boolean forKey = !machine.goOn();
      long begun = System.nanoTime();
      long from = machine.nowMs();
      boolean wanted = true;
      while (wanted) {
        wanted = kept.wanted(UP_LOOK_MS);
        // However soon it is let go, a moment of it was seen.
        long until = from + UP_LOOK_MS + (System.nanoTime() - begun) / NANOS_OF_MS;
        while (!forKey && machine.ending() == null && machine.nowMs() < until) {
          step();
          look();
          if (instructions >= MOST_INSTRUCTIONS) {
            machine.end(
                Ending.NOT_DECIDED,
                instructions / 1_000_000 + " million instructions were executed, and whether it is"
                    + " still up is not known");
          }
        }
        if (machine.ending() != null && !forKey) {
          return;
        }
      }
      if (machine.ending() == null) {
        machine.end(Ending.WAITING, "it waits, its screen unchanged");
      }
    }

    private Watched watched(String name, long ran) {
      return new Watched(
          name,
          screens.all().stream().map(Seen::screen).toList(),
          machine.serial.toString(),
          machine.ending(),
          ran,
          machine.note());
    }

    /** What it shows after it has shown since before it waited, for however long that was. */
    private void step() {
      for (int i = 0; i < LOOK_EVERY && machine.ending() == null; i++) {
        haltsShown = machine.halts();
        shownSince = machine.nowMs();
        machine.step();
        instructions++;
        if (machine.halts() != haltsShown) {
          // Its clock may have gone on a good deal.
          return;
        }
      }
      haltsShown = machine.halts();
      shownSince = machine.nowMs();
    }

    private void look() {
      byte[] cells = machine.cells();
      if (Arrays.equals(cells, before)) {
        return;
      }
      before = cells;
      changedAt = shownSince;
      haltsAtChange = haltsShown;
      Seen seen = new Seen(shownSince, cells);
      screens.add(seen, !screens.hasBad() && start.bad().test(seen.text()));
      if (System.nanoTime() - shownAt >= SHOW_EVERY_NANOS) {
        shownAt = System.nanoTime();
        shown.accept(screens.newest().screen());
      }
    }

    private void endWhereItIsTime() {
      boolean waits = machine.halts() > haltsAtChange;
      if (waits && machine.nowMs() - changedAt >= SETTLED_MS) {
        machine.end(Ending.WAITING, "it waits, its screen unchanged");
      } else if (machine.nowMs() >= start.limit().toMillis() || instructions >= MOST_INSTRUCTIONS) {
        machine.end(
            waits ? Ending.WAITING : Ending.BUSY,
            instructions >= MOST_INSTRUCTIONS
                ? instructions / 1_000_000 + " million instructions were executed"
                : "its time was over");
      }
    }
  }
}
